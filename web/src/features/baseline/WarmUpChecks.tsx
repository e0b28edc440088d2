import { useQuery } from "@tanstack/react-query";
import { queries, useKnowledge } from "../../api/queries";
import { t, word } from "../../shared/format/language";
import { capital } from "../../shared/format/say";
import { Button } from "../../shared/ui/Button";
import { useActions, useDesk } from "../lesson/LessonContext";

/** Setup checks first: one at a time during warm-up. */
export function WarmUpChecks() {
  const { lesson } = useDesk();
  const actions = useActions();
  const grades = useQuery(queries.checks(lesson.id)).data?.grades ?? {};
  const checks = useKnowledge().checks.filter((c) => c.moment === "address");
  const next = checks.find((c) => !(c.id in grades));
  if (!next) return null;
  const left = checks.filter((c) => !(c.id in grades)).length;
  return (
    <section aria-label={t("baseline-setup-checks-during-warm-up")} className="border border-rule bg-sheet p-3">
      <p className="text-sm text-soft">{t("baseline-setup-checks-during-warm-up-left", { n: left })}</p>
      <p className="text-lg">{next.question}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        {[...next.grades, "not-seen"].map((grade) => (
          <Button key={grade} onClick={() => actions.grade.mutate({ [next.id]: grade })}>
            {capital(word(grade))}
          </Button>
        ))}
      </div>
    </section>
  );
}
