import { t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { useBalls, useChosen, useDesk } from "./LessonContext";
import { waitingBalls } from "./selection";

/** How many balls are unmarked, and a button to mark them one by one. */
export function WaitingMarks({ onStart }: { onStart?: () => void }) {
  const { markInTurn } = useDesk();
  const { shots } = useBalls();
  const { target, inTurn } = useChosen();
  const waiting = waitingBalls(shots, onStart ? undefined : target).length;
  if (waiting === 0) return null;
  if (inTurn)
    return (
      <p role="status" className="text-soft">
        {t("lesson-more-balls-waiting-mark", { n: waiting })}
      </p>
    );
  return (
    <Callout as="div" tone="straw" className="mb-2 flex flex-wrap items-center gap-3">
      <p role="status" className="grow">
        {t("lesson-balls-waiting-mark", { n: waiting })}
      </p>
      <Button
        keyName={KEYS.inTurn}
        onClick={() => {
          onStart?.();
          markInTurn();
        }}
      >
        {waiting === 1 ? t("lesson-mark") : t("lesson-mark-one-one")}
      </Button>
    </Callout>
  );
}
