import { type Cell, cellsOf } from "../../shared/format/verdict";

type Props = { verdict: string; movement?: string | undefined; size?: number };

/** Two cells: body and club. A bar joins them when both say yes, a thin one for partly. */
export function VerdictMark({ verdict, movement = "", size = 20 }: Props) {
  const [body, club] = cellsOf(verdict, movement);
  return (
    <svg viewBox="0 0 40 18" width={(size * 40) / 18} height={size} aria-hidden="true" className="shrink-0">
      {verdict === "linked" && (
        <path
          d="M12 9h16"
          className="stroke-ink"
          strokeWidth={body === "part" ? 1.6 : 4}
          strokeDasharray={body === "part" ? "2.5 2" : undefined}
        />
      )}
      <CellMark x={2} cell={body} tone="clay" />
      <CellMark x={24} cell={club} tone="slate" />
    </svg>
  );
}

function CellMark({ x, cell, tone }: { x: number; cell: Cell; tone: "clay" | "slate" }) {
  const stroke = tone === "clay" ? "stroke-clay" : "stroke-slate";
  const filled = tone === "clay" ? "fill-clay" : "fill-slate";
  const outline = { x, y: 2, width: 14, height: 14, rx: tone === "clay" ? 7 : 1.5 };
  return (
    <>
      <rect
        {...outline}
        className={`${stroke} ${cell === "yes" ? filled : "fill-sheet"}`}
        strokeWidth="2.4"
        strokeDasharray={cell === "unknown" ? "2.5 3" : undefined}
      />
      {cell === "part" && <path d={`M${x + 2} 9h10a5 5 0 0 1 -10 0z`} className={filled} />}
    </>
  );
}
