/** The practice log on a phone: the current practice and what waits to be sent. No React, no network. */
import type { Schemas } from "../../api/client";
import { localDay } from "../../shared/format/days";
import { t } from "../../shared/format/language";

export type Entry = Required<Schemas["EntryIn"]>;
export type BallSeen = Schemas["PracticeBall"];
/** The region that stopped a practice; empty for none. */
export type PainRegion = Entry["pain"];
export type Refused = { entry: Entry; message: string };

/** Saved on the phone after every touch, so that a closed page loses nothing. `taps` is for undo. */
export type Log = {
  running: Entry | null;
  taps: boolean[];
  queue: Entry[];
  refused: Refused[];
  finished: Entry | null;
};

export const EMPTY: Log = { running: null, taps: [], queue: [], refused: [], finished: null };
const LEFT_ALONE_MS = 3 * 3_600_000;

export function begin(log: Log, id: string, now: Date): Log {
  if (log.running) return log;
  const at = now.toISOString();
  const running: Entry = {
    entry_id: id,
    day: localDay(now),
    started_at: at,
    ended_at: at,
    felt: 0,
    not_felt: 0,
    balls: [],
    pain: "",
    note: "",
  };
  return { ...log, running, taps: [], finished: null };
}

export function tap(log: Log, felt: boolean, now: Date): Log {
  return withTaps(log, [...log.taps, felt], now);
}

export function undo(log: Log, now: Date): Log {
  return withTaps(log, log.taps.slice(0, -1), now);
}

function withTaps(log: Log, taps: boolean[], now: Date): Log {
  if (!log.running) return log;
  const felt = taps.filter(Boolean).length;
  return { ...log, taps, running: { ...log.running, felt, not_felt: taps.length - felt, ended_at: now.toISOString() } };
}

export function addBall(log: Log, ball: BallSeen, now: Date): Log {
  if (!log.running) return log;
  return { ...log, running: { ...log.running, balls: [...log.running.balls, ball], ended_at: now.toISOString() } };
}

/** End the practice and queue it; `pain` is the region that stopped it. One without touches is dropped. */
export function finish(log: Log, now: Date, pain: PainRegion = "", ended = now.toISOString()): Log {
  if (!log.running) return log;
  const entry = { ...log.running, pain, ended_at: ended };
  const empty = entry.felt + entry.not_felt + entry.balls.length === 0 && !pain;
  return {
    ...log,
    running: null,
    taps: [],
    queue: empty ? log.queue : [...log.queue, entry],
    finished: empty ? null : entry,
  };
}

/** End a practice left alone for hours at its last touch when the page is opened again. */
export function wake(log: Log, now: Date): Log {
  if (!log.running || now.getTime() - Date.parse(log.running.ended_at) < LEFT_ALONE_MS) return log;
  return { ...finish(log, now, "", log.running.ended_at), finished: null };
}

/** Remove an entry that the server has, new or known. */
export function sent(log: Log, id: string): Log {
  return { ...log, queue: log.queue.filter((e) => e.entry_id !== id) };
}

/**
 * Return true if the server will never accept the entry. Only the application's own refusals count; answers of a proxy
 * or a busy server do not, and the entry waits.
 */
export function neverTaken(status: number, reasons: number): boolean {
  return reasons > 0 && [400, 404, 409, 413, 422].includes(status);
}

/** Remove an entry that the server will never accept, so that it does not block later ones. */
export function refuse(log: Log, id: string, message: string): Log {
  const entry = log.queue.find((e) => e.entry_id === id);
  return entry ? { ...sent(log, id), refused: [...log.refused, { entry, message }] } : log;
}

/** Return the stored log, or an empty one. */
export function readLog(text: string | null): Log {
  try {
    const raw = JSON.parse(text ?? "");
    return Array.isArray(raw.queue) && Array.isArray(raw.taps) ? { ...EMPTY, ...raw } : EMPTY;
  } catch {
    return EMPTY;
  }
}

/** Return the status text about sending. */
export function sendingWords(log: Log, online: boolean): string {
  const n = log.queue.length;
  if (n === 0) return online ? t("student-page-everything-sent") : t("student-page-offline-entries-stored-phone");
  return t("student-page-practice-entries-stored-phone-will", { n });
}
