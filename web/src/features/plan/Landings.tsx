import { scaleLinear } from "d3-scale";
import { t } from "../../shared/format/language";

type Ball = [number, number];

const SIZE = { width: 420, height: 230, side: 12, bottom: 26 };

/** Where the model lands the baseline's deliveries, before (rings) and as predicted (discs); target up. */
export function Landings({
  before,
  after,
  hand,
  unit,
}: {
  before: Ball[];
  after: Ball[];
  hand: string;
  unit: (metres: number) => string;
}) {
  const all = [...before, ...after];
  const carries = all.map(([carry]) => carry);
  const wide = Math.max(...all.map(([, side]) => Math.abs(side)), 10) * 1.1;
  const y = scaleLinear([Math.min(...carries) - 6, Math.max(...carries) + 6], [SIZE.height - SIZE.bottom, 10]);
  const x = scaleLinear([-wide, wide], [SIZE.side, SIZE.width - SIZE.side]);
  const side = hand === "left" ? -1 : 1;
  const ticks = y.ticks(4);
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        className="w-full"
        role="img"
        aria-label={t("correct-where-balls-land-model-before", {
          n: before.length,
        })}
      >
        <rect x="0" y="0" width={SIZE.width} height={SIZE.height - SIZE.bottom + 4} className="fill-moss-ground" />
        <path
          d={`M${x(0)} 0V${SIZE.height - SIZE.bottom}`}
          className="stroke-straw"
          strokeWidth="2"
          strokeDasharray="5 4"
        />
        {ticks.map((t) => (
          <g key={t}>
            <path d={`M0 ${y(t)}H${SIZE.width}`} className="stroke-rule" />
            <text x="4" y={y(t) - 3} className="fill-soft text-[11px]">
              {unit(t)}
            </text>
          </g>
        ))}
        {before.map(([carry, off], i) => (
          <circle
            key={`b${i}`}
            cx={x(side * off)}
            cy={y(carry)}
            r="5"
            className="fill-none stroke-soft"
            strokeWidth="1.6"
          />
        ))}
        {after.map(([carry, off], i) => (
          <circle key={`a${i}`} cx={x(side * off)} cy={y(carry)} r="5" className="fill-moss stroke-sheet" />
        ))}
        <text x={SIZE.width / 2} y={SIZE.height - 6} textAnchor="middle" className="fill-soft text-[12px]">
          {t("correct-model-club-delivery-rings-baseline")}
        </text>
      </svg>
    </figure>
  );
}
