import type { Schemas } from "../../api/client";
import type { Shot } from "../../api/queries";
import { t } from "../../shared/format/language";
import { BallGlyph } from "../../shared/ui/BallGlyph";
import { Callout } from "../../shared/ui/Callout";

/** The first balls as they would be on the tape, and everything skipped, wrong or odd. */
export function DraftPreview({ preview, hand }: { preview: Schemas["Preview"]; hand: string }) {
  return (
    <section aria-label={t("import-what-would-imported")} className="flex flex-col gap-2">
      <h3 className="font-semibold">
        {preview.count} {preview.count === 1 ? t("common-ball-4") : t("common-balls-2")}
        {preview.complete ? "" : t("import-first-rows")}
        {preview.skipped_count > 0 && (
          <span className="font-normal text-soft">
            {t("import-rows-not-balls", { skipped_count: preview.skipped_count })}
          </span>
        )}
      </h3>
      <div
        className="flex overflow-x-auto border border-rule bg-sheet"
        tabIndex={0}
        role="group"
        aria-label={t("import-first-balls")}
      >
        {preview.balls.map((record, i) => (
          <div key={i} className="flex min-w-11 flex-col items-center px-1 pt-1">
            <BallGlyph shot={shown(record)} hand={hand} excluded={false} />
            <span className="text-xs text-soft">{i + 1}</span>
          </div>
        ))}
      </div>
      {preview.doubts.map((doubt) => (
        <Callout tone="plum" key={doubt}>
          {doubt}
        </Callout>
      ))}
      {preview.problems.length > 0 && (
        <Callout as="ul" tone="plum">
          {preview.problems.map((p) => (
            <li key={`${p.line} ${p.field}`}>{t("import-line", { line: p.line ?? "", message: p.message })}</li>
          ))}
          {preview.problem_count > preview.problems.length && (
            <li>{t("import-more", { problem_count: preview.problem_count - preview.problems.length })}</li>
          )}
        </Callout>
      )}
      {preview.skipped.length > 0 && (
        <details className="text-sm text-soft">
          <summary className="min-h-6 cursor-pointer">{t("import-rows-not-balls-2")}</summary>
          <ul>
            {preview.skipped.map((row) => (
              <li key={String(row.line)}>
                {t("import-line-2", { line: String(row.line), reason: String(row.reason) })}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

const EMPTY = {
  path_deg: null,
  spin_axis_deg: null,
  strike_toe_mm: null,
  strike_high_mm: null,
  movement: "",
  turf: "",
  note: "",
};

function shown(record: Record<string, unknown>): Shot {
  return { ...EMPTY, ...record } as unknown as Shot;
}
