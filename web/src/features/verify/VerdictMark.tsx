import { type Cell, cellsOf } from "../../shared/format/verdict";

/** Two cells: body and club. A bar joins them when both say yes. */
export function VerdictMark({ verdict, size = 20 }: { verdict: string; size?: number }) {
  const [body, club] = cellsOf(verdict);
  return (
    <svg viewBox="0 0 40 18" width={(size * 40) / 18} height={size} aria-hidden="true" className="shrink-0">
      {verdict === "linked" && <path d="M12 9h16" className="stroke-ink" strokeWidth="4" />}
      <CellMark x={2} cell={body} tone="clay" />
      <CellMark x={24} cell={club} tone="slate" />
    </svg>
  );
}

function CellMark({ x, cell, tone }: { x: number; cell: Cell; tone: "clay" | "slate" }) {
  const stroke = tone === "clay" ? "stroke-clay" : "stroke-slate";
  const fill = cell === "yes" ? (tone === "clay" ? "fill-clay" : "fill-slate") : "fill-sheet";
  return (
    <rect
      x={x}
      y={2}
      width={14}
      height={14}
      rx={tone === "clay" ? 7 : 1.5}
      className={`${stroke} ${fill}`}
      strokeWidth="2.4"
      strokeDasharray={cell === "unknown" ? "2.5 3" : undefined}
    />
  );
}
