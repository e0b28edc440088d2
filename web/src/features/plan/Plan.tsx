import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { type Candidate, type CorrectionIn, queries, useKnowledge } from "../../api/queries";
import { dayWords } from "../../shared/format/days";
import { inside, t } from "../../shared/format/language";
import { signed } from "../../shared/format/say";
import { distance } from "../../shared/format/units";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { ChooseOne } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Tabs } from "../../shared/ui/Tabs";
import { useDesk } from "../lesson/LessonContext";
import { BeforeAfter } from "./BeforeAfter";
import { DrillChoice } from "./DrillChoice";
import { GateForm, type Windows } from "./GateForm";
import { Landings } from "./Landings";

const PARTS = [
  { id: "drill", label: "common-drill" },
  { id: "gate", label: "correct-gate" },
  { id: "would", label: "correct-expected-effect" },
];

type Props = {
  candidate: Candidate;
  active: Schemas["CorrectionOut"] | null;
  wish: { drill: string | null; stage: string | null } | null;
  pending: boolean;
  error: Error | null;
  onTake: (body: CorrectionIn) => void;
};

/** Expected effect, drill, gate, cautions; starting stores the prediction. */
export function Plan({ candidate, active, wish, pending, error, onTake }: Props) {
  const knowledge = useKnowledge();
  const gate = candidate.gate;
  const { hand, units } = useDesk();
  const first = candidate.drills[0]?.drill.id ?? "";
  // When the coach takes another side of a question, the drill follows: a pick stays only while its school does.
  const schoolOf = (id: string) => {
    const opposed = candidate.drills.some((d) => d.drill.id === id && d.opposes_school);
    const followed = candidate.drills.filter((d) => d.follows_school).map((d) => d.drill.id);
    return [String(opposed), ...followed.toSorted()].join();
  };
  const [picked, pick] = useState(() => {
    const drill = active?.drill || wished(candidate, wish?.drill) || first;
    return { drill, school: schoolOf(drill) };
  });
  const drillId = picked.school === schoolOf(picked.drill) ? picked.drill : first;
  const setDrill = (drill: string) => pick({ drill, school: schoolOf(drill) });
  const [stage, setStage] = useState(
    active?.stage ?? (wish?.stage && gate?.by_stage[wish.stage] ? wish.stage : "half"),
  );
  const window = (active && gate ? active.gate[gate.primary] : gate?.by_stage[stage]) as [number, number] | undefined;
  const [low, setLow] = useState(String(window?.[0] ?? ""));
  const [high, setHigh] = useState(String(window?.[1] ?? ""));
  const choice = candidate.drills.find((d) => d.drill.id === drillId);
  const [part, show] = useState("drill");
  const stages = knowledge.stages
    .filter((s) => s.ball)
    .map((s) => ({ id: s.id, label: knowledge.words.stage?.[s.id] ?? s.id }));
  const [feltWish, setFelt] = useState(active?.felt_by ?? "");
  const feels = choice?.felt_by.map((feel) => feel.id) ?? [];
  // Another drill has other ways: the most telling of its own stands until one is chosen.
  const feltBy = feels.includes(feltWish) ? feltWish : (feels[0] ?? "");
  const metric = knowledge.metrics.find((m) => m.id === gate?.primary);
  const proposed = (gate?.guards ?? {}) as Windows;
  const [guards, setGuards] = useState((active?.guards ?? proposed) as Windows);
  const always = knowledge.cautions.filter((c) => c.when === "always").map((c) => c.text);

  // Early stages have wider gates; a gate the coach has moved stays as it is.
  function choose(next: string) {
    const before = gate?.by_stage[stage];
    const after = gate?.by_stage[next];
    if (after && before && Number(low) === before[0] && Number(high) === before[1]) {
      setLow(String(after[0]));
      setHigh(String(after[1]));
    }
    setStage(next);
  }

  function take() {
    if (!gate) return;
    const wanted: [number, number] = [Number(low), Number(high)];
    const usual = gate.by_stage[stage] ?? gate.gate[gate.primary];
    onTake({
      fault: candidate.id,
      variant: candidate.variant ?? "",
      drill: choice?.drill.id ?? "",
      felt_by: feltBy,
      stage,
      // Only what was moved: everything else the server works out.
      ...(same(wanted, usual) ? {} : { gate: { [gate.primary]: wanted } }),
      ...(Object.entries(guards).every(([id, window]) => same(window, proposed[id])) ? {} : { guards }),
    });
  }

  return (
    <section aria-label={t("correct-plan", { label: candidate.label })} className="flex flex-col gap-3">
      <div className="flex items-start justify-between gap-4">
        <div>
          <h2 className="text-2xl font-bold">{t("correct-if-only-changed", { label: inside(candidate.label) })}</h2>
          <p className="max-w-prose">{candidate.reason}</p>
        </div>
        <Button strong disabled={!gate || pending} onClick={take} className="shrink-0">
          {active ? t("correct-start-over") : t("correct-start-correction")}
        </Button>
      </div>
      <GoesOn fault={candidate.id} />
      {active && <p className="text-soft">{t("correct-starting-over-begins-new-proof")}</p>}
      {gate && metric ? (
        <div className="flex flex-wrap items-end gap-x-6 gap-y-1">
          <ChooseOne label={t("correct-first-stage")} options={stages} value={stage} onChange={(v) => v && choose(v)} />
          <p className="pb-2 text-soft">
            {t("correct-gate-2", {
              label: inside(metric.label),
              low: signed(Number(low)),
              high: signed(Number(high)),
              unit: metric.unit,
            })}
          </p>
        </div>
      ) : (
        <p className="text-soft">{t("correct-no-number-fault-moves-measured")}</p>
      )}
      {error && <Notice error={error} />}
      <Cautions texts={choice?.cautions ?? []} />
      <Tabs label={t("correct-parts-plan")} tabs={PARTS} value={part} onChange={show} />
      {part === "would" && candidate.prediction && (
        <div className="grid items-start gap-6 xl:grid-cols-[minmax(0,7fr)_minmax(0,5fr)] [&>figure]:max-w-xl">
          <BeforeAfter prediction={candidate.prediction} />
          <Landings
            before={candidate.prediction.landings_before as [number, number][]}
            after={candidate.prediction.landings_after as [number, number][]}
            hand={hand}
            unit={(m) => distance(m, units)}
          />
        </div>
      )}
      {part === "drill" && (
        <DrillChoice drills={candidate.drills} chosen={choice} onChoose={setDrill} feltBy={feltBy} onFeltBy={setFelt} />
      )}
      {part === "gate" && gate && metric && (
        <GateForm
          gate={gate}
          metric={metric}
          window={[low, high]}
          onWindow={([from, to]) => {
            setLow(from);
            setHigh(to);
          }}
          guards={guards}
          onGuards={setGuards}
        />
      )}
      <Cautions texts={always} />
    </section>
  );
}

function Cautions({ texts }: { texts: string[] }) {
  if (texts.length === 0) return null;
  return (
    <Callout as="ul" tone="straw">
      {texts.map((text) => (
        <li key={text}>{text}</li>
      ))}
    </Callout>
  );
}

function wished(candidate: Candidate, drill: string | null | undefined): string | undefined {
  return candidate.drills.find((d) => d.drill.id === drill)?.drill.id;
}

/** A continued correction is measured from where it began. */
function GoesOn({ fault }: { fault: string }) {
  const { lesson } = useDesk();
  const test = useQuery(queries.coldTest(lesson.id)).data?.test;
  if (test?.fault !== fault) return null;
  return (
    <Callout tone="straw">
      {t("correct-continues-number-gates-stay-change", { day: dayWords(test.day), since: dayWords(test.since) })}
    </Callout>
  );
}

function same(a: number[], b: number[] | undefined): boolean {
  return b !== undefined && a[0] === b[0] && a[1] === b[1];
}
