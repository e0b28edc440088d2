import { useMutation, useQueryClient } from "@tanstack/react-query";
import { ask, client, type Schemas } from "../../api/client";
import { type Proof, queries, useKnowledge, useSession } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Details } from "../../shared/ui/Details";
import { FeltBy } from "../../shared/ui/FeltBy";
import { ChooseOne } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Conditions } from "../lesson/Conditions";
import { useActions, useDesk } from "../lesson/LessonContext";

type Props = { correction: Schemas["CorrectionOut"]; proof: Proof };

/** The stage: progress, advice, up, down, and closing the correction. */
export function Stage({ correction, proof }: Props) {
  const knowledge = useKnowledge();
  const actions = useActions();
  const ladder = knowledge.stages.map((s) => s.id);
  const here = ladder.indexOf(correction.stage ?? "full");
  const { advice } = proof;
  const name = (i: number) => knowledge.words.stage?.[ladder[i] ?? ""] ?? "";
  const go = (i: number) => actions.changeCorrection.mutate({ id: correction.id, body: { stage: ladder[i] } });
  const close = (outcome: string) => actions.changeCorrection.mutate({ id: correction.id, body: { outcome } });
  return (
    <section aria-label={t("prove-stage")} className="border-t border-rule pt-2">
      <h2 className="flex items-center justify-between">
        <span className="text-xl font-bold">{name(here)}</span>
        <Slots hits={advice.hits} need={advice.need} of={advice.of} />
      </h2>
      <p>{advice.reason}</p>
      <Felt correction={correction} />
      <div className="mt-2 flex flex-wrap gap-2">
        <Button disabled={here <= 0} strong={advice.stage === "down"} onClick={() => go(here - 1)}>
          {t("prove-down", { to: here > 0 ? t("prove-to-2", { name: inside(name(here - 1)) }) : "" })}
        </Button>
        <Button disabled={here >= ladder.length - 1} strong={advice.stage === "up"} onClick={() => go(here + 1)}>
          {t("prove-up", { to: here < ladder.length - 1 ? t("prove-to-2", { name: inside(name(here + 1)) }) : "" })}
        </Button>
        {proof.status === "not-supported" && (
          <Button onClick={() => close("not-supported")}>{t("prove-close-re-rank-causes")}</Button>
        )}
        {proof.status === "verified" && correction.outcome !== "verified" && (
          <Button onClick={() => close("verified")}>{t("prove-close-verified")}</Button>
        )}
      </div>
      <Conditions />
      <StageRule wanted={knowledge.stages[here]?.wanted ?? ""} />
      {actions.changeCorrection.isError && <Notice error={actions.changeCorrection.error} />}
    </section>
  );
}

/** The feel of the drill, changeable. */
function Felt({ correction }: { correction: Schemas["CorrectionOut"] }) {
  const knowledge = useKnowledge();
  const { changeCorrection } = useActions();
  const drill = knowledge.drills.find((d) => d.id === correction.drill);
  const feels = knowledge.felt.filter((feel) => drill?.felt_by.includes(feel.id) || feel.id === correction.felt_by);
  if (feels.length === 0) return null;
  return (
    <Details
      summary={t("prove-feel", {
        way: feels.find((feel) => feel.id === correction.felt_by)?.label ?? t("prove-random"),
      })}
    >
      <FeltBy
        feels={feels}
        value={correction.felt_by}
        onChange={(felt_by) => changeCorrection.mutate({ id: correction.id, body: { felt_by } })}
      />
    </Details>
  );
}

/** The gate counter: a slot for each ball that counts, the target marked. */
function Slots({ hits, need, of }: { hits: number; need: number; of: number }) {
  if (of === 0) return null;
  return (
    <svg
      viewBox={`0 0 ${of * 16} 22`}
      height="22"
      width={of * 16}
      role="img"
      aria-label={t("prove-last-linked-needed", { hits, of, need })}
    >
      {Array.from({ length: of }, (_, i) => (
        <rect
          key={`slot${i + 1}`}
          x={i * 16 + 2}
          y={3}
          width={11}
          height={11}
          className={i < hits ? "fill-ink stroke-ink" : "fill-sheet stroke-soft"}
          strokeWidth="1.5"
        />
      ))}
      <path d={`M${need * 16 - 0.5} 0V20`} className="stroke-straw" strokeWidth="3" />
    </svg>
  );
}

const RULES = [
  { id: "count", label: "prove-balls-counted" },
  { id: "chance", label: "prove-chance-holds" },
];

/** When a stage counts as passed: what it asks for, and the coach's rule for all their lessons. */
function StageRule({ wanted }: { wanted: string }) {
  const session = useSession();
  const { lesson } = useDesk();
  const cache = useQueryClient();
  const change = useMutation({
    mutationFn: (stage_rule: string) => ask(client.PATCH("/api/v1/session", { body: { stage_rule } })),
    onSuccess: (result) => {
      cache.setQueryData(queries.session.queryKey, result);
      return cache.invalidateQueries(queries.proof(lesson.id));
    },
  });
  return (
    <Details summary={t("prove-when-stage-passed")}>
      <p className="mb-2">{wanted}</p>
      {session.name === lesson.coach_name && (
        <ChooseOne
          label={t("prove-passed")}
          options={RULES}
          value={session.stage_rule}
          onChange={(rule) => rule && change.mutate(rule)}
        />
      )}
      {change.isError && <Notice error={change.error} />}
    </Details>
  );
}
