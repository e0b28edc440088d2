import { useState } from "react";

/** What to do at a station, for somebody who has not taught many lessons here. */
export const HINTS: Record<string, string> = {
  ask: "Ask in the student's own words: what the usual miss does is enough to begin. What hurts is asked here too.",
  baseline: "Choose the bay above right and say nothing. Eight to fifteen balls make the pattern.",
  check: "The look that tells most comes first. Press the digit of what you see; what you did not see stays open.",
  cause: "Faults by how likely they are, with what speaks for each. Are two close, take the look on the right first.",
  correct: "One thing only: what it would be worth, a drill, a first stage. Then take it.",
  prove:
    "A ball is covered until you say whether the body did it: 1 done, 2 partly, 3 missed. Then club and ball answer.",
  "take-home": "One page in plain words. Reword what you like, print it, or hand over a link.",
};

const KEPT = "instavis-hints";
/** Told to whoever wants them, whether they are new or not. */
const ALL = "wanted";

export type Hints = {
  of: (station: string) => string | undefined;
  putAway: (station: string) => void;
  bringBack: () => void;
};

/** Hints that are shown to somebody new until each is put away; the browser remembers. */
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
