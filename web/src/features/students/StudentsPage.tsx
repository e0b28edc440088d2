import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { ask, client } from "../../api/client";
import { type LessonRow, queries, type Student, useSession } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { sideAndHandicap } from "../../shared/format/player";
import { Button, LinkButton } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { BringIn } from "./BringIn";
import { DeskRow } from "./DeskRow";
import { StudentFile } from "./StudentFile";
import { StudentForm } from "./StudentForm";

/** Everybody who takes lessons here: resume a lesson or begin one. */
export function StudentsPage() {
  const students = useQuery(queries.students);
  const lessons = useQuery(queries.lessons);
  const desk = useSession().role === "desk";
  const Row = desk ? DeskRow : StudentRow;
  const [adding, setAdding] = useState(false);
  if (students.isError) return <Notice error={students.error} />;
  return (
    <main className="mx-auto w-full max-w-5xl px-4 py-6">
      <div className="mb-4 flex items-center justify-between">
        <h1 className="text-2xl font-bold">{t("Students")}</h1>
        <div className="flex gap-2">
          {!desk && <BringIn />}
          <Button strong onClick={() => setAdding(true)}>
            {t("New student")}
          </Button>
        </div>
      </div>
      {students.data?.length === 0 && (
        <p className="max-w-prose text-lg text-soft">
          {t(
            "Nobody here yet. Add your first student with name, hand and handicap: then a lesson can begin with the first ball.",
          )}
        </p>
      )}
      <ul className="divide-y divide-rule border-y border-rule">
        {students.data?.map((student) => (
          <Row
            key={student.id}
            student={student}
            lessons={(lessons.data ?? []).filter((l) => l.student_id === student.id)}
          />
        ))}
      </ul>
      {adding && <StudentForm onClose={() => setAdding(false)} />}
    </main>
  );
}

function StudentRow({ student, lessons }: { student: Student; lessons: LessonRow[] }) {
  const clock = useClock();
  const open = lessons.find((l) => !l.ended_at);
  const last = lessons[0];
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
          {student.guardian_consent &&
            t(", guardian {guardian_consent}", { guardian_consent: student.guardian_consent })}
          {last
            ? t(" · last lesson {moment}, {ball_count} balls", {
                moment: clock.moment(last.started_at),
                ball_count: last.ball_count,
              })
            : t(" · no lesson yet")}
        </div>
      </div>
      <div className="flex gap-2">
        {open ? (
          <LinkButton to={`/lessons/${open.id}`} strong>
            {t("Resume at {station}", { station: open.station.replace("-", " ") })}
          </LinkButton>
        ) : (
          last && <LinkButton to={`/lessons/${last.id}`}>{t("Last lesson")}</LinkButton>
        )}
        <BeginLesson student={student} quiet={Boolean(open)} />
        <StudentFile student={student} />
      </div>
    </li>
  );
}

function BeginLesson({ student, quiet }: { student: Student; quiet: boolean }) {
  const navigate = useNavigate();
  const cache = useQueryClient();
  const begin = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/lessons", { body: { student_id: student.id, club: "7i" } })),
    onSuccess: async (lesson) => {
      await cache.invalidateQueries({ queryKey: ["lessons"] });
      await navigate(`/lessons/${lesson.id}/ask`);
    },
  });
  return (
    <Button strong={!quiet} disabled={begin.isPending} onClick={() => begin.mutate()}>
      {t("New lesson")}
    </Button>
  );
}
