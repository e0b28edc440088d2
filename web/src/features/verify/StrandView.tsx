import { scaleLinear } from "d3-scale";
import type { Schemas } from "../../api/client";
import { type Shot, useKnowledge } from "../../api/queries";
import { plainly, t } from "../../shared/format/language";
import { golferValue } from "../../shared/format/say";
import { useBalls, useChosen, useDesk } from "../lesson/LessonContext";
import { marksSeparate, PIVOT_AXIS, type PivotProof, pivotAxis, pivotValue } from "./pivot";
import { type Axis, axesOf, bandOn, type Lane, movementAxis, pointsOf, strandPath } from "./strand";

/** Labels of the picture; larger where it is narrow. */
const WORDS = "text-[14px] lg:@max-[70rem]:text-[15.5px]";
const SIZE = { width: 860, height: 480, top: 78, bottom: 34, side: 64 };
const GROUND: Record<Lane, string> = { pivot: "fill-clay-ground", club: "fill-slate-ground", ball: "fill-moss-ground" };
const RIM: Record<Lane, string> = {
  pivot: "stroke-clay-ground",
  club: "stroke-slate-ground",
  ball: "stroke-moss-ground",
};
const NAME: Record<Lane, [string, string]> = {
  pivot: ["prove-pivot", "fill-clay"],
  club: ["common-club", "fill-slate"],
  ball: ["common-ball", "fill-moss"],
};
const FAINT = 10;

type Props = {
  correction: Schemas["CorrectionOut"];
  ballIds: number[];
  band: Record<string, number[]>;
  pivot: PivotProof | null;
};

/**
 * Each ball is one strand through pivot, club and ball; the baseline is a soft band, gates are openings between posts.
 */
export function StrandView({ correction, ballIds, band, pivot }: Props) {
  const { hand } = useDesk();
  const { shots, excluded } = useBalls();
  const { selection } = useChosen();
  const { metrics } = useKnowledge();
  const proving = new Set(ballIds);
  const hit = shots.filter((s) => proving.has(s.id));
  const proved = hit.filter((s) => !s.covered);
  const waiting = hit.at(-1)?.covered ? hit.at(-1) : undefined;
  const gates: Record<string, number[]> = { ...correction.guards, ...correction.gate };
  const bands = pivot ? { ...band, [PIVOT_AXIS]: [...pivot.gate.band] } : band;
  if (pivot && !pivot.gate.blunt) gates[PIVOT_AXIS] = [...pivot.gate.gate];
  const seen = new Map(ballIds.map((id, i) => [id, pivot?.balls[i] ?? null]));
  const named = new Map(metrics.map((m) => [m.id, m]));
  const movements = new Map(hit.map((s) => [s.id, s.movement]));
  const result = pivot ? [pivotAxis(pivot)] : [];
  const marks =
    !pivot ||
    marksSeparate(
      pivot,
      ballIds.map((id) => movements.get(id) ?? ""),
    )
      ? [movementAxis()]
      : [];
  const axes = axesOf([...marks, ...result], correction.primary, Object.keys(gates), metrics, (id) => [
    ...proved.flatMap((s) => {
      const value = s[id as keyof Shot] as number | null;
      return value === null || excluded.has(s.id) ? [] : [golferValue(named.get(id), value, hand)];
    }),
    ...(band[id] ?? []),
    ...(gates[id] ?? []),
  ]);
  const x = scaleLinear([0, axes.length - 1], [SIZE.side + 20, SIZE.width - SIZE.side]);
  const place = (axis: Axis, value: number) =>
    scaleLinear(axis.domain, [SIZE.height - SIZE.bottom, SIZE.top]).clamp(true)(value);
  const line = (shot: Shot) =>
    strandPath(
      pointsOf(shot, axes, metrics, hand, seen.get(shot.id)?.value ?? null).map((p) => [
        x(axes.indexOf(p.axis)),
        place(p.axis, p.value),
      ]),
    );
  const newest = waiting ? undefined : proved.at(-1);
  const chosen = proved.filter((s) => selection.ids.has(s.id));
  const shown = proved.filter((s) => !excluded.has(s.id)).slice(-FAINT);

  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="max-h-[calc(100vh-20.125rem)] min-h-72 w-full"
      role="img"
      aria-label={t("prove-balls-strands-through-pivot-club", {
        n: proved.length,
      })}
    >
      <Lanes axes={axes} x={x} />
      <Band bands={bandOn(bands, axes)} axes={axes} x={x} place={place} />
      {axes.map((axis, i) => (
        <AxisMark
          key={axis.id}
          axis={axis}
          x={x(i)}
          gate={gates[axis.id]}
          guard={axis.id in (correction.guards ?? {})}
          place={place}
        />
      ))}
      {shown.map((shot) => (
        <path key={shot.id} d={line(shot)} fill="none" className="stroke-ink opacity-20" strokeWidth="1.5" />
      ))}
      {chosen.map((shot) => (
        <path key={shot.id} d={line(shot)} fill="none" className="stroke-clay" strokeWidth="3" />
      ))}
      {newest && chosen.length === 0 && (
        <path
          key={`${newest.id}-${newest.movement}`}
          d={line(newest)}
          pathLength={1}
          fill="none"
          className="strand-new stroke-ink"
          strokeWidth="4"
          strokeLinecap="round"
        />
      )}
      {newest && pivot && <Doubt mark={seen.get(newest.id)} axes={axes} x={x} place={place} />}
      {waiting && <Lid number={waiting.number} />}
      {axes.map((axis, i) => (
        <GateNumbers
          key={axis.id}
          axis={axis}
          x={x(i)}
          gate={gates[axis.id]}
          place={place}
          say={axis.id === PIVOT_AXIS && pivot ? (value) => pivotValue(pivot.gate, value) : undefined}
        />
      ))}
    </svg>
  );
}

/** Over the newest ball, until it is marked. */
function Lid({ number }: { number: number }) {
  const [width, height] = [292, 44];
  const [left, top] = [SIZE.width - SIZE.side - width, SIZE.height - SIZE.bottom - height - 16];
  return (
    <g>
      <rect
        x={left}
        y={top}
        width={width}
        height={height}
        rx="4"
        className="fill-clay-ground stroke-clay"
        strokeDasharray="5 4"
      />
      <text x={left + width / 2} y={top + 28} textAnchor="middle" className="fill-clay text-[18px] font-semibold">
        {t("prove-ball-hidden-until-marked", { number })}
      </text>
    </g>
  );
}

/** The error of the newest ball's pivot: one standard error up and down. */
function Doubt({
  mark,
  axes,
  x,
  place,
}: {
  mark?: PivotProof["balls"][number];
  axes: Axis[];
  x: (i: number) => number;
  place: Place;
}) {
  const at = axes.findIndex((axis) => axis.id === PIVOT_AXIS);
  const axis = axes[at];
  if (!mark || !axis) return null;
  const [top, bottom] = [mark.value + mark.error, mark.value - mark.error].map((value) => place(axis, value));
  return (
    <g className="stroke-clay" strokeWidth="3" strokeLinecap="round">
      <path d={`M${x(at)} ${top}V${bottom}`} />
      <circle cx={x(at)} cy={place(axis, mark.value)} r="6" className="fill-sheet" />
    </g>
  );
}

/** The numbers of a gate, with a rim, readable where balls pass. */
type NumbersProps = { axis: Axis; x: number; gate?: number[]; place: Place; say?: (value: number) => string };

function GateNumbers({ axis, x, gate, place, say = plainly }: NumbersProps) {
  return gate?.map((value) => (
    <text
      key={value}
      x={x + 13}
      y={place(axis, value) + 4}
      className={`fill-ink ${WORDS} font-semibold ${RIM[axis.lane]} [paint-order:stroke]`}
      strokeWidth="5"
      strokeLinejoin="round"
    >
      {say(value)}
    </text>
  ));
}

function Lanes({ axes, x }: { axes: Axis[]; x: (i: number) => number }) {
  const edges = (lane: Lane) => {
    const places = axes.flatMap((a, i) => (a.lane === lane ? [i] : []));
    if (places.length === 0) return null;
    const half = (x(1) - x(0)) / 2;
    const first = places[0] as number;
    const last = places.at(-1) as number;
    return { left: first === 0 ? 0 : x(first) - half, right: last === axes.length - 1 ? SIZE.width : x(last) + half };
  };
  return (["pivot", "club", "ball"] as const).map((lane) => {
    const at = edges(lane);
    return (
      at && (
        <g key={lane}>
          <rect x={at.left} y={0} width={at.right - at.left} height={SIZE.height} className={GROUND[lane]} />
          <text x={at.left + 12} y={24} className={`${NAME[lane][1]} text-[17px] font-bold`}>
            {t(NAME[lane][0])}
          </text>
        </g>
      )
    );
  });
}

type Place = (axis: Axis, value: number) => number;

function Band({
  bands,
  axes,
  x,
  place,
}: {
  bands: ReturnType<typeof bandOn>;
  axes: Axis[];
  x: (i: number) => number;
  place: Place;
}) {
  if (bands.length < 2) return null;
  const at = (b: (typeof bands)[number]) => x(axes.indexOf(b.axis));
  const top = bands.map((b) => `${at(b)} ${place(b.axis, b.high)}`);
  const bottom = bands.map((b) => `${at(b)} ${place(b.axis, b.low)}`).reverse();
  const first = bands[0] as (typeof bands)[number];
  return (
    <g>
      <path d={`M${top.join("L")}L${bottom.join("L")}Z`} className="fill-ink opacity-[0.09]" />
      <text x={at(first) + 8} y={place(first.axis, first.high) - 6} className={`fill-soft ${WORDS}`}>
        {t("common-baseline-2")}
      </text>
    </g>
  );
}

type AxisProps = { axis: Axis; x: number; gate?: number[]; guard: boolean; place: Place };

function AxisMark({ axis, x, gate, guard, place }: AxisProps) {
  const [top, bottom] = [SIZE.top, SIZE.height - SIZE.bottom];
  const ends = gate?.map((v) => place(axis, v)).sort((a, b) => b - a);
  return (
    <g>
      <text x={x} y={50} textAnchor="middle" className={`fill-ink ${WORDS} font-semibold`}>
        {axis.label}
      </text>
      <path d={`M${x} ${top}V${bottom}`} className="stroke-soft" strokeWidth="1" />
      {ends && (
        <g className={guard ? "stroke-soft" : "stroke-straw"} strokeWidth={guard ? 3 : 7} strokeLinecap="round">
          <path d={`M${x} ${top}V${Math.max(top, (ends[1] ?? top) - 2)}`} className={guard ? "opacity-60" : ""} />
          <path
            d={`M${x} ${Math.min(bottom, (ends[0] ?? bottom) + 2)}V${bottom}`}
            className={guard ? "opacity-60" : ""}
          />
          {ends.map((y) => (
            <path key={y} d={`M${x - 9} ${y}H${x + 9}`} className="stroke-ink" strokeWidth="2" />
          ))}
        </g>
      )}
      {axis.id === "movement" &&
        [1, 0.5, 0].map((v) => (
          <circle key={v} cx={x} cy={place(axis, v)} r="4" className="fill-sheet stroke-clay" strokeWidth="1.5" />
        ))}
      {axis.id === "movement" && (
        <text x={x - 10} y={place(axis, 0.5) + 4} textAnchor="end" className={`fill-soft ${WORDS}`}>
          {t("prove-partly")}
        </text>
      )}
      <text x={x} y={top - 9} textAnchor="middle" className={`fill-soft ${WORDS}`}>
        {axis.plus}
      </text>
      <text x={x} y={bottom + 16} textAnchor="middle" className={`fill-soft ${WORDS}`}>
        {axis.minus}
      </text>
    </g>
  );
}
