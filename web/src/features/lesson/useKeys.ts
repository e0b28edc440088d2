import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";
import { type KeyAction, keyActionOf, type Situation } from "./keys";

/** The keys of a lesson; inactive while typing or in a dialog. */
export function useKeys(situation: Situation, perform: (action: KeyAction) => void) {
  useWindowKeys((event) => {
    if (event.ctrlKey || event.metaKey || inDialog()) return;
    // Stations are reached from anywhere; the other keys would be letters to somebody who types.
    if (typing(event.target) && !event.altKey) return;
    const inGroup =
      event.target instanceof HTMLElement && event.target.closest("[role=group],[role=radiogroup]") !== null;
    const action = keyActionOf(
      { key: event.key, code: event.code, alt: event.altKey, shift: event.shiftKey, inGroup },
      situation,
    );
    if (!action) return;
    event.preventDefault();
    perform(action);
  });
}
