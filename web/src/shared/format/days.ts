import { locale } from "./language";

/** Calendar days as "2026-05-04": plans know days, not moments, so no zone or clock change can move one. */

const MS = 86_400_000;

function noon(day: string): number {
  return Date.parse(`${day}T12:00:00Z`);
}

export function addDays(day: string, n: number): string {
  return new Date(noon(day) + n * MS).toISOString().slice(0, 10);
}

export function daysBetween(from: string, to: string): number {
  return Math.round((noon(to) - noon(from)) / MS);
}

/** Return the calendar day on this device. */
export function localDay(now: Date): string {
  const two = (n: number) => String(n).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}

/** Return whole weeks, Monday first, from the first day to the last. */
export function weeksOf(first: string, last: string): string[][] {
  const monday = addDays(first, -((new Date(noon(first)).getUTCDay() + 6) % 7));
  const weeks: string[][] = [];
  for (let start = monday; daysBetween(start, last) >= 0; start = addDays(start, 7)) {
    weeks.push(Array.from({ length: 7 }, (_, i) => addDays(start, i)));
  }
  return weeks;
}

const LONG = { weekday: "short", day: "numeric", month: "short" } as const;
const FULL = { weekday: "long", day: "numeric", month: "long" } as const;
const DATED = { day: "numeric", month: "long", year: "numeric" } as const;

function written(day: string, options: Intl.DateTimeFormatOptions): string {
  return new Date(noon(day)).toLocaleDateString(locale(), { ...options, timeZone: "UTC" });
}

export const weekdayOf = (day: string): string => written(day, { weekday: "short" });
export const dayWords = (day: string): string => written(day, LONG);
export const fullDay = (day: string): string => written(day, FULL);
export const datedDay = (day: string): string => written(day, DATED);

/** Format moments in a time zone: day, time of day, or both. */
export function clockOf(timeZone: string) {
  const as = (options: Intl.DateTimeFormatOptions) => {
    const format = new Intl.DateTimeFormat(locale(), { ...options, timeZone });
    return (moment: string) => format.format(new Date(moment));
  };
  const time = { hour: "2-digit", minute: "2-digit" } as const;
  return {
    day: as({ day: "numeric", month: "short", year: "numeric" }),
    time: as(time),
    moment: as({ day: "numeric", month: "short", ...time }),
  };
}

/** Return the day that an arrow key leads to: sideways by one, up and down by a week. */
export function arrowDay(day: string, key: string): string | null {
  const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }[key];
  return step === undefined ? null : addDays(day, step);
}
