import { useQuery } from "@tanstack/react-query";
import { useKnowledge } from "../../api/queries";
import { records, usePlanActions } from "../../api/records";
import { dayWords } from "../../shared/format/days";
import { inside, t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { useDesk } from "../lesson/LessonContext";

/** Practice so far; pain comes first, and only the coach can resume the plan. */
export function Practised() {
  const { lesson } = useDesk();
  const regions = useKnowledge().words.region ?? {};
  const { resume } = usePlanActions(lesson.id);
  const log = useQuery(records.practice(lesson.id)).data;
  if (!log || (log.practices.length === 0 && !log.paused_for)) return null;
  const { dose } = log;
  return (
    <section aria-label={t("common-practice")} className="border-b border-rule pb-4">
      <h3 className="font-semibold">{t("common-practice")}</h3>
      {log.paused_for && (
        <Callout as="div" tone="plum" className="my-2" role="alert">
          <p>
            {t("take-home-paused-because-pain-talk-student", {
              regions: inside(regions[log.paused_for] ?? ""),
            })}
          </p>
          <Button className="mt-2" disabled={resume.isPending} onClick={() => resume.mutate()}>
            {t("take-home-resume-plan")}
          </Button>
        </Callout>
      )}
      <p>
        {`${[
          dose.planned > 0
            ? t("take-home-days-planned-so-far", { days: dose.days, planned: dose.planned })
            : t("take-home-days", { n: dose.days }),
          t("take-home-repetitions-them-felt", { repetitions: dose.repetitions, felt: dose.felt }),
          ...(dose.balls > 0 ? [t("common-balls-4", { n: dose.balls })] : []),
        ].join(", ")}.`}
      </p>
      <ul className="mt-1 max-h-48 overflow-y-auto text-sm">
        {log.practices.toReversed().map((p) => (
          <li key={p.entry_id} className="flex justify-between gap-3 border-t border-rule py-1">
            <span>{dayWords(p.day)}</span>
            <span>
              {t("take-home-felt", { felt: p.felt, balls: p.felt + p.not_felt })}
              {p.pain && (
                <span className="text-plum">{t("take-home-pain", { regions: inside(regions[p.pain] ?? "") })}</span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
