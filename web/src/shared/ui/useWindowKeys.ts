import { useLayoutEffect, useRef } from "react";

/**
 * Keys pressed anywhere on the page. The newest handler is installed before the browser paints, so a key never meets
 * an outdated handler.
 */
export function useWindowKeys(onKey: (event: KeyboardEvent) => void) {
  const newest = useRef(onKey);
  useLayoutEffect(() => {
    newest.current = onKey;
  });
  useLayoutEffect(() => {
    const listener = (event: KeyboardEvent) => newest.current(event);
    window.addEventListener("keydown", listener);
    return () => window.removeEventListener("keydown", listener);
  }, []);
}

/** Return true while the user is typing. */
export function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Return true while a dialog with its own keys is open. */
export const inDialog = () => document.querySelector("[role=dialog]") !== null;
