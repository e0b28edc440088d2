/** Levels of practice lessons, easiest first. */
export const LEVELS = [
  { id: "clear", label: "common-clear", says: "practice-lessons-one-strong-fault-steady-golfer" },
  { id: "usual", label: "practice-lessons-usual", says: "practice-lessons-one-leading-fault-little-another" },
  {
    id: "tangled",
    label: "practice-lessons-tangled",
    says: "practice-lessons-two-faults-almost-equal-strength",
  },
];

export const levelOf = (id: string) => LEVELS.find((level) => level.id === id)?.label ?? id;

/** Hints per station for a coach's first practice lesson. */
export const HINTS: Record<string, string> = {
  ask: "practice-lessons-made-up-golfer-no-pain",
  baseline: "practice-lessons-hit-about-ten-balls-say",
  check: "practice-lessons-swing-below-shown-side-open",
  cause: "practice-lessons-leader-believable-would-check-separate",
  correct: "practice-lessons-start-one-correction-golfer-tries",
  prove: "practice-lessons-hit-ball-watch-swing-mark",
  "take-home": "practice-lessons-end-lesson-see-what-hidden",
};
