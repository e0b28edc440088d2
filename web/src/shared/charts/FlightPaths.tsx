import { scaleLinear } from "d3-scale";
import type { Schemas } from "../../api/client";
import { t } from "../format/language";
import { roundReach } from "./pictures";

type Flown = Schemas["FlownBall"];

const SIZE = { width: 360, height: 190 };

/** From above and from the side, before (dashed) and after. */
export function FlightPaths({ before, after, hand }: { before: Flown; after: Flown; hand: string }) {
  const far = Math.max(before.carry_m, after.carry_m, 20) * 1.05;
  const reach = roundReach([...before.side_trace_m, ...after.side_trace_m], [10, 20, 40, 80, 150]);
  const high = Math.max(before.apex_m, after.apex_m, 10) * 1.1;
  const x = scaleLinear([0, far], [8, SIZE.width - 8]);
  const mirrored = hand === "left" ? -1 : 1;
  const above = scaleLinear([-reach, reach], [8, 92]);
  const side = scaleLinear([0, high], [176, 112]);
  const path = (ball: Flown, rows: number[], y: (v: number) => number) =>
    `M${ball.forward_m.map((f, i) => `${x(f)} ${y(rows[i] ?? 0)}`).join("L")}`;
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="w-full"
      role="img"
      aria-label={t("common-flight-above-side-before-after")}
    >
      <rect x="8" y="8" width={SIZE.width - 16} height="84" className="fill-sheet stroke-rule" />
      <path d={`M8 50H${SIZE.width - 8}`} className="stroke-straw" strokeWidth="2" strokeDasharray="5 4" />
      <rect x="8" y="108" width={SIZE.width - 16} height="68" className="fill-sheet stroke-rule" />
      {[
        { ball: before, variant: "stroke-soft", dash: "4 4" },
        { ball: after, variant: "stroke-moss", dash: undefined },
      ].map(({ ball, variant, dash }, i) => (
        <g key={i} className={`fill-none ${variant}`} strokeWidth="2.2" strokeDasharray={dash}>
          <path d={path(ball, ball.side_trace_m, (v) => above(mirrored * v))} />
          <path d={path(ball, ball.up_m, side)} />
        </g>
      ))}
      <g className="fill-soft text-[11px]">
        <text x="12" y="20">
          {t("common-above-left-target-up")}
        </text>
        <text x="12" y="120">
          {t("common-side")}
        </text>
      </g>
    </svg>
  );
}
