import { memo } from "react";

import { queries } from "../api/queries";
import { CheckStation } from "../features/assessment/CheckStation";
import { BaselineStation } from "../features/baseline/BaselineStation";
import { CauseStation } from "../features/diagnosis/CauseStation";
import { AskStation } from "../features/intake/AskStation";
import type { Station } from "../features/lesson/ProgressBar";
import { CorrectStation } from "../features/plan/CorrectStation";
import { TakeHomeStation } from "../features/take-home/TakeHomeStation";
import { ProveStation } from "../features/verify/ProveStation";

/** The stations in order. Memoized, so that one re-renders only when its content changes. */
export const STATIONS: Station[] = [
  { id: "ask", name: "common-ask", Component: memo(AskStation), asks: (id) => [queries.intake(id)] },
  {
    id: "baseline",
    name: "common-baseline",
    Component: memo(BaselineStation),
    asks: (id) => [queries.reading(id, "")],
  },
  {
    id: "check",
    name: "common-check",
    Component: memo(CheckStation),
    asks: (id) => [queries.checks(id), queries.cause(id), queries.stills(id)],
    takesDigits: true,
  },
  { id: "cause", name: "common-cause", Component: memo(CauseStation), asks: (id) => [queries.cause(id)] },
  { id: "correct", name: "common-correct", Component: memo(CorrectStation), asks: (id) => [queries.corrections(id)] },
  { id: "prove", name: "common-prove", Component: memo(ProveStation), asks: (id) => [queries.proof(id)] },
  { id: "take-home", name: "common-take-home", Component: memo(TakeHomeStation), asks: (id) => [queries.takeHome(id)] },
];
