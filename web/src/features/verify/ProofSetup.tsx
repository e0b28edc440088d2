import type { Proof } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { useActions, useDesk } from "../lesson/LessonContext";

/** Two questions, asked once per lesson: is an alignment stick down, and does the coach see the ball fly? */
export function ProofSetup({ proof }: { proof: Proof }) {
  const { aim, flight } = useDesk().lesson.conditions;
  const waitsForStick = proof.held_back_by.includes("aim") && aim !== "stick";
  return (
    <>
      {proof.beside.includes("aim") && (!aim || waitsForStick) && (
        <Question
          asks={t("prove-aim-question")}
          answers={[
            { set: { aim: "stick" }, label: t("common-yes") },
            ...(aim ? [] : [{ set: { aim: "free" }, label: t("common-no") }]),
          ]}
        />
      )}
      {!flight && (
        <Question
          asks={t("prove-flight-question")}
          answers={[
            { set: { flight: "visible" }, label: t("common-yes") },
            { set: { flight: "hidden" }, label: t("common-no") },
          ]}
        />
      )}
    </>
  );
}

type Answer = { set: Record<string, string>; label: string };

function Question({ asks, answers }: { asks: string; answers: Answer[] }) {
  const { setConditions } = useActions();
  return (
    <div role="group" aria-label={asks} className="flex items-center justify-between gap-2">
      <p className="font-semibold">{asks}</p>
      <p className="flex shrink-0 gap-1.5">
        {answers.map(({ set, label }) => (
          <Button key={label} onClick={() => setConditions.mutate(set)}>
            {label}
          </Button>
        ))}
      </p>
    </div>
  );
}
