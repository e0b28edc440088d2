import { scaleLinear } from "d3-scale";
import type { ReactNode } from "react";
import { t } from "../format/language";
import { AsTable } from "./AsTable";
import { type Dot, type Ellipse, outlineOf } from "./pictures";

type Props = {
  title: string;
  x: { label: string; plus: string; minus: string; half: number; unit: string };
  y: { label: string; plus: string; minus: string; half: number; unit: string };
  dots: Dot[];
  /** Where nine of ten balls are expected. */
  ellipse?: Ellipse;
  ground?: (x: (v: number) => number, y: (v: number) => number) => ReactNode;
  onChoose?: (id: number) => void;
};

const ORIGINS = { measured: "common-measured", inferred: "common-inferred", doubtful: "common-doubtful" } as const;
const SIZE = { width: 340, height: 226, left: 34, right: 12, top: 22, bottom: 34 };

/** Two numbers of every ball on a plane with labeled ends, with a table behind it. */
export function PlaneMap({ title, x, y, dots, ellipse, ground, onChoose }: Props) {
  const toX = scaleLinear([-x.half, x.half], [SIZE.left, SIZE.width - SIZE.right]).clamp(true);
  const toY = scaleLinear([-y.half, y.half], [SIZE.height - SIZE.bottom, SIZE.top]).clamp(true);
  return (
    <figure className="m-0">
      <figcaption className="mb-1 font-semibold">{title}</figcaption>
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        className="w-full"
        role="img"
        aria-label={t("common-balls-3", { title, n: dots.length })}
      >
        <rect
          x={SIZE.left}
          y={SIZE.top}
          width={SIZE.width - SIZE.left - SIZE.right}
          height={SIZE.height - SIZE.top - SIZE.bottom}
          className="fill-sheet stroke-rule"
        />
        {ground?.(toX, toY)}
        <path
          d={`M${toX(0)} ${SIZE.top}V${SIZE.height - SIZE.bottom}M${SIZE.left} ${toY(0)}H${SIZE.width - SIZE.right}`}
          className="stroke-rule"
        />
        <g className="fill-soft text-[12px]">
          {[-x.half, -x.half / 2, x.half / 2, x.half].map((v) => (
            <text key={v} x={toX(v)} y={SIZE.height - SIZE.bottom + 13} textAnchor="middle">
              {Math.abs(v)}
            </text>
          ))}
          <text x={SIZE.left} y={SIZE.height - 6}>
            ← {x.minus}
          </text>
          <text x={SIZE.width - SIZE.right} y={SIZE.height - 6} textAnchor="end">
            {x.plus} →
          </text>
          <text x={SIZE.left + 4} y={SIZE.top - 7}>
            ↑ {y.plus}
          </text>
          <text x={SIZE.left + 4} y={SIZE.height - SIZE.bottom - 6}>
            ↓ {y.minus}
          </text>
          {[-y.half, -y.half / 2, y.half / 2, y.half].map((v) => (
            <text key={v} x={SIZE.left - 5} y={toY(v) + 4} textAnchor="end">
              {Math.abs(v)}
            </text>
          ))}
        </g>
        {ellipse && (
          <path
            d={`M${outlineOf(ellipse)
              .map(([a, b]) => `${toX(a)} ${toY(b)}`)
              .join("L")}Z`}
            className="fill-slate/10 stroke-slate"
            strokeWidth="1"
            strokeDasharray="2 3"
          />
        )}
        {dots.map((dot) => (
          <DotMark key={dot.id} dot={dot} x={toX(dot.x)} y={toY(dot.y)} onChoose={onChoose} />
        ))}
      </svg>
      <AsTable
        titles={[t("common-ball"), `${x.label} [${x.unit}]`, `${y.label} [${y.unit}]`]}
        rows={dots.map((dot) => ({
          id: dot.id,
          cells: [
            <>
              {dot.number}
              {dot.origin !== "measured" && <em> {t(ORIGINS[dot.origin])}</em>}
            </>,
            dot.x.toFixed(1),
            dot.y.toFixed(1),
          ],
        }))}
      />
    </figure>
  );
}

/** A disc is measured, a ring inferred, a ring with a question mark doubtful, a cross excluded. */
export function DotMark({ dot, x, y, onChoose }: { dot: Dot; x: number; y: number; onChoose?: (id: number) => void }) {
  const size = dot.chosen ? 6.5 : 5;
  const variant = dot.chosen ? "fill-clay stroke-ink" : "fill-slate/70 stroke-sheet";
  return (
    <g onClick={() => onChoose?.(dot.id)} className={onChoose ? "cursor-pointer" : ""}>
      <title>
        {t("common-ball-3", {
          number: dot.number,
          origin: dot.origin === "measured" ? "" : `, ${t(ORIGINS[dot.origin])}`,
          excluded: dot.excluded ? t("common-excluded") : "",
        })}
      </title>
      <circle cx={x} cy={y} r="11" fill="transparent" />
      {dot.excluded ? (
        <path
          d={`M${x - 4} ${y - 4}l8 8M${x + 4} ${y - 4}l-8 8`}
          className={dot.chosen ? "stroke-clay" : "stroke-soft"}
          strokeWidth={dot.chosen ? 2.6 : 1.6}
        />
      ) : dot.origin === "measured" ? (
        <circle cx={x} cy={y} r={size} className={variant} />
      ) : (
        <circle
          cx={x}
          cy={y}
          r={size}
          className={`fill-none ${dot.chosen ? "stroke-clay" : "stroke-slate"}`}
          strokeWidth="1.8"
          strokeDasharray="3 2"
        />
      )}
      {dot.origin === "doubtful" && (
        <text x={x + 7} y={y - 5} className="fill-plum text-[13px] font-bold">
          ?
        </text>
      )}
    </g>
  );
}
