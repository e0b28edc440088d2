import { useQuery } from "@tanstack/react-query";
import { type Proof, queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";
import { useActions, useDesk } from "../lesson/LessonContext";

/** Four old and four new moves in random order: they show whether the movement did it. */
export function Calls({ proof }: { proof: Proof }) {
  const { lesson } = useDesk();
  const { callBalls, endTrial } = useActions();
  const trials = useQuery(queries.trials(lesson.id));
  const running = trials.data?.find((trial) => !trial.ended && trial.next_call !== "");
  const offered = proof.call_balls && !running && lesson.ended_at === null;
  useWindowKeys((event) => {
    if (event.key !== KEYS.call || event.ctrlKey || event.metaKey || inDialog() || typing(event.target)) return;
    if (!offered || callBalls.isPending) return;
    event.preventDefault();
    callBalls.mutate(null);
  });
  if (running) {
    return (
      <Callout tone="straw" as="div" className="flex items-center justify-between gap-3">
        <p aria-live="assertive">
          <strong className="block text-3xl">
            {running.next_call === "old"
              ? t("common-old-move")
              : running.next_call === "new"
                ? t("common-new-move")
                : running.next_call}
          </strong>
          {t("prove-ball-3", { number: running.balls.length + 1, balls: running.balls_planned })}
        </p>
        <Button onClick={() => endTrial.mutate(running.id)}>{t("prove-stop-test")}</Button>
      </Callout>
    );
  }
  if (!offered) return null;
  return (
    <>
      <Button strong keyName={KEYS.call} disabled={callBalls.isPending} onClick={() => callBalls.mutate(null)}>
        {t("prove-test-old-vs-new-4")}
      </Button>
      {callBalls.isError && <Notice error={callBalls.error} />}
    </>
  );
}
