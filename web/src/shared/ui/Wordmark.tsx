/** The product's sign, beside its name. */
export function Wordmark() {
  return (
    <svg viewBox="0 0 32 24" className="h-6 w-8" aria-hidden="true">
      <path
        d="M2 18C10 18 11 5 17 5s6 9 13 9"
        fill="none"
        className="stroke-clay"
        strokeWidth="2.6"
        strokeLinecap="round"
      />
      <path d="M17 0v2.6M17 7.6V13" className="stroke-slate" strokeWidth="2.6" strokeLinecap="round" />
    </svg>
  );
}
