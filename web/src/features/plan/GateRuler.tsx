import { scaleLinear } from "d3-scale";
import { t } from "../../shared/format/language";

import { Slider } from "../../shared/ui/Slider";

type Props = {
  label: string;
  unit: string;
  values: number[];
  /** The expected values; a limit has none. */
  predicted?: number;
  low: number;
  high: number;
  step: number;
  onChange: (low: number, high: number) => void;
};

const SIZE = { width: 560, height: 92, side: 26 };
const SIDE = `${(100 * SIZE.side) / SIZE.width}%`;
/** Positions of the posts, as shares of the picture's height. */
const POSTS = { top: `${(100 * 12) / SIZE.height}%`, height: `${(100 * 48) / SIZE.height}%` };

/** The gate on the baseline's balls: two posts to drag or move with the arrow keys. */
export function GateRuler({ label, unit, values, predicted, low, high, step, onChange }: Props) {
  const reach = [...values, low, high, ...(predicted === undefined ? [] : [predicted])];
  const first = step * Math.floor(Math.min(...reach) / step - 2);
  const last = step * Math.ceil(Math.max(...reach) / step + 2);
  const x = scaleLinear([first, last], [SIZE.side, SIZE.width - SIZE.side]);
  return (
    <div className="relative w-full max-w-2xl">
      <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} className="block w-full" aria-hidden="true">
        <rect x={x(low)} y="14" width={Math.max(0, x(high) - x(low))} height="44" className="fill-straw-ground" />
        <path d={`M${SIZE.side} 58H${SIZE.width - SIZE.side}`} className="stroke-soft" />
        {values.map((v, i) => (
          <circle key={i} cx={x(v)} cy={38 + 5 * ((i % 5) - 2)} r="4" className="fill-slate/60" />
        ))}
        {predicted !== undefined && (
          <g>
            <path d={`M${x(predicted)} 16V58`} className="stroke-moss" strokeWidth="2" strokeDasharray="4 3" />
            <text x={x(predicted)} y="11" textAnchor="middle" className="fill-moss text-[12px]">
              {t("correct-predicted-2")}
            </text>
          </g>
        )}
        {x.ticks(7).map((t) => (
          <text key={t} x={x(t)} y="72" textAnchor="middle" className="fill-soft text-[11px]">
            {String(t).replace("-", "−")}
          </text>
        ))}
        <text x={SIZE.width / 2} y="88" textAnchor="middle" className="fill-soft text-[12px]">
          {t("correct-dots-baseline-balls", { unit })}
        </text>
      </svg>
      <div className="absolute flex" style={{ left: SIDE, right: SIDE, ...POSTS }}>
        <Slider
          variant="posts"
          min={first}
          max={last}
          step={step}
          thumbs={[
            { name: t("correct-gate-3", { label }), value: low, text: `${low} ${unit}` },
            { name: t("correct-gate-4", { label }), value: high, text: `${high} ${unit}` },
          ]}
          onChange={([from, to]) => from !== undefined && to !== undefined && onChange(from, to)}
        />
      </div>
    </div>
  );
}
