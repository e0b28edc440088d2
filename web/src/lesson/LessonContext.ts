import { createContext, useContext } from "react";

import type { Lesson, Proof, Shot, useLessonActions } from "../api/queries";
import type { Mark } from "../domain/keys";
import type { Selection } from "../domain/selection";
import type { Units } from "../domain/units";

/** What every station of a lesson shares. */
export type LessonDesk = {
  lesson: Lesson;
  shots: Shot[];
  selection: Selection;
  select: (selection: Selection) => void;
  /** The ball that a mark goes to: the chosen one, else the newest. */
  target: Shot | undefined;
  mark: (shot: Shot, marks: Mark) => void;
  markMany: (shots: Shot[], marks: Mark) => void;
  actions: ReturnType<typeof useLessonActions>;
  units: Units;
  hand: string;
  proof: Proof | null;
  verdicts: ReadonlyMap<number, string>;
  apart: ReadonlyMap<number, string>;
};

export const LessonContext = createContext<LessonDesk | null>(null);

export function useDesk(): LessonDesk {
  const desk = useContext(LessonContext);
  if (!desk) throw new Error("Stations stand on a lesson's desk.");
  return desk;
}
