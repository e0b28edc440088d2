import { Dialog } from "radix-ui";

import { KEYS } from "../domain/verdict";
import { Button, KeyCap } from "./Button";

const LINES: [string[], string][] = [
  [[KEYS.done, KEYS.partly, KEYS.missed, KEYS.unseen], "Movement of the ball: done, partly, missed, not seen"],
  [["Page Down", "Page Up"], "The same from a clicker: done, missed"],
  [["←", "→"], "Earlier or later ball on the tape; with Shift a range"],
  [["Home", "End"], "First ball, newest ball"],
  [["Esc"], "Choose no ball: the newest one is marked, all of them are read"],
  [[KEYS.aside], "Set the ball apart, or take it back in"],
  [[KEYS.turf], "Turf mark: clean, thin, fat, topped, shank, sky"],
  [[KEYS.note], "Note to the ball"],
  [[KEYS.undo], "Undo the last mark"],
  [["Alt + 1 … 7"], "Go to a station"],
  [[KEYS.help], "This list"],
];

export function HelpDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30" />
        <Dialog.Content className="fixed top-1/2 left-1/2 w-[min(92vw,620px)] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-6">
          <Dialog.Title className="text-xl font-bold">Keys</Dialog.Title>
          <Dialog.Description className="mb-3 text-soft">Balls that arrive while this is open are kept and shown.</Dialog.Description>
          <dl className="grid grid-cols-[auto_1fr] items-center gap-x-5 gap-y-2">
            {LINES.map(([keys, text]) => (
              <div key={text} className="contents">
                <dt className="flex justify-end gap-1">
                  {keys.map((key) => (
                    <KeyCap key={key}>{key}</KeyCap>
                  ))}
                </dt>
                <dd>{text}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close asChild>
            <Button className="mt-5">Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
