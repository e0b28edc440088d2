import type { Shot } from "../../api/queries";
import { cellsOf } from "../format/verdict";
import { ballShape, GLYPH } from "./glyph";

const MOVEMENT_FILL: Record<string, string> = { done: "fill-clay", partly: "fill-clay/50", missed: "fill-sheet" };

/** A hidden ball: a lid where its numbers will be. */
function CoveredBall() {
  const { width, height, face } = GLYPH;
  return (
    <svg viewBox={`0 0 ${width} ${height + 12}`} width={width} height={height + 12} aria-hidden="true">
      <rect
        x={face.x}
        y="4"
        width={face.width}
        height={face.y + face.height - 4}
        rx="4"
        className="fill-clay-ground stroke-clay"
        strokeWidth="1.2"
        strokeDasharray="3 3"
      />
      <circle
        cx={width / 2}
        cy={height + 5}
        r="4"
        className="fill-none stroke-clay"
        strokeWidth="1.6"
        strokeDasharray="2 2"
      />
    </svg>
  );
}

/** One ball: stem for path and curve, face outline with the strike, below it the mark or verdict. */
export function BallGlyph({
  shot,
  hand,
  excluded,
  verdict,
}: {
  shot: Shot;
  hand: string;
  excluded: boolean;
  verdict?: string;
}) {
  const shape = ballShape(shot.path_deg, shot.spin_axis_deg, shot.strike_toe_mm, shot.strike_high_mm, hand);
  const { face } = GLYPH;
  const [, club] = cellsOf(verdict ?? "unclear");
  if (shot.covered) return <CoveredBall />;
  return (
    <svg
      viewBox={`0 0 ${GLYPH.width} ${GLYPH.height + 12}`}
      width={GLYPH.width}
      height={GLYPH.height + 12}
      aria-hidden="true"
    >
      <path
        d={shape.stem}
        fill="none"
        className={excluded ? "stroke-soft" : "stroke-slate"}
        strokeWidth={excluded ? 1.5 : 3}
        strokeDasharray={excluded ? "2.5 2.5" : undefined}
        strokeLinecap="round"
      />
      <path
        d={`M${face.x} ${face.y + 3}q0 -3 3 -3h${face.width - 6}q3 0 3 3v${face.height - 8}q0 5 -6 5h${-(face.width - 12)}q-6 0 -6 -5z`}
        className="fill-sheet stroke-soft"
        strokeWidth="1"
      />
      {shape.dot &&
        (excluded ? (
          <path d={`M${shape.dot.x - 3} ${shape.dot.y - 3}l6 6m0 -6l-6 6`} className="stroke-ink" strokeWidth="1.6" />
        ) : (
          <circle cx={shape.dot.x} cy={shape.dot.y} r="3" className="fill-moss" />
        ))}
      {shot.movement && shot.movement !== "unseen" && (
        <circle
          cx={verdict ? 11 : 17}
          cy={GLYPH.height + 5}
          r="4"
          className={`stroke-clay ${MOVEMENT_FILL[shot.movement] ?? ""}`}
          strokeWidth="1.6"
        />
      )}
      {!shot.movement && (shot.intent === "new" || shot.intent === "old") && (
        <circle
          cx={verdict ? 11 : 17}
          cy={GLYPH.height + 5}
          r="4"
          className={`stroke-ink ${shot.intent === "new" ? "fill-straw" : "fill-sheet"}`}
          strokeWidth="1.6"
        />
      )}
      {shot.movement === "unseen" && (
        <circle
          cx={verdict ? 11 : 17}
          cy={GLYPH.height + 5}
          r="4"
          className="fill-none stroke-clay"
          strokeWidth="1.6"
          strokeDasharray="2 2"
        />
      )}
      {verdict && verdict !== "unclear" && (
        <rect
          x="18.5"
          y={GLYPH.height + 1}
          width="8"
          height="8"
          className={`stroke-slate ${club === "yes" ? "fill-slate" : "fill-sheet"}`}
          strokeWidth="1.6"
        />
      )}
    </svg>
  );
}
