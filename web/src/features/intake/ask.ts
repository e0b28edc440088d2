/** The intake's answers; no React. */
import type { Schemas } from "../../api/client";

export type Answers = Schemas["IntakeBody"];
export type Miss = Schemas["MissIn"];
export type AskWords = Schemas["AskWords"];

export const EMPTY_MISS: Miss = { start: "", curve: "", off_m: null };

/** Return the answers with one club group's miss changed; an empty miss is left out. */
export function withMiss(answers: Answers, group: string, change: Partial<Miss>): Answers {
  const miss = { ...EMPTY_MISS, ...answers.misses?.[group], ...change };
  const { [group]: _, ...others } = answers.misses ?? {};
  const empty = !miss.start && !miss.curve && miss.off_m === null;
  return { ...answers, misses: empty ? others : { ...others, [group]: miss } };
}

/** Cycle a region: none, stiff, injury, pain. */
export function nextLimit(now: string | undefined, kinds: string[]): string | undefined {
  const order = [undefined, ...[...kinds].reverse()];
  return order[(order.indexOf(now) + 1) % order.length];
}

export function withLimit(answers: Answers, region: string, kind: string | undefined): Answers {
  const { [region]: _, ...others } = answers.limits ?? {};
  return { ...answers, limits: kind ? { ...others, [region]: kind } : others };
}

/** Return true if a clinician should be asked first. */
export function needsClinician(answers: Answers): boolean {
  return (answers.health ?? []).length > 0 || Object.values(answers.limits ?? {}).includes("pain");
}
