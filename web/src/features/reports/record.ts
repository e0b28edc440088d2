/** A student's record as positions on the chart and rows per fault. */
import type { History, LessonOnRecord } from "../../api/records";
import { t } from "../../shared/format/language";

export type Span = LessonOnRecord["spans"][number];

/** One lesson on the chart: first and last value, and the gate. */
export type Stop = {
  lesson: LessonOnRecord;
  x: number;
  baseline: Span | null;
  exit: Span | null;
  gate: [number, number] | null;
};

const MIN_GAP = 0.16; // of the width: lessons a day apart can still be result apart

/** Position lessons between the first and the last, never too close to read; x from 0 to 1. */
export function stopsOf(history: History, metric: string): Stop[] {
  const days = history.lessons.map((l) => Date.parse(l.day));
  const [first = 0, last = 0] = [days[0], days.at(-1)];
  const raw = days.map((d) => (last > first ? (d - first) / (last - first) : 0));
  const gap = Math.min(MIN_GAP, 1 / Math.max(1, days.length - 1));
  const places: number[] = [];
  for (const x of raw) places.push(Math.max(x, (places.at(-1) ?? -Infinity) + gap));
  const scale = Math.max(1, places.at(-1) ?? 1);
  return history.lessons.map((lesson, i) => ({
    lesson,
    x: (places[i] ?? 0) / scale,
    baseline: lesson.spans.find((s) => s.metric === metric && s.kind === "baseline") ?? null,
    exit: lesson.spans.findLast((s) => s.metric === metric && s.kind === "exit") ?? null,
    gate: (lesson.tried.findLast((t) => t.primary === metric)?.gate as [number, number] | undefined) ?? null,
  }));
}

/** Return the range of all values with a margin; includes zero for a two-sided number. */
export function reachOf(stops: Stop[], twoSided: boolean): [number, number] {
  const values = stops.flatMap(({ baseline, exit, gate }) => [
    ...(gate ?? []),
    ...[baseline, exit].flatMap((s) =>
      s ? [s.centre - (s.spread ?? 0), s.centre + (s.spread ?? 0), s.low ?? s.centre, s.high ?? s.centre] : [],
    ),
  ]);
  if (twoSided || values.length === 0) values.push(0);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = (high - low) * 0.08 || 1;
  return [low - room, high + room];
}

/** Return what became of a fault in one lesson, the strongest known; null if it played no part. */
export type Fate = { code: keyof typeof FATES; word: string; detail: string };

/** The mark for each state of a fault in a lesson. */
export const FATES = { proven: "●", refuted: "✕", stopped: "◐", tried: "◐", suspected: "○" } as const;

export function fateOf(lesson: LessonOnRecord, fault: string): Fate | null {
  const tried = lesson.tried.findLast((row) => row.fault === fault);
  if (tried?.outcome === "verified") return { code: "proven", word: t("reports-proven"), detail: tried.drill };
  if (tried?.outcome === "not-supported") return { code: "refuted", word: t("reports-refuted"), detail: tried.drill };
  if (tried?.outcome === "stopped") return { code: "stopped", word: t("reports-tried-stopped"), detail: tried.drill };
  if (tried) return { code: "tried", word: t("reports-tried"), detail: tried.drill };
  const suspect = lesson.suspects.find((row) => row.fault === fault);
  return suspect ? { code: "suspected", word: suspect.word, detail: t("reports-suspected") } : null;
}

/** Return every fault that played a part, by first occurrence. */
export function faultsOf(history: History): { fault: string; label: string }[] {
  const seen = new Map<string, string>();
  for (const lesson of history.lessons) {
    for (const t of lesson.tried) seen.set(t.fault, seen.get(t.fault) ?? t.label);
    for (const s of lesson.suspects) seen.set(s.fault, seen.get(s.fault) ?? s.label.split(",")[0] ?? s.fault);
  }
  return [...seen].map(([fault, label]) => ({ fault, label }));
}
