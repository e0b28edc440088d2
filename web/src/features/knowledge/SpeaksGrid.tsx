import type { Schemas } from "../../api/client";
import { hyphens } from "../../shared/format/say";
import { Button } from "../../shared/ui/Button";

type Speaks = Record<string, Record<string, number>>;
type Props = { grades: string[]; speaks: Speaks; causes: Schemas["Cause"][]; onChange: (speaks: Speaks) => void };

const STRENGTHS: [string, string][] = [
  ["2", "strongly for"],
  ["1", "for"],
  ["0", "nothing"],
  ["-1", "against"],
  ["-2", "strongly against"],
];

/** What each grade of a look says of which cause. */
export function SpeaksGrid({ grades, speaks, causes, onChange }: Props) {
  const named = causes.filter((c, i) => causes.findIndex((d) => d.id === c.id) === i);
  const label = (id: string) => named.find((c) => c.id === id)?.label.split(",")[0] ?? hyphens(id);

  function set(grade: string, cause: string, strength: number) {
    const row = { ...speaks[grade], [cause]: strength };
    if (strength === 0) delete row[cause];
    const next = { ...speaks, [grade]: row };
    if (Object.keys(row).length === 0) delete next[grade];
    onChange(next);
  }
  return (
    <div>
      <div className="mb-1 text-sm font-medium text-soft">What each grade speaks for</div>
      {grades.map((grade) => (
        <div key={grade} className="mb-2 border-l-4 border-rule pl-3">
          <div className="font-semibold">{hyphens(grade)}</div>
          {Object.entries(speaks[grade] ?? {}).map(([cause, strength]) => (
            <label key={cause} className="grid grid-cols-[1fr_12rem] items-center gap-3">
              {label(cause)}
              <select
                value={String(strength)}
                onChange={(e) => set(grade, cause, Number(e.target.value))}
                className="min-h-11 rounded-sm border border-rule bg-sheet px-2"
              >
                {STRENGTHS.map(([id, word]) => (
                  <option key={id} value={id}>
                    {word}
                  </option>
                ))}
              </select>
            </label>
          ))}
          <label className="flex items-center gap-2 text-soft">
            <span className="sr-only">A cause that {hyphens(grade)} speaks for</span>
            <select
              value=""
              onChange={(e) => e.target.value && set(grade, e.target.value, 2)}
              className="min-h-11 rounded-sm border border-rule bg-sheet px-2"
            >
              <option value="">and a cause …</option>
              {named
                .filter((c) => !(c.id in (speaks[grade] ?? {})))
                .map((c) => (
                  <option key={c.id} value={c.id}>
                    {label(c.id)}
                  </option>
                ))}
            </select>
          </label>
        </div>
      ))}
      {Object.keys(speaks).length > 0 && <Button onClick={() => onChange({})}>Speak for nothing</Button>}
    </div>
  );
}
