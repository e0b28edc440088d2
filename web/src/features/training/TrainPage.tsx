import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { ask, client, type Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { inside, t } from "../../shared/format/language";
import { Button, LinkButton } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { HowItWent } from "./HowItWent";
import { LEVELS, levelOf } from "./levels";

type Row = Schemas["TrainingRow"];

/** Practice lessons: start, continue, results. Only their coach sees them. */
export function TrainPage() {
  const rows = useQuery(queries.trainings);
  const navigate = useNavigate();
  const cache = useQueryClient();
  const begin = useMutation({
    mutationFn: (level: string) => ask(client.POST("/api/v1/trainings", { body: { level } })),
    onSuccess: async ({ lesson_id }) => {
      await cache.invalidateQueries({ queryKey: queries.trainings.queryKey });
      navigate(`/lessons/${lesson_id}/baseline`);
    },
  });
  if (rows.isError) return <Notice error={rows.error} />;
  return (
    <main className="mx-auto w-full max-w-5xl px-4 py-5">
      <h1 className="text-2xl font-bold">{t("common-practice-lessons")}</h1>
      <p className="mb-4 max-w-prose text-soft">{t("practice-lessons-made-up-golfer-hidden-faults")}</p>
      <ul className="mb-6 grid gap-3 md:grid-cols-3">
        {LEVELS.map((level, i) => (
          <li key={level.id} className="flex flex-col gap-2 border border-rule bg-sheet p-4">
            <h2 className="text-lg font-semibold">{t(level.label)}</h2>
            <p className="grow text-soft">{t(level.says)}</p>
            <Button
              strong={i === 0 && rows.data?.length === 0}
              disabled={begin.isPending}
              aria-label={t("practice-lessons-start", { level: t(level.label) })}
              onClick={() => begin.mutate(level.id)}
            >
              {t("common-begin")}
            </Button>
          </li>
        ))}
      </ul>
      {begin.isError && <Notice error={begin.error} />}
      {rows.data && rows.data.length > 0 && (
        <section aria-labelledby="yours">
          <h2 id="yours" className="mb-2 text-xl font-semibold">
            {t("practice-lessons-practice-lessons")}
          </h2>
          <ul className="divide-y divide-rule border-y border-rule">
            {rows.data.map((row) => (
              <Lesson key={row.lesson_id} row={row} />
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}

function Lesson({ row }: { row: Row }) {
  const clock = useClock();
  const cache = useQueryClient();
  const [sure, setSure] = useState(false); // nothing brings it back
  const remove = useMutation({
    mutationFn: () =>
      ask(client.DELETE("/api/v1/lessons/{lesson_id}/training", { params: { path: { lesson_id: row.lesson_id } } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: queries.trainings.queryKey }),
  });
  const name = t("practice-lessons-student-level-moment", {
    student: row.student_name,
    level: inside(t(levelOf(row.level))),
    moment: clock.moment(row.started_at),
  });
  return (
    <li className="grid gap-x-6 gap-y-2 py-3 md:grid-cols-[1fr_auto]">
      {row.score ? (
        <details>
          <summary className="min-h-11 cursor-pointer content-center">
            <span className="font-semibold">{name}</span>
            <span className="ml-3 text-soft">{inShort(row.score)}</span>
          </summary>
          <div className="mt-2">
            <HowItWent wide score={row.score} />
          </div>
        </details>
      ) : (
        <p className="min-h-11 content-center font-semibold">{name}</p>
      )}
      <div className="flex items-start gap-2">
        <LinkButton to={`/lessons/${row.lesson_id}/${row.station}`}>
          {row.ended_at === null ? t("common-continue") : t("common-view")}
        </LinkButton>
        <Button
          aria-label={
            sure ? t("practice-lessons-remove-now-2", { lesson: name }) : t("practice-lessons-remove", { lesson: name })
          }
          onClick={() => (sure ? remove.mutate() : setSure(true))}
          onBlur={() => setSure(false)}
        >
          {sure ? t("practice-lessons-remove-now") : t("common-remove")}
        </Button>
      </div>
      {remove.isError && <Notice error={remove.error} />}
    </li>
  );
}

function inShort(score: Schemas["Score"]): string {
  const cause = score.leading_cause
    ? t("practice-lessons-cause-led")
    : score.right_cause
      ? t("practice-lessons-cause-2")
      : score.corrected == null
        ? t("practice-lessons-no-correction")
        : t("practice-lessons-another-cause");
  const checks = t("practice-lessons-checks", { right: score.checks_right, all: score.checks.length });
  return `${cause} · ${checks} · ${t("common-balls-4", { n: score.balls })}`;
}
