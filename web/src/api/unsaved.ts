/** Changes that have not reached the server yet; they survive a reload, for a day. */
import { Problems, passes } from "./client";

type Stored = { at: number; value: unknown };
export type Store = Pick<Storage, "getItem" | "setItem" | "removeItem">;

const DAY_MS = 86_400_000;
const PREFIX = "instavis-unsaved-";
const RETRY_MS = 2000;

/** Remember a change under a name until it is acknowledged. */
export function putUnsaved(name: string, value: unknown, storage: Store = localStorage): void {
  try {
    storage.setItem(PREFIX + name, JSON.stringify({ at: Date.now(), value } satisfies Stored));
  } catch {
    // Storage may be full or blocked; the change is still sent.
  }
}

/** Return a change that never reached the server, if it was made within a day. */
export function unsaved<T>(name: string, storage: Pick<Storage, "getItem"> = localStorage): T | undefined {
  try {
    const stored = JSON.parse(storage.getItem(PREFIX + name) ?? "null") as Stored | null;
    return stored && Date.now() - stored.at < DAY_MS ? (stored.value as T) : undefined;
  } catch {
    return undefined;
  }
}

/** Forget a change that the server has, unless a newer one took its place. */
export function dropUnsaved(name: string, value: unknown, storage: Store = localStorage): void {
  if (JSON.stringify(unsaved(name, storage)) === JSON.stringify(value)) storage.removeItem(PREFIX + name);
}

/** Return all changes whose names begin alike. */
export function unsavedUnder<T>(start: string, storage: Storage = localStorage): T[] {
  return Object.keys(storage)
    .filter((key) => key.startsWith(PREFIX + start))
    .flatMap((key) => unsaved<T>(key.slice(PREFIX.length), storage) ?? []);
}

/** Forget unsaved changes of every kind, for example when the coach signs out. */
export function forgetUnsaved(storage: Storage = localStorage): void {
  for (const key of Object.keys(storage)) if (key.startsWith(PREFIX)) storage.removeItem(key);
}

/** Return what to do with a change that was not saved: retry, keep for the next visit, or drop as invalid. */
export function afterFailure(error: Error): "retry" | "keep" | "drop" {
  if (passes(error)) return "retry";
  return error instanceof Problems && error.status === 401 ? "keep" : "drop";
}

/**
 * Options of a mutation whose changes survive a lost connection and a reload.
 *
 * Changes of one scope are sent one after the other, again and again while there is no connection; `unsavedUnder`
 * finds those of a page that went away.
 */
export function durable<V>(scope: string, name: (change: V) => string) {
  return {
    scope: { id: scope },
    networkMode: "always" as const,
    retry: (_: number, error: Error) => passes(error),
    retryDelay: RETRY_MS,
    onMutate: (change: V) => putUnsaved(name(change), change),
    onSettled: (_: unknown, error: Error | null, change: V) => {
      if (!error || afterFailure(error) === "drop") dropUnsaved(name(change), change);
    },
  };
}
