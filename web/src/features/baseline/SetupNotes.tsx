import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { useActions, useDesk } from "../lesson/LessonContext";

const FIELDS = [
  { id: "ball_cm", label: "baseline-ball-inside-lead-heel-cm" },
  { id: "stance_cm", label: "baseline-distance-between-heels-cm" },
  { id: "aim_deg", label: "baseline-aim-right-target" },
] as const;

/** Ball position, stance and aim now; changes since the first note are shown because they hide a fault. */
export function SetupNotes() {
  const { lesson } = useDesk();
  const actions = useActions();
  const setups = useQuery(queries.setups(lesson.id));
  const [values, setValues] = useState<Record<string, string>>({});
  const notes = setups.data?.notes ?? [];
  const first = notes[0];
  return (
    <details>
      <summary className="min-h-8 cursor-pointer">
        {first ? t("baseline-setup-saved-times", { n: notes.length }) : t("baseline-setup-ball-stance-aim-compare")}
      </summary>
      {setups.data?.changes.map((change) => (
        <Callout tone="plum" className="mt-1" key={change}>
          {change}
        </Callout>
      ))}
      <form
        className="mt-2 flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const number = (id: string) => (values[id] ? Number(values[id]) : null);
          actions.noteSetup.mutate(
            { ball_cm: number("ball_cm"), stance_cm: number("stance_cm"), aim_deg: number("aim_deg") },
            { onSuccess: () => setValues({}) },
          );
        }}
      >
        <div className="grid grid-cols-3 items-end gap-2">
          {FIELDS.map((field) => (
            <TextField
              key={field.id}
              label={t(field.label)}
              type="number"
              step="0.5"
              placeholder={
                first?.[field.id] === null || first === undefined
                  ? ""
                  : t("baseline-was", { before: first[field.id] ?? "" })
              }
              value={values[field.id] ?? ""}
              onChange={(text) => setValues({ ...values, [field.id]: text })}
            />
          ))}
        </div>
        <Button type="submit" disabled={!Object.values(values).some(Boolean) || actions.noteSetup.isPending}>
          {t("baseline-save-setup")}
        </Button>
        {actions.noteSetup.isError && <Notice error={actions.noteSetup.error} />}
      </form>
    </details>
  );
}
