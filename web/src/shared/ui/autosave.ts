/** Saves a form while it is filled in, and loses nothing when the page goes away; no React. */

export type SaveState = "untouched" | "saving" | "saved" | "offline" | "refused";
type Stored<T> = { at: number; value: T };
type Options<T> = {
  /** Identifies the form, so that unsaved changes find it again after a reload. */
  name: string;
  /** Sends one value; rejects when it was not saved. */
  send: (value: T) => Promise<unknown>;
  /** What becomes of a value that was not saved: sent again, kept for the next visit, or dropped as invalid. */
  after: (error: Error) => "retry" | "keep" | "drop";
  onState: (state: SaveState, error?: Error) => void;
  storage?: Pick<Storage, "getItem" | "setItem" | "removeItem">;
};

export const QUIET_MS = 500;
export const RETRY_MS = 2000;
const DAY_MS = 86_400_000;
const PREFIX = "instavis-unsaved-";

/** Return what was typed into a form and never reached the server, if that was within a day. */
export function unsaved<T>(name: string, storage: Pick<Storage, "getItem"> = localStorage): T | undefined {
  try {
    const stored = JSON.parse(storage.getItem(PREFIX + name) ?? "null") as Stored<T> | null;
    return stored && Date.now() - stored.at < DAY_MS ? stored.value : undefined;
  } catch {
    return undefined;
  }
}

/** Forget unsaved changes of every form, for example when the coach signs out. */
export function forgetUnsaved(storage: Storage = localStorage): void {
  for (const key of Object.keys(storage)) if (key.startsWith(PREFIX)) storage.removeItem(key);
}

/**
 * Save the newest value after a short pause, one request at a time.
 *
 * Every change is written to the browser's storage first and stays there until the server has it. `flush` sends at
 * once; call it when the page is left. A save that fails for want of a connection is repeated.
 */
export type Autosave<T> = { change: (value: T) => void; flush: () => Promise<void> };

export function autosave<T>({ name, send, after, onState, storage = localStorage }: Options<T>) {
  let waiting: { value: T } | undefined;
  let sending = false;
  let timer: ReturnType<typeof setTimeout> | undefined;

  function acknowledged(value: T) {
    const stored = unsaved<T>(name, storage);
    if (JSON.stringify(stored) === JSON.stringify(value)) storage.removeItem(PREFIX + name);
  }

  async function flush(): Promise<void> {
    clearTimeout(timer);
    if (sending || !waiting) return;
    const { value } = waiting;
    waiting = undefined;
    sending = true;
    onState("saving");
    try {
      await send(value);
      acknowledged(value);
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
      if (next === "drop") acknowledged(value);
      onState("refused", failure);
    } finally {
      sending = false;
    }
    if (waiting) await flush();
  }

  function change(value: T): void {
    waiting = { value };
    try {
      storage.setItem(PREFIX + name, JSON.stringify({ at: Date.now(), value } satisfies Stored<T>));
    } catch {
      // Storage may be full or blocked; the change is still sent.
    }
    clearTimeout(timer);
    timer = setTimeout(() => void flush(), QUIET_MS);
  }

  return { change, flush };
}
