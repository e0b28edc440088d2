import { t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { Button, KeyCap } from "../../shared/ui/Button";
import { Sheet } from "../../shared/ui/Sheet";

const LINES: [string[], string][] = [
  [[KEYS.done, KEYS.partly, KEYS.missed, KEYS.unseen], "Movement of the ball: done, partly, missed, not seen"],
  [[KEYS.uncover], "Show the numbers of a covered ball before it is marked: its mark counts as seen"],
  [[KEYS.call], "On Prove: call four old and four new"],
  [[KEYS.mapping], "On Cause, where a number contradicts its balls: look at the mapping"],
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
    <Sheet
      title={t("Keys")}
      told="Balls that arrive while this is open are kept and shown."
      open={open}
      onClose={() => onOpenChange(false)}
    >
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
      <Button className="mt-5" onClick={() => onOpenChange(false)}>
        {t("Close")}
      </Button>
    </Sheet>
  );
}
