import { useMutation, useQueryClient } from "@tanstack/react-query";
import { ask, client } from "../../api/client";
import { type Home, records } from "../../api/records";
import { addDays, datedDay, fullDay, localDay } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";

const STATES: Record<string, string> = {
  done: "common-done",
  missed: "student-page-missed",
  today: "common-today",
  "to-come": "",
};

/** The days until the next lesson; a day can be moved by one. */
export function Plan({ token, home }: { token: string; home: Home }) {
  const cache = useQueryClient();
  const today = localDay(new Date());
  const move = useMutation({
    mutationFn: ({ planned, to }: { planned: string; to: string }) =>
      ask(
        client.PUT("/api/v1/home/{token}/days/{planned}", {
          params: { path: { token, planned }, query: { today } },
          body: { to },
        }),
      ),
    onSuccess: (result) => cache.setQueryData(records.home(token, today).queryKey, result),
  });
  const { page, dose } = home;
  if (page.plan.length === 0) return <p>{t("student-page-no-plan-time")}</p>;
  return (
    <section aria-label={t("student-page-plan")} className="flex flex-col gap-2">
      <p>
        {page.next_lesson ? t("student-page-next-lesson", { next_lesson: datedDay(page.next_lesson) }) : ""}
        {dose.planned > 0
          ? t("student-page-days-done-so-far-dont", {
              days: dose.days,
              planned: dose.planned,
            })
          : t("student-page-first-day-still-ahead")}
      </p>
      <ul>
        {page.plan.map((p) => (
          <li
            key={p.planned}
            className={`border-t border-rule py-2 ${p.state === "done" || p.state === "missed" ? "text-soft" : ""}`}
          >
            <p className="flex items-baseline justify-between gap-3">
              <b className="text-ink">{fullDay(p.day)}</b>
              <span className={p.state === "missed" ? "text-plum" : ""}>
                {t(STATES[p.state] ?? "") || t("common-min", { minutes: p.minutes })}
              </span>
            </p>
            {(p.state === "today" || p.state === "to-come") && (
              <>
                <p>{p.text}</p>
                <div className="mt-1 flex gap-2">
                  <Button
                    disabled={move.isPending || p.day <= today}
                    onClick={() => move.mutate({ planned: p.planned, to: addDays(p.day, -1) })}
                  >
                    {t("student-page-one-day-earlier")}
                    <span className="sr-only"> {t("student-page-than", { fullDay: fullDay(p.day) })}</span>
                  </Button>
                  <Button
                    disabled={move.isPending}
                    onClick={() => move.mutate({ planned: p.planned, to: addDays(p.day, 1) })}
                  >
                    {t("student-page-one-day-later")}
                    <span className="sr-only"> {t("student-page-than", { fullDay: fullDay(p.day) })}</span>
                  </Button>
                </div>
              </>
            )}
          </li>
        ))}
      </ul>
      {move.isError && <Notice error={move.error} />}
      <a
        href={`/api/v1/home/${token}/practice.ics`}
        className="inline-flex min-h-11 items-center underline underline-offset-4"
      >
        {t("common-add-calendar")}
      </a>
    </section>
  );
}
