import { t } from "../../shared/format/language";

/**
 * Where to stand: the whole body and the club in the frame, feet on the line; `level` tilts a second line like the
 * ground in the picture [°].
 */
export function Guide({ view, hand, level }: { view: string; hand: string; level?: number }) {
  const along = view === "down-the-line";
  const left = hand === "left";
  // From behind the hands a right-handed golfer stands left of the ball, a left-handed one right of it.
  const body = along ? (left ? 118 : 42) : 80;
  const ball = along ? (left ? 46 : 114) : left ? 78 : 82;
  return (
    <svg
      viewBox="0 0 160 90"
      className="pointer-events-none absolute inset-0 h-full w-full"
      role="img"
      aria-label={t("camera-stand-so-whole-body-club")}
    >
      <rect
        x={body - 20}
        y="8"
        width="40"
        height="72"
        rx="3"
        fill="none"
        className="stroke-sheet"
        strokeWidth="0.7"
        strokeDasharray="3 2"
      />
      <path d="M8 78H152" className="stroke-straw" strokeWidth="0.7" />
      <path d={`M${ball} 72V82`} className="stroke-straw" strokeWidth="0.9" />
      {level !== undefined && level !== 0 && (
        <path d="M8 78H152" transform={`rotate(${level} 80 78)`} className="stroke-clay" strokeWidth="0.9" />
      )}
      <circle cx={ball} cy="78" r="1.4" className="fill-sheet" />
    </svg>
  );
}
