/** Save a form while it is being filled in, and lose nothing when the page goes away; no React. */
import { dropUnsaved, putUnsaved, type Store } from "../../api/unsaved";

export type SaveState = "untouched" | "saving" | "saved" | "offline" | "refused";
type Options<T> = {
  /** Identifies the form, so that unsaved changes find it again after a reload. */
  name: string;
  /** Send one value; reject if it was not saved. */
  send: (value: T) => Promise<unknown>;
  /** What to do with an unsaved value: retry, keep for the next visit, or drop as invalid. */
  after: (error: Error) => "retry" | "keep" | "drop";
  onState: (state: SaveState, error?: Error) => void;
  storage?: Store;
};

export const QUIET_MS = 500;
export const RETRY_MS = 2000;

/**
 * Save the newest value after a short pause, one request at a time.
 *
 * Every change is written to the browser's storage first and stays there until the server has it. `flush` sends at
 * once; call it when the page is left. A save that fails for want of a connection is repeated.
 */
export type Autosave<T> = {
  change: (value: T) => void;
  /** Sends another value in place of a change that waits; without one it does nothing. */
  replace: (value: T) => void;
  flush: () => Promise<void>;
};

export function autosave<T>({ name, send, after, onState, storage = localStorage }: Options<T>) {
  let waiting: { value: T } | undefined;
  let sending = false;
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function flush(): Promise<void> {
    clearTimeout(timer);
    if (sending || !waiting) return;
    const { value } = waiting;
    waiting = undefined;
    sending = true;
    onState("saving");
    try {
      await send(value);
      dropUnsaved(name, value, storage);
      if (!waiting) onState("saved");
    } catch (error) {
      const failure = error as Error;
      const next = after(failure);
      if (next === "retry") {
        waiting ??= { value };
        onState("offline", failure);
        timer = setTimeout(() => void flush(), RETRY_MS);
        return;
      }
      if (next === "drop") dropUnsaved(name, value, storage);
      onState("refused", failure);
    } finally {
      sending = false;
    }
    if (waiting) await flush();
  }

  function change(value: T): void {
    waiting = { value };
    putUnsaved(name, value, storage);
    clearTimeout(timer);
    timer = setTimeout(() => void flush(), QUIET_MS);
  }

  function replace(value: T): void {
    if (!waiting) return;
    waiting = { value };
    putUnsaved(name, value, storage);
  }

  return { change, replace, flush };
}

/**
 * Merge two versions of one value: local changes stay, everything else is taken from the other.
 *
 * Objects are joined field by field; of a list that both changed, this place's stays.
 */
export function merged<T>(base: T, mine: T, theirs: T): T {
  if (isRecord(base) && isRecord(mine) && isRecord(theirs)) {
    const keys = [...new Set([...Object.keys(mine), ...Object.keys(theirs)])];
    const fields = keys.map((key) => [key, merged(base[key], mine[key], theirs[key])] as const);
    return Object.fromEntries(fields.filter(([, value]) => value !== undefined)) as T;
  }
  return JSON.stringify(mine) === JSON.stringify(base) ? theirs : mine;
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
