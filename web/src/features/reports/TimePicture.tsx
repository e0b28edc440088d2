import { scaleLinear } from "d3-scale";
import type { History } from "../../api/records";
import { dayWords } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import type { Metric } from "../../shared/format/say";
import { reachOf, type Span, stopsOf } from "./record";

const SIZE = { width: 960, height: 330 };
const EDGE = { left: 74, right: 96, top: 26, bottom: 74 };
const OFFSET = 26; // between where a lesson began and where it ended

/**
 * The number across lessons as one strand: solid within a lesson, dashed between lessons; yellow openings are gates,
 * bars below are practice days.
 */
export function TimePicture({ history, metric }: { history: History; metric: Metric }) {
  const stops = stopsOf(history, metric.id);
  const y = scaleLinear(reachOf(stops, Boolean(metric.plus)), [SIZE.height - EDGE.bottom, EDGE.top]);
  const x = scaleLinear([0, 1], [EDGE.left, SIZE.width - EDGE.right]);
  const unit = metric.unit === "°" ? "°" : ` ${metric.unit}`;
  const floor = SIZE.height - EDGE.bottom + 14;
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="w-full"
      role="img"
      aria-label={t("reports-across-lessons-numbers-table-below", {
        label: metric.label,
        n: stops.length,
      })}
    >
      {y.ticks(5).map((tick) => (
        <g key={tick}>
          <path
            d={`M${EDGE.left - 20} ${y(tick)}H${SIZE.width - 20}`}
            className={tick === 0 ? "stroke-soft" : "stroke-rule"}
          />
          <text x={EDGE.left - 26} y={y(tick) + 4} textAnchor="end" className="fill-soft text-[13px]">
            {Math.abs(tick)}
            {unit}
          </text>
        </g>
      ))}
      {metric.plus && (
        <g className="fill-soft text-[13px]">
          <text x={SIZE.width - 20} y={EDGE.top - 10} textAnchor="end">
            {metric.plus}
          </text>
          <text x={SIZE.width - 20} y={SIZE.height - EDGE.bottom + 18} textAnchor="end">
            {metric.minus}
          </text>
        </g>
      )}
      {stops.map(({ lesson, gate, x: at, exit }) =>
        gate && exit ? (
          <g key={lesson.id} className="stroke-straw" strokeWidth="5">
            <path d={`M${x(at) + OFFSET - 9} ${y(gate[1])}h18M${x(at) + OFFSET - 9} ${y(gate[0])}h18`} />
          </g>
        ) : null,
      )}
      {stops.map(({ lesson, x: at, baseline, exit }, i) => {
        const next = stops[i + 1];
        const end = exit ?? baseline;
        const from = exit ? x(at) + OFFSET : x(at);
        return (
          <g key={lesson.id} className="fill-none" strokeLinecap="round">
            {baseline && exit && (
              <path
                d={bend(x(at), y(baseline.centre), x(at) + OFFSET, y(exit.centre))}
                className="stroke-clay"
                strokeWidth="3.5"
              />
            )}
            {end && next?.baseline && (
              <path
                d={bend(from, y(end.centre), x(next.x), y(next.baseline.centre))}
                className="stroke-slate"
                strokeWidth="2.5"
                strokeDasharray="2 7"
              />
            )}
          </g>
        );
      })}
      {stops.map(({ lesson, x: at, baseline, exit }, i) => (
        <g key={lesson.id}>
          {baseline && <Place x={x(at)} y={y} span={baseline} variant="stroke-slate" fill="fill-slate" />}
          {exit && <Place x={x(at) + OFFSET} y={y} span={exit} variant="stroke-moss" fill="fill-moss" square />}
          <text x={x(at) + 8} y={floor + 34} textAnchor="middle" className="fill-ink text-[14px] font-semibold">
            {dayWords(lesson.day)}
          </text>
          {lesson.cold?.share != null && (
            <text
              x={x(at) + 8}
              y={floor + 51}
              textAnchor="middle"
              className={`text-[13px] ${lesson.cold.relapse ? "fill-plum font-semibold" : "fill-soft"}`}
            >
              {t(RETENTION[lesson.cold.word] ?? "")}
            </text>
          )}
          {lesson.dose?.share != null && stops[i + 1] && (
            <Practised
              from={x(at) + OFFSET + 14}
              to={x(stops[i + 1]?.x ?? 1) - 14}
              y={floor + 4}
              share={lesson.dose.share}
            />
          )}
        </g>
      ))}
    </svg>
  );
}

function bend(x1: number, y1: number, x2: number, y2: number): string {
  const middle = (x1 + x2) / 2;
  return `M${x1} ${y1}C${middle} ${y1} ${middle} ${y2} ${x2} ${y2}`;
}

const RETENTION: Record<string, string> = {
  kept: "reports-retained",
  partly: "reports-partly-retained",
  relapsed: "reports-relapsed",
  open: "reports-not-clear-yet",
};

type PlaceProps = { x: number; y: (v: number) => number; span: Span; variant: string; fill: string; square?: boolean };

/** Median, interval (thick) and spread (thin); hollow if most balls were inferred. */
function Place({ x, y, span, variant, fill, square = false }: PlaceProps) {
  const mark = span.inferred ? `fill-sheet ${variant}` : fill;
  return (
    <g>
      {span.spread !== null && (
        <path
          d={`M${x} ${y(span.centre - span.spread)}V${y(span.centre + span.spread)}`}
          className={variant}
          strokeWidth="1.2"
        />
      )}
      {span.low !== null && span.high !== null && (
        <path d={`M${x} ${y(span.low)}V${y(span.high)}`} className={variant} strokeWidth="5" opacity="0.55" />
      )}
      {square ? (
        <rect x={x - 6} y={y(span.centre) - 6} width="12" height="12" className={mark} strokeWidth="2" />
      ) : (
        <circle cx={x} cy={y(span.centre)} r="6.5" className={mark} strokeWidth="2" />
      )}
    </g>
  );
}

function Practised({ from, to, y, share }: { from: number; to: number; y: number; share: number }) {
  if (to - from < 10) return null;
  return (
    <g>
      <rect x={from} y={y} width={to - from} height="6" className="fill-rule" />
      <rect x={from} y={y} width={(to - from) * share} height="6" className="fill-moss" />
    </g>
  );
}
