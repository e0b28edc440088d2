import type { Schemas } from "../../api/client";

type Stroke = Schemas["Stroke"];
type Drawing = Pick<Schemas["DrillPicture"], "sheet" | "strokes">;

const INKS: Record<Stroke["ink"], string> = {
  ground: "stroke-rule",
  line: "stroke-slate [stroke-dasharray:5_4]",
  shaft: "stroke-soft",
  body: "stroke-ink",
  fault: "stroke-clay",
  rim: "stroke-ink",
  ball: "stroke-sheet",
  mark: "stroke-straw",
};

type Box = [number, number, number, number];
type Props = {
  drawing: Drawing;
  /** Hints, under the rest. */
  behind?: Stroke[];
  label: string;
  className: string;
};

/** A jointed figure from the core, in the screen's colors. */
export function Figure({ drawing, behind = [], label, className }: Props) {
  const [left, bottom, right, top] = drawing.sheet.map((side) => Math.round(100 * side)) as Box;
  return (
    <svg
      viewBox={`${left} ${-top} ${right - left} ${top - bottom}`}
      className={className}
      role="img"
      aria-label={label}
      strokeLinecap="round"
    >
      {behind.map((stroke, i) => (
        <path
          key={`behind ${i}`}
          d={stroke.lines.map(pathOf).join("")}
          className="stroke-rule"
          strokeWidth={stroke.width}
        />
      ))}
      {drawing.strokes.map((stroke, i) => (
        <path key={i} d={stroke.lines.map(pathOf).join("")} className={INKS[stroke.ink]} strokeWidth={stroke.width} />
      ))}
    </svg>
  );
}

/** Convert a line in meters, up positive, to a path in centimeters. */
function pathOf([[x1, y1], [x2, y2]]: Stroke["lines"][number]): string {
  return `M${100 * x1} ${-100 * y1}L${100 * x2} ${-100 * y2}`;
}
