import { useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { clickerOf, KEYS, keyName } from "../../shared/format/verdict";
import { Button, KeyCap } from "../../shared/ui/Button";
import { Sheet } from "../../shared/ui/Sheet";

type Line = [string[], string];

const LINES: Line[] = [
  [[KEYS.done, KEYS.partly, KEYS.missed, KEYS.unseen], "Movement of the ball: done, partly, missed, not seen"],
  [[KEYS.uncover], "Show the numbers of a covered ball before it is marked: its mark counts as seen"],
  [[KEYS.inTurn], "Mark the balls that wait for a mark, one after another"],
  [[KEYS.call], "On Prove: call four old and four new"],
  [[KEYS.mapping], "On Cause, where a number contradicts its balls: look at the mapping"],
  [[KEYS.films], "Before and now: the ball's film beside an earlier one"],
  [["←", "→"], "Earlier or later ball on the tape; with Shift a range"],
  [["Home", "End"], "First ball, newest ball"],
  [["Esc"], "Choose no ball: the newest one is marked, all of them are read"],
  [[KEYS.aside], "Set the ball apart, or take it back in"],
  [[KEYS.turf], "Turf mark: clean, thin, fat, topped, shank, sky"],
  [[KEYS.note], "Note to the ball"],
  [[KEYS.undo], "Undo the last mark"],
  [[KEYS.keep], "Pictures and tables of this station, as files to keep"],
  [[KEYS.fold], "Fold the tape, or unfold it"],
  [[KEYS.hit, KEYS.watch], "In a practice lesson: the golfer hits a ball; see its swing again"],
  [[KEYS.find], "Find a student, a lesson, a fault, a look, a drill, a page"],
  [["Alt + 1 … 7"], "Go to a station"],
  [[KEYS.help], "This list"],
];

const SAYS: Record<string, string> = {
  done: "Movement done, from the clicker",
  partly: "Movement partly done, from the clicker",
  missed: "Movement missed, from the clicker",
};

type Props = { open: boolean; onOpenChange: (open: boolean) => void; onKeep: () => void; onHints: () => void };

/** What every key of a lesson does, the clicker's as this coach has them. */
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
        <Button onClick={onHints}>{t("Say at every station what to do there")}</Button>
      </div>
    </Sheet>
  );
}
