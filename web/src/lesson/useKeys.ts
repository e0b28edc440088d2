import { useEffect } from "react";

import type { Lesson, Shot } from "../api/queries";
import { choose, NOTHING, type Selection, step } from "../domain/selection";
import { KEYS, movementOfKey } from "../domain/verdict";
import type { MarkName } from "./LessonContext";

const TURFS = ["", "clean", "thin", "fat", "topped", "shank", "sky"];

type Desk = {
  lesson: Lesson;
  shots: Shot[];
  selection: Selection;
  select: (selection: Selection) => void;
  target: Shot | undefined;
  mark: (shot: Shot, marks: Partial<Record<MarkName, string>>) => void;
  undo: () => void;
  go: (station: string) => void;
  help: () => void;
  note: () => void;
  /** Check station has keys of its own for grades. */
  digitsTaken: boolean;
};

function typing(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}

/** The keys of a lesson; never while somebody types or a dialog is open. */
export function useKeys(desk: Desk) {
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (event.ctrlKey || event.metaKey || document.querySelector("[role=dialog]")) return;
      // Stations are reached from anywhere; the other keys would be letters to somebody who types.
      if (typing(event.target) && !event.altKey) return;
      if (act(event, desk)) event.preventDefault();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}

function act(event: KeyboardEvent, desk: Desk): boolean {
  const order = desk.shots.map((s) => s.id);
  if (event.altKey) {
    const state = desk.lesson.spine[Number.parseInt(event.code.replace("Digit", ""), 10) - 1];
    if (!state) return false;
    desk.go(state.id);
    return true;
  }
  if (event.key === KEYS.help) return done(desk.help);
  if (event.key === KEYS.undo) return done(desk.undo);
  if (event.key === "Escape") return done(() => desk.select(NOTHING));
  if (event.key === "Home" || event.key === "End") {
    return done(() => desk.select(step(NOTHING, order, event.key === "Home" ? -order.length : 0)));
  }
  if (event.key === "ArrowLeft" || event.key === "ArrowRight") {
    // Groups of choices move by arrows themselves.
    if (event.target instanceof HTMLElement && event.target.closest("[role=group],[role=radiogroup]")) return false;
    const moved = step(desk.selection, order, event.key === "ArrowLeft" ? -1 : 1);
    const range = event.shiftKey && desk.selection.anchor !== null && moved.anchor !== null;
    return done(() => desk.select(range ? stretch(desk.selection, moved, order) : moved));
  }
  const { target } = desk;
  if (!target) return false;
  const movement = movementOfKey(event.key);
  if (movement && !(desk.digitsTaken && /\d/.test(event.key))) return done(() => desk.mark(target, { movement }));
  if (event.key === KEYS.aside) {
    return done(() => desk.mark(target, { set_aside: target.set_aside ? "" : "set apart by the coach" }));
  }
  if (event.key === KEYS.turf) {
    const next = TURFS[(TURFS.indexOf(target.turf) + 1) % TURFS.length] ?? "";
    return done(() => desk.mark(target, { turf: next }));
  }
  if (event.key === KEYS.note) return done(desk.note);
  return false;
}

function stretch(selection: Selection, moved: Selection, order: number[]): Selection {
  const end = moved.anchor as number;
  return { ...choose(selection, end, order, true, false), anchor: selection.anchor };
}

function done(run: () => void): true {
  run();
  return true;
}
