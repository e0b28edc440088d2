import { useMemo, useState } from "react";

import type { Check, Ranking } from "../../api/queries";
import { type LookOrder, looksToCome, walkFrom } from "./looks";
import { NOT_SEEN } from "./useGradeKeys";

/** `by` says whether the coach or the order chose the check; `awaited` is an answer the server has not confirmed. */
type OnScreen = { look: string | null; by: "coach" | "order"; awaited?: string };
const NOTHING: OnScreen = { look: null, by: "order" };

type Known = { checks: Check[]; graded?: Record<string, string>; next?: Ranking["next_checks"]; settled: boolean };

/**
 * The remaining checks and the one on screen. Only the coach changes it: a better order that arrives does not replace
 * it, and after an answer the next check appears when the new order is known.
 */
export function useLooks({ checks, graded, next, settled }: Known) {
  const [now, show] = useState(NOTHING);
  const [order, setOrder] = useState<LookOrder>("value");
  const left = useMemo(() => looksToCome(checks, graded ?? {}, next ?? [], order), [checks, graded, next, order]);

  const stored = now.look === null ? undefined : graded?.[now.look];
  const done = now.by === "order" && stored !== undefined && (now.awaited ?? stored) === stored;
  const takenBack = now.awaited === NOT_SEEN && stored === undefined;
  const first = left[0]?.id ?? null;
  if (settled && (now.look === null || done || takenBack) && (first !== now.look || now.awaited)) {
    show({ look: first, by: "order" });
  }

  const walk = (steps: number) => show((was) => ({ look: walkFrom(left, was.look ?? undefined, steps), by: "coach" }));
  return {
    left,
    current: checks.find((c) => c.id === now.look),
    order,
    reorder: (to: LookOrder) => {
      setOrder(to);
      show(NOTHING);
    },
    open: (look: string) => show({ look, by: "coach" }),
    walk,
    graded: (look: string, grade: string) => {
      // A look that was open and stays open: the next one is wanted.
      if (grade === NOT_SEEN && !(look in (graded ?? {}))) walk(1);
      else show({ look, by: "order", awaited: grade });
    },
  };
}
