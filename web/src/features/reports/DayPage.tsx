import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { ask, client, type Schemas } from "../../api/client";
import { useSession } from "../../api/queries";
import { records } from "../../api/records";
import { useClock } from "../../api/useClock";
import { addDays, dayWords, fullDay } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { Button, LinkButton } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Tabs } from "../../shared/ui/Tabs";
import { Zone } from "./Zone";

const WHOSE = [
  { id: "mine", label: "reports-my-students" },
  { id: "all", label: "reports-everyone" },
];

/** Who comes today, what to prepare, and what is open. */
export function DayPage() {
  const session = useSession();
  const today = session.today;
  const [day, setDay] = useState(today);
  const desk = session.role === "desk";
  const [whose, setWhose] = useState(desk ? "all" : "mine");
  const result = useQuery(records.day(day, whose === "mine"));
  if (result.isError) return <Notice error={result.error} />;
  return (
    <main className="mx-auto w-full max-w-5xl px-4 py-6">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-2xl font-bold">
          {day === today ? t("reports-today") : ""}
          {fullDay(day)}
        </h1>
        <div className="flex gap-2">
          <Button onClick={() => setDay(addDays(day, -1))}>{t("reports-previous-day")}</Button>
          {day !== today && <Button onClick={() => setDay(today)}>{t("common-today")}</Button>}
          <Button onClick={() => setDay(addDays(day, 1))}>{t("reports-next-day")}</Button>
        </div>
      </div>
      <Zone />
      {!desk && <Tabs label={t("common-coach")} tabs={WHOSE} value={whose} onChange={setWhose} />}
      {result.data && (
        <div className="mt-4 grid gap-8 lg:grid-cols-[minmax(0,1fr)_22rem]">
          <section aria-label={t("reports-expected-today")}>
            {result.data.visits.length === 0 && (
              <p className="text-lg text-soft">{t("reports-no-student-expected-students-appear")}</p>
            )}
            <ul className="divide-y divide-rule border-y border-rule empty:border-0">
              {result.data.visits.map((visit) => (
                <VisitRow
                  key={`${visit.student_id}-${visit.lesson_id}`}
                  visit={visit}
                  ofMany={whose === "all"}
                  coach={session.name}
                />
              ))}
            </ul>
          </section>
          <section aria-label={t("reports-still-open")} hidden={desk}>
            <h2 className="mb-1 text-xl font-bold">{t("reports-still-open")}</h2>
            {result.data.open.length === 0 && <p className="text-soft">{t("reports-nothing-open")}</p>}
            <ul>
              {result.data.open.map((item) => (
                <li
                  key={`${item.lesson_id}-${item.kind}`}
                  className={`border-t border-rule py-2 ${item.kind === "pain" ? "border-l-4 border-l-plum bg-plum-ground pl-3" : ""}`}
                >
                  <Link
                    to={`/lessons/${item.lesson_id}/take-home`}
                    className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
                  >
                    {item.student}
                  </Link>
                  <span className="text-soft">, {dayWords(item.day)}</span>
                  <p>{item.text}</p>
                </li>
              ))}
            </ul>
          </section>
        </div>
      )}
    </main>
  );
}

function VisitRow({ visit, ofMany, coach }: { visit: Schemas["Visit"]; ofMany: boolean; coach: string }) {
  const clock = useClock();
  const desk = useSession().role === "desk";
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-4 py-3">
      <div>
        <p>
          {desk ? (
            <span className="inline-flex min-h-11 items-center text-lg font-semibold">{visit.student}</span>
          ) : (
            <Link
              to={`/students/${visit.student_id}`}
              className="inline-flex min-h-11 items-center text-lg font-semibold underline-offset-4 hover:underline"
            >
              {visit.student}
            </Link>
          )}{" "}
          <span className="text-soft">
            {[
              visit.begun_at && t("reports-since", { time: clock.time(visit.begun_at) }),
              visit.state,
              ofMany && visit.coach !== coach && t("reports-with", { coach: visit.coach }),
            ]
              .filter(Boolean)
              .join(", ")}
          </span>
        </p>
        {visit.dose && visit.dose.planned > 0 && (
          <p className="text-soft">
            {t("common-practiced-days", { days: visit.dose.days, planned: visit.dose.planned })}
            {visit.dose.repetitions > 0 &&
              t("common-repetitions-felt", {
                felt: visit.dose.felt,
                repetitions: visit.dose.repetitions,
              })}
            .
          </p>
        )}
        <ul className="mt-1 list-disc pl-5">
          {visit.prepare.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      </div>
      {desk ? null : visit.lesson_id === null ? (
        <Begin studentId={visit.student_id} club={visit.club} />
      ) : (
        <LinkButton to={`/lessons/${visit.lesson_id}`} strong>
          {t("reports-open")}
        </LinkButton>
      )}
    </li>
  );
}

function Begin({ studentId, club }: { studentId: number; club: string }) {
  const navigate = useNavigate();
  const cache = useQueryClient();
  const begin = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/lessons", { body: { student_id: studentId, club } })),
    onSuccess: async (lesson) => {
      await cache.invalidateQueries({ queryKey: ["lessons"] });
      await navigate(`/lessons/${lesson.id}/baseline`);
    },
  });
  return (
    <Button strong disabled={begin.isPending} onClick={() => begin.mutate()}>
      {t("common-begin")}
    </Button>
  );
}
