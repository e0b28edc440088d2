import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client } from "../../api/client";
import { people } from "../../api/people";
import type { RosterRow } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { sideAndHandicap } from "../../shared/format/player";
import { Button, FileButton } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";
import { StudentForm } from "./StudentForm";

/** A student as the desk sees them: book, print, no results. */
export function DeskRow({ row }: { row: RosterRow }) {
  const { student, going: open, last } = row;
  const clock = useClock();
  const cache = useQueryClient();
  const colleagues = useQuery(people.colleagues);
  const [chosen, setChosen] = useState("");
  const [changing, setChanging] = useState(false);
  const coach = chosen || String(colleagues.data?.[0]?.id ?? "");
  const book = useMutation({
    mutationFn: () =>
      ask(client.POST("/api/v1/bookings", { body: { student_id: student.id, coach_id: Number(coach), club: "7i" } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["students"] }),
  });
  const name = { name: student.name };
  return (
    <li className="grid grid-cols-[1fr_auto] items-center gap-4 py-3">
      <div className="min-w-0">
        <span className="text-lg font-semibold">{student.name}</span>
        <div className="text-soft">
          {sideAndHandicap(student)}
          {open
            ? t("students-here-since", {
                moment: clock.moment(open.started_at),
                coach: open.coach_name,
              })
            : last
              ? t("students-last-lesson", { moment: clock.moment(last.started_at) })
              : t("students-no-lesson-yet")}
        </div>
        {book.isError && <Notice error={book.error} />}
      </div>
      <div className="flex flex-wrap justify-end gap-2">
        {!open && colleagues.data && (
          <>
            <Select
              name={t("students-coach", name)}
              value={coach}
              options={colleagues.data.map((one) => ({ id: String(one.id), label: one.name }))}
              onChange={setChosen}
            />
            <Button
              strong
              aria-label={t("students-start-lesson-2", name)}
              disabled={book.isPending || !coach}
              onClick={() => book.mutate()}
            >
              {t("students-start-lesson")}
            </Button>
          </>
        )}
        {last && (
          <FileButton href={`/api/v1/lessons/${last.id}/take-home.pdf`} target="_blank" rel="noreferrer">
            {t("students-print-page")}
          </FileButton>
        )}
        <Button aria-label={t("students-edit", name)} onClick={() => setChanging(true)}>
          {t("common-edit")}
        </Button>
      </div>
      {changing && <StudentForm student={student} onClose={() => setChanging(false)} />}
    </li>
  );
}
