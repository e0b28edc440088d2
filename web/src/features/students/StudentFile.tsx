import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client } from "../../api/client";
import { type Student, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button, FileButton } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { Archiving, Merging } from "./Records";
import { StudentForm } from "./StudentForm";

/** A student's data: export, or erase on request. */
export function StudentFile({ student }: { student: Student }) {
  const cache = useQueryClient();
  const head = useSession().role === "head";
  const [open, setOpen] = useState(false);
  const [changing, setChanging] = useState(false);
  const [name, setName] = useState("");
  const params = { path: { student_id: student.id } };
  const erase = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/students/{student_id}/erase", { params, body: { name } })),
    onSuccess: () =>
      Promise.all([
        cache.invalidateQueries({ queryKey: ["students"] }),
        cache.invalidateQueries({ queryKey: ["lessons"] }),
      ]),
  });
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        {t("common-details")}
        <span className="sr-only"> {t("students-of", { name: student.name })}</span>
      </Button>
      {changing && <StudentForm student={student} onClose={() => setChanging(false)} />}
      <Sheet title={t("students-data-stored-about", { name: student.name })} open={open} onClose={() => setOpen(false)}>
        <Button
          className="mb-4"
          onClick={() => {
            setOpen(false);
            setChanging(true);
          }}
        >
          {t("students-edit-name-hand-handicap")}
        </Button>
        <p className="mb-3">{t("students-one-file-everything-restore-here")}</p>
        <FileButton href={`/api/v1/students/${student.id}/archive`} download>
          {t("students-export-file")}
        </FileButton>
        <Archiving student={student} onDone={() => setOpen(false)} />
        <Merging student={student} onDone={() => setOpen(false)} />
        {head && (
          <form
            className="mt-6 border-t border-rule pt-4"
            onSubmit={(event) => {
              event.preventDefault();
              erase.mutate();
            }}
          >
            <p className="mb-2">{t("students-erasing-deletes-student-all-lessons")}</p>
            <div className="flex items-end gap-3">
              <TextField
                label={t("students-type-name-confirm")}
                value={name}
                onChange={setName}
                autoComplete="off"
                className="flex-1"
              />
              <Button type="submit" disabled={name !== student.name || erase.isPending}>
                {t("students-erase")}
              </Button>
            </div>
            {erase.isError && <Notice error={erase.error} />}
          </form>
        )}
        <Button className="mt-4" onClick={() => setOpen(false)}>
          {t("common-close")}
        </Button>
      </Sheet>
    </>
  );
}
