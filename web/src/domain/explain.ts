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
