import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { ask, client, Problems, type Schemas } from "../../api/client";
import { type Student, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { handed } from "../../shared/format/player";
import { Button } from "../../shared/ui/Button";
import { ChooseOne, TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { useBeginLesson } from "./useBeginLesson";

type Save = { lesson?: boolean; open_lessons?: Schemas["OpenLessons"] };

const HANDS = [
  { id: "right", label: "students-right-handed" },
  { id: "left", label: "students-left-handed" },
];

type Props = { student?: Student; onClose: () => void };

/** Add or edit a student; a junior needs a guardian's consent first. */
export function StudentForm({ student, onClose }: Props) {
  const cache = useQueryClient();
  const [name, setName] = useState(student?.name ?? "");
  const [hand, setHand] = useState(student?.hand ?? "right");
  const [handicap, setHandicap] = useState(student?.handicap?.toString() ?? "");
  const [born, setBorn] = useState(student?.born ?? "");
  const [guardian, setGuardian] = useState(student?.guardian_consent ?? "");
  const begin = useBeginLesson();
  const teaches = useSession().role !== "desk";
  const created = useRef<Student>(undefined); // a second try begins the lesson only
  const save = useMutation({
    mutationFn: async ({ lesson, open_lessons }: Save) => {
      const body = {
        name,
        hand,
        handicap: handicap === "" ? null : Number(handicap),
        born: born || null,
        guardian_consent: guardian,
      };
      if (!student) {
        created.current ??= await ask(client.POST("/api/v1/students", { body }));
        if (lesson) await begin(created.current.id);
        return;
      }
      await ask(
        client.PUT("/api/v1/students/{student_id}", {
          params: { path: { student_id: student.id } },
          body: { ...body, open_lessons: open_lessons ?? null },
        }),
      );
    },
    onSuccess: onClose,
    onSettled: () =>
      Promise.all(["students", "lessons", "lesson"].map((key) => cache.invalidateQueries({ queryKey: [key] }))),
  });
  const asks = save.error instanceof Problems && save.error.list.some((p) => p.field === "open_lessons");
  return (
    <Sheet title={student ? student.name : t("students-new-student")} open onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          save.mutate({ lesson: !student && teaches });
        }}
      >
        <TextField label={t("common-name")} value={name} onChange={setName} required maxLength={120} />
        <ChooseOne
          label={t("students-plays")}
          options={HANDS}
          value={hand}
          onChange={(value) => value && setHand(value)}
        />
        <div className="grid grid-cols-2 gap-4">
          <TextField
            label={t("students-handicap-empty-if-unknown")}
            type="number"
            step="0.1"
            value={handicap}
            onChange={setHandicap}
          />
          <TextField label={t("students-born-juniors-limits")} type="date" value={born} onChange={setBorn} />
        </div>
        <TextField
          label={t("students-guardian-who-consented-under-18")}
          value={guardian}
          onChange={setGuardian}
          maxLength={120}
        />
        {save.isError && <Notice error={save.error} />}
        {asks && (
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => save.mutate({ open_lessons: "keep" })}>
              {t("students-keep-lesson", { side: handed(student?.hand ?? "") })}
            </Button>
            <Button onClick={() => save.mutate({ open_lessons: "turn" })}>
              {t("students-hand-wrong-mirror-lesson-too")}
            </Button>
          </div>
        )}
        <div className="flex gap-2">
          {!asks && (
            <Button type="submit" strong disabled={save.isPending}>
              {student || !teaches ? t("common-save") : t("students-save-start-lesson")}
            </Button>
          )}
          {!student && teaches && (
            <Button disabled={save.isPending || name.trim() === ""} onClick={() => save.mutate({})}>
              {t("common-save")}
            </Button>
          )}
          <Button onClick={onClose}>{t("common-cancel")}</Button>
        </div>
      </form>
    </Sheet>
  );
}
