import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { afterFailure, unsaved } from "../../api/unsaved";
import { type Autosave, autosave, merged, type SaveState } from "./autosave";

type Options<T> = {
  name: string;
  saved: T;
  save: (value: T) => Promise<unknown>;
};

/**
 * Keep a form's value and save it as it changes.
 *
 * Changes made just before the page is left, reloaded or closed are sent on the way out; changes that could not be
 * sent come back when the same form is opened again. What was saved elsewhere meanwhile, in another tab or on the
 * student's phone, is shown, except where it was changed here too.
 */
export function useAutosave<T extends object>({ name, saved, save }: Options<T>) {
  const [value, setValue] = useState<T>(() => unsaved<T>(name) ?? saved);
  const [status, setStatus] = useState<{ state: SaveState; error?: Error }>({ state: "untouched" });
  const latest = useRef({ value, save, saved });
  latest.current.save = save;
  const saver: Autosave<T> = useMemo(
    () =>
      autosave<T>({
        name,
        send: (sent) => latest.current.save(sent),
        after: afterFailure,
        onState: (state, error) => setStatus({ state, error }),
      }),
    [name],
  );

  useEffect(() => {
    const left = unsaved<T>(name);
    if (left !== undefined) saver.change(left);
    const leave = () => void saver.flush();
    const hidden = () => document.visibilityState === "hidden" && leave();
    addEventListener("pagehide", leave);
    addEventListener("online", leave);
    document.addEventListener("visibilitychange", hidden);
    return () => {
      removeEventListener("pagehide", leave);
      removeEventListener("online", leave);
      document.removeEventListener("visibilitychange", hidden);
      leave();
    };
  }, [name, saver]);

  const text = JSON.stringify(saved);
  useEffect(() => {
    const known = latest.current;
    const theirs = JSON.parse(text) as T;
    const next = merged(known.saved, known.value, theirs);
    known.saved = theirs;
    if (JSON.stringify(next) === JSON.stringify(known.value)) return;
    known.value = next;
    setValue(next);
    saver.replace(next);
  }, [text, saver]);

  const change = useCallback(
    (step: (old: T) => T) => {
      latest.current.value = step(latest.current.value);
      setValue(latest.current.value);
      saver.change(latest.current.value);
    },
    [saver],
  );
  return { value, change, saveNow: saver.flush, ...status };
}
