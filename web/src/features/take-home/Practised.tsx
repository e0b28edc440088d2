import { useQuery } from "@tanstack/react-query";
import { useKnowledge } from "../../api/queries";
import { records, usePlanActions } from "../../api/records";
import { dayWords } from "../../shared/format/days";
import { counted, inside, t } from "../../shared/format/language";
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
    <section aria-label={t("Practice")} className="border-b border-rule pb-4">
      <h3 className="font-semibold">{t("Practice")}</h3>
      {log.paused_for && (
        <Callout as="div" tone="plum" className="my-2" role="alert">
          <p>
            {t("Paused because of pain: {regions}. Talk to the student before you resume.", {
              regions: inside(regions[log.paused_for] ?? ""),
            })}
          </p>
          <Button className="mt-2" disabled={resume.isPending} onClick={() => resume.mutate()}>
            {t("Resume plan")}
          </Button>
        </Callout>
      )}
      <p>
        {`${[
          dose.planned > 0
            ? t("Days: {days} of {planned} planned so far", { days: dose.days, planned: dose.planned })
            : counted(dose.days, "{n} day", "{n} days"),
          t("{repetitions} repetitions, {felt} of them felt", { repetitions: dose.repetitions, felt: dose.felt }),
          ...(dose.balls > 0 ? [counted(dose.balls, "{n} ball", "{n} balls")] : []),
        ].join(", ")}.`}
      </p>
      <ul className="mt-1 max-h-48 overflow-y-auto text-sm">
        {log.practices.toReversed().map((p) => (
          <li key={p.entry_id} className="flex justify-between gap-3 border-t border-rule py-1">
            <span>{dayWords(p.day)}</span>
            <span>
              {t("{felt} of {balls} felt", { felt: p.felt, balls: p.felt + p.not_felt })}
              {p.pain && (
                <span className="text-plum">{t(", pain: {regions}", { regions: inside(regions[p.pain] ?? "") })}</span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
