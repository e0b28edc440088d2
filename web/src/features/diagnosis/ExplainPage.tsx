import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { FlightPaths } from "../../shared/charts/FlightPaths";
import { SwingFigure } from "../../shared/charts/SwingFigure";
import { t, word } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { useTitle } from "../../shared/ui/useTitle";

/** One page in plain words for the student: what the ball did, the likely cause, and how certain it is. */
export function ExplainPage() {
  const clock = useClock();
  const id = Number(useParams().lessonId);
  const lesson = useQuery(queries.lesson(id));
  const why = useQuery(queries.why(id));
  const reading = useQuery(queries.reading(id, ""));
  useTitle(t("cause-why-ball-does-what-does"), lesson.data?.student.name);
  if (lesson.isError) return <Notice error={lesson.error} />;
  if (!lesson.data || !why.data || !reading.data) return null;
  const student = lesson.data.student;
  const pattern = reading.data.reading.pattern.flatMap((p) => p.plain || []);
  return (
    <main className="mx-auto w-full max-w-3xl px-6 py-6 text-lg print:max-w-none print:px-0 print:py-0">
      <nav className="no-print mb-4 flex items-center justify-between">
        <Link
          to={`/lessons/${id}/cause`}
          className="inline-flex min-h-11 items-center text-base underline underline-offset-4"
        >
          {t("cause-back-cause-board")}
        </Link>
        <Button strong onClick={() => window.print()}>
          {t("cause-print-page")}
        </Button>
      </nav>
      <h1 className="text-3xl font-bold">{t("cause-why-ball-does-what-does")}</h1>
      <p className="mb-4 text-soft">
        {student.name}, {clock.day(lesson.data.started_at)}
      </p>
      <h2 className="text-xl font-bold">{t("cause-what-ball-did")}</h2>
      {pattern.length > 0 ? (
        <ul className="mb-4 list-disc pl-6">
          {pattern.map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
        </ul>
      ) : (
        <p className="mb-4">{t("cause-no-balls-measured-yet")}</p>
      )}
      <Reasons lessonId={id} why={why.data} hand={lesson.data.hand} />
      <p className="mt-6 border-t border-rule pt-2 text-sm text-soft">
        {t("cause-judgment-measurements-observation-not-medical")}
      </p>
    </main>
  );
}

function Reasons({ lessonId, why, hand }: { lessonId: number; why: Schemas["Why"]; hand: string }) {
  const { checks } = useKnowledge();
  const ball = useQuery({ ...queries.faultBall(lessonId, why.fault ?? "", why.variant ?? ""), enabled: why.named });
  const sign = ball.data?.shown_by[0];
  const drawn = useQuery({ ...queries.figure(sign?.[0] ?? "", hand), enabled: Boolean(sign), retry: false });
  const check = checks.find((c) => c.id === sign?.[0]);
  return (
    <>
      <h2 className="text-xl font-bold">{t("cause-most-likely-cause")}</h2>
      <p className="mb-3">{why.sentence}</p>
      {why.named && (
        <>
          <div className="grid items-end gap-6 sm:grid-cols-2 print:grid-cols-2">
            {drawn.data && (
              <figure className="m-0">
                <div className="flex">
                  {drawn.data.grades
                    .filter((g) => g.sound || g.grade === sign?.[1])
                    .map((g) => (
                      <figcaption key={g.grade} className="flex-1 text-center text-base">
                        <SwingFigure picture={drawn.data} grade={g} title={word(g.grade)} className="h-52 w-full" />
                        {g.sound ? t("cause-how-should") : t("cause-what-we-looked")}
                      </figcaption>
                    ))}
                </div>
                <p className="text-center text-sm text-soft">{check?.question}</p>
              </figure>
            )}
            {ball.data && (
              <figure className="m-0">
                <FlightPaths before={ball.data.ball.before} after={ball.data.ball.after} hand={hand} />
                <figcaption className="text-sm text-soft">{t("cause-model-straight-ball-dashed-ball")}</figcaption>
              </figure>
            )}
          </div>
          <h2 className="mt-4 text-xl font-bold">{t("cause-why-we-think-so")}</h2>
          <ul className="list-disc pl-6">
            {why.reasons.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </>
      )}
      {why.next_check && (
        <>
          <h2 className="mt-4 text-xl font-bold">{t("cause-what-we-check-next")}</h2>
          <p>{why.next_check}</p>
        </>
      )}
    </>
  );
}
