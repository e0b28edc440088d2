/** Geometry of the strand view: axes in three lanes, and a ball's line through them. */
import { curveMonotoneX, line } from "d3-shape";
import type { Shot } from "../../api/queries";
import { t, word } from "../../shared/format/language";
import { golferValue, type Metric } from "../../shared/format/say";

export type Lane = "pivot" | "club" | "ball";
export type Axis = { id: string; lane: Lane; label: string; plus: string; minus: string; domain: [number, number] };
export type Point = { axis: Axis; value: number };

const CLUB_FIRST = ["path_deg", "face_deg"];
const BALL_AXES = ["launch_direction_deg", "spin_axis_deg", "strike_toe_mm"];
const MIN_SPAN: Record<string, number> = { strike_toe_mm: 20, spin_axis_deg: 16, dynamic_loft_deg: 6 };
export const MOVEMENT_PLACE: Record<string, number> = { done: 1, partly: 0.5, missed: 0 };
/** The call before the ball counts as its movement. */
const CALL_PLACE: Record<string, number> = { new: 1, old: 0 };

/** Return the axes for a correction: pivot, club metrics, ball metrics. */
export function axesOf(
  pivot: Axis[],
  primary: string,
  gated: string[],
  metrics: Metric[],
  values: (m: string) => number[],
): Axis[] {
  const named = new Map(metrics.map((m) => [m.id, m]));
  const club = [...new Set([primary, ...gated, ...CLUB_FIRST])]
    .filter((m) => named.get(m)?.lane === "club")
    .slice(0, 3);
  const ball = [...new Set([...gated, ...BALL_AXES])].filter((m) => named.get(m)?.lane === "ball").slice(0, 3);
  return [...pivot, ...[...club, ...ball].map((id) => axisOf(named.get(id) as Metric, values(id)))];
}

/** The marks as an axis: from the coach or the call. */
export function movementAxis(): Axis {
  return {
    id: "movement",
    lane: "pivot",
    label: t("common-movement"),
    plus: word("done"),
    minus: word("missed"),
    domain: [0, 1],
  };
}

function axisOf(metric: Metric, values: number[]): Axis {
  const low = Math.min(...values, metric.plus ? 0 : Infinity);
  const high = Math.max(...values, metric.plus ? 0 : -Infinity);
  const middle = values.length ? (low + high) / 2 : 0;
  const half = Math.max((high - low) / 2, (MIN_SPAN[metric.id] ?? 8) / 2) * 1.15;
  return {
    id: metric.id,
    lane: metric.lane as Lane,
    label: metric.label,
    plus: metric.plus ?? "",
    minus: metric.minus ?? "",
    domain: [middle - half, middle + half],
  };
}

/** Return where a ball crosses the axes; unmeasured axes are left out. `seen` is its pivot, if any. */
export function pointsOf(
  shot: Shot,
  axes: Axis[],
  metrics: Metric[],
  hand: string,
  pivot: number | null = null,
): Point[] {
  const named = new Map(metrics.map((m) => [m.id, m]));
  return axes.flatMap((axis) => {
    if (axis.id === "movement") {
      const value = CALL_PLACE[shot.intent] ?? MOVEMENT_PLACE[shot.movement];
      return value === undefined ? [] : [{ axis, value }];
    }
    if (axis.id === "pivot") return pivot === null ? [] : [{ axis, value: pivot }];
    const value = shot[axis.id as keyof Shot] as number | null;
    return value === null ? [] : [{ axis, value: golferValue(named.get(axis.id), value, hand) }];
  });
}

export function strandPath(points: [number, number][]): string {
  return line().curve(curveMonotoneX)(points) ?? "";
}

/** Return the band of the baseline on its known axes; golfer frame, as the server gives it. */
export function bandOn(band: Record<string, number[]>, axes: Axis[]): { axis: Axis; low: number; high: number }[] {
  return axes.flatMap((axis) => {
    const [low, high] = band[axis.id] ?? [];
    return low === undefined || high === undefined ? [] : [{ axis, low, high }];
  });
}
