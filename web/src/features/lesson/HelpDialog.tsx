import { useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { clickerOf, KEYS, keyName } from "../../shared/format/verdict";
import { Button, KeyCap } from "../../shared/ui/Button";
import { Sheet } from "../../shared/ui/Sheet";

type Line = [string[], string];

const LINES: Line[] = [
  [[KEYS.done, KEYS.partly, KEYS.missed, KEYS.unseen], "Movement of the ball: done, partly, missed, not seen"],
  [[KEYS.uncover], "Show the numbers of a hidden ball before you mark it (the mark then counts as not blind)"],
  [[KEYS.inTurn], "Mark the waiting balls one after another"],
  [[KEYS.call], "On Prove: test old vs. new (4 + 4)"],
  [[KEYS.mapping], "On Cause, when a number contradicts its balls: check the column mapping"],
  [[KEYS.films], "Before and now: compare the ball's film with an earlier one"],
  [["←", "→"], "Previous or next ball on the tape; with Shift, select a range"],
  [["Home", "End"], "First ball, newest ball"],
  [["Esc"], "Clear selection: the newest ball is marked, all balls are shown"],
  [[KEYS.aside], "Exclude or include the ball"],
  [[KEYS.turf], "Contact: clean, thin, fat, topped, shank, sky"],
  [[KEYS.note], "Note to the ball"],
  [[KEYS.undo], "Undo the last mark"],
  [[KEYS.keep], "Save pictures and tables of this station as files"],
  [[KEYS.fold], "Collapse or expand the tape"],
  [[KEYS.hit, KEYS.watch], "In a practice lesson: hit a ball; replay the swing"],
  [[KEYS.find], "Search for a student, lesson, fault, check, drill or page"],
  [["Alt + 1 … 7"], "Go to a station"],
  [[KEYS.help], "Show this list"],
];

const SAYS: Record<string, string> = {
  done: "Movement done, from the clicker",
  partly: "Movement partly done, from the clicker",
  missed: "Movement missed, from the clicker",
};

type Props = { open: boolean; onOpenChange: (open: boolean) => void; onKeep: () => void; onHints: () => void };

/** All keys of a lesson, including the coach's clicker. */
export function HelpDialog({ open, onOpenChange, onKeep, onHints }: Props) {
  const clicker: Line[] = Object.entries(clickerOf(useSession().clicker)).map(([key, says]) => [
    [keyName(key)],
    SAYS[says] ?? "",
  ]);
  return (
    <Sheet
      title={t("Keys")}
      told="Balls that arrive while this is open are kept and shown."
      open={open}
      onClose={() => onOpenChange(false)}
    >
      <dl className="grid grid-cols-[auto_1fr] items-center gap-x-5 gap-y-2">
        {[...LINES, ...clicker].map(([keys, text]) => (
          <div key={`${keys} ${text}`} className="contents">
            <dt className="flex justify-end gap-1">
              {keys.map((key) => (
                <KeyCap key={key}>{key}</KeyCap>
              ))}
            </dt>
            <dd>{t(text)}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-5 flex flex-wrap gap-2">
        <Button onClick={() => onOpenChange(false)}>{t("Close")}</Button>
        <Button onClick={onKeep}>{t("Pictures and tables of this station")}</Button>
        <Button onClick={onHints}>{t("Show hints at every station")}</Button>
      </div>
    </Sheet>
  );
}
