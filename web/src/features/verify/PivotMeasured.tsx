import type { Proof } from "../../api/queries";
import { useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { useChosen } from "../lesson/LessonContext";
import { type PivotMark, type PivotProof, pivotName, pivotValue } from "./pivot";

/** What an instrument measured on the selected ball, and whether the coach disagreed. */
export function BallPivot({ proof, ballIds }: { proof: Proof; ballIds: number[] }) {
  const knowledge = useKnowledge();
  const { target } = useChosen();
  const place = target ? ballIds.indexOf(target.id) : -1;
  const observed = proof.pivot?.balls[place];
  if (!proof.pivot || !target || !observed || target.covered) return null;
  const { gate } = proof.pivot;
  const mark = observed.mark ? knowledge.words.movement?.[observed.mark] : t("prove-no-mark");
  const overruled = observed.mark && target.movement !== "" && target.mark_basis !== "measured";
  return (
    <p className="text-soft">
      {t("prove-measured", {
        what: inside(pivotName(gate)),
        value: pivotValue(gate, observed.value),
        error: pivotValue(gate, observed.error).replace("+", ""),
        mark: mark?.toLowerCase(),
      })}{" "}
      <Doubts observed={observed} />
      {overruled && observed.mark !== target.movement && <strong>{t("prove-judged-differently-mark-counts")}</strong>}
    </p>
  );
}

function Doubts({ observed }: { observed: PivotMark }) {
  if (observed.broken) return t("prove-something-else-changed-along-explains");
  return observed.close && observed.mark ? t("prove-close-limit") : null;
}

/** Where the gate on the body comes from, if not from this student's baseline. */
export function gateNotes(pivot: PivotProof | null): string[] {
  if (!pivot) return [];
  return [
    ...(pivot.gate.balls === 0 ? [t("prove-no-baseline-ball-measured-gate")] : []),
    ...(pivot.gate.blunt ? [t("prove-belt-cant-separate-good-bad")] : []),
  ];
}

/** What a claim is based on: marks or slope, and agreement of coach and instrument. */
export function PivotGrounds({ pivot }: { pivot: PivotProof }) {
  const { agreement } = pivot;
  return (
    <>
      <dt className="text-soft">{t("prove-method")}</dt>
      <dd>
        {pivot.by === "slope"
          ? t("prove-slope-measured-pivot")
          : pivot.by === "marks"
            ? t("prove-balls-done-minus-balls-missed")
            : t("prove-nothing-yet")}
      </dd>
      {agreement.both > 0 && (
        <>
          <dt className="text-soft">{t("prove-eye-instrument")}</dt>
          <dd>{t("prove-same-balls", { same: agreement.same, both: agreement.both })}</dd>
        </>
      )}
    </>
  );
}
