/** Layout of a recorded swing's curves and moments. */
import { scaleLinear } from "d3-scale";
import { fixed } from "../../shared/format/language";

export const CURVE = { width: 440, height: 78, left: 6, right: 6, top: 8, bottom: 8 };

/** Return a curve as a path, with its lowest and highest value. */
export function curveOf(time: number[], values: number[]) {
  const low = Math.min(...values, 0);
  const high = Math.max(...values, 0);
  const x = scaleLinear([time[0] ?? 0, time.at(-1) ?? 1], [CURVE.left, CURVE.width - CURVE.right]);
  const y = scaleLinear([low, high === low ? low + 1 : high], [CURVE.height - CURVE.bottom, CURVE.top]);
  return {
    x,
    y,
    low,
    high,
    path: `M${time.map((t, i) => `${x(t).toFixed(1)} ${y(values[i] ?? 0).toFixed(1)}`).join("L")}`,
  };
}

/** Return the value of a curve at a time, linear between its points. */
export function valueAt(time: number[], values: number[], at: number): number {
  const next = time.findIndex((t) => t >= at);
  if (next < 0) return values.at(-1) ?? 0;
  if (next === 0) return values[0] ?? 0;
  const [t0, t1, v0, v1] = [time[next - 1] ?? 0, time[next] ?? 1, values[next - 1] ?? 0, values[next] ?? 0];
  return v0 + ((v1 - v0) * (at - t0)) / Math.max(t1 - t0, 1e-9);
}

/** Return a moment moved by some seconds, between its neighbors. */
export function nudged(at: Record<string, number>, moment: string, by: number, end: number): number {
  const order = Object.keys(at);
  const place = order.indexOf(moment);
  const before = place > 0 ? (at[order[place - 1] ?? ""] ?? 0) : -0.005;
  const after = place < order.length - 1 ? (at[order[place + 1] ?? ""] ?? end) : end + 0.005;
  const wanted = (at[moment] ?? 0) + by;
  return Math.round(1000 * Math.min(Math.max(wanted, before + 0.005), after - 0.005)) / 1000;
}

type Read = { value: number; error: number; unit: string };

/** Format a recorded value with its error; shares as percent. */
export function readingWords({ value, error, unit }: Read): string {
  if (unit === "") return `${fixed(100 * value, 0)} % ± ${fixed(Math.max(100 * error, 0.1), 1)}`;
  const digits = unit === "ms" ? 0 : 1;
  const sign = Number(value.toFixed(digits)) === 0 ? "" : value > 0 ? "+" : "−";
  return `${sign}${fixed(Math.abs(value), digits)}${unit === "°" ? "°" : ` ${unit}`} ± ${fixed(error, digits)}`;
}
