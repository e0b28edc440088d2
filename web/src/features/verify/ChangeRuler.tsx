import { scaleLinear } from "d3-scale";
import { t } from "../../shared/format/language";

import { signed } from "../../shared/format/say";

type Props = {
  estimate: number | null;
  low: number | null;
  high: number | null;
  predicted: number;
  unit: string;
  label: string;
};

const WIDTH = 300;

/** The running change with its always-valid interval, zero, and the prediction. */
export function ChangeRuler({ estimate, low, high, predicted, unit, label }: Props) {
  const reach = Math.max(
    Math.abs(predicted) * 1.6,
    ...[estimate, low, high].map((v) => Math.min(Math.abs(v ?? 0), Math.abs(predicted) * 4)),
    1,
  );
  const x = scaleLinear([-reach, reach], [8, WIDTH - 8]).clamp(true);
  const words =
    estimate === null
      ? t("prove-no-balls-yet", { label })
      : low === null || high === null
        ? t("prove-not-enough-balls-range", { label, change: signed(estimate), unit })
        : t("prove-between", {
            label,
            change: signed(estimate),
            unit,
            low: signed(low),
            high: signed(high),
          });
  return (
    <figure className="m-0">
      <svg viewBox={`0 0 ${WIDTH} 58`} className="w-full max-w-sm overflow-visible" role="img" aria-label={words}>
        <path d={`M8 32H${WIDTH - 8}`} className="stroke-rule" strokeWidth="2" />
        <path d={`M${x(0)} 22V42`} className="stroke-soft" strokeWidth="1.5" />
        <text x={x(0)} y={54} textAnchor="middle" className="fill-soft text-[11px] lg:@max-[70rem]:text-[15px]">
          {t("common-no-change")}
        </text>
        <path d={`M${x(predicted) - 6} 18h12l-6 8z`} className="fill-straw stroke-ink" />
        <text x={x(predicted)} y={12} textAnchor="middle" className="fill-soft text-[11px] lg:@max-[70rem]:text-[15px]">
          {t("prove-predicted", { change: signed(predicted) })}
        </text>
        {low !== null && high !== null && (
          <path d={`M${x(low)} 32H${x(high)}`} className="stroke-slate" strokeWidth="9" strokeOpacity="0.45" />
        )}
        {estimate !== null && (
          <circle cx={x(estimate)} cy={32} r={6} className="fill-slate stroke-sheet" strokeWidth="2" />
        )}
      </svg>
    </figure>
  );
}
