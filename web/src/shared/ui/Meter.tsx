/** A bar for a share, with its label. */
export function Meter({
  share,
  label,
  tone = "ink",
}: {
  share: number;
  label: string;
  tone?: "ink" | "clay" | "slate" | "moss";
}) {
  const fill = { ink: "fill-ink", clay: "fill-clay", slate: "fill-slate", moss: "fill-moss" }[tone];
  return (
    <svg viewBox="0 0 100 8" preserveAspectRatio="none" className="h-2 w-full" role="img" aria-label={label}>
      <rect width="100" height="8" className="fill-rule" />
      <rect width={Math.max(0, Math.min(1, share)) * 100} height="8" className={fill} />
    </svg>
  );
}
