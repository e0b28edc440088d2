/** The tape as cells of known width: which are visible. No React. */
import type { Schemas } from "../../api/client";
import type { Shot } from "../../api/queries";

export const CELL = 44;
export const SEAM = 26;
const MARGIN = 600;

type Standing = Schemas["Standing"];
export type Cell = { shot: Shot; left: number; seam: string | null };
export type Tape = { cells: Cell[]; width: number };
export type Filter = "all" | "clean" | "excluded" | "marked" | "unmarked" | "noted";

export const FILTERS: { id: Filter; label: string }[] = [
  { id: "all", label: "lesson-all-balls" },
  { id: "clean", label: "lesson-clean-only" },
  { id: "excluded", label: "lesson-excluded" },
  { id: "marked", label: "lesson-marked" },
  { id: "unmarked", label: "lesson-not-marked-yet" },
  { id: "noted", label: "lesson-note-2" },
];

/** Return the balls a filter shows, in order. */
export function filtered(shots: Shot[], filter: Filter, excluded: ReadonlyMap<number, string>): Shot[] {
  const keep: Record<Filter, (s: Shot) => boolean> = {
    all: () => true,
    clean: (s) => !excluded.has(s.id),
    excluded: (s) => excluded.has(s.id),
    marked: (s) => s.movement !== "",
    unmarked: (s) => s.movement === "",
    noted: (s) => s.note !== "",
  };
  return shots.filter(keep[filter]);
}

/** What the server says about balls, by key: why they do not count, and their verdicts. */
export function standing(tape: Standing[] | undefined): {
  excluded: Map<number, string>;
  verdicts: Map<number, string>;
} {
  const excluded = new Map<number, string>();
  const verdicts = new Map<number, string>();
  for (const row of tape ?? []) {
    if (row.excluded) excluded.set(row.shot_id, row.excluded.text);
    if (row.verdict) verdicts.set(row.shot_id, row.verdict);
  }
  return { excluded, verdicts };
}

const SEAMS: Record<string, string> = { baseline: "baseline", trial: "comparison" };

/** Return the purpose of a block in a word; its stage for a correction. */
function seamOf(shot: Shot): string {
  if (shot.purpose === "trial" && shot.correction_id) return "called";
  return SEAMS[shot.purpose ?? ""] ?? (shot.stage || "proof");
}

/** Position every ball; a seam precedes the first ball of a block. */
export function layOut(shots: Shot[]): Tape {
  let left = 0;
  const cells = shots.map((shot, i) => {
    const seam = shots[i - 1]?.block_id !== shot.block_id ? seamOf(shot) : null;
    if (seam !== null) left += SEAM;
    const cell = { shot, left, seam };
    left += CELL;
    return cell;
  });
  return { cells, width: left };
}

/** Return the cells near the viewport by binary search. */
export function inSight(tape: Tape, from: number, width: number): Cell[] {
  const first = firstFrom(tape.cells, from - MARGIN);
  const last = firstFrom(tape.cells, from + width + MARGIN);
  return tape.cells.slice(Math.max(0, first - 1), last);
}

function firstFrom(cells: Cell[], left: number): number {
  let [low, high] = [0, cells.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((cells[middle] as Cell).left < left) low = middle + 1;
    else high = middle;
  }
  return low;
}
