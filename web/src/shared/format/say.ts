/** Format values in sentences: "4.1° in-to-out". Golfer frame. */
import type { Schemas } from "../../api/client";
import { fixed, inside, t } from "./language";
import { inUnits, type Units } from "./units";

export type Metric = Schemas["Metric"];

export function say(metric: Metric, value: number, units: Units): string {
  if (!metric.plus) return inUnits(value, metric.unit, units);
  const size = inUnits(Math.abs(value), metric.unit, units);
  if (Number.parseFloat(size) === 0) return size;
  return `${size} ${value > 0 ? metric.plus : metric.minus}`;
}

/** Convert device frame to golfer frame, the only place in the front end that mirrors. */
export function golferValue(metric: Metric | undefined, value: number, hand: string): number {
  return metric?.mirrored && hand === "left" ? -value : value;
}

export function signed(value: number, digits = 1): string {
  const size = Math.abs(value);
  return Number(size.toFixed(digits)) === 0 ? fixed(0, digits) : `${value > 0 ? "+" : "−"}${fixed(size, digits)}`;
}

/** Return a station's name inside a sentence. */
export const stationName = (id: string): string => inside(t(`common-${id}`));

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Format a probability without overclaiming: "over 0.99". */
export function chance(p: number): string {
  if (p > 0.99) return t("common-over-0-99");
  return p < 0.01 ? t("common-under-0-01") : fixed(p, 2);
}
