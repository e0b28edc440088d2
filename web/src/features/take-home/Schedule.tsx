import { useEffect, useRef, useState } from "react";
import { type PlannedDay, usePlanActions } from "../../api/records";
import { arrowDay, dayWords, fullDay, weekdayOf, weeksOf } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { Notice } from "../../shared/ui/Notice";
import { useDesk } from "../lesson/LessonContext";

const STATES: Record<string, string> = {
  done: "common-done-2",
  missed: "common-missed",
  today: "take-home-today-2",
  "to-come": "take-home-come",
};
const LOOKS: Record<string, string> = {
  done: "border-moss bg-moss-ground",
  missed: "border-dashed border-plum bg-sheet text-plum",
  today: "border-ink bg-ink text-paper",
  "to-come": "border-ink bg-sheet",
};

/** The weeks until the next lesson: drag a practice day, or move it with the arrow keys. */
export function Schedule({ plan, nextLesson }: { plan: PlannedDay[]; nextLesson: string | null }) {
  const { lesson } = useDesk();
  const { moveDay } = usePlanActions(lesson.id);
  const [held, setHeld] = useState<{ planned: string; over: string } | null>(null);
  const grid = useRef<HTMLTableElement>(null);
  const first = plan[0]?.day ?? "";
  const last = [nextLesson ?? "", plan.at(-1)?.day ?? ""].sort().at(-1) ?? first;
  /** The day that was moved last keeps the focus in its new place, so that the next arrow moves it on. */
  const moved = useRef<{ planned: string; to: string } | null>(null);
  function move(planned: string, to: string) {
    if (moveDay.isPending) return; // not disabled meanwhile: a disabled button would lose the focus
    moved.current = { planned, to };
    moveDay.mutate({ planned, to });
  }
  useEffect(() => {
    const { planned, to } = moved.current ?? {};
    if (!planned || plan.find((p) => p.planned === planned)?.day !== to) return;
    moved.current = null;
    grid.current?.querySelector<HTMLElement>(`[data-planned="${planned}"]`)?.focus();
  }, [plan]);
  function dayUnder(x: number, y: number): string | null {
    return document.elementFromPoint(x, y)?.closest<HTMLElement>("[data-day]")?.dataset.day ?? null;
  }

  return (
    <>
      <table
        ref={grid}
        className="no-print w-full table-fixed border-collapse select-none"
        aria-label={t("take-home-practice-days-week")}
      >
        <thead>
          <tr className="text-sm text-soft">
            {weeksOf(first, first)[0]?.map((day) => (
              <th key={day} scope="col" className="py-1 font-normal">
                {weekdayOf(day)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeksOf(first, last).map((week) => (
            <tr key={week[0]}>
              {week.map((day) => (
                <td
                  key={day}
                  data-day={day}
                  className={`h-16 border border-rule align-top ${held?.over === day ? "bg-straw-ground" : ""}`}
                >
                  <span className="block px-1.5 text-sm text-soft">
                    {Number(day.slice(8))}
                    {day === nextLesson && <b className="ml-1 text-ink">{t("take-home-lesson")}</b>}
                  </span>
                  {plan
                    .filter((p) => p.day === day)
                    .map((p) => (
                      <button
                        key={p.planned}
                        type="button"
                        data-planned={p.planned}
                        disabled={p.state === "done"}
                        className={`mx-1 block min-h-11 w-[calc(100%-0.5rem)] touch-none rounded-sm border px-1 text-left text-sm leading-tight enabled:cursor-grab ${LOOKS[p.state]}`}
                        onKeyDown={(event) => {
                          const to = arrowDay(p.day, event.key);
                          if (to === null) return;
                          event.preventDefault();
                          event.stopPropagation();
                          move(p.planned, to);
                        }}
                        onPointerDown={(event) => {
                          event.currentTarget.setPointerCapture(event.pointerId);
                          setHeld({ planned: p.planned, over: p.day });
                        }}
                        onPointerMove={(event) => {
                          if (held) setHeld({ ...held, over: dayUnder(event.clientX, event.clientY) ?? held.over });
                        }}
                        onPointerUp={() => {
                          if (held && held.over !== p.day) move(p.planned, held.over);
                          setHeld(null);
                        }}
                        onPointerCancel={() => setHeld(null)}
                      >
                        {t("common-min", { minutes: p.minutes })}
                        <span className="block">{t(STATES[p.state] ?? "")}</span>
                        <span className="sr-only">
                          , {fullDay(p.day)}
                          {p.eased && t("take-home-starts-again-after-missed-day")}
                          {t("take-home-use-arrow-keys-move")}
                        </span>
                      </button>
                    ))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {moveDay.isError && <Notice error={moveDay.error} />}
      <table className="mt-2 w-full text-left text-sm">
        <caption className="sr-only">{t("take-home-practice-days")}</caption>
        <tbody>
          {alike(plan).map((days) => {
            const [p] = days;
            return (
              <tr key={p.planned} className="border-b border-rule align-top">
                <th scope="row" className="py-1 pr-4 font-semibold">
                  {days.map((one) => dayWords(one.day)).join(" · ")}
                </th>
                <td className="py-1 pr-4 whitespace-nowrap">{t("common-min", { minutes: p.minutes })}</td>
                <td className="py-1">
                  {p.text}
                  {p.eased && <span className="text-soft"> {t("take-home-starts-again-after-missed-day-2")}</span>}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-soft">{t("take-home-all-other-days-rest-days")}</p>
    </>
  );
}

type Days = [PlannedDay, ...PlannedDay[]];

/** Practice days in a row that ask for the same are one line. */
function alike(plan: PlannedDay[]): Days[] {
  const lines: Days[] = [];
  for (const p of plan) {
    const last = lines.at(-1);
    const same = last && last[0].text === p.text && last[0].minutes === p.minutes && last[0].eased === p.eased;
    if (same) last.push(p);
    else lines.push([p]);
  }
  return lines;
}
