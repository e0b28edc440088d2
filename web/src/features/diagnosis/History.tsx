import { useQuery } from "@tanstack/react-query";
import { queries, useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { chance } from "../../shared/format/say";
import { Meter } from "../../shared/ui/Meter";
import { useDesk } from "../lesson/LessonContext";
import { stepSentence } from "./board";

/** How the ranking developed: the leader after every check. */
export function History() {
  const { lesson } = useDesk();
  const { causes, checks } = useKnowledge();
  const result = useQuery(queries.history(lesson.id));
  if (!result.data) return <p className="text-soft">{t("cause-recalculating-history")}</p>;
  if (result.data.length < 2) return <p className="text-soft">{t("cause-no-check-answered-yet-leader")}</p>;
  const label = (id: string) => causes.find((c) => c.id === id)?.label.split(",")[0] ?? id;
  const check = (id: string) => checks.find((c) => c.id === id)?.label ?? id;
  return (
    <ol className="divide-y divide-rule border-y border-rule">
      {result.data.map((step, i) => (
        <li key={i} className="grid grid-cols-[minmax(0,5fr)_minmax(0,4fr)_7rem] items-center gap-4 py-1.5">
          <span>{stepSentence(step, i, check)}</span>
          <span>
            <span
              className={
                i > 0 && result.data[i - 1]?.leader !== step.leader ? "font-semibold text-clay" : "font-medium"
              }
            >
              {label(step.leader)}
            </span>
            <span className="text-soft">{t("cause-then", { word: step.word, label: inside(label(step.second)) })}</span>
          </span>
          <Meter
            share={step.probability}
            label={t("common-probability", { chance: chance(step.probability) })}
            tone="clay"
          />
        </li>
      ))}
    </ol>
  );
}
