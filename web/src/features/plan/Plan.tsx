import { useQuery } from "@tanstack/react-query";
import { RadioGroup } from "radix-ui";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { type Candidate, type CorrectionIn, queries, useKnowledge } from "../../api/queries";
import { DrillFigure } from "../../shared/charts/DrillFigure";
import { dayWords } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { signed } from "../../shared/format/say";
import { distance } from "../../shared/format/units";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { ChooseOne, TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { useDesk } from "../lesson/LessonContext";
import { BeforeAfter } from "./BeforeAfter";
import { GateRuler } from "./GateRuler";
import { Landings } from "./Landings";

type Windows = Record<string, [number, number]>;

type Props = {
  candidate: Candidate;
  active: Schemas["CorrectionOut"] | null;
  wish: { drill: string | null; stage: string | null } | null;
  pending: boolean;
  error: Error | null;
  onTake: (body: CorrectionIn) => void;
};

/** What would change, the drill, the gate, the cautions; taking it writes the prediction down. */
export function Plan({ candidate, active, wish, pending, error, onTake }: Props) {
  const knowledge = useKnowledge();
  const gate = candidate.gate;
  const { hand, units } = useDesk();
  const [drillId, setDrill] = useState(
    active?.drill || wished(candidate, wish?.drill) || candidate.drills[0]?.drill.id || "",
  );
  const [stage, setStage] = useState(
    active?.stage ?? (wish?.stage && gate?.by_stage[wish.stage] ? wish.stage : "half"),
  );
  const window = (active && gate ? active.gate[gate.primary] : gate?.by_stage[stage]) as [number, number] | undefined;
  const [low, setLow] = useState(String(window?.[0] ?? ""));
  const [high, setHigh] = useState(String(window?.[1] ?? ""));
  const choice = candidate.drills.find((d) => d.drill.id === drillId);
  const drill = choice?.drill;
  const metric = knowledge.metrics.find((m) => m.id === gate?.primary);
  const proposed = (gate?.guards ?? {}) as Windows;
  const [guards, setGuards] = useState((active?.guards ?? proposed) as Windows);
  const stages = knowledge.stages
    .filter((s) => s.ball)
    .map((s) => ({ id: s.id, label: knowledge.words.stage?.[s.id] ?? s.id }));
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
      drill: drill?.id ?? "",
      stage,
      // Only what was moved: everything else the server works out.
      ...(same(wanted, usual) ? {} : { gate: { [gate.primary]: wanted } }),
      ...(Object.entries(guards).every(([id, window]) => same(window, proposed[id])) ? {} : { guards }),
    });
  }

  return (
    <section aria-label={t("Plan for {label}", { label: candidate.label })} className="flex flex-col gap-5">
      <div className="flex items-start justify-between gap-4">
        <div>
          <h2 className="text-2xl font-bold">
            {t("If only {label} changed", { label: candidate.label.toLowerCase() })}
          </h2>
          <p className="max-w-prose">{candidate.reason}</p>
        </div>
        <Button strong disabled={!gate || pending} onClick={take} className="shrink-0">
          {active ? t("Take it anew") : t("Take this correction")}
        </Button>
      </div>
      <GoesOn fault={candidate.id} />
      {active && (
        <p className="text-soft">{t("Taking it anew starts a new proof; the balls before stay in the record.")}</p>
      )}
      {candidate.prediction && (
        <div className="grid items-start gap-4 2xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] [&>figure]:max-w-xl">
          <BeforeAfter prediction={candidate.prediction} />
          <Landings
            before={candidate.prediction.landings_before as [number, number][]}
            after={candidate.prediction.landings_after as [number, number][]}
            hand={hand}
            unit={(m) => distance(m, units)}
          />
        </div>
      )}
      <div>
        <h3 className="mb-1 text-lg font-semibold">{t("Drill")}</h3>
        <RadioGroup.Root
          value={drillId}
          onValueChange={setDrill}
          aria-label={t("Drill")}
          className="grid gap-2 md:grid-cols-2"
        >
          {candidate.drills.map(({ drill: d, follows_school, scaled, at_home }) => (
            <RadioGroup.Item
              key={d.id}
              value={d.id}
              className="border border-rule bg-sheet px-3 py-2 text-left hover:border-ink data-[state=checked]:border-ink data-[state=checked]:shadow-[inset_4px_0_0_var(--color-clay)]"
            >
              <span className="block font-semibold">
                {d.name}
                {follows_school && <span className="font-normal text-soft">{t(", your school")}</span>}
              </span>
              <span className="block text-lg">“{d.cue}”</span>
              <span className="block text-sm text-soft">
                {d.object === "none" ? t("No object.") : t("Needs {object}.", { object: d.object })}
              </span>
              {!at_home && (
                <span className="block text-sm text-soft">
                  {t("Nothing at home to do it with{needs}.", {
                    needs: d.kit.length ? t(": needs {kit}", { kit: d.kit.join(" or ").replaceAll("-", " ") }) : "",
                  })}
                </span>
              )}
              {scaled.length > 0 && (
                <span className="block text-sm text-plum">
                  {t("Loads {scaled}: half range, half speed, or not at all.", {
                    scaled: scaled.join(", ").replaceAll("-", " "),
                  })}
                </span>
              )}
            </RadioGroup.Item>
          ))}
        </RadioGroup.Root>
      </div>
      {drill && (
        <div className="grid items-start gap-5 sm:grid-cols-[11rem_1fr]">
          <DrillFigure drill={drill.id} hand={hand} title={drill.name} className="w-full bg-sheet" />
          <DrillSheet drill={drill} />
        </div>
      )}
      {gate && metric ? (
        <div>
          <h3 className="mb-1 text-lg font-semibold">{t("Gate")}</h3>
          <p className="mb-2">
            {t(
              "{label} should {direction} by about {change}{unit} and pass between these two numbers ({plus} is +, {minus} is −).",
              {
                label: metric.label,
                direction: gate.direction,
                change: signed(Math.abs(gate.predicted)).replace("+", ""),
                unit: metric.unit === "°" ? "°" : ` ${metric.unit}`,
                plus: metric.plus || t("more"),
                minus: metric.minus || t("less"),
              },
            )}
          </p>
          <GateRuler
            label={metric.label}
            unit={metric.unit}
            values={gate.baseline[gate.primary]?.values ?? []}
            predicted={(gate.baseline[gate.primary]?.centre ?? 0) + gate.predicted}
            low={Number(low)}
            high={Number(high)}
            step={metric.unit === "mm" ? 1 : 0.5}
            onChange={(from, to) => {
              setLow(String(from));
              setHigh(String(to));
            }}
          />
          <div className="flex flex-wrap items-end gap-3">
            <TextField
              label={t("From [{unit}]", { unit: metric.unit })}
              type="number"
              step="0.5"
              value={low}
              onChange={setLow}
              className="w-28"
            />
            <TextField
              label={t("To [{unit}]", { unit: metric.unit })}
              type="number"
              step="0.5"
              value={high}
              onChange={setHigh}
              className="w-28"
            />
            <ChooseOne label={t("First stage")} options={stages} value={stage} onChange={(v) => v && choose(v)} />
          </div>
          {Object.entries(guards).map(([id, [from, to]]) => {
            const guarded = knowledge.metrics.find((m) => m.id === id);
            return (
              <div key={id} className="mt-3">
                <p className="text-soft">
                  {t("Guard: {label} stays from {low} to {high} {unit}, or the ball does not count as an answer.", {
                    label: guarded?.label.toLowerCase(),
                    low: signed(from),
                    high: signed(to),
                    unit: guarded?.unit,
                  })}
                </p>
                <GateRuler
                  label={guarded?.label ?? id}
                  unit={guarded?.unit ?? ""}
                  values={gate.baseline[id]?.values ?? []}
                  low={from}
                  high={to}
                  step={guarded?.unit === "mm" ? 1 : 0.5}
                  onChange={(low, high) => setGuards({ ...guards, [id]: [low, high] })}
                />
              </div>
            );
          })}
        </div>
      ) : (
        <p className="text-soft">
          {t("Nothing this fault moves was measured: bring in balls before it can be proved.")}
        </p>
      )}
      <Callout as="ul" tone="straw">
        {[...(choice?.cautions ?? []), ...always].map((text) => (
          <li key={text}>{text}</li>
        ))}
      </Callout>
      {error && <Notice error={error} />}
    </section>
  );
}

function wished(candidate: Candidate, drill: string | null | undefined): string | undefined {
  return candidate.drills.find((d) => d.drill.id === drill)?.drill.id;
}

/** A correction that goes on from an earlier lesson is measured from where it was begun. */
function GoesOn({ fault }: { fault: string }) {
  const { lesson } = useDesk();
  const test = useQuery(queries.coldTest(lesson.id)).data?.test;
  if (test?.fault !== fault) return null;
  return (
    <Callout tone="straw">
      {t(
        "Goes on from {day}: its number and its gates stay, and the change is measured from the baseline of {since}.",
        { day: dayWords(test.day), since: dayWords(test.since) },
      )}
    </Callout>
  );
}

function same(a: number[], b: number[] | undefined): boolean {
  return b !== undefined && a[0] === b[0] && a[1] === b[1];
}

function DrillSheet({ drill }: { drill: Candidate["drills"][number]["drill"] }) {
  const lines: [string, string][] = [
    [t("Set up"), drill.setup],
    [t("The movement is made when"), drill.mark],
    [t("How it is faked"), drill.fake],
    [t("Ball wanted first"), drill.wanted],
    [t("Expect at first"), drill.ugly],
    [t("Goes with"), drill.matchups.join(", ")],
  ];
  return (
    <dl className="grid grid-cols-[10rem_1fr] gap-x-4 gap-y-1">
      {lines
        .filter(([, text]) => text)
        .map(([title, text]) => (
          <div key={title} className="contents">
            <dt className="text-soft">{title}</dt>
            <dd>{text}</dd>
          </div>
        ))}
    </dl>
  );
}
