import { type FormEvent, useState } from "react";

import type { Shot } from "../../api/queries";
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
    <Sheet title={`Note to ball ${shot.number}`} open onClose={onClose}>
      <form
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          onKeep(note.trim());
        }}
      >
        <TextField label="Note" value={note} onChange={setNote} maxLength={500} />
        <div className="mt-4 flex gap-2">
          <Button type="submit" strong>
            Keep
          </Button>
          <Button onClick={onClose}>Leave</Button>
        </div>
      </form>
    </Sheet>
  );
}
