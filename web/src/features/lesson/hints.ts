import { useState } from "react";

/** Hints per station for coaches new to Instavis. */
export const HINTS: Record<string, string> = {
  ask: "Tap the student's usual miss. Add injuries and limits.",
  baseline: "Choose the bay (top right) and say nothing. Eight to fifteen balls show the pattern.",
  check: "The most useful check comes first. Press the digit of what you see. What you did not see stays open.",
  cause: "Faults by likelihood, with their evidence. If two are close, do the check on the right first.",
  correct: "Change one thing only. Pick a drill and a feel, then start the correction.",
  prove:
    "A ball is hidden until you mark whether the body did it: 1 done, 2 partly, 3 missed. Then its numbers appear.",
  "take-home": "One page in plain words. Edit it, print it, or send a link.",
};

const KEPT = "instavis-hints";
/** Shown on request, to anyone. */
const ALL = "wanted";

export type Hints = {
  of: (station: string) => string | undefined;
  putAway: (station: string) => void;
  bringBack: () => void;
};

/** Hints for a new coach until each is dismissed; the browser remembers. */
export function useHints(begins: boolean): Hints {
  const [kept, keep] = useState(() => (localStorage.getItem(KEPT) ?? "").split(" ").filter(Boolean));
  const store = (next: string[]) => {
    localStorage.setItem(KEPT, next.join(" "));
    keep(next);
  };
  const wanted = begins || kept.includes(ALL);
  return {
    of: (station) => (wanted && !kept.includes(station) ? HINTS[station] : undefined),
    putAway: (station) => store([...kept, station]),
    bringBack: () => store([ALL]),
  };
}
