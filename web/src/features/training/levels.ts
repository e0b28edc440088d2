/** How hard a practice lesson is, the easiest first: the server's levels in words. */
export const LEVELS = [
  { id: "clear", label: "Clear", says: "One strong fault, a steady golfer, a body that shows it." },
  { id: "usual", label: "Usual", says: "A fault that leads and a little of another, the scatter of a mid handicap." },
  {
    id: "tangled",
    label: "Tangled",
    says: "Two faults nearly as strong as each other, a wild golfer who learns slowly.",
  },
];

export const levelOf = (id: string) => LEVELS.find((level) => level.id === id)?.label ?? id;

/** What to do at a station, for somebody who has not taught with Instavis yet. */
export const HINTS: Record<string, string> = {
  ask: "A made-up golfer has no pains and no wishes. Go on to Baseline.",
  baseline: "Let them hit ten or so and say nothing. Then read the pattern in words.",
  check: "The swing below is seen from where the open look is looked at. Grade what you see, not what you expect.",
  cause:
    "Is the first one believable, or is there a look that would tell it from the second? Back to Check is allowed.",
  correct: "Take one correction. The golfer tries it from the next ball on.",
  prove: "Hit a ball, watch the swing, mark how the movement went; then its numbers are shown.",
  "take-home": "End the lesson, and what was hidden is told.",
};
