/** Which checks are left, and their order. */
import type { Check, Ranking } from "../../api/queries";

export type CheckOrder = "value" | "swing" | "view";

export const CHECK_ORDERS: { id: CheckOrder; label: string }[] = [
  { id: "value", label: "check-most-useful-first" },
  { id: "swing", label: "check-moment-swing" },
  { id: "view", label: "check-view" },
];

const VIEWS = ["face-on", "down-the-line", "any"];

export const VIEW_WORDS: Record<string, string> = {
  "face-on": "common-front-2",
  "down-the-line": "common-down-line",
  any: "check-any-side",
};

/** Return unanswered checks in order; by moment is the knowledge's own order. */
export function checksToCome(
  checks: Check[],
  graded: Record<string, string>,
  next: Ranking["next_checks"],
  order: CheckOrder,
): Check[] {
  const left = checks.filter((c) => !(c.id in graded));
  if (order === "swing") return left;
  if (order === "view") return left.toSorted((a, b) => VIEWS.indexOf(a.view) - VIEWS.indexOf(b.view));
  const rank = new Map(next.map((c, i) => [c.id, i]));
  return left.toSorted((a, b) => (rank.get(a.id) ?? 99) - (rank.get(b.id) ?? 99));
}

/** Return the check a few steps from another, within the list. */
export function walkFrom(checks: Check[], from: string | undefined, steps: number): string | null {
  if (checks.length === 0) return null;
  const place = checks.findIndex((c) => c.id === from);
  const to = Math.min(Math.max(Math.max(place, 0) + steps, 0), checks.length - 1);
  return checks[to]?.id ?? null;
}
