import type { Check } from "../../api/queries";
import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";

export const NOT_SEEN = "not-seen";
/** Keys of this station besides the digits: the next look and the one before. */
export const LOOK_KEYS = { next: ".", before: "," };

type Deeds = { grade: (check: Check, value: string) => void; walk: (steps: number) => void };

/** Digits grade the current look: 1 is always the sound one, 0 is "not seen"; full stop and comma walk on. */
export function useGradeKeys(current: Check | undefined, { grade, walk }: Deeds) {
  useWindowKeys((event) => {
    if (event.altKey || event.ctrlKey || event.metaKey || typing(event.target) || inDialog()) return;
    if (event.key === LOOK_KEYS.next || event.key === LOOK_KEYS.before) {
      event.preventDefault();
      walk(event.key === LOOK_KEYS.next ? 1 : -1);
      return;
    }
    if (!current || !/^\d$/.test(event.key)) return;
    const value = event.key === "0" ? NOT_SEEN : current.grades[Number(event.key) - 1];
    if (!value) return;
    event.preventDefault();
    grade(current, value);
  });
}
