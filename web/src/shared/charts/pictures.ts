/** Geometry of Baseline's pictures; golfer frame unless a name says otherwise. */
import type { Schemas } from "../../api/client";
import type { Shot } from "../../api/queries";
import { golferValue, type Metric } from "../format/say";

export type Reading = Schemas["ReadingOut"];
export type Ellipse = Schemas["Ellipse"];
export type MetricName = keyof Shot & string;
/** The certainty of a drawn value: measured, inferred, or contradictory. */
export type Origin = "measured" | "inferred" | "doubtful";
export type Dot = {
  id: number;
  number: number;
  x: number;
  y: number;
  origin: Origin;
  excluded: boolean;
  chosen: boolean;
};

/** Return a value of a ball and its origin; null without one. */
export function valueWithOrigin(
  reading: Reading,
  place: number,
  shot: Shot,
  metric: Metric,
  hand: string,
): { value: number; origin: Origin } | null {
  const measured = shot[metric.id as MetricName] as number | null;
  if (measured !== null) {
    const doubtful = reading.reading.doubtful.some((d) => d.index === place && d.field === metric.id);
    return { value: golferValue(metric, measured, hand), origin: doubtful ? "doubtful" : "measured" };
  }
  const inferred = reading.inferred[metric.id]?.[place];
  return typeof inferred === "number" ? { value: inferred, origin: "inferred" } : null;
}

const WORSE: Origin[] = ["measured", "inferred", "doubtful"];

/** Return the balls of a reading on two metrics. */
export function dotsOf(
  reading: Reading,
  shots: Shot[],
  x: Metric,
  y: Metric,
  hand: string,
  excluded: ReadonlyMap<number, string>,
  chosen: ReadonlySet<number>,
): Dot[] {
  const byId = new Map(shots.map((s) => [s.id, s]));
  return reading.ball_ids.flatMap((id, place) => {
    const shot = byId.get(id);
    if (!shot) return [];
    const [a, b] = [valueWithOrigin(reading, place, shot, x, hand), valueWithOrigin(reading, place, shot, y, hand)];
    if (!a || !b) return [];
    const origin = WORSE.indexOf(a.origin) > WORSE.indexOf(b.origin) ? a.origin : b.origin;
    return [
      { id, number: shot.number, x: a.value, y: b.value, origin, excluded: excluded.has(id), chosen: chosen.has(id) },
    ];
  });
}

/** Return points of an ellipse's outline. */
export function outlineOf(ellipse: Ellipse, steps = 48): [number, number][] {
  const turn = (ellipse.angle_deg * Math.PI) / 180;
  return Array.from({ length: steps + 1 }, (_, i) => {
    const t = (i / steps) * 2 * Math.PI;
    const [long, short] = [ellipse.half_long * Math.cos(t), ellipse.half_short * Math.sin(t)];
    return [
      ellipse.centre_x + long * Math.cos(turn) - short * Math.sin(turn),
      ellipse.centre_y + long * Math.sin(turn) + short * Math.cos(turn),
    ];
  });
}

/** `started` is false if the start direction was not measured; then only the landing is known. */
export type FlightPath = { control: [number, number]; end: [number, number]; started: boolean };

/** Return a ball's path over the ground as seen from behind (device frame). */
export function flightPath(shot: Shot): FlightPath | null {
  const { carry_m: carry, side_m: side, launch_direction_deg: direction } = shot;
  if (carry === null || side === null || carry < 1) return null;
  const forward = Math.sqrt(Math.max(carry ** 2 - side ** 2, 0));
  const start = direction === null ? side / forward : Math.tan((direction * Math.PI) / 180);
  return { control: [(start * forward) / 2, forward / 2], end: [side, forward], started: direction !== null };
}

/** Return a round half width that fits all values. */
export function roundReach(values: number[], steps: number[]): number {
  const most = Math.max(0, ...values.map(Math.abs));
  return steps.find((s) => s >= most) ?? (steps.at(-1) as number);
}
