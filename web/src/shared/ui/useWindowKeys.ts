import { useLayoutEffect, useRef } from "react";

/**
 * Keys pressed anywhere on the page. The newest handler is in place before the browser paints, so a key pressed on
 * what is seen never meets a handler that does not know of it yet.
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

/** Is this where somebody types? */
export function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Is a dialog open, whose keys are its own? */
export const inDialog = () => document.querySelector("[role=dialog]") !== null;
