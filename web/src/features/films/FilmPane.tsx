import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { t } from "../../shared/format/language";
import { Notice } from "../../shared/ui/Notice";
import { type Drawn, type Film, laidOver, middle, type Place, steepness } from "./film";
import { useFrame } from "./useFrame";

const STEP = 0.005; // share of the picture an arrow key moves an end by
const STEPS: Record<string, Place> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

type Props = {
  film: Film;
  frame: number;
  /** Another film laid over this one, half transparent, and its frame. */
  over?: { film: Film; frame: number } | undefined;
  mirrored: boolean;
  lines: boolean;
  shaft: Drawn;
  onShaft: (line: Drawn) => void;
  /** A text alternative. */
  result: string;
};

/** One frame of a film with its lines. */
export function FilmPane({ film, frame, over, mirrored, lines, shaft, onShaft, result }: Props) {
  const sheet = useRef<HTMLCanvasElement>(null);
  const { picture, error } = useFrame(film, frame);
  const above = useFrame(over?.film, over?.frame ?? 0).picture;
  useEffect(() => {
    const pen = sheet.current?.getContext("2d");
    if (!pen || !picture) return;
    pen.setTransform(1, 0, 0, 1, 0, 0);
    pen.globalAlpha = 1;
    pen.clearRect(0, 0, film.width, film.height);
    const flip = () => pen.setTransform(mirrored ? -1 : 1, 0, 0, 1, mirrored ? film.width : 0, 0);
    flip();
    pen.drawImage(picture, 0, 0);
    if (!above || !over) return;
    const { scale, x, y } = laidOver(over.film, film);
    pen.globalAlpha = 0.5;
    pen.drawImage(above, x, y, scale * over.film.width, scale * over.film.height);
  }, [picture, above, over, film, mirrored]);
  return (
    <div className="relative bg-rule">
      {error && <Notice error={error} />}
      <canvas
        ref={sheet}
        width={film.width}
        height={film.height}
        role="img"
        aria-label={result}
        className="block w-full"
      />
      {lines && <LinesOver film={film} frame={frame} mirrored={mirrored} shaft={shaft} onShaft={onShaft} />}
    </div>
  );
}

type LinesProps = Pick<Props, "film" | "frame" | "mirrored" | "shaft" | "onShaft">;

/** Head, seat or lead hip, and hands as at address; the trunk now; the shaft as drawn. */
function LinesOver({ film, frame, mirrored, shaft, onShaft }: LinesProps) {
  const { width, height, lines } = film;
  const px = ([x, y]: Place): Place => [x * width, y * height];
  const [headX, headY, headWide, headHigh] = lines.head;
  const [left, top, across, high] = lines.hands;
  const upright = lines.seat ?? lines.lead_hip;
  const [hipX, hipY] = px(middle(film, frame, "lead_hip", "trail_hip"));
  const [neckX, neckY] = px(middle(film, frame, "lead_shoulder", "trail_shoulder"));
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="absolute inset-0 h-full w-full">
      <title>{t("films-lines")}</title>
      <g transform={mirrored ? `translate(${width} 0) scale(-1 1)` : undefined} fill="none" strokeWidth={2.5}>
        <ellipse
          cx={headX * width}
          cy={headY * height}
          rx={headWide * width}
          ry={headHigh * height}
          className="stroke-straw"
        />
        {upright !== null && (
          <path d={`M${upright * width} ${0.2 * height}V${lines.feet[1] * height}`} className="stroke-straw" />
        )}
        <rect
          x={left * width}
          y={top * height}
          width={across * width}
          height={high * height}
          className="stroke-straw"
          strokeDasharray="6 5"
        />
        <path d={`M${hipX} ${hipY}L${neckX} ${neckY}`} className="stroke-sheet" strokeWidth={4} />
        <path d={`M${hipX} ${hipY}L${neckX} ${neckY}`} className="stroke-slate" />
        <Shaft film={film} mirrored={mirrored} line={shaft} onChange={onShaft} />
      </g>
    </svg>
  );
}

type ShaftProps = { film: Film; mirrored: boolean; line: Drawn; onChange: (line: Drawn) => void };

/** A line with two draggable ends, by pointer or arrow keys. */
function Shaft({ film, mirrored, line, onChange }: ShaftProps) {
  const [held, hold] = useState<keyof Drawn | null>(null);
  const place = (end: keyof Drawn): Place => [line[end][0] * film.width, line[end][1] * film.height];
  const [x1, y1] = place("from");
  const [x2, y2] = place("to");
  function onKey(event: KeyboardEvent, end: keyof Drawn) {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const [x, y] = line[end];
    onChange({ ...line, [end]: [x + (mirrored ? -step[0] : step[0]), y + step[1]] });
  }
  function onMove(event: PointerEvent<SVGCircleElement>, end: keyof Drawn) {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (held !== end || !box) return;
    const x = (event.clientX - box.left) / box.width;
    onChange({ ...line, [end]: [mirrored ? 1 - x : x, (event.clientY - box.top) / box.height] });
  }
  const result = { from: t("films-upper-end-shaft-line"), to: t("films-lower-end-shaft-line") };
  return (
    <>
      <path d={`M${x1} ${y1}L${x2} ${y2}`} className="stroke-sheet" strokeWidth={4} />
      <path d={`M${x1} ${y1}L${x2} ${y2}`} className="stroke-clay" />
      {(["from", "to"] as const).map((end) => (
        <circle
          key={end}
          cx={place(end)[0]}
          cy={place(end)[1]}
          r={11}
          role="slider"
          tabIndex={0}
          aria-label={result[end]}
          aria-valuenow={Math.round(steepness(line, film))}
          aria-valuetext={t("films-ground", { degrees: Math.round(steepness(line, film)) })}
          className="cursor-move touch-none fill-clay/40 stroke-clay"
          onKeyDown={(event) => onKey(event, end)}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            hold(end);
          }}
          onPointerMove={(event) => onMove(event, end)}
          onPointerUp={() => hold(null)}
        />
      ))}
    </>
  );
}
