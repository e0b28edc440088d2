/** The measured pivot on the strand view: its axis, positions and number format. */
import type { Schemas } from "../../api/client";
import { t, word } from "../../shared/format/language";
import { signed } from "../../shared/format/say";
import type { Axis } from "./strand";

export type PivotProof = Schemas["PivotProof"];
export type PivotMark = Schemas["PivotMark"];
export type PivotGate = Schemas["PivotGate"];

export const PIVOT_AXIS = "pivot";
const MIN_SPAN: Record<string, number> = { cm: 6, "°": 20, "": 0.3 };

/** Format a value of a series with its unit: "−1.2 cm", "+12°"; shares as percent. */
export function pivotValue(gate: PivotGate, value: number): string {
  if (gate.unit === "") return `${Math.round(100 * value)} %`;
  return gate.unit === "°" ? `${signed(value, 0)}°` : `${signed(value)} ${gate.unit}`;
}

/** The label of the gate: "Thrust, halfway down". */
export function pivotName(gate: PivotGate): string {
  const since = gate.since ? t("prove-since", { moment: word(gate.since) }) : "";
  return `${gate.label}, ${word(gate.at)}${since}`;
}

/** The axis, with the movement upward: if the pivot should shrink, small values are at the top. */
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
    plus: gate.reach > 0 ? word("more") : word("less"),
    minus: gate.reach > 0 ? word("less") : word("more"),
    domain: gate.reach > 0 ? rising : [rising[1], rising[0]],
  };
}

/** Return true if marks must be shown beside measurements: a ball marked only by a coach, or differently. */
export function marksSeparate(pivot: PivotProof, movements: string[]): boolean {
  return movements.some((movement, i) => {
    const mark = pivot.balls[i]?.mark ?? null;
    return movement !== "" && movement !== "unseen" && movement !== mark;
  });
}
