/** What the student screen says between two balls. */
import type { Schemas } from "../../api/client";
import { t } from "../../shared/format/language";

type View = Schemas["MatView"];

const MOVES: Record<string, string> = { yes: "done", partly: "half done", no: "missed", "": "…" };
const ANSWERS: Record<string, string> = { yes: "ball followed", no: "no change", "": "…" };

/** Words and their colors; color never says more than the word. */
export function matWords(view: View) {
  return {
    move: view.ended ? t("lesson over") : (MOVES[view.moved] ?? "…"),
    ball: ANSWERS[view.answered] ?? "…",
    call: view.call === "new" ? t("New move") : view.call === "old" ? t("Old move") : view.call,
    more: moreWords(view),
    moveTone: view.moved === "yes" ? "text-moss" : view.moved === "no" ? "text-plum" : "text-ink",
    ballTone: view.answered === "yes" ? "text-moss" : "text-ink",
    ground: view.moved === "yes" && view.answered === "yes" ? "bg-moss-ground" : "bg-paper",
  };
}

function moreWords({ advice, more, of, hits, stage }: View): string {
  if (!stage || of === 0) return "";
  if (advice === "up") return t("Next stage");
  if (advice === "down") return t("Try a smaller swing");
  if (more === 0) return t("Keep going");
  return t("{hits} linked, {more} more for the next stage", { hits, more });
}
