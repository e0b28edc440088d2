import { useMutation, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import { queries, type RosterRow, type Student, useSession, type Wanted } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { sideAndHandicap } from "../../shared/format/player";
import { stationName } from "../../shared/format/say";
import { Button, LinkButton } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { BringIn } from "./BringIn";
import { DeskRow } from "./DeskRow";
import { Finder } from "./Finder";
import { StudentFile } from "./StudentFile";
import { StudentForm } from "./StudentForm";
import { useBeginLesson } from "./useBeginLesson";

/** All students: resume or start a lesson. */
export function StudentsPage() {
  const [wanted, setWanted] = useState<Wanted>({ archived: false, words: "" });
  const [adding, setAdding] = useState(false);
  const roster = useQuery(queries.roster(useDeferredValue(wanted)));
  const desk = useSession().role === "desk";
  const Row = desk ? DeskRow : StudentRow;
  if (roster.isError) return <Notice error={roster.error} />;
  const { rows, found, there } = roster.data ?? { rows: [], found: 0, there: true };
  return (
    <main className="mx-auto w-full max-w-5xl px-4 py-6">
      <div className="mb-4 flex items-center justify-between">
        <h1 className="text-2xl font-bold">{t("common-students")}</h1>
        <div className="flex gap-2">
          {!desk && <BringIn />}
          <Button strong onClick={() => setAdding(true)}>
            {t("students-new-student")}
          </Button>
        </div>
      </div>
      {(there || wanted.archived) && <Finder wanted={wanted} onChange={setWanted} />}
      {roster.data && found === 0 && <Nobody there={there} archived={wanted.archived} desk={desk} />}
      <ul className="divide-y divide-rule border-y border-rule empty:border-0">
        {rows.map((row) => (
          <Row key={row.student.id} row={row} />
        ))}
      </ul>
      {found > rows.length && (
        <p className="mt-3 text-soft">
          {t("students-showing-first-search-name-others", {
            shown: rows.length,
            found,
          })}
        </p>
      )}
      {adding && <StudentForm onClose={() => setAdding(false)} />}
    </main>
  );
}

/** The reason for an empty list. */
function Nobody({ there, archived, desk }: { there: boolean; archived: boolean; desk: boolean }) {
  const text = there
    ? t("students-no-match-try-fewer-words")
    : archived
      ? t("students-no-archived-students")
      : t("students-no-students-yet-add-first");
  return (
    <>
      <p className="max-w-prose text-lg text-soft">{text}</p>
      {!there && !archived && !desk && (
        <p className="mt-4 flex max-w-prose flex-wrap items-center gap-4 text-lg text-soft">
          {t("students-practice-first-made-up-golfer")}
          <LinkButton to="/train">{t("common-practice-lessons")}</LinkButton>
        </p>
      )}
    </>
  );
}

function StudentRow({ row }: { row: RosterRow }) {
  const clock = useClock();
  const { student, going, last } = row;
  return (
    <li className="grid grid-cols-[1fr_auto] items-center gap-4 py-3">
      <div className="min-w-0">
        <Link
          to={`/students/${student.id}`}
          className="inline-block py-1 text-lg font-semibold underline-offset-4 hover:underline"
        >
          {student.name}
        </Link>
        <div className="text-soft">
          {sideAndHandicap(student)}
          {student.guardian_consent && t("students-guardian", { guardian_consent: student.guardian_consent })}
          {last
            ? t("students-last-lesson-balls", {
                moment: clock.moment(last.started_at),
                ball_count: last.ball_count,
              })
            : t("students-no-lesson-yet")}
        </div>
      </div>
      <div className="flex gap-2">
        {going ? (
          <LinkButton to={`/lessons/${going.id}`} strong>
            {t("students-resume", { station: stationName(going.station) })}
          </LinkButton>
        ) : (
          last && <LinkButton to={`/lessons/${last.id}`}>{t("students-last-lesson-2")}</LinkButton>
        )}
        {!student.archived_at && <BeginLesson student={student} quiet={Boolean(going)} />}
        <StudentFile student={student} />
      </div>
    </li>
  );
}

function BeginLesson({ student, quiet }: { student: Student; quiet: boolean }) {
  const start = useBeginLesson();
  const begin = useMutation({ mutationFn: () => start(student.id) });
  return (
    <Button strong={!quiet} disabled={begin.isPending} onClick={() => begin.mutate()}>
      {t("students-new-lesson")}
    </Button>
  );
}
