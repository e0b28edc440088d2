/** Levels of practice lessons, easiest first. */
export const LEVELS = [
  { id: "clear", label: "Clear", says: "One strong fault, a steady golfer, and a body that shows it." },
  { id: "usual", label: "Usual", says: "One leading fault and a little of another. Scatter of a mid handicap." },
  {
    id: "tangled",
    label: "Tangled",
    says: "Two faults of almost equal strength, and a wild golfer who learns slowly.",
  },
];

export const levelOf = (id: string) => LEVELS.find((level) => level.id === id)?.label ?? id;

/** Hints per station for a coach's first practice lesson. */
export const HINTS: Record<string, string> = {
  ask: "A made-up golfer has no pain and no goals. Continue to Baseline.",
  baseline: "Hit about ten balls and say nothing. Then read the pattern.",
  check: "The swing below is shown from the side of the open check. Answer what you see, not what you expect.",
  cause: "Is the leader believable, or would a check separate it from the second? You can go back to Check.",
  correct: "Start one correction. The golfer tries it from the next ball on.",
  prove: "Hit a ball, watch the swing, mark the movement; then the numbers appear.",
  "take-home": "End the lesson to see what was hidden.",
};
