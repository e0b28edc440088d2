import { t } from "./language";

/** Verdicts as two cells: body left, club and ball right. Filled yes, half filled partly, hollow no, dotted unknown. */
export type Cell = "yes" | "part" | "no" | "unknown";
export type VerdictId = "linked" | "moved-no-change" | "changed-without-move" | "neither" | "unclear";

const CELLS: Record<VerdictId, [Cell, Cell]> = {
  linked: ["yes", "yes"],
  "moved-no-change": ["yes", "no"],
  "changed-without-move": ["no", "yes"],
  neither: ["no", "no"],
  unclear: ["unknown", "unknown"],
};

/** Body and club of a verdict; a partly made movement is half a yes. */
export function cellsOf(verdict: string, movement = ""): [Cell, Cell] {
  const [body, club] = CELLS[verdict as VerdictId] ?? CELLS.unclear;
  return [body === "yes" && movement === "partly" ? "part" : body, club];
}

type Words = Record<string, Record<string, string>>;

/** The name of a verdict; a partly made movement has its own. */
export function verdictName(words: Words, verdict: string, movement = ""): string {
  const partly = movement === "partly" ? words.verdict_partly?.[verdict] : undefined;
  return partly ?? words.verdict?.[verdict] ?? "";
}

/** Keys of a block: one per mark. */
export const KEYS = {
  done: "1",
  partly: "2",
  missed: "3",
  unseen: "0",
  uncover: "u",
  call: "c",
  mapping: "m",
  films: "f",
  find: "/",
  keep: "k",
  fold: "b",
  inTurn: "a",
  hit: "h",
  watch: "w",
  undo: "z",
  aside: "x",
  turf: "t",
  note: "n",
  help: "?",
} as const;

/** A clicker's keys and the movement each stands for. */
export type Clicker = Record<string, string>;

/** Most clickers send these two, forward and back; other keys can be set. */
const USUAL: Clicker = { PageDown: "done", PageUp: "missed" };

export const clickerOf = (own: Clicker): Clicker => (Object.keys(own).length ? own : USUAL);

/** Return the movement of one of the screen's own keys. */
export function movementOfKey(key: string): string | undefined {
  return (["done", "partly", "missed", "unseen"] as const).find((m) => KEYS[m] === key);
}

const NAMES: Record<string, string> = {
  ArrowLeft: "←",
  ArrowRight: "→",
  ArrowUp: "↑",
  ArrowDown: "↓",
  PageUp: "common-key-page-up",
  PageDown: "common-key-page-down",
  " ": "common-key-space",
};

/** Return a key's label. */
export const keyName = (key: string): string => t(NAMES[key] ?? key);
