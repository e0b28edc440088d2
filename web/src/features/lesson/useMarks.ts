import { useCallback, useRef, useState } from "react";
import type { useMarkActions } from "../../api/actions";
import { type Knowledge, type Shot, useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { type Mark, type MarkName, UNCOVER } from "./keys";

type Step = { before: { id: number; marks: Mark }[]; what: string };
const MAX_UNDO = 50;

/** Return the coach's own mark; an instrument's mark returns on its own. */
function ownMark(shot: Shot, name: MarkName): string {
  return name === "movement" && shot.mark_basis === "measured" ? "" : (shot[name] as string);
}

const NAMES: Partial<Record<MarkName, string>> = {
  movement: "lesson-movement",
  club: "lesson-club",
  turf: "lesson-turf",
  intent: "lesson-call",
  note: "lesson-note-3",
  set_aside: "lesson-set-aside",
};

/** "movement missed", in the language of the screen. */
function announcementOf(knowledge: Knowledge, name: MarkName, value: string): string {
  const word =
    name === "club"
      ? knowledge.clubs.find((club) => club.id === value)?.label
      : knowledge.words[name.replace("set_", "")]?.[value];
  return `${t(NAMES[name] ?? name)} ${value ? inside(word ?? value) : t("lesson-removed")}`;
}

/** Marks with undo. */
export function useMarks(actions: ReturnType<typeof useMarkActions>) {
  const steps = useRef<Step[]>([]);
  const [result, setAnnounced] = useState("");
  const knowledge = useKnowledge();
  const { mutate } = actions.mark;
  const { mutate: mutateMany } = actions.markMany;

  const remember = useCallback(
    (shots: Shot[], marks: Mark) => {
      if (marks === UNCOVER) {
        setAnnounced(t("lesson-ball-shown-mark-counts-not", { number: shots[0]?.number }));
        return;
      }
      const names = (Object.keys(marks) as MarkName[]).filter((name) => name !== "mark_basis");
      const before = shots.map((shot) => ({
        id: shot.id,
        marks: Object.fromEntries(names.map((name) => [name, ownMark(shot, name)])),
      }));
      const balls =
        shots.length === 1
          ? t("common-ball-6", { number: shots[0]?.number })
          : t("lesson-balls-2", { n: shots.length });
      const what = `${balls}: ${names.map((name) => announcementOf(knowledge, name, marks[name] ?? "")).join(", ")}`;
      steps.current = [...steps.current.slice(-MAX_UNDO), { before, what }];
      setAnnounced(t("lesson-marked-press-z-undo", { what }));
    },
    [knowledge],
  );

  const mark = useCallback(
    (shot: Shot, marks: Mark) => {
      remember([shot], marks);
      mutate({ id: shot.id, marks });
    },
    [mutate, remember],
  );

  const markMany = useCallback(
    (shots: Shot[], marks: Mark) => {
      remember(shots, marks);
      mutateMany({ shot_ids: shots.map((s) => s.id), ...marks });
    },
    [mutateMany, remember],
  );

  const undo = useCallback(() => {
    const last = steps.current.pop();
    if (!last) {
      setAnnounced(t("lesson-nothing-undo"));
      return;
    }
    setAnnounced(t("lesson-undone", { what: last.what }));
    for (const { id, marks } of last.before) mutate({ id, marks });
  }, [mutate]);

  return { mark, markMany, undo, result };
}
