import { type ComponentType, memo } from "react";
import { Link } from "react-router";
import type { Lesson } from "../../api/queries";
import { t } from "../../shared/format/language";

/** A station: name, content, first queries, and whether it uses the digits itself. */
export type Station = {
  id: string;
  name: string;
  Component: ComponentType;
  asks: (lesson: number) => { queryKey: readonly unknown[] }[];
  takesDigits?: boolean;
};
type Props = { lesson: Lesson; stations: Station[]; here: string };

/** The seven stations in a row, each with its state. Any can be opened. */
export const ProgressBar = memo(function ProgressBar({ lesson, stations, here }: Props) {
  return (
    <nav aria-label={t("lesson-stations")} className="no-print relative border-b border-rule bg-paper">
      <div aria-hidden="true" className="absolute top-[21px] right-[7%] left-[7%] h-0.5 bg-rule" />
      <ol className="relative grid grid-cols-7">
        {stations.map(({ id, name }, i) => {
          const current = id === here;
          const state = lesson.stations.find((s) => s.id === id);
          const knot = current ? "border-clay bg-clay" : state?.ready ? "border-ink bg-ink" : "border-soft bg-paper";
          return (
            <li key={id}>
              <Link
                to={`/lessons/${lesson.id}/${id}`}
                aria-current={current ? "step" : undefined}
                aria-keyshortcuts={t("lesson-alt", { number: i + 1 })}
                className="flex flex-col items-center px-1 pt-3.5 pb-1.5 hover:bg-sheet"
              >
                <span
                  aria-hidden="true"
                  className={`h-4 w-4 rotate-45 border-2 ${knot} ${current ? "scale-125" : ""}`}
                />
                <span className={`mt-1.5 leading-tight ${current ? "font-bold" : "font-medium"}`}>{t(name)}</span>
                <span className="max-w-full truncate text-sm text-soft max-lg:line-clamp-2 max-lg:min-h-[2lh] max-lg:text-center max-lg:text-xs max-lg:leading-tight max-lg:whitespace-normal">
                  {state?.state}
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
});
