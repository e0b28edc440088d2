import type { Check } from "../../api/queries";
import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";

export const NOT_SEEN = "not-seen";
/** Keys of this station besides digits: next and previous check. */
export const CHECK_KEYS = { next: ".", before: "," };

type KeyActions = { grade: (check: Check, value: string) => void; walk: (steps: number) => void };

/** Digits answer the current check: 1 is OK, 0 is "not seen"; period and comma move on. */
export function useGradeKeys(current: Check | undefined, { grade, walk }: KeyActions) {
  useWindowKeys((event) => {
    if (event.altKey || event.ctrlKey || event.metaKey || typing(event.target) || inDialog()) return;
    if (event.key === CHECK_KEYS.next || event.key === CHECK_KEYS.before) {
      event.preventDefault();
      walk(event.key === CHECK_KEYS.next ? 1 : -1);
      return;
    }
    if (!current || !/^\d$/.test(event.key)) return;
    const value = event.key === "0" ? NOT_SEEN : current.grades[Number(event.key) - 1];
    if (!value) return;
    event.preventDefault();
    grade(current, value);
  });
}
