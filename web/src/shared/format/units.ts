import { fixed, t } from "./language";

/** The coach's units; internally everything is meters and meters per second. */
export const YARD = 0.9144;
const MPH = 0.44704;

export type Units = "yd-mph" | "m-mph" | "m-ms";

/** The choices, most common first. */
export const UNITS: { id: Units; label: string }[] = [
  { id: "yd-mph", label: "yd, mph" },
  { id: "m-mph", label: "m, mph" },
  { id: "m-ms", label: "m, m/s" },
];

export function distance(metres: number, units: Units): string {
  return units === "yd-mph" ? t("common-yd", { yards: Math.round(metres / YARD) }) : `${Math.round(metres)} m`;
}

export function speed(metresPerSecond: number, units: Units): string {
  return units === "m-ms"
    ? `${fixed(metresPerSecond, 1)} m/s`
    : t("common-mph", { metresPerSecond: fixed(metresPerSecond / MPH, 0) });
}

/** Format a metric's value for the coach. */
export function inUnits(value: number, unit: string, units: Units): string {
  if (unit === "m/s") return speed(value, units);
  if (unit === "m") return distance(value, units);
  if (unit === "°") return `${fixed(value, 1)}°`;
  return `${Math.round(value)} ${unit}`;
}
