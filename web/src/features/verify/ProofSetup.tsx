import type { Proof } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { useActions, useDesk } from "../lesson/LessonContext";

/** Questions a proof depends on, asked once in a lesson: does a stick fix the aim, and who sees the ball fly? */
export function ProofSetup({ proof }: { proof: Proof }) {
  const { aim, flight } = useDesk().lesson.conditions;
  const waitsForStick = proof.held_back_by.includes("aim") && aim !== "stick";
  return (
    <>
      {proof.beside.includes("aim") && (!aim || waitsForStick) && (
        <Question
          asks={t("prove-aim-question")}
          answers={[
            { set: { aim: "stick" }, label: t("prove-aim-held") },
            ...(aim ? [] : [{ set: { aim: "free" }, label: t("prove-aim-free") }]),
          ]}
        />
      )}
      {!flight && (
        <Question
          asks={t("prove-flight-question")}
          answers={[
            { set: { flight: "hidden" }, label: t("prove-flight-hidden") },
            { set: { flight: "visible" }, label: t("prove-flight-visible") },
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
    <fieldset className="flex flex-wrap gap-2">
      <legend className="mb-1 font-semibold">{asks}</legend>
      {answers.map(({ set, label }) => (
        <Button key={label} onClick={() => setConditions.mutate(set)}>
          {label}
        </Button>
      ))}
    </fieldset>
  );
}
