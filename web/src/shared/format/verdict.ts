/** Verdicts as two cells: left the body, right the club and ball. Filled yes, hollow no, dotted unknown. */
export type Cell = "yes" | "no" | "unknown";
export type VerdictId = "linked" | "moved-no-change" | "changed-without-move" | "neither" | "unclear";

const CELLS: Record<VerdictId, [Cell, Cell]> = {
  linked: ["yes", "yes"],
  "moved-no-change": ["yes", "no"],
  "changed-without-move": ["no", "yes"],
  neither: ["no", "no"],
  unclear: ["unknown", "unknown"],
};

export function cellsOf(verdict: string): [Cell, Cell] {
  return CELLS[verdict as VerdictId] ?? CELLS.unclear;
}

/** Keys of a block: one a mark. */
export const KEYS = {
  done: "1",
  partly: "2",
  missed: "3",
  unseen: "0",
  uncover: "u",
  call: "c",
  mapping: "m",
  undo: "z",
  aside: "x",
  turf: "t",
  note: "n",
  help: "?",
} as const;

/** The two keys of a presentation clicker: forward says done, back says missed. */
export const CLICKER: Record<string, string> = { PageDown: "done", PageUp: "missed" };

export function movementOfKey(key: string): string | undefined {
  const named = (["done", "partly", "missed", "unseen"] as const).find((m) => KEYS[m] === key);
  return named ?? CLICKER[key];
}
