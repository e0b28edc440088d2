import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client } from "../../api/client";
import { queries, type Student } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";

type Props = { student: Student; onDone: () => void };

function useListsAgain(onDone: () => void) {
  const cache = useQueryClient();
  return async () => {
    await Promise.all(["students", "lessons", "lesson"].map((key) => cache.invalidateQueries({ queryKey: [key] })));
    onDone();
  };
}

/** Archive or restore a student; all data stays. */
export function Archiving({ student, onDone }: Props) {
  const archived = Boolean(student.archived_at);
  const onSuccess = useListsAgain(onDone);
  const change = useMutation({
    mutationFn: () =>
      ask(
        client.PUT("/api/v1/students/{student_id}/archived", {
          params: { path: { student_id: student.id } },
          body: { archived: !archived },
        }),
      ),
    onSuccess,
  });
  return (
    <div className="mt-6 border-t border-rule pt-4">
      <p className="mb-2">{t("students-archived-student-leaves-list-all")}</p>
      <Button onClick={() => change.mutate()} disabled={change.isPending}>
        {archived ? t("common-restore") : t("students-archive")}
      </Button>
      {change.isError && <Notice error={change.error} />}
    </div>
  );
}

/** Merge another record of the same person into this one. */
export function Merging({ student, onDone }: Props) {
  const students = useQuery(queries.students);
  const [other, setOther] = useState("");
  const onSuccess = useListsAgain(onDone);
  const merge = useMutation({
    mutationFn: () =>
      ask(
        client.POST("/api/v1/students/{student_id}/merge", {
          params: { path: { student_id: student.id } },
          body: { other_id: Number(other) },
        }),
      ),
    onSuccess,
  });
  const others = (students.data ?? []).filter((one) => one.id !== student.id && one.hand === student.hand);
  if (others.length === 0) return null;
  const chosen = others.find((one) => String(one.id) === other);
  return (
    <form
      className="mt-6 border-t border-rule pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        merge.mutate();
      }}
    >
      <p className="mb-2">{t("students-entered-twice-merging-moves-other")}</p>
      <div className="flex items-end gap-3">
        <Select
          className="flex-1"
          label={t("students-other-record", { name: student.name })}
          value={other}
          options={[
            { id: "", label: t("students-choose") },
            ...others.map((one) => ({ id: String(one.id), label: one.name })),
          ]}
          onChange={setOther}
        />
        <Button type="submit" disabled={!chosen || merge.isPending}>
          {chosen ? t("students-merge-into-record", { name: chosen.name }) : t("students-merge")}
        </Button>
      </div>
      {merge.isError && <Notice error={merge.error} />}
    </form>
  );
}
