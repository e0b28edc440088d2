import type { Schemas } from "../../api/client";
import { useClock } from "../../api/useClock";
import { t, word } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { type Changes, countOf } from "./changes";

type Props = { versions: Schemas["VersionOut"][]; mayEdit: boolean; onTake: (changes: Changes) => void };

/** All versions, newest first; any of them, or the shipped one, can be used again. */
export function Versions({ versions, mayEdit, onTake }: Props) {
  const clock = useClock();
  return (
    <ul className="mt-4 divide-y divide-rule border-y border-rule">
      {versions.map((v, i) => (
        <li key={v.number} className="flex items-center justify-between gap-4 py-2">
          <div>
            <span className="font-semibold">{t("knowledge-version", { number: v.number })}</span>
            {i === 0 && <span className="text-soft">{t("knowledge-current")}</span>}
            <div className="text-soft">
              {clock.moment(v.made_at)}, {v.made_by}
              {v.note && `: ${v.note}`}
            </div>
            <div className="text-sm text-soft">{summary(v.changes as Changes)}</div>
          </div>
          {mayEdit && i > 0 && <Button onClick={() => onTake(v.changes as Changes)}>{t("knowledge-use-again")}</Button>}
        </li>
      ))}
      <li className="flex items-center justify-between gap-4 py-2">
        <div>
          <span className="font-semibold">{t("knowledge-default")}</span>
          {versions.length === 0 && <span className="text-soft">{t("knowledge-current")}</span>}
        </div>
        {mayEdit && versions.length > 0 && countOf((versions[0]?.changes ?? {}) as Changes) > 0 && (
          <Button onClick={() => onTake({})}>{t("knowledge-restore-default")}</Button>
        )}
      </li>
    </ul>
  );
}

function summary(changes: Changes): string {
  const entries = Object.values(changes).flatMap((rows) => Object.keys(rows));
  if (entries.length === 0) return t("knowledge-everything-shipped");
  return t("knowledge-changes", {
    what: entries
      .slice(0, 6)
      .map((id) => word(id))
      .join(", "),
    more: entries.length > 6 ? t("knowledge-more", { n: entries.length - 6 }) : "",
  });
}
