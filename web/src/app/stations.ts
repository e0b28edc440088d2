import { memo } from "react";

import { CheckStation } from "../features/assessment/CheckStation";
import { BaselineStation } from "../features/baseline/BaselineStation";
import { CauseStation } from "../features/diagnosis/CauseStation";
import { AskStation } from "../features/intake/AskStation";
import type { Station } from "../features/lesson/ProgressBar";
import { CorrectStation } from "../features/plan/CorrectStation";
import { TakeHomeStation } from "../features/take-home/TakeHomeStation";
import { ProveStation } from "../features/verify/ProveStation";

/** The stations in the order of the work. Remembered: one is drawn anew when what it shows has changed. */
export const STATIONS: Station[] = [
  { id: "ask", name: "Ask", Component: memo(AskStation) },
  { id: "baseline", name: "Baseline", Component: memo(BaselineStation) },
  { id: "check", name: "Check", Component: memo(CheckStation), takesDigits: true },
  { id: "cause", name: "Cause", Component: memo(CauseStation) },
  { id: "correct", name: "Correct", Component: memo(CorrectStation) },
  { id: "prove", name: "Prove", Component: memo(ProveStation) },
  { id: "take-home", name: "Take home", Component: memo(TakeHomeStation) },
];
