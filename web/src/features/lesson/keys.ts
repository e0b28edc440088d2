/** What the keys of a lesson mean; the screen passes what was pressed and where. */

import { type Clicker, KEYS, movementOfKey } from "../../shared/format/verdict";
import { choose, NOTHING, type Selection, step } from "./selection";

export type Ball = { id: number; turf: string; set_aside: string; covered: boolean };
export type MarkName = "movement" | "mark_basis" | "turf" | "note" | "set_aside" | "intent" | "club";
export type Mark = Partial<Record<MarkName, string>>;

export type Press = { key: string; code: string; alt: boolean; shift: boolean; inGroup: boolean };

export type KeyAction =
  | { do: "go"; station: string }
  | { do: "help" | "undo" | "note" | "films" | "keep" | "in-turn" }
  | { do: "select"; selection: Selection }
  | { do: "mark"; id: number; mark: Mark };

export type Situation = {
  stations: string[];
  order: number[];
  selection: Selection;
  target: Ball | undefined;
  /** The Check station uses digits itself. */
  digitsTaken: boolean;
  /** What the coach's clicker means by which key. */
  clicker: Clicker;
};

/** The numbers are shown before the movement is marked. */
export const UNCOVER: Mark = { mark_basis: "seen" };

/** A mark says that it was made while the ball was hidden; the server decides whether that is true. */
export function movementMark(movement: string, ball: { covered: boolean }): Mark {
  return ball.covered ? { movement, mark_basis: "blind" } : { movement };
}

const TURFS = ["", "clean", "thin", "fat", "topped", "shank", "sky"];
const SET_ASIDE = "excluded by the coach";

/** Return the action of a key press, or null. */
export function keyActionOf(press: Press, now: Situation): KeyAction | null {
  if (press.alt) {
    const station = now.stations[Number.parseInt(press.code.replace("Digit", ""), 10) - 1];
    return station ? { do: "go", station } : null;
  }
  // A clicker's keys are the clicker's, whatever else they would do; what it says is text of a ball.
  const clicked = now.clicker[press.key];
  if (clicked) return now.target ? { do: "mark", id: now.target.id, mark: movementMark(clicked, now.target) } : null;
  switch (press.key) {
    case KEYS.help:
      return { do: "help" };
    case KEYS.films:
      return { do: "films" };
    case KEYS.keep:
      return { do: "keep" };
    case KEYS.undo:
      return { do: "undo" };
    case KEYS.inTurn:
      return { do: "in-turn" };
    case "Escape":
      return { do: "select", selection: NOTHING };
    case "Home":
      return { do: "select", selection: step(NOTHING, now.order, -now.order.length) };
    case "End":
      return { do: "select", selection: step(NOTHING, now.order, 0) };
    case "ArrowLeft":
    case "ArrowRight":
      // Groups of choices move by arrows themselves.
      return press.inGroup ? null : { do: "select", selection: moved(press, now) };
    default:
      return markOf(press.key, now);
  }
}

function moved(press: Press, now: Situation): Selection {
  const next = step(now.selection, now.order, press.key === "ArrowLeft" ? -1 : 1);
  if (!press.shift || now.selection.anchor === null || next.anchor === null) return next;
  // A range grows from where it began; the anchor walks on with its moving end.
  const ids = new Set([...now.selection.ids, ...choose(now.selection, next.anchor, now.order, true, false).ids]);
  return { ids, anchor: next.anchor };
}

function markOf(key: string, { target, digitsTaken }: Situation): KeyAction | null {
  if (!target) return null;
  const mark = (mark: Mark): KeyAction => ({ do: "mark", id: target.id, mark });
  const movement = movementOfKey(key);
  if (movement) return digitsTaken && /^\d$/.test(key) ? null : mark(movementMark(movement, target));
  if (key === KEYS.uncover) return target.covered ? mark(UNCOVER) : null;
  if (key === KEYS.aside) return mark({ set_aside: target.set_aside ? "" : SET_ASIDE });
  if (key === KEYS.turf) return mark({ turf: TURFS[(TURFS.indexOf(target.turf) + 1) % TURFS.length] ?? "" });
  return key === KEYS.note ? { do: "note" } : null;
}
