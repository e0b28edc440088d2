import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { queries, useKnowledge } from "../../api/queries";
import { type History, records } from "../../api/records";
import { datedDay, dayWords } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { sideAndHandicap } from "../../shared/format/player";
import { type Metric, say } from "../../shared/format/say";
import type { Units } from "../../shared/format/units";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { TableHead } from "../../shared/ui/TableHead";
import { Tabs } from "../../shared/ui/Tabs";
import { useTitle } from "../../shared/ui/useTitle";
import { StudentFile } from "../students/StudentFile";
import { FATES, fateOf, faultsOf, stopsOf } from "./record";
import { TimePicture } from "./TimePicture";

/** A student across lessons: numbers, suspected, tried, proven and refuted, retained. */
export function StudentPage() {
  const id = Number(useParams().studentId);
  const known = useQuery(queries.student(id));
  const history = useQuery(records.history(id));
  useTitle(known.data?.name);
  const failed = known.error ?? history.error;
  if (failed) return <Notice error={failed} />;
  if (!known.data || !history.data) return null;
  const student = known.data;
  const { lessons, alarm, left_out } = history.data;
  return (
    <main className="mx-auto w-full max-w-5xl px-4 py-6">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div>
          <h1 className="text-2xl font-bold">{student.name}</h1>
          <p className="text-soft">
            {t("reports-lessons", { n: lessons.length + left_out, who: sideAndHandicap(student) })}
          </p>
        </div>
        <StudentFile student={student} />
      </div>
      {alarm && (
        <Callout tone="plum" className="mb-4 text-lg" role="alert">
          {alarm}
        </Callout>
      )}
      {lessons.length === 0 ? (
        <p className="text-lg text-soft">{t("reports-no-lesson-yet-start-one")}</p>
      ) : (
        <>
          <Numbers history={history.data} />
          <Fates history={history.data} />
          <section aria-label={t("reports-practice-retention")} className="mt-6">
            <h2 className="text-xl font-bold">{t("reports-practice-retention")}</h2>
            <p>{history.data.dose_link.sentence}</p>
          </section>
          {left_out > 0 && <p className="mt-4 text-soft">{t("reports-older-lessons-not-drawn-they", { left_out })}</p>}
        </>
      )}
    </main>
  );
}

function Numbers({ history }: { history: History }) {
  const { metrics } = useKnowledge();
  const session = useQuery(queries.session).data;
  const [chosen, setChosen] = useState(history.metrics[0] ?? "");
  const metric = metrics.find((m) => m.id === chosen);
  if (!metric) return <p className="text-soft">{t("reports-no-correction-yet-chart-starts")}</p>;
  return (
    <section aria-label={t("reports-number-across-lessons")}>
      {history.metrics.length > 1 ? (
        <Tabs
          label={t("reports-which-number")}
          tabs={history.metrics.map((id) => ({ id, label: metrics.find((m) => m.id === id)?.label ?? id }))}
          value={chosen}
          onChange={setChosen}
        />
      ) : (
        <h2 className="text-xl font-bold">{metric.label}</h2>
      )}
      <TimePicture history={history} metric={metric} />
      <p className="flex flex-wrap gap-x-5 text-sm text-soft">
        <span>{t("reports-first-balls-lesson")}</span>
        <span>{t("reports-last-balls-under-correction")}</span>
        <span>{t("reports-thick-range-median-thin-spread")}</span>
        <span>{t("reports-bar-practice-days-done-planned")}</span>
      </p>
      <NumbersTable history={history} metric={metric} units={(session?.units ?? "yd-mph") as Units} />
    </section>
  );
}

function NumbersTable({ history, metric, units }: { history: History; metric: Metric; units: Units }) {
  return (
    <details className="mt-2">
      <summary className="min-h-11 cursor-pointer py-2">{t("reports-numbers")}</summary>
      <table className="w-full text-left">
        <caption className="sr-only">{t("reports-lesson", { label: metric.label })}</caption>
        <TableHead
          titles={[
            t("common-lesson"),
            t("reports-first-balls"),
            t("reports-last-balls"),
            t("reports-retained-previous-lesson"),
            t("reports-practiced-since"),
          ]}
        />
        <tbody>
          {stopsOf(history, metric.id).map(({ lesson, baseline, exit }) => (
            <tr key={lesson.id} className="border-t border-rule align-top">
              <th scope="row" className="py-1.5 pr-4 font-semibold">
                {datedDay(lesson.day)}
              </th>
              {[baseline, exit].map((span, i) => (
                <td key={i ? "exit" : "baseline"} className="py-1.5 pr-4">
                  {span
                    ? t("reports-balls", {
                        about: span.inferred ? t("common-about") : "",
                        metric: say(metric, span.centre, units),
                        balls: span.balls,
                        inferred: span.inferred ? t("reports-inferred") : "",
                      })
                    : "–"}
                </td>
              ))}
              <td className="py-1.5 pr-4">{lesson.cold ? lesson.cold.sentence : "–"}</td>
              <td className="py-1.5">
                {lesson.dose && lesson.dose.planned > 0
                  ? t("reports-days", { days: lesson.dose.days, planned: lesson.dose.planned })
                  : "–"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

/** Faults by lesson: suspected, tried, proven, refuted. */
function Fates({ history }: { history: History }) {
  const faults = faultsOf(history);
  if (faults.length === 0) return null;
  return (
    <section aria-label={t("reports-faults-lesson")} className="mt-6 overflow-x-auto">
      <h2 className="mb-1 text-xl font-bold">{t("reports-suspected-tried-proven-refuted")}</h2>
      <table className="w-full text-left">
        <thead>
          <tr className="text-soft">
            <th scope="col" className="py-1 pr-4 font-normal">
              {t("reports-fault")}
            </th>
            {history.lessons.map((lesson) => (
              <th key={lesson.id} scope="col" className="py-1 pr-4 font-normal whitespace-nowrap">
                <Link
                  to={`/lessons/${lesson.id}/cause`}
                  className="inline-flex min-h-11 items-center underline underline-offset-4"
                >
                  {dayWords(lesson.day)}
                </Link>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {faults.map(({ fault, label }) => (
            <tr key={fault} className="border-t border-rule">
              <th scope="row" className="py-1.5 pr-4 font-semibold">
                {label}
              </th>
              {history.lessons.map((lesson) => {
                const fate = fateOf(lesson, fault);
                const variant =
                  fate?.code === "proven" ? "text-moss font-semibold" : fate?.code === "refuted" ? "text-plum" : "";
                return (
                  <td key={lesson.id} className={`py-1.5 pr-4 ${variant}`}>
                    {fate && (
                      <>
                        <span aria-hidden="true">{FATES[fate.code]}</span> {fate.word}
                        <span className="block text-sm font-normal text-soft">{fate.detail}</span>
                      </>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
