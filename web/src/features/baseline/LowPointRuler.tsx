import { scaleLinear } from "d3-scale";
import type { Reading } from "../../shared/charts/pictures";
import { t } from "../../shared/format/language";
import { useBalls, useChosen } from "../lesson/LessonContext";

const WIDTH = 340;
const REACH = 24; // cm
const TICKS = [-20, -10, 0, 10, 20];

/** Low points, ball by ball, on a ruler with the ball at zero; hollow because they are inferred. */
export function LowPointRuler({ data, onChoose }: { data: Reading; onChoose: (id: number) => void }) {
  const { shots, excluded } = useBalls();
  const { selection } = useChosen();
  const middle = data.reading.low_point_cm;
  if (!middle) return null;
  const x = scaleLinear([-REACH, REACH], [14, WIDTH - 14]).clamp(true);
  const number = new Map(shots.map((s) => [s.id, s.number]));
  const dots = data.ball_ids.flatMap((id, i) => {
    const at = data.low_points_cm[i];
    return typeof at === "number" && !excluded.has(id) ? [{ id, at, row: i % 3 }] : [];
  });
  return (
    <figure className="m-0">
      <figcaption className="mb-1 flex items-baseline justify-between gap-2">
        <span className="font-semibold">{t("common-low-point")}</span>
        <span className="text-sm text-soft italic">{t("baseline-about", { value: middle.text })}</span>
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} 84`}
        className="w-full"
        role="img"
        aria-label={t("baseline-low-point-balls-inferred-attack", {
          n: dots.length,
          middle: middle.text,
        })}
      >
        {middle.low !== null && middle.high !== null && (
          <rect
            x={x(middle.low ?? 0)}
            y={8}
            width={Math.max(2, x(middle.high ?? 0) - x(middle.low ?? 0))}
            height={38}
            className="fill-slate-ground"
          />
        )}
        <path d={`M14 52H${WIDTH - 14}`} className="stroke-ink" strokeWidth="1.5" />
        {TICKS.map((tick) => (
          <g key={tick}>
            <path d={`M${x(tick)} ${tick === 0 ? 46 : 48}v${tick === 0 ? 10 : 7}`} className="stroke-ink" />
            <text x={x(tick)} y={68} textAnchor="middle" className="fill-soft text-[12px]">
              {tick === 0 ? t("common-ball-4") : t("baseline-cm", { abs: Math.abs(tick) })}
            </text>
          </g>
        ))}
        <circle cx={x(0)} cy={52} r={5} className="fill-sheet stroke-ink" strokeWidth="1.5" />
        {dots.map((dot) => (
          <circle
            key={dot.id}
            cx={x(dot.at)}
            cy={16 + dot.row * 12}
            r={selection.ids.has(dot.id) ? 5.5 : 4}
            onClick={() => onChoose(dot.id)}
            className={`cursor-pointer fill-transparent ${selection.ids.has(dot.id) ? "stroke-clay" : "stroke-slate"}`}
            strokeWidth={selection.ids.has(dot.id) ? 2.6 : 1.6}
            strokeDasharray="3 2"
          >
            <title>
              {t("baseline-ball-cm-ball", {
                number: number.get(dot.id),
                distance: Math.abs(dot.at).toFixed(0),
                where: dot.at < 0 ? t("baseline-behind") : t("baseline-ahead"),
              })}
            </title>
          </circle>
        ))}
        <text x={14} y={82} className="fill-soft text-[12px]">
          {t("baseline-behind-ball")}
        </text>
        <text x={WIDTH - 14} y={82} textAnchor="end" className="fill-soft text-[12px]">
          {t("baseline-toward-target")}
        </text>
      </svg>
    </figure>
  );
}
