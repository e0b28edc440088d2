import { useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { ChooseOne } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { useActions, useDesk } from "./LessonContext";

const TOLD = ["lie", "turf", "ball", "tee"];

/** Conditions of the next balls; a proof mentions differences from the baseline. */
export function Conditions() {
  const { lesson } = useDesk();
  const { words } = useKnowledge();
  const { setConditions } = useActions();
  const told = lesson.conditions;
  const said = TOLD.flatMap((name) => words[`condition_${name}`]?.[told[name] ?? ""] ?? []);
  return (
    <details className="mt-2">
      <summary className="min-h-8 cursor-pointer">
        {said.length ? t("lesson-conditions", { said: inside(said.join(", ")) }) : t("lesson-conditions-not-set")}
      </summary>
      <div className="mt-2 flex flex-col gap-2">
        {TOLD.map((name) => (
          <ChooseOne
            key={name}
            beside
            label={words.condition?.[name] ?? name}
            options={Object.entries(words[`condition_${name}`] ?? {}).map(([id, label]) => ({ id, label }))}
            value={told[name] ?? ""}
            onChange={(choice) => setConditions.mutate({ [name]: choice })}
          />
        ))}
      </div>
      {setConditions.isError && <Notice error={setConditions.error} />}
    </details>
  );
}
