import { useQuery } from "@tanstack/react-query";
import { memo } from "react";
import { queries, useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button, LinkButton } from "../../shared/ui/Button";
import { Select } from "../../shared/ui/Select";
import { useActions, useBalls, useChosen, useDesk } from "./LessonContext";
import { NOTHING } from "./selection";

/** Actions for the selected balls: exclude with a reason, set the club, split or merge blocks, include. */
export const SelectionBar = memo(function SelectionBar() {
  const { lesson, select, markMany } = useDesk();
  const { shots } = useBalls();
  const { selection } = useChosen();
  const actions = useActions();
  const knowledge = useKnowledge();
  const chosen = shots.filter((s) => selection.ids.has(s.id));
  const first = chosen[0];
  const remaining = useQuery({ ...queries.films(lesson), enabled: first !== undefined && lesson.filmed });
  if (!first) return null;
  const films = (remaining.data ?? []).filter((row) => row.lesson_id === lesson.id);
  const before = shots[shots.indexOf(first) - 1];
  const seam = before && before.block_id !== first.block_id;
  const keys = chosen.map((s) => s.id).join(",");
  return (
    <section
      aria-label={t("common-selected-balls")}
      className="no-print flex shrink-0 flex-wrap items-center gap-2 border-t border-rule bg-straw-ground px-3 py-1"
    >
      <b>
        {chosen.length === 1 ? t("common-ball-2", { number: first.number }) : t("lesson-balls-2", { n: chosen.length })}
      </b>
      {chosen.some((s) => s.set_aside) ? (
        <Button onClick={() => markMany(chosen, { set_aside: "" })}>{t("lesson-include")}</Button>
      ) : (
        <Select
          name={t("lesson-reason-exclude")}
          value=""
          options={[
            { id: "", label: t("lesson-exclude") },
            ...Object.values(knowledge.words.aside ?? {}).map((reason) => ({ id: reason, label: reason })),
          ]}
          onChange={(reason) => markMany(chosen, { set_aside: reason })}
        />
      )}
      <Select
        name={t("lesson-club-selected-balls")}
        value={chosen.every((s) => s.club === first.club) ? first.club : ""}
        options={[{ id: "", label: t("lesson-several-clubs") }, ...knowledge.clubs]}
        onChange={(club) => club && markMany(chosen, { club })}
      />
      {before && !seam && first.block_id !== null && (
        <Button onClick={() => actions.splitBlock.mutate({ block_id: first.block_id as number, shot_id: first.id })}>
          {t("lesson-split-block-before-ball", { number: first.number })}
        </Button>
      )}
      {seam && first.block_id !== null && (
        <Button onClick={() => actions.mergeBlock.mutate(first.block_id as number)}>
          {t("lesson-merge-previous-block")}
        </Button>
      )}
      {films.some((row) => row.ball === first.number) && (
        <LinkButton to={`/lessons/${lesson.id}/films?ball=${first.number}`}>{t("common-before-now")}</LinkButton>
      )}
      <span className="ml-auto flex items-center gap-3 text-sm">
        {["csv", "json"].map((kind) => (
          <a
            key={kind}
            href={`/api/v1/lessons/${lesson.id}/export.${kind}?balls=${keys}`}
            download
            className="min-h-6 underline underline-offset-4"
          >
            {kind.toUpperCase()}
          </a>
        ))}
      </span>
      <Button onClick={() => select(NOTHING)}>{t("lesson-clear-selection")}</Button>
    </section>
  );
});
