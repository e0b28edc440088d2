import { useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { ChooseOne } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { useActions, useDesk } from "./LessonContext";

const SET_BY_COACH = ["lie", "turf", "ball", "tee", "aim", "flight"];

/** Conditions of the next balls; a proof mentions differences from the baseline. */
export function Conditions() {
  const { lesson } = useDesk();
  const { words } = useKnowledge();
  const { setConditions } = useActions();
  const result = lesson.conditions;
  const text = SET_BY_COACH.flatMap((name) => words[`condition_${name}`]?.[result[name] ?? ""] ?? []);
  return (
    <details className="mt-2">
      <summary className="min-h-8 cursor-pointer">
        {text.length ? t("lesson-conditions", { text: inside(text.join(", ")) }) : t("lesson-conditions-not-set")}
      </summary>
      <div className="mt-2 flex flex-col gap-2">
        {SET_BY_COACH.map((name) => (
          <ChooseOne
            key={name}
            beside
            label={words.condition?.[name] ?? name}
            options={Object.entries(words[`condition_${name}`] ?? {}).map(([id, label]) => ({ id, label }))}
            value={result[name] ?? ""}
            onChange={(choice) => setConditions.mutate({ [name]: choice })}
          />
        ))}
      </div>
      {setConditions.isError && <Notice error={setConditions.error} />}
    </details>
  );
}
