/** The practice log on a phone: what is under way, what waits to be sent. Nothing here knows React or the network. */
import type { Schemas } from "../../api/client";
import { localDay } from "../../shared/format/days";
import { counted, t } from "../../shared/format/language";

export type Entry = Required<Schemas["EntryTold"]>;
export type BallSeen = Schemas["BallSeen"];
/** The region that stopped a practice, empty for none. */
export type PainRegion = Entry["pain"];
export type Refused = { entry: Entry; message: string };

/** Kept on the phone after every touch, so that a closed page loses nothing. `taps` is what undo takes back. */
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

/** The practice is over and waits to be sent; `pain` is the region that stopped it. One without a touch is no practice. */
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

/** A practice left alone for hours ended with its last touch, as soon as the page is opened again. */
export function wake(log: Log, now: Date): Log {
  if (!log.running || now.getTime() - Date.parse(log.running.ended_at) < LEFT_ALONE_MS) return log;
  return { ...finish(log, now, "", log.running.ended_at), finished: null };
}

/** The server has it: whether it was new or known does not matter. */
export function sent(log: Log, id: string): Log {
  return { ...log, queue: log.queue.filter((e) => e.entry_id !== id) };
}

/**
 * Whether an answer means that the practice will never be taken. Only the application itself says so, and says why:
 * what a proxy, a busy server or a network's own page answers is no word of it, and the practice waits.
 */
export function neverTaken(status: number, reasons: number): boolean {
  return reasons > 0 && [400, 404, 409, 413, 422].includes(status);
}

/** The server will never take it: it leaves the queue, so that the ones behind it are not held up. */
export function refuse(log: Log, id: string, message: string): Log {
  const entry = log.queue.find((e) => e.entry_id === id);
  return entry ? { ...sent(log, id), refused: [...log.refused, { entry, message }] } : log;
}

/** What was kept, or an empty log when it cannot be read. */
export function readLog(text: string | null): Log {
  try {
    const raw = JSON.parse(text ?? "");
    return Array.isArray(raw.queue) && Array.isArray(raw.taps) ? { ...EMPTY, ...raw } : EMPTY;
  } catch {
    return EMPTY;
  }
}

/** What the foot of the page says of sending. */
export function sendingWords(log: Log, online: boolean): string {
  const n = log.queue.length;
  if (n === 0) return online ? t("Everything is sent.") : t("Offline. Your entries are stored on this phone.");
  return counted(
    n,
    "{n} practice entry is stored on this phone and will be sent when you are online.",
    "{n} practice entries are stored on this phone and will be sent when you are online.",
  );
}
