import { useState } from "react";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { facesOf, pngOf, svgOf } from "./drawing";
import { csvOf, fileName, keepable, type Saved } from "./keep";
import { useDesk } from "./LessonContext";

type Form = "png" | "svg" | "csv";

/** Pictures and tables of the station as files. */
export function SavePicture({ station, onClose }: { station: string; onClose: () => void }) {
  const { lesson } = useDesk();
  const [problem, setProblem] = useState<Error | null>(null);
  // What stood on the page when the sheet was opened.
  const [there] = useState(() => {
    const main = document.querySelector("main");
    return main ? keepable(main) : [];
  });

  async function keep(one: Saved, form: Form) {
    setProblem(null);
    try {
      const name = fileName(lesson.student.name, lesson.started_at.slice(0, 10), station, one.title);
      save(await made(one, form), `${name}.${form}`);
    } catch (error) {
      setProblem(error instanceof Error ? error : new Error(String(error)));
    }
  }
  return (
    <Sheet title={t("lesson-pictures-tables", { station })} open onClose={onClose}>
      {problem && <Notice error={problem} />}
      {there.length === 0 && <p className="text-soft">{t("lesson-no-pictures-tables-here-yet")}</p>}
      <ul className="divide-y divide-rule">
        {there.map((one) => (
          <li key={one.key} className="flex min-h-13 items-center justify-between gap-4 py-1">
            <span className="min-w-0">
              {one.title}
              <span className="block text-sm text-soft">{one.picture ? t("common-picture") : t("common-table-2")}</span>
            </span>
            <span className="flex shrink-0 gap-2">
              {(one.picture ? (["png", "svg"] as const) : (["csv"] as const)).map((form) => (
                <Button
                  key={form}
                  aria-label={t("lesson-as", { title: one.title, form: form.toUpperCase() })}
                  onClick={() => void keep(one, form)}
                >
                  {form.toUpperCase()}
                </Button>
              ))}
            </span>
          </li>
        ))}
      </ul>
      <Button className="mt-4" onClick={onClose}>
        {t("common-close")}
      </Button>
    </Sheet>
  );
}

async function made(one: Saved, form: Form): Promise<Blob> {
  if (one.table) return new Blob([csvOf(one.table)], { type: "text/csv;charset=utf-8" });
  if (!one.picture) throw new Error("nothing to keep");
  const ground = getComputedStyle(document.documentElement).backgroundColor;
  const svg = svgOf(one.picture, ground, await facesOf(document.styleSheets));
  return form === "svg" ? new Blob([svg], { type: "image/svg+xml" }) : pngOf(svg);
}

function save(file: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
