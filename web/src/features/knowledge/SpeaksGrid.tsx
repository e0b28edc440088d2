import type { Schemas } from "../../api/client";
import { t, word } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Select } from "../../shared/ui/Select";

type Speaks = Record<string, Record<string, number>>;
type Props = { grades: string[]; speaks: Speaks; causes: Schemas["Cause"][]; onChange: (speaks: Speaks) => void };

const STRENGTHS: [string, string][] = [
  ["2", "knowledge-strongly"],
  ["1", "knowledge-for"],
  ["0", "common-nothing"],
  ["-1", "knowledge-against"],
  ["-2", "knowledge-strongly-against"],
];

/** What each answer of a check says about which cause. */
export function SpeaksGrid({ grades, speaks, causes, onChange }: Props) {
  const named = causes.filter((c, i) => causes.findIndex((d) => d.id === c.id) === i);
  const label = (id: string) => named.find((c) => c.id === id)?.label.split(",")[0] ?? word(id);

  function set(grade: string, cause: string, strength: number) {
    const row = { ...speaks[grade], [cause]: strength };
    if (strength === 0) delete row[cause];
    const next = { ...speaks, [grade]: row };
    if (Object.keys(row).length === 0) delete next[grade];
    onChange(next);
  }
  return (
    <div>
      <div className="mb-1 text-sm font-medium text-soft">{t("knowledge-evidence-each-answer")}</div>
      {grades.map((grade) => (
        <div key={grade} className="mb-2 border-l-4 border-rule pl-3">
          <div className="font-semibold">{word(grade)}</div>
          {Object.entries(speaks[grade] ?? {}).map(([cause, strength]) => (
            <div key={cause} className="grid grid-cols-[1fr_12rem] items-center gap-3">
              {label(cause)}
              <Select
                name={label(cause)}
                value={String(strength)}
                options={STRENGTHS.map(([id, word]) => ({ id: String(id), label: word }))}
                onChange={(to) => set(grade, cause, Number(to))}
              />
            </div>
          ))}
          <Select
            name={t("knowledge-cause-supported", { grade: word(grade) })}
            value=""
            options={[
              { id: "", label: t("knowledge-cause") },
              ...named.filter((c) => !(c.id in (speaks[grade] ?? {}))).map((c) => ({ id: c.id, label: label(c.id) })),
            ]}
            onChange={(cause) => cause && set(grade, cause, 2)}
          />
        </div>
      ))}
      {Object.keys(speaks).length > 0 && <Button onClick={() => onChange({})}>{t("common-clear")}</Button>}
    </div>
  );
}
