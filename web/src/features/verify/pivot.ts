/** The measured pivot on the strand view: its axis, where balls pass it, and how its numbers are written. */
import type { Schemas } from "../../api/client";
import { t } from "../../shared/format/language";
import { hyphens, signed } from "../../shared/format/say";
import type { Axis } from "./strand";

export type PivotProof = Schemas["PivotProof"];
export type PivotMark = Schemas["PivotMark"];
export type PivotGate = Schemas["PivotGate"];

export const PIVOT_AXIS = "pivot";
const MIN_SPAN: Record<string, number> = { cm: 6, "°": 20, "": 0.3 };

/** A value of a series with its unit: "−1.2 cm", "+12°"; shares as percent. */
export function pivotValue(gate: PivotGate, value: number): string {
  if (gate.unit === "") return `${Math.round(100 * value)} %`;
  return gate.unit === "°" ? `${signed(value, 0)}°` : `${signed(value)} ${gate.unit}`;
}

/** What the gate is about: "Thrust, halfway down". */
export function pivotName(gate: PivotGate): string {
  const since = gate.since ? t(", since {moment}", { moment: hyphens(gate.since) }) : "";
  return `${gate.label}, ${hyphens(gate.at)}${since}`;
}

/** The axis, the movement always upward: for a pivot that is to become less, small values stand at the top. */
export function pivotAxis(pivot: PivotProof): Axis {
  const { gate } = pivot;
  const edges = [...gate.band, ...gate.gate];
  const values = [...edges, ...pivot.balls.flatMap((ball) => (ball ? [ball.value] : []))];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const half = Math.max(high - low, MIN_SPAN[gate.unit] ?? 6) * 0.56;
  const middle = (low + high) / 2;
  const rising: [number, number] = [middle - half, middle + half];
  return {
    id: PIVOT_AXIS,
    lane: "pivot",
    label: gate.label,
    plus: gate.reach > 0 ? "more" : "less",
    minus: gate.reach > 0 ? "less" : "more",
    domain: gate.reach > 0 ? rising : [rising[1], rising[0]],
  };
}

/** Whether the marks must be shown beside what was measured: a ball that only a coach saw, or saw otherwise. */
export function marksApart(pivot: PivotProof, movements: string[]): boolean {
  return movements.some((movement, i) => {
    const mark = pivot.balls[i]?.mark ?? null;
    return movement !== "" && movement !== "unseen" && movement !== mark;
  });
}
