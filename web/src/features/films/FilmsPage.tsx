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

/** One film of a student, or two side by side at the same moment. */
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
  const films = useQuery(queries.films(lesson));
  const number = (name: string) => Number(asked.get(name)) || undefined;
  const rows = films.data ?? [];
  // A lesson asks by the ball that was looked at.
  const ofBall = rows.find((row) => row.lesson_id === lesson.id && row.ball === number("ball"));
  const { before, now } = chosenPair(rows, { before: number("before"), now: number("now") ?? ofBall?.id });
  const title = before || !now ? t("common-before-now") : t("films-film");
  useTitle(title, lesson.student.name);
  if (films.isError) return <Notice error={films.error} />;
  if (!films.data) return null;
  const dayOf = (row: FilmRow) => (row.lesson_id === lesson.id ? t("common-lesson-2") : clock.day(row.day));
  const choose = (side: Side, row: number) =>
    ask({ ...(before && { before: String(before.id) }), now: String(now?.id), [side]: String(row) }, { replace: true });
  return (
    <main className="mx-auto flex w-full max-w-[112.5rem] flex-col gap-2 px-4 py-2">
      <header className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <LinkButton to={`/lessons/${lesson.id}/${lesson.station}`}>{t("films-back-lesson")}</LinkButton>
        <h1 className="text-xl font-bold">{title}</h1>
        <p className="grow text-soft">{lesson.student.name}</p>
        <OnThePage lesson={lesson} />
        <LightSwitch {...light} />
      </header>
      {now ? (
        <SideBySide lesson={lesson} before={before} now={now} rows={rows} dayOf={dayOf} onChoose={choose} />
      ) : (
        <p className="max-w-prose py-6 text-lg">
          {t("films-no-films-yet-import-one", {
            name: lesson.student.name,
          })}
        </p>
      )}
    </main>
  );
}
