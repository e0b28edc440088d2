import { useState } from "react";

/** Hints per station for coaches new to Instavis. */
export const HINTS: Record<string, string> = {
  ask: "lesson-tap-students-usual-miss-add",
  baseline: "lesson-choose-bay-top-right-say",
  check: "lesson-most-useful-check-comes-first",
  cause: "lesson-faults-likelihood-their-evidence-if",
  correct: "lesson-change-one-thing-only-pick",
  prove: "lesson-ball-hidden-until-mark-whether",
  "take-home": "lesson-one-page-plain-words-edit",
};

const STORAGE_KEY = "instavis-hints";
/** Shown on request, to anyone. */
const ALL = "wanted";

export type Hints = {
  of: (station: string) => string | undefined;
  putAway: (station: string) => void;
  bringBack: () => void;
};

/** Hints for a new coach until each is dismissed; the browser remembers. */
export function useHints(begins: boolean): Hints {
  const [stored, keep] = useState(() => (localStorage.getItem(STORAGE_KEY) ?? "").split(" ").filter(Boolean));
  const store = (next: string[]) => {
    localStorage.setItem(STORAGE_KEY, next.join(" "));
    keep(next);
  };
  const wanted = begins || stored.includes(ALL);
  return {
    of: (station) => (wanted && !stored.includes(station) ? HINTS[station] : undefined),
    putAway: (station) => store([...stored, station]),
    bringBack: () => store([ALL]),
  };
}
