import { t } from "../../shared/format/language";
import type { Metric } from "../../shared/format/say";

type Props = {
  label: string;
  values: Record<string, number>;
  shipped: Record<string, number>;
  metrics: Metric[];
  onChange: (values: Record<string, number>) => void;
};

const OTHERS: Record<string, [string, string]> = {
  low_point_cm: ["common-low-point", "cm"],
  club_speed_pct: ["knowledge-club-speed", "%"],
  face_spread: ["knowledge-spread-face", "×"],
  low_point_spread: ["knowledge-spread-low-point", "×"],
};

/** The effects of a fault at full severity, golfer frame, next to the shipped ones. */
export function Numbers({ label, values, shipped, metrics, onChange }: Props) {
  const names = Object.keys({ ...shipped, ...values });
  return (
    <fieldset>
      <legend className="mb-1 text-sm font-medium text-soft">{t("knowledge-full-severity-mid-iron", { label })}</legend>
      <div className="grid gap-x-4 gap-y-2 sm:grid-cols-2">
        {names.map((name) => {
          const metric = metrics.find((m) => m.id === name);
          const [word, unit] = metric ? [metric.label, metric.unit] : (OTHERS[name] ?? [name, ""]);
          const changed = values[name] !== shipped[name];
          return (
            <label key={name} className="grid grid-cols-[1fr_6rem_3.5rem] items-center gap-2">
              <span>{metric ? word : t(word)}</span>
              <input
                type="number"
                step="0.1"
                defaultValue={values[name]}
                onChange={(e) => e.target.value !== "" && onChange({ ...values, [name]: Number(e.target.value) })}
                className="min-h-11 rounded-sm border border-rule bg-sheet px-2 text-right"
              />
              <span className="text-sm text-soft">
                {unit}
                {changed && shipped[name] !== undefined && ` (${shipped[name]})`}
              </span>
            </label>
          );
        })}
      </div>
    </fieldset>
  );
}
