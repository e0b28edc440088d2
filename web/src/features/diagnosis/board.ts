/** Layout of the cause board: which evidence and which checks belong to which fault. */
import type { Check, Ranking } from "../../api/queries";
import { inside, t, word } from "../../shared/format/language";

export const ROW = { count: 6, fault: 57, evidence: 38, check: 57 };
const MAX_EVIDENCE = 9;
const MAX_CHECKS = 6;
const WIDEST = 14;
const MINIMUM = 0.15;

export type Ribbon = {
  key: string;
  fault: string;
  from: number;
  to: number;
  width: number;
  against: boolean;
  side: "left" | "right";
};

type Gathered = { key: string; kind: string; text: string; weight: number };

export function ribbonsOf(ranking: Ranking, known: Check[]) {
  const named = new Map(known.map((c) => [c.id, c]));
  const faults = ranking.faults.slice(0, ROW.count);
  const evidence = gather(faults);
  const place = new Map(evidence.map((e, i) => [e.key, (i + 0.5) * ROW.evidence]));
  const left: Ribbon[] = faults.flatMap((fault, f) =>
    fault.evidence.flatMap((e) => {
      const from = place.get(keyOf(e));
      if (from === undefined || Math.abs(e.log_odds) < MINIMUM) return [];
      const key = `${fault.id}/${keyOf(e)}`;
      const to = (f + 0.5) * ROW.fault;
      return [
        { key, fault: fault.id, from, to, width: width(e.log_odds), against: e.log_odds < 0, side: "left" as const },
      ];
    }),
  );
  const checks = ranking.next_checks.filter((c) => c.gain_bits > 0.01).slice(0, MAX_CHECKS);
  const right: Ribbon[] = checks.flatMap((check, i) =>
    faults
      .map((fault, f) => ({ fault, f, strength: strengthOf(named.get(check.id), fault.id) }))
      .filter(({ strength }) => strength > 0)
      .map(({ fault, f, strength }) => ({
        key: `${fault.id}/${check.id}`,
        fault: fault.id,
        from: (f + 0.5) * ROW.fault,
        to: (i + 0.5) * ROW.check,
        width: Math.min(WIDEST, 1 + strength * 10 * check.gain_bits),
        against: false,
        side: "right" as const,
      })),
  );
  return { faults, evidence, left, checks, right };
}

function keyOf(e: { kind: string; id: string }): string {
  return `${e.kind}:${e.id}`;
}

/** Return how strongly any answer of a check speaks about a fault, for or against. */
function strengthOf(check: Check | undefined, fault: string): number {
  const strengths = Object.values(check?.speaks ?? {}).map((speaks) => Math.abs(speaks[fault] ?? 0));
  return Math.max(0, ...strengths);
}

function width(logOdds: number): number {
  return Math.min(WIDEST, 1 + 3 * Math.abs(logOdds));
}

/** Return the most important evidence for the faults shown, the leader's first. */
function gather(faults: Ranking["faults"]): Gathered[] {
  const found = new Map<string, Gathered>();
  for (const [rank, fault] of faults.entries()) {
    for (const e of fault.evidence) {
      if (!e.text) continue;
      const old = found.get(keyOf(e));
      const weight = Math.abs(e.log_odds) / (1 + rank) + (old?.weight ?? 0);
      found.set(keyOf(e), { key: keyOf(e), kind: e.kind, text: e.text, weight });
    }
  }
  return [...found.values()].sort((a, b) => b.weight - a.weight).slice(0, MAX_EVIDENCE);
}

/** Return open checks that separate two causes, the most useful first. */
export function separating(checks: Check[], ranking: Ranking, one: string, other: string): Check[] {
  const named = new Map(checks.map((c) => [c.id, c]));
  return ranking.next_checks
    .map((next) => named.get(next.id))
    .filter(
      (check): check is Check =>
        check !== undefined &&
        Object.values(check.speaks ?? {}).some((speaks) => (speaks[one] ?? 0) !== (speaks[other] ?? 0)),
    )
    .slice(0, 3);
}

const ORDINALS = [
  "",
  "cause-first",
  "cause-second",
  "cause-third",
  "cause-fourth",
  "cause-fifth",
  "cause-sixth",
  "cause-seventh",
  "cause-eighth",
  "cause-ninth",
  "cause-tenth",
  "cause-eleventh",
  "cause-twelfth",
];

type Step = { check: string; grade: string; coach: string };

/** "After the third check, seat line: leaves early". */
export function stepSentence(step: Step, place: number, label: (id: string) => string): string {
  if (!step.check) return t("cause-before-any-check-balls-words");
  const count = place in ORDINALS ? t(ORDINALS[place] ?? "") : t("cause-th", { place });
  return t("cause-after-check", {
    count,
    label: inside(label(step.check)),
    grade: word(step.grade),
  });
}
