import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";

import type { Shot } from "../api/queries";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";

/** A note to one ball. */
export function NoteDialog({ shot, onKeep, onClose }: { shot: Shot; onKeep: (note: string) => void; onClose: () => void }) {
  const [note, setNote] = useState(shot.note);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/3 left-1/2 w-[min(92vw,520px)] -translate-x-1/2 border border-ink bg-sheet p-6"
        >
          <Dialog.Title className="mb-3 text-xl font-bold">Note to ball {shot.number}</Dialog.Title>
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
              <Dialog.Close asChild>
                <Button>Leave</Button>
              </Dialog.Close>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
