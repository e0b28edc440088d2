/** The ranking in plain words, for a page the student keeps. */
import type { Ranking } from "../api/queries";

const NAMED_FROM = 0.4;
const CLEAR = 0.7;
const MOST = 4;

/** Whether there is a cause to name, and the sentence that says how sure it is. */
export function sureness(ranking: Ranking): { named: boolean; sentence: string } {
  const [leader, second] = ranking.faults;
  const [other] = ranking.compensations;
  if (other && leader && other.probability >= CLEAR && other.probability > leader.probability) {
    return { named: false, sentence: `Probably not the way the body moves. ${other.happens}` };
  }
  if (!leader || leader.probability < NAMED_FROM) {
    return { named: false, sentence: "Not settled yet: several things in the swing would make these balls, and naming one now would be a guess." };
  }
  const rival = second && second.probability >= NAMED_FROM ? ` ${second.label} is possible as well.` : "";
  const how = leader.probability >= 0.9 ? "We are as good as sure" : leader.probability >= CLEAR ? "It is likely, not certain" : "It is possible, and we keep looking";
  return { named: true, sentence: `${leader.label}: ${leader.happens} ${how}.${rival}` };
}

/** The strongest reasons as sentences; what speaks against it is told as well. */
export function evidenceInWords(evidence: Ranking["faults"][number]["evidence"]): string[] {
  const told = evidence.filter((e) => e.text && e.kind !== "chain");
  const forIt = told.filter((e) => e.log_odds > 0).slice(0, MOST);
  const against = told.filter((e) => e.log_odds < -0.5).slice(0, 1);
  return [...forIt.map((e) => `${e.text}.`), ...against.map((e) => `Against it: ${e.text.charAt(0).toLowerCase()}${e.text.slice(1)}.`)];
}

type Word = { aspect: string; word: string };

/** What the ball did, without numbers and without terms: left and right as the student sees them. */
export function patternInWords(pattern: Word[], hand: string): string[] {
  const [push, pull] = hand === "left" ? ["left", "right"] : ["right", "left"];
  const words: Record<string, Record<string, string>> = {
    start: { straight: "It starts on the line.", pushed: `It starts to the ${push} of the target.`, pulled: `It starts to the ${pull} of the target.` },
    curve: {
      "no curve": "It hardly curves.",
      slice: `It curves strongly to the ${push}.`,
      fade: `It curves a little to the ${push}.`,
      hook: `It curves strongly to the ${pull}.`,
      draw: `It curves a little to the ${pull}.`,
    },
    height: { "usual height": "It flies at its usual height.", high: "It flies higher than this club should.", low: "It flies lower than this club should." },
    sides: { "two-sided": "It ends on both sides of the target." },
  };
  return pattern.flatMap(({ aspect, word }) => {
    if (aspect === "contact") return [word === "centred" ? "You strike it near the middle." : `You strike it toward the ${word.replace("high", "top").replace("low", "bottom")} of the face.`];
    return words[aspect]?.[word] ?? [];
  });
}
