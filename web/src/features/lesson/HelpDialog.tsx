import { useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { clickerOf, KEYS, keyName } from "../../shared/format/verdict";
import { Button, KeyCap } from "../../shared/ui/Button";
import { Sheet } from "../../shared/ui/Sheet";

type Line = [string[], string];

const LINES: Line[] = [
  [[KEYS.done, KEYS.partly, KEYS.missed, KEYS.unseen], "lesson-movement-ball-done-partly-missed"],
  [[KEYS.uncover], "lesson-show-numbers-hidden-ball-before"],
  [[KEYS.inTurn], "lesson-mark-waiting-balls-one-after"],
  [[KEYS.call], "lesson-prove-test-old-vs-new"],
  [[KEYS.mapping], "lesson-cause-when-number-contradicts-balls"],
  [[KEYS.films], "lesson-before-now-compare-balls-film"],
  [["←", "→"], "lesson-previous-next-ball-tape-shift"],
  [["Home", "End"], "lesson-first-ball-newest-ball"],
  [["Esc"], "lesson-clear-selection-newest-ball-marked"],
  [[KEYS.aside], "lesson-exclude-include-ball"],
  [[KEYS.turf], "lesson-contact-clean-thin-fat-topped"],
  [[KEYS.note], "lesson-note-ball-2"],
  [[KEYS.undo], "lesson-undo-last-mark"],
  [[KEYS.keep], "lesson-save-pictures-tables-station-files"],
  [[KEYS.fold], "lesson-collapse-expand-tape"],
  [[KEYS.hit, KEYS.watch], "lesson-practice-lesson-hit-ball-replay"],
  [[KEYS.find], "lesson-search-student-lesson-fault-check"],
  [["Alt + 1 … 7"], "lesson-go-station"],
  [[KEYS.help], "lesson-show-list"],
];

const SAYS: Record<string, string> = {
  done: "lesson-movement-done-clicker",
  partly: "lesson-movement-partly-done-clicker",
  missed: "lesson-movement-missed-clicker",
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
      title={t("lesson-keys")}
      result="Balls that arrive while this is open are kept and shown."
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
        <Button onClick={() => onOpenChange(false)}>{t("common-close")}</Button>
        <Button onClick={onKeep}>{t("lesson-pictures-tables-station")}</Button>
        <Button onClick={onHints}>{t("lesson-show-hints-every-station")}</Button>
      </div>
    </Sheet>
  );
}
