/** What the student screen says between two balls. */
import type { Schemas } from "../../api/client";
import { t } from "../../shared/format/language";

type View = Schemas["MatView"];

const MOVES: Record<string, string> = {
  yes: "common-done-2",
  partly: "student-screen-half-done",
  no: "common-missed",
  "": "…",
};
const ANSWERS: Record<string, string> = { yes: "student-screen-ball-followed", no: "common-no-change", "": "…" };

/** Words and their colors; color never says more than the word. */
export function matWords(view: View) {
  return {
    move: view.ended ? t("student-screen-lesson-over") : t(MOVES[view.moved] ?? "…"),
    ball: t(ANSWERS[view.answered] ?? "…"),
    call: view.call === "new" ? t("common-new-move") : view.call === "old" ? t("common-old-move") : view.call,
    more: moreWords(view),
    moveTone: view.moved === "yes" ? "text-moss" : view.moved === "no" ? "text-plum" : "text-ink",
    ballTone: view.answered === "yes" ? "text-moss" : "text-ink",
    ground: view.moved === "yes" && view.answered === "yes" ? "bg-moss-ground" : "bg-paper",
  };
}

function moreWords({ advice, more, of, hits, stage }: View): string {
  if (!stage || of === 0) return "";
  if (advice === "up") return t("student-screen-next-stage");
  if (advice === "down") return t("student-screen-try-smaller-swing");
  if (more === 0) return t("student-screen-keep-going");
  return t("student-screen-linked-more-next-stage", { hits, more });
}
