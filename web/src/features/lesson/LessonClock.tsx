import { useEffect, useState } from "react";
import { t } from "../../shared/format/language";
import { Select } from "../../shared/ui/Select";

import { useActions, useDesk } from "./LessonContext";

const TICK_MS = 15_000;

/** Minutes of the lesson, with the station's planned time and advice. */
const LENGTHS = [30, 45, 55, 60, 90, 120];
const message = (minutes: number) => ({ id: String(minutes), label: String(minutes) });

export function LessonClock() {
  const { lesson } = useDesk();
  const actions = useActions();
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  const { clock } = lesson;
  const elapsed = Math.max(0, Math.floor((now - Date.parse(lesson.started_at)) / 60_000));
  if (lesson.ended_at) return <span className="text-sm text-soft">{t("lesson-ended")}</span>;
  // A lesson left open overnight has no clock any more.
  if (elapsed > clock.minutes + 30) return null;
  return (
    <span className="flex flex-col text-right text-soft">
      <span
        className="flex items-baseline justify-end gap-1.5 text-sm"
        title={clock.boxes
          .map((b) =>
            t("lesson-minute-2", {
              station: b.station,
              from: Math.round(b.begins),
              to: Math.round(b.ends),
            }),
          )
          .join(", ")}
      >
        <span className={elapsed > clock.minutes ? "font-semibold text-plum" : ""}>
          <span className="max-lg:hidden">{t("lesson-minute", { elapsed })}</span>
          <span className="lg:hidden">{t("lesson-min", { elapsed })}</span>
        </span>
        <Select
          variant="bar"
          name={t("lesson-length-lesson-minutes")}
          letsGo
          value={String(clock.minutes)}
          options={
            LENGTHS.includes(clock.minutes)
              ? LENGTHS.map(message)
              : [...LENGTHS, clock.minutes].sort((a, b) => a - b).map(message)
          }
          onChange={(minutes) => actions.move.mutate({ minutes: Number(minutes) })}
        />
      </span>
      <span role="status" className={`text-xs leading-tight max-lg:max-w-32 ${clock.advice ? "lg:-mt-3" : ""}`}>
        {clock.advice}
      </span>
    </span>
  );
}
