import { useState } from "react";
import { type Ranking, useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { Select } from "../../shared/ui/Select";
import { separating } from "./board";
import { FaultOpened } from "./FaultOpened";

/** Two causes side by side, and the checks that separate them. */
export function Rivals({ ranking, opened }: { ranking: Ranking; opened: string | undefined }) {
  const known = useKnowledge().checks;
  const rows = [...ranking.faults, ...ranking.partners];
  const first = rows.find((r) => r.id === opened) ?? ranking.faults[0];
  const [chosen, choose] = useState<string | null>(null);
  const second =
    rows.find((r) => r.id === chosen && r.id !== first?.id) ?? ranking.faults.find((r) => r.id !== first?.id);
  if (!first || !second) return null;
  const checks = separating(known, ranking, first.id, second.id);
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap items-end gap-4">
        <Select
          label={t("cause-beside", { label: inside(first.label) })}
          value={second.id}
          options={rows.filter((r) => r.id !== first.id).map((r) => ({ id: r.id, label: `${r.label}, ${r.word}` }))}
          onChange={choose}
        />
        <p className="pb-2">
          {checks.length > 0 ? (
            <>
              <span className="font-semibold">{t("cause-checks-separate-them")}</span>{" "}
              {checks.map((c) => inside(c.label)).join(", ")}.
            </>
          ) : (
            t("cause-no-open-check-separates-these")
          )}
        </p>
      </div>
      <div className="grid gap-8 lg:grid-cols-2">
        <FaultOpened row={first} ranking={ranking} />
        <FaultOpened row={second} ranking={ranking} />
      </div>
    </div>
  );
}
