/**
 * What the stations of a lesson share, in four contexts, so that a key press re-renders only what shows it: the desk
 * is constant while balls come, balls while one is selected, and actions only concern those who wait for them.
 */
import { createContext, useContext } from "react";
import type { useLessonActions } from "../../api/actions";
import type { Lesson, Shot } from "../../api/queries";
import { t } from "../../shared/format/language";
import type { Units } from "../../shared/format/units";
import type { Mark } from "./keys";
import type { Selection } from "./selection";

export type LessonDesk = {
  lesson: Lesson;
  units: Units;
  hand: string;
  select: (selection: Selection) => void;
  mark: (shot: Shot, marks: Mark) => void;
  markMany: (shots: Shot[], marks: Mark) => void;
  /** Selects the first ball that waits for a mark; every mark moves on to the next. */
  markInTurn: () => void;
};

export type Balls = {
  shots: Shot[];
  /** Verdicts of the proof, by ball. */
  verdicts: ReadonlyMap<number, string>;
  /** Why a ball does not count, by ball, from the server. */
  excluded: ReadonlyMap<number, string>;
};

export type Chosen = {
  selection: Selection;
  /** The ball to mark: the selected one, otherwise the newest. */
  target: Shot | undefined;
  /** Whether the waiting balls are being marked one after another. */
  inTurn: boolean;
};

/** The check on screen, for the golfer of a practice lesson. */
export type Watch = (check: string | null) => void;

export type Actions = ReturnType<typeof useLessonActions>;

export const DeskContext = createContext<LessonDesk | null>(null);
export const BallsContext = createContext<Balls | null>(null);
export const ChosenContext = createContext<Chosen | null>(null);
export const WatchContext = createContext<Watch | null>(null);
export const ActionsContext = createContext<Actions | null>(null);

function within<T>(value: T | null): T {
  if (value === null) throw new Error(t("lesson-stations-need-lesson-around-them"));
  return value;
}

export const useDesk = (): LessonDesk => within(useContext(DeskContext));
export const useBalls = (): Balls => within(useContext(BallsContext));
export const useChosen = (): Chosen => within(useContext(ChosenContext));
export const useWatch = (): Watch => within(useContext(WatchContext));
export const useActions = (): Actions => within(useContext(ActionsContext));
