import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { chance } from "../../shared/format/say";

type Ranked = Schemas["RankedOut"][];

/** What the changes would do to stored lessons before they are saved. */
export function Preview({ result, pending }: { result: Schemas["PreviewOut"] | undefined; pending: boolean }) {
  const causes = useKnowledge().causes;
  if (pending || !result) return <p role="status">{t("knowledge-ranking-lessons-change")}</p>;
  const label = (id: string) => causes.find((c) => c.id === id)?.label.split(",")[0] ?? id;
  const words = (rows: Ranked) =>
    rows
      .slice(0, 2)
      .map((r) => `${inside(label(r.fault))} ${chance(r.probability)}`)
      .join(", ");
  if (result.moved.length === 0)
    return <p role="status">{t("knowledge-change-would-rank-none-newest", { lessons: result.lessons })}</p>;
  return (
    <div role="status">
      <p className="font-semibold">
        {t("knowledge-change-would-rank-newest-lessons", {
          n: result.moved.length,
          lessons: result.lessons,
        })}
      </p>
      <ul className="max-h-32 overflow-y-auto" tabIndex={0} aria-label={t("knowledge-lessons-ranked-differently")}>
        {result.moved.map((m) => (
          <li key={m.lesson_id}>
            {m.student}, {m.day}: <span className="text-soft">{words(m.before)}</span> →{" "}
            <span className={m.before[0]?.fault === m.after[0]?.fault ? "" : "font-semibold text-clay"}>
              {words(m.after)}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
