import { useMemo, useState } from "react";

import type { Check, Ranking } from "../../api/queries";
import { type CheckOrder, checksToCome, walkFrom } from "./checks";
import { NOT_SEEN } from "./useGradeKeys";

/** `by` says whether the coach or the order chose the check; `awaited` is an answer the server has not confirmed. */
type OnScreen = { check: string | null; by: "coach" | "order"; awaited?: string };
const NOTHING: OnScreen = { check: null, by: "order" };

type Known = { checks: Check[]; graded?: Record<string, string>; next?: Ranking["next_checks"]; settled: boolean };

/**
 * The remaining checks and the one on screen. Only the coach changes it: a better order that arrives does not replace
 * it, and after an answer the next check appears when the new order is known.
 */
export function useChecks({ checks, graded, next, settled }: Known) {
  const [now, show] = useState(NOTHING);
  const [order, setOrder] = useState<CheckOrder>("value");
  const left = useMemo(() => checksToCome(checks, graded ?? {}, next ?? [], order), [checks, graded, next, order]);

  const stored = now.check === null ? undefined : graded?.[now.check];
  const done = now.by === "order" && stored !== undefined && (now.awaited ?? stored) === stored;
  const takenBack = now.awaited === NOT_SEEN && stored === undefined;
  const first = left[0]?.id ?? null;
  if (settled && (now.check === null || done || takenBack) && (first !== now.check || now.awaited)) {
    show({ check: first, by: "order" });
  }

  const walk = (steps: number) =>
    show((was) => ({ check: walkFrom(left, was.check ?? undefined, steps), by: "coach" }));
  return {
    left,
    current: checks.find((c) => c.id === now.check),
    order,
    reorder: (to: CheckOrder) => {
      setOrder(to);
      show(NOTHING);
    },
    open: (check: string) => show({ check, by: "coach" }),
    walk,
    graded: (check: string, grade: string) => {
      // A check that was open and stays open: the next one is wanted.
      if (grade === NOT_SEEN && !(check in (graded ?? {}))) walk(1);
      else show({ check, by: "order", awaited: grade });
    },
  };
}
