import { useQuery } from "@tanstack/react-query";
import { useOutletContext, useParams, useSearchParams } from "react-router";
import { useLive } from "../../api/live";
import { type Lesson, queries } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { LinkButton } from "../../shared/ui/Button";
import { type Framed, LightSwitch } from "../../shared/ui/LightSwitch";
import { Notice } from "../../shared/ui/Notice";
import { useTitle } from "../../shared/ui/useTitle";
import { chosenPair, type FilmRow, type Side } from "./film";
import { OnThePage } from "./Hold";
import { SideBySide } from "./SideBySide";

/** Two films of a student side by side, held at the same moment. */
export function FilmsPage() {
  const id = Number(useParams().lessonId);
  const lesson = useQuery(queries.lesson(id));
  if (lesson.isError) return <Notice error={lesson.error} />;
  if (!lesson.data) return null;
  return <Films lesson={lesson.data} />;
}

function Films({ lesson }: { lesson: Lesson }) {
  const [asked, ask] = useSearchParams();
  const clock = useClock();
  const { light } = useOutletContext<Framed>();
  useLive(lesson.id, lesson.cursor);
  useTitle(t("Before and now"), lesson.student.name);
  const films = useQuery(queries.films(lesson));
  const number = (name: string) => Number(asked.get(name)) || undefined;
  if (films.isError) return <Notice error={films.error} />;
  if (!films.data) return null;
  const rows = films.data;
  // A lesson asks by the ball that was looked at.
  const ofBall = rows.find((row) => row.lesson_id === lesson.id && row.ball === number("ball"));
  const { before, now } = chosenPair(rows, { before: number("before"), now: number("now") ?? ofBall?.id });
  const dayOf = (row: FilmRow) => (row.lesson_id === lesson.id ? t("this lesson") : clock.day(row.day));
  const choose = (side: Side, row: number) =>
    ask({ before: String(before?.id), now: String(now?.id), [side]: String(row) }, { replace: true });
  return (
    <main className="mx-auto flex w-full max-w-[112.5rem] flex-col gap-2 px-4 py-2">
      <header className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <LinkButton to={`/lessons/${lesson.id}/${lesson.station}`}>{t("Back to the lesson")}</LinkButton>
        <h1 className="text-xl font-bold">{t("Before and now")}</h1>
        <p className="grow text-soft">{lesson.student.name}</p>
        <OnThePage lesson={lesson} />
        <LightSwitch {...light} />
      </header>
      {before && now ? (
        <SideBySide lesson={lesson} before={before} now={now} rows={rows} dayOf={dayOf} onChoose={choose} />
      ) : (
        <p className="max-w-prose py-6 text-lg">
          {now
            ? t(
                "There is one film of {name} so far. With a second one from the same side they stand beside each other.",
                {
                  name: lesson.student.name,
                },
              )
            : t(
                "No film of {name} is kept. A camera in the bay films every ball, and Check takes films in from files.",
                {
                  name: lesson.student.name,
                },
              )}
        </p>
      )}
    </main>
  );
}
