import type { Schemas } from "../../api/client";
import { type Knowledge, type Proof, type Shot, useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { signed } from "../../shared/format/say";
import { KEYS, verdictName } from "../../shared/format/verdict";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Details } from "../../shared/ui/Details";
import { movementMark, UNCOVER } from "../lesson/keys";
import { useBalls, useChosen, useDesk } from "../lesson/LessonContext";
import { WaitingMarks } from "../lesson/WaitingMarks";
import { Calls } from "./Calls";
import { ChangeRuler } from "./ChangeRuler";
import { BallPivot, gateNotes, PivotGrounds } from "./PivotMeasured";
import { ProofSetup } from "./ProofSetup";
import { Stage } from "./Stage";
import { VerdictMark } from "./VerdictMark";

type Correction = Schemas["CorrectionOut"];
type Props = { correction: Correction; proof: Proof; ballIds: number[] };

/** Share of balls through the gate above which no explanation is needed. */
const OFTEN = 0.6;

/** Verdict, movement keys, running change, stage. */
export function ProofPanel({ correction, proof, ballIds }: Props) {
  const stage = useKnowledge().stages.find((s) => s.id === correction.stage);
  return (
    <aside aria-label={t("prove-proof")} className="flex flex-col gap-3">
      <Calls proof={proof} />
      {stage?.ball === false ? (
        <WithoutBall correction={correction} />
      ) : (
        <>
          <div>
            <BallVerdict proof={proof} ballIds={ballIds} />
            <BallPivot proof={proof} ballIds={ballIds} />
          </div>
          <MovementKeys correction={correction} ballIds={ballIds} />
        </>
      )}
      <ProofSetup proof={proof} />
      <WaitingMarks />
      {proof.alarms.map((alarm) => (
        <Callout tone="plum" key={alarm.id} role="alert">
          {alarm.text}
        </Callout>
      ))}
      {proof.expected.map((phase) => (
        <Callout tone="straw" key={phase.id}>
          {phase.text} <strong>{phase.matchup}</strong>
          <span className="block text-sm text-soft">
            {t("prove-last-balls-moved", { shown: phase.shown, of: phase.of })}
          </span>
        </Callout>
      ))}
      <Running correction={correction} proof={proof} ballIds={ballIds} />
      <Stage correction={correction} proof={proof} />
    </aside>
  );
}

/** A stage that is practiced without a ball: what to do, and no verdict of a ball from another stage. */
function WithoutBall({ correction }: { correction: Correction }) {
  const knowledge = useKnowledge();
  return (
    <div className="min-h-22">
      <p className="text-2xl font-bold">{knowledge.words.stage?.[correction.stage ?? ""]}</p>
      <SuccessLooksLike correction={correction} />
    </div>
  );
}

/** What the movement mark means: when a movement counts as done. */
function SuccessLooksLike({ correction }: { correction: Correction }) {
  const drill = useKnowledge().drills.find((d) => d.id === correction.drill);
  if (!drill) return null;
  return (
    <p className="mb-1">
      <strong>{t("prove-success-looks-like")}</strong> {drill.mark}
    </p>
  );
}

/** Announced as one: the whole verdict, not just the changed word. */
function BallVerdict(props: { proof: Proof; ballIds: number[] }) {
  return (
    <div aria-live="polite" aria-atomic="true" className="min-h-22 max-lg:min-h-15">
      <OfTheBall {...props} />
    </div>
  );
}

function OfTheBall({ proof, ballIds }: { proof: Proof; ballIds: number[] }) {
  const knowledge = useKnowledge();
  const { target } = useChosen();
  const place = target ? ballIds.indexOf(target.id) : -1;
  const verdict = proof.verdicts[place];
  if (target?.covered) return <Covered number={target.number} />;
  if (!target || ballIds.length === 0)
    return <p className="text-lg text-soft">{t("prove-next-ball-gets-first-verdict")}</p>;
  // The ball or its mark is newer than the proof: what that says of it comes in a moment.
  if (!verdict || (verdict.moved === null && isMarked(target)))
    return <p className="text-2xl font-bold">{t("common-ball-2", { number: target.number })}</p>;
  const unmarked = target.movement === "" && target.intent === "";
  return (
    <>
      <p className="flex items-center gap-3 text-2xl font-bold">
        <VerdictMark verdict={verdict.verdict} movement={target.movement} size={26} />
        {unmarked && verdict.verdict === "unclear" && verdict.answered !== null
          ? t("prove-did-body-do")
          : verdictName(knowledge.words, verdict.verdict, target.movement)}
      </p>
      <p className="text-soft">
        {t("prove-ball", { number: target.number, reasons: verdict.reasons.join(" ") })}{" "}
        {target.note && <em>{target.note}.</em>}
      </p>
    </>
  );
}

const isMarked = ({ movement }: Shot) => movement !== "" && movement !== "unseen";

/** The hidden ball: the question, and nothing that could answer it. */
function Covered({ number }: { number: number }) {
  const { mark } = useDesk();
  const { target } = useChosen();
  return (
    <>
      <p className="flex items-center gap-3 text-2xl font-bold">
        <VerdictMark verdict="unclear" size={26} />
        {t("prove-did-body-do")}
      </p>
      <p className="flex items-center gap-3 text-soft">
        {t("common-ball-hidden-until-mark", { number })}
        <Button keyName={KEYS.uncover} onClick={() => target && mark(target, UNCOVER)}>
          {t("prove-show-numbers")}
        </Button>
      </p>
    </>
  );
}

/** Four big keys; they mark the selected ball, or the newest. */
function MovementKeys({ correction, ballIds }: { correction: Correction; ballIds: number[] }) {
  const knowledge = useKnowledge();
  const { mark } = useDesk();
  const { target } = useChosen();
  const open = target !== undefined && (target.covered || ballIds.includes(target.id));
  return (
    <div>
      <SuccessLooksLike correction={correction} />
      <div
        role="group"
        aria-label={target ? t("prove-movement-ball", { number: target.number }) : t("common-movement")}
        className="grid grid-cols-4 gap-1.5 lg:@max-[70rem]:grid-cols-2"
      >
        {(["done", "partly", "missed", "unseen"] as const).map((movement) => (
          <Button
            key={movement}
            keyName={KEYS[movement]}
            disabled={!open}
            aria-pressed={target?.movement === movement}
            className="min-h-14 flex-col gap-0.5 px-1 text-[0.9375rem] leading-none text-balance min-[1700px]:text-base"
            onClick={() => target && mark(target, movementMark(movement, target))}
          >
            {knowledge.words.movement?.[movement]}
          </Button>
        ))}
      </div>
    </div>
  );
}

function Running({ correction, proof, ballIds }: Props) {
  const knowledge = useKnowledge();
  const metric = knowledge.metrics.find((m) => m.id === correction.primary);
  const { change, in_gate, pattern } = proof;
  // One claim, one number: the interval of what the claim rests on is the one that is shown.
  const together = proof.rests_on === "pattern";
  const { shots } = useBalls();
  const waiting = shots.at(-1)?.covered;
  // The number the tape shows: the proof itself counts the balls of this correction only.
  const since = proof.verified_at === null ? undefined : ballIds[proof.verified_at - 1];
  const sinceBall = shots.find((shot) => shot.id === since)?.number;
  const unit = metric?.unit === "°" ? "°" : ` ${metric?.unit ?? ""}`;
  const sure = proof.status === "verified";
  return (
    <section aria-label={t("prove-change-so-far")} className="border-t border-rule pt-2">
      <h2 className="flex items-baseline justify-between gap-3">
        <span
          role="status"
          className={`text-xl font-bold ${sure ? "text-moss" : proof.status === "compensated" || proof.status === "not-supported" ? "text-plum" : ""}`}
        >
          {knowledge.words.status?.[proof.status]}
        </span>
        <span className="text-sm text-soft">
          {sure && sinceBall !== undefined && t("prove-since-ball", { number: sinceBall })}
        </span>
      </h2>
      <p className="text-soft">{proof.reason}</p>
      {together && pattern ? (
        <p>
          {t("prove-together", { metrics: patternNames(pattern, knowledge) })}{" "}
          <strong>{t("prove-sd-toward-prediction", { change: signed(pattern.estimate ?? 0) })}</strong>{" "}
          <span className="text-soft">
            {t("prove-to-3", {
              low: signed(pattern.low ?? 0),
              high: signed(pattern.high ?? 0),
            })}
          </span>
        </p>
      ) : (
        <>
          <ChangeRuler
            {...change}
            predicted={correction.predicted}
            unit={unit}
            label={t("prove-change", { label: metric && inside(metric.label) })}
          />
          <p>
            {t("prove-move", { label: metric?.label })} <ChangeInWords change={change} unit={unit} />
          </p>
        </>
      )}
      <p className="empty:hidden">
        {in_gate.rate !== null && (
          <span className="text-soft">
            {" "}
            {waiting
              ? t("prove-mark-ball-count-gate")
              : t("prove-through-gate", { hits: in_gate.hits, balls: in_gate.balls })}{" "}
            {sure && !waiting && in_gate.rate < OFTEN && t("prove-change-real-but-not-every")}
          </span>
        )}
      </p>
      {proof.pivot && <p>{proof.pivot.slope.sentence}</p>}
      <Grounds correction={correction} proof={proof} />
    </section>
  );
}

type ChangeProps = { change: Proof["change"]; unit: string };

/** How far a number changed, with its interval once there is one. */
function ChangeInWords({ change, unit }: ChangeProps) {
  if (change.estimate === null) return t("prove-no-balls-count-yet");
  return (
    <>
      <strong>
        {signed(change.estimate)}
        {unit}
      </strong>{" "}
      <span className="text-soft">
        {change.low === null || change.high === null
          ? t("prove-so-far-too-few-balls")
          : t("prove-to-3", { low: signed(change.low), high: signed(change.high) })}
      </span>
    </>
  );
}

function patternNames(pattern: NonNullable<Proof["pattern"]>, knowledge: Knowledge): string {
  const named = new Map(knowledge.metrics.map((m) => [m.id, m.label]));
  return pattern.metrics.map((m, i) => (i === 0 ? named.get(m) : inside(named.get(m) ?? m)) ?? m).join(", ");
}

/** Details of the claim: notes on the numbers, marks, link, the fault's other numbers. */
function Grounds({ correction, proof }: { correction: Correction; proof: Proof }) {
  const knowledge = useKnowledge();
  const metric = knowledge.metrics.find((m) => m.id === correction.primary);
  const { marks, pattern, link } = proof;
  const counted = (["blind", "seen", "measured", "unmarked"] as const).filter((kind) => marks[kind] > 0);
  const words: Record<string, string> = { ...knowledge.words.mark_basis, unmarked: t("prove-not-marked") };
  return (
    <Details summary={t("common-details")}>
      {[...proof.notes, ...gateNotes(proof.pivot)].map((note) => (
        <p key={note} className="mb-2">
          {note}
        </p>
      ))}
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        <dt className="text-soft">{t("prove-marks")}</dt>
        <dd>
          {counted.length === 0
            ? t("common-none-yet")
            : counted.map((kind) => `${marks[kind]} ${inside(words[kind] ?? "")}`).join(", ")}
        </dd>
        <dt className="text-soft">{t("prove-link")}</dt>
        <dd>{link.tested ? t("prove-tested-balls-stage") : t("prove-not-tested-yet-hit-balls")}</dd>
        {proof.pivot && <PivotGrounds pivot={proof.pivot} />}
        {proof.rests_on === "pattern" && (
          <>
            <dt className="text-soft">{t("prove-own")}</dt>
            <dd>
              {metric?.label}{" "}
              <ChangeInWords change={proof.change} unit={metric?.unit === "°" ? "°" : ` ${metric?.unit}`} />
            </dd>
          </>
        )}
        {pattern && (
          <>
            <dt className="text-soft">{t("prove-pattern")}</dt>
            <dd>
              {t("prove-metrics", { metrics: patternNames(pattern, knowledge) })}
              {pattern.estimate === null
                ? t("prove-nothing-yet")
                : pattern.low === null || pattern.high === null
                  ? t("prove-sd-toward-prediction-range-open", { change: signed(pattern.estimate) })
                  : t("prove-sd-toward-prediction-2", {
                      change: signed(pattern.estimate),
                      low: signed(pattern.low),
                      high: signed(pattern.high),
                    })}
            </dd>
          </>
        )}
      </dl>
    </Details>
  );
}
