import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useTrainingActions } from "../../api/actions";
import { type Knowledge, type Lesson, queries, useKnowledge } from "../../api/queries";
import { MovingFigure } from "../../shared/charts/MovingFigure";
import { inside, t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";
import { HowItWent } from "./HowItWent";
import { HINTS, levelOf } from "./levels";

const SEVERAL = 5;

type Props = {
  lesson: Lesson;
  station: string;
  /** The open check. */
  check: string | null;
  /** The ball to mark. */
  ball: number | undefined;
};

/** The golfer of a practice lesson: hits on request, shows the swing, and is revealed at the end. */
export function MadeUpGolfer({ lesson, station, check, ball }: Props) {
  const training = useQuery(queries.training(lesson.id));
  const { hit, end } = useTrainingActions(lesson.id);
  const ended = lesson.ended_at !== null;
  useWindowKeys((event) => {
    if (event.altKey || event.ctrlKey || event.metaKey || typing(event.target) || inDialog()) return;
    if (event.key !== KEYS.hit || ended) return;
    event.preventDefault();
    if (!event.repeat) hit.mutate(1);
  });
  if (training.isError) return null; // a colleague's lesson is only looked at
  const score = training.data?.score;
  return (
    <aside
      aria-label={t("practice-lessons-made-up-golfer")}
      className="no-print flex w-60 shrink-0 flex-col gap-3 overflow-y-auto border-l border-rule px-4 py-3 lg:max-[1279px]:w-52 min-[1400px]:w-72 max-lg:max-h-[45vh] max-lg:w-full max-lg:border-t max-lg:border-l-0 max-lg:flex-row"
    >
      {score ? (
        <section aria-labelledby="revealed" className="flex flex-col gap-3">
          <h2
            id="revealed"
            tabIndex={-1}
            // Whoever ended it is led to what it was, by whatever they read.
            ref={(heading) => {
              if (end.isSuccess) heading?.focus();
            }}
            className="text-xl font-bold outline-none"
          >
            {t("practice-lessons-result")}
          </h2>
          <HowItWent score={score} />
        </section>
      ) : (
        <>
          <div className="flex flex-col gap-3 max-lg:grow">
            <p>
              <b>{training.data && t("practice-lessons-golfer", { level: t(levelOf(training.data.level)) })}</b>{" "}
              {t(HINTS[station] ?? "")}
            </p>
            <div className="flex flex-wrap gap-2">
              <Button strong keyName={KEYS.hit} disabled={ended} onClick={() => hit.mutate(1)}>
                {t("practice-lessons-hit-ball")}
              </Button>
              {station === "baseline" && (
                <Button disabled={ended} onClick={() => hit.mutate(SEVERAL)}>
                  {t("practice-lessons-hit-five")}
                </Button>
              )}
              {station === "take-home" && (
                <Button disabled={end.isPending} onClick={() => end.mutate()}>
                  {t("practice-lessons-end-lesson-reveal-fault")}
                </Button>
              )}
            </div>
          </div>
          <Swing lesson={lesson} station={station} check={check} ball={ball} />
        </>
      )}
      {[hit, end].map((action, i) => action.isError && <Notice key={i} error={action.error} />)}
    </aside>
  );
}

const VIEWS = { "face-on": "common-front", "down-the-line": "practice-lessons-down-line" } as const;
type View = keyof typeof VIEWS;

/** The swing of the ball, replayed or slow; the view follows the open check or the coach's choice. */
function Swing({ lesson, station, check, ball }: Props) {
  const knowledge = useKnowledge();
  const fault = useQuery(queries.proof(lesson.id)).data?.correction?.fault;
  const [chosen, choose] = useState<View | null>(null);
  const [run, again] = useState({ times: 0, slow: false });
  const meant = station === "check" ? check : station === "prove" && fault ? telling(knowledge, fault) : null;
  const shownCheck =
    (chosen === null && meant) || knowledge.checks.find((c) => c.view === (chosen ?? "face-on"))?.id || "seat-line";
  const swing = useQuery(queries.trainingSwing(lesson.id, shownCheck, ball));
  const watch = (slow: boolean) => again((old) => ({ times: old.times + 1, slow }));
  useWindowKeys((event) => {
    if (event.altKey || event.ctrlKey || event.metaKey || typing(event.target) || inDialog()) return;
    if (event.key !== KEYS.watch) return;
    event.preventDefault();
    watch(false);
  });
  const view = (swing.data?.view ?? "face-on") as View;
  const other: View = view === "face-on" ? "down-the-line" : "face-on";
  return (
    <section
      aria-label={t("practice-lessons-swing")}
      className="flex shrink-0 flex-col gap-2 max-lg:flex-row max-lg:items-start"
    >
      <div className="h-44 w-full border border-rule bg-sheet max-lg:h-32 max-lg:w-32 min-[1400px]:h-56">
        {swing.data && (
          <MovingFigure
            key={`${shownCheck} ${ball ?? 0} ${run.times}`}
            swing={swing.data}
            slow={run.slow}
            label={
              ball === undefined ? t("practice-lessons-swing-without-ball") : t("practice-lessons-swing-ball", { ball })
            }
          />
        )}
      </div>
      <p className="text-sm text-soft max-lg:hidden">
        {ball === undefined ? t("practice-lessons-swing-without-ball") : t("practice-lessons-swing-ball", { ball })},{" "}
        {inside(t(VIEWS[view]))}
      </p>
      <div className="flex flex-wrap gap-2 max-lg:w-44">
        <Button keyName={KEYS.watch} onClick={() => watch(false)}>
          {t("common-replay")}
        </Button>
        <Button onClick={() => watch(true)}>{t("practice-lessons-slow-motion")}</Button>
        <Button onClick={() => choose(other)}>{t(VIEWS[other])}</Button>
      </div>
      {swing.isError && <Notice error={swing.error} />}
    </section>
  );
}

/** Return the check that says most about a fault. */
function telling(knowledge: Knowledge, fault: string): string | null {
  const worth = (check: Knowledge["checks"][number]) =>
    Math.max(0, ...Object.values(check.speaks ?? {}).map((speaks) => speaks[fault] ?? 0));
  const best = knowledge.checks.reduce((a, b) => (worth(b) > worth(a) ? b : a));
  return worth(best) > 0 ? best.id : null;
}
