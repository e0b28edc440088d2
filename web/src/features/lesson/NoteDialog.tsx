import { type FormEvent, useState } from "react";
import type { Shot } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Sheet } from "../../shared/ui/Sheet";

/** A note to one ball. */
export function NoteDialog({
  shot,
  onKeep,
  onClose,
}: {
  shot: Shot;
  onKeep: (note: string) => void;
  onClose: () => void;
}) {
  const [note, setNote] = useState(shot.note);
  return (
    <Sheet title={t("lesson-note-ball", { number: shot.number })} open onClose={onClose}>
      <form
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          onKeep(note.trim());
        }}
      >
        <TextField label={t("lesson-note")} value={note} onChange={setNote} maxLength={500} />
        <div className="mt-4 flex gap-2">
          <Button type="submit" strong>
            {t("common-save")}
          </Button>
          <Button onClick={onClose}>{t("common-discard")}</Button>
        </div>
      </form>
    </Sheet>
  );
}
