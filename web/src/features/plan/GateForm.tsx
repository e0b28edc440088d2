import { type Candidate, useKnowledge } from "../../api/queries";
import { fixed, inside, t } from "../../shared/format/language";
import { type Metric, signed } from "../../shared/format/say";
import { TextField } from "../../shared/ui/Field";
import { GateRuler } from "./GateRuler";

export type Windows = Record<string, [number, number]>;

type Props = {
  gate: NonNullable<Candidate["gate"]>;
  metric: Metric;
  /** The values while typing. */
  window: [string, string];
  onWindow: (window: [string, string]) => void;
  guards: Windows;
  onGuards: (guards: Windows) => void;
};

/** What the number should do, the gate, and the limits. */
export function GateForm({ gate, metric, window: [low, high], onWindow, guards, onGuards }: Props) {
  const toward = gate.likely.map((end) => (gate.predicted < 0 ? -end : end));
  const absent = Math.round(10 * gate.absent);
  return (
    <div>
      <p className="mb-2">
        {t("correct-should-about-80-range-end", {
          label: metric.label,
          direction: gate.direction,
          change: signed(Math.abs(gate.predicted)).replace("+", ""),
          least: fixed(Math.min(...toward), 1).replace("-", "−"),
          most: fixed(Math.max(...toward), 1),
          unit: metric.unit === "°" ? "°" : ` ${metric.unit}`,
          plus: metric.plus || t("correct-more"),
          minus: metric.minus || t("correct-less"),
        })}
        {absent > 0 && <> {t("correct-no-gain", { n: absent })}</>}
      </p>
      <GateRuler
        label={metric.label}
        unit={metric.unit}
        values={gate.baseline[gate.primary]?.values ?? []}
        predicted={(gate.baseline[gate.primary]?.centre ?? 0) + gate.predicted}
        low={Number(low)}
        high={Number(high)}
        step={metric.unit === "mm" ? 1 : 0.5}
        onChange={(from, to) => onWindow([String(from), String(to)])}
      />
      <div className="flex flex-wrap items-end gap-3">
        <TextField
          label={t("correct-from", { unit: metric.unit })}
          type="number"
          step="0.5"
          value={low}
          onChange={(from) => onWindow([from, high])}
          className="w-28"
        />
        <TextField
          label={t("correct-to", { unit: metric.unit })}
          type="number"
          step="0.5"
          value={high}
          onChange={(to) => onWindow([low, to])}
          className="w-28"
        />
      </div>
      {Object.entries(guards).map(([id, window]) => (
        <Guard
          key={id}
          id={id}
          window={window}
          balls={gate.baseline[id]?.values ?? []}
          onWindow={(moved) => onGuards({ ...guards, [id]: moved })}
        />
      ))}
    </div>
  );
}

type GuardProps = {
  id: string;
  window: [number, number];
  balls: number[];
  onWindow: (window: [number, number]) => void;
};

function Guard({ id, window: [low, high], balls, onWindow }: GuardProps) {
  const guarded = useKnowledge().metrics.find((m) => m.id === id);
  return (
    <div className="mt-3">
      <p className="text-soft">
        {t("correct-limit-stays-ball-does-not", {
          label: guarded && inside(guarded.label),
          low: signed(low),
          high: signed(high),
          unit: guarded?.unit,
        })}
      </p>
      <GateRuler
        label={guarded?.label ?? id}
        unit={guarded?.unit ?? ""}
        values={balls}
        low={low}
        high={high}
        step={guarded?.unit === "mm" ? 1 : 0.5}
        onChange={(from, to) => onWindow([from, to])}
      />
    </div>
  );
}
