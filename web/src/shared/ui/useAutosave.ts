import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { afterFailure, unsaved } from "../../api/unsaved";
import { type Autosave, autosave, type SaveState } from "./autosave";

type Options<T> = {
  name: string;
  saved: T;
  save: (value: T) => Promise<unknown>;
};

/**
 * Keep a form's value and save it as it changes.
 *
 * Changes made just before the page is left, reloaded or closed are sent on the way out; changes that could not be
 * sent come back when the same form is opened again.
 */
export function useAutosave<T>({ name, saved, save }: Options<T>) {
  const [value, setValue] = useState<T>(() => unsaved<T>(name) ?? saved);
  const [status, setStatus] = useState<{ state: SaveState; error?: Error }>({ state: "untouched" });
  const latest = useRef({ value, save });
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
