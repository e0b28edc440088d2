import type { Schemas } from "../../api/client";
import { t } from "../format/language";

type Drawn = Schemas["GradePicture"];
type Segment = Drawn["shaft"];

const HEAD = 10.5;
const LABELS: Record<string, string> = { "face-on": "from the front", "down-the-line": "down the line" };

type Props = { picture: Schemas["LookPicture"]; grade: Drawn; title: string; className?: string };

/** The jointed figure at one moment, with the line its look speaks of; ink is sound, clay is not. */
export function SwingFigure({ picture, grade, title, className = "w-full" }: Props) {
  const body = grade.sound ? "stroke-ink" : "stroke-clay";
  return (
    <svg
      viewBox="-88 -196 176 204"
      className={className}
      role="img"
      aria-label={t("{title}, {view}", { title, view: t(LABELS[picture.view] ?? "") })}
    >
      <path d="M-88 2H88" className="stroke-rule" strokeWidth="1.5" />
      <g className="stroke-slate" strokeWidth="1.6" strokeDasharray="5 4">
        {picture.line.map((segment, i) => (
          <path key={i} d={lineOf(segment)} />
        ))}
      </g>
      <path d={lineOf(grade.shaft)} className="stroke-soft" strokeWidth="2" />
      <g className={`fill-none ${body}`} strokeWidth="6.5" strokeLinecap="round" strokeLinejoin="round">
        {grade.bones.map((bone, i) => (
          <path key={i} d={lineOf(bone)} />
        ))}
      </g>
      <circle
        cx={100 * grade.head[0]}
        cy={-100 * grade.head[1]}
        r={HEAD}
        className={grade.sound ? "fill-ink" : "fill-clay"}
      />
      <circle
        cx={100 * grade.ball[0]}
        cy={-100 * grade.ball[1]}
        r="3"
        className="fill-sheet stroke-ink"
        strokeWidth="1"
      />
      <g className="stroke-straw" strokeWidth="4.5" strokeLinecap="round">
        {grade.mark.map((segment, i) => (
          <path key={i} d={lineOf(segment)} />
        ))}
      </g>
    </svg>
  );
}

/** A segment in metres, up positive, as a path in centimetres. */
export function lineOf([[x1, y1], [x2, y2]]: Segment): string {
  return `M${100 * x1} ${-100 * y1}L${100 * x2} ${-100 * y2}`;
}
