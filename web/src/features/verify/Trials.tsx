import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { signed } from "../../shared/format/say";
import { Button } from "../../shared/ui/Button";
import { ChooseOne, TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";
import { useActions, useBalls, useDesk } from "../lesson/LessonContext";

type Trial = Schemas["TrialRead"];

const KINDS = [
  { id: "moves", label: "prove-old-move-new-move" },
  { id: "cues", label: "prove-two-cues" },
];

/** Proof sets and cue comparisons: planned, called ball by ball, judged at the end. */
export function Trials({ primary }: { primary: string }) {
  const { lesson } = useDesk();
  const trials = useQuery(queries.trials(lesson.id));
  if (trials.isError) return <Notice error={trials.error} />;
  if (!trials.data) return null;
  const [newest] = trials.data;
  const running = newest && !newest.ended && newest.next_call !== "" ? newest : undefined;
  return (
    <div className="mx-auto flex max-w-5xl flex-col gap-6">
      {running ? <Calling trial={running} /> : <Begin primary={primary} />}
      {trials.data
        .filter((t) => t !== running)
        .map((t) => (
          <Judged key={t.id} trial={t} />
        ))}
    </div>
  );
}

function Begin({ primary }: { primary: string }) {
  const { lesson } = useDesk();
  const actions = useActions();
  const metrics = useKnowledge().metrics.filter((m) => m.plus && m.kind !== "flight");
  const [kind, setKind] = useState("moves");
  const [metric, setMetric] = useState(primary || "path_deg");
  const [effect, setEffect] = useState("3");
  const [first, setFirst] = useState("");
  const [second, setSecond] = useState("");
  const wanted = Number(effect);
  const plan = useQuery({ ...queries.trialPlan(lesson.id, metric, wanted), enabled: wanted > 0, retry: false });
  const unit = metrics.find((m) => m.id === metric)?.unit ?? "";
  const names = kind === "moves" ? { first: "old", second: "new" } : { first, second };
  const ready = plan.data && names.first.trim() && names.second.trim();
  return (
    <section aria-label={t("prove-new-comparison")} className="flex flex-col gap-4">
      <h2 className="text-2xl font-bold">{t("prove-does-make-difference-student")}</h2>
      <ChooseOne label={t("prove-compare")} options={KINDS} value={kind} onChange={(v) => v && setKind(v)} />
      {kind === "cues" && (
        <div className="grid max-w-2xl gap-3 sm:grid-cols-2">
          <TextField label={t("prove-one-cue")} maxLength={60} value={first} onChange={setFirst} />
          <TextField label={t("prove-other-cue")} maxLength={60} value={second} onChange={setSecond} />
        </div>
      )}
      <div className="flex flex-wrap items-end gap-3">
        <Select
          label={t("common-number-2")}
          value={metric}
          options={metrics.map((m) => ({ id: m.id, label: m.label }))}
          onChange={setMetric}
        />
        <TextField
          label={t("prove-smallest-difference-matters", { unit })}
          type="number"
          min="0.1"
          step="0.5"
          value={effect}
          onChange={setEffect}
          className="w-52"
        />
        <Button
          strong
          disabled={!ready || actions.beginTrial.isPending}
          onClick={() => plan.data && actions.beginTrial.mutate({ ...names, primary: metric, balls: plan.data.balls })}
        >
          {plan.data ? t("prove-start-test-balls", { balls: plan.data.balls }) : t("prove-start-test")}
        </Button>
      </div>
      <p className="min-h-6 text-soft" role="status">
        {plan.data?.sentence}
      </p>
      {plan.isError && <Notice error={plan.error} />}
      {actions.beginTrial.isError && <Notice error={actions.beginTrial.error} />}
    </section>
  );
}

/** The next call, as large as possible. */
function Calling({ trial }: { trial: Trial }) {
  const actions = useActions();
  return (
    <section aria-label={t("prove-called-order")} className="flex flex-col gap-4">
      <div className="border-l-8 border-clay bg-clay-ground px-6 py-5" aria-live="assertive">
        <p className="text-xl text-soft">
          {t("prove-ball-next", {
            number: trial.balls.length + 1,
            planned: trial.balls_planned,
          })}
        </p>
        <p className="text-6xl font-bold">{callWords(trial, trial.next_call)}</p>
      </div>
      <Balls trial={trial} />
      <div className="flex items-center gap-4">
        <Button onClick={() => actions.endTrial.mutate(trial.id)}>{t("prove-end-test")}</Button>
        <p className="text-soft">{trial.sentence}</p>
      </div>
    </section>
  );
}

function callWords(trial: Trial, call: string): string {
  const moves = trial.first === "old" && trial.second === "new";
  return moves ? (call === "new" ? t("common-new-move") : t("common-old-move")) : call;
}

function Judged({ trial }: { trial: Trial }) {
  const metric = useKnowledge().metrics.find((m) => m.id === trial.primary);
  return (
    <section
      aria-label={t("prove-vs", { first: trial.first, second: trial.second })}
      className="border-t border-rule pt-3"
    >
      <h3 className="text-xl font-bold">
        {t("prove-vs-2", {
          second: callWords(trial, trial.second),
          first: inside(callWords(trial, trial.first)),
          metric: metric && inside(metric.label),
        })}
      </h3>
      <p className="mb-2 text-lg">{trial.sentence}</p>
      <Balls trial={trial} />
    </section>
  );
}

const SIZE = { width: 900, height: 96, side: 14 };

/** Every ball in order: a disc is the second way, a ring the first, a cross was hit against the call. */
function Balls({ trial }: { trial: Trial }) {
  const { mark } = useDesk();
  const { shots } = useBalls();
  const values = trial.balls.flatMap((b) => (b.value === null ? [] : [b.value]));
  const low = Math.min(...values, 0) - 1;
  const high = Math.max(...values, 0) + 1;
  const x = (i: number) => SIZE.side + ((SIZE.width - 2 * SIZE.side) * (i + 0.5)) / trial.balls_planned;
  const y = (v: number) => SIZE.height - 8 - ((SIZE.height - 16) * (v - low)) / (high - low);
  const last = trial.balls.at(-1);
  const shot = shots.find((s) => s.id === last?.shot_id);
  const other = last && (last.hit === trial.first ? trial.second : trial.first);
  return (
    <div>
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        className="w-full border border-rule bg-sheet"
        role="img"
        aria-label={t("prove-balls-2", {
          n: trial.balls.length,
          planned: trial.balls_planned,
        })}
      >
        <path d={`M0 ${y(0)}H${SIZE.width}`} className="stroke-rule" />
        {trial.balls.map((ball, i) => (
          <g key={ball.shot_id}>
            <title>
              {t("prove-ball-2", {
                number: ball.number,
                hit: ball.hit,
                value: ball.value === null ? "" : `, ${signed(ball.value)}`,
                left_out: ball.counts ? "" : t("prove-does-not-count"),
              })}
            </title>
            {ball.value !== null && !ball.counts && (
              <path
                d={`M${x(i) - 5} ${y(ball.value) - 5}l10 10M${x(i) + 5} ${y(ball.value) - 5}l-10 10`}
                className="stroke-plum"
                strokeWidth="2"
              />
            )}
            {ball.value !== null && ball.counts && (
              <circle
                cx={x(i)}
                cy={y(ball.value)}
                r="7"
                className={ball.hit === trial.second ? "fill-clay stroke-clay" : "fill-sheet stroke-slate"}
                strokeWidth="2.5"
              />
            )}
          </g>
        ))}
      </svg>
      {last && other && !trial.ended && (
        <Button className="mt-2" onClick={() => shot && mark(shot, { intent: other })}>
          {t("prove-ball-hit", { number: last.number, call: callWords(trial, other) })}
        </Button>
      )}
    </div>
  );
}
