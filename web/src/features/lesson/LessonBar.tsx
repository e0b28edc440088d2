import { useQuery } from "@tanstack/react-query";
import { memo } from "react";
import { Link, useOutletContext } from "react-router";
import type { LineState } from "../../api/live";
import { type Bay, queries, useKnowledge } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { handed } from "../../shared/format/player";
import { KEYS } from "../../shared/format/verdict";
import { KeyCap } from "../../shared/ui/Button";
import { type Framed, LightSwitch } from "../../shared/ui/LightSwitch";
import { Select } from "../../shared/ui/Select";
import { Wordmark } from "../../shared/ui/Wordmark";
import { LessonClock } from "./LessonClock";
import { useActions, useDesk } from "./LessonContext";
import { Turns } from "./Turns";

const LINE: Record<LineState, string> = {
  live: "lesson-connected",
  connecting: "lesson-connecting",
  lost: "lesson-connection-lost-reconnecting-balls-safe",
};

/** Student, club and bay of the lesson. */
export const LessonBar = memo(function LessonBar({ line }: { line: LineState }) {
  const { lesson } = useDesk();
  const actions = useActions();
  const knowledge = useKnowledge();
  const bays = useQuery(queries.bays);
  const clock = useClock();
  const { light, find } = useOutletContext<Framed>();
  const { student } = lesson;
  return (
    <header className="no-print flex min-h-12 shrink-0 flex-wrap items-center gap-x-5 border-b border-rule px-4 max-[1399px]:gap-x-2.5 max-lg:min-h-[4.625rem] max-lg:flex-nowrap max-lg:gap-x-2">
      <Link
        to="/"
        className="flex min-h-11 items-center gap-2 border-r border-rule pr-4 max-lg:pr-2"
        aria-label={t("lesson-instavis-all-students")}
      >
        <Wordmark />
      </Link>
      <h1 className="min-w-0 text-xl font-bold max-lg:text-lg">
        <Link
          to={lesson.training ? "/train" : `/students/${student.id}`}
          className="inline-flex min-h-11 max-w-full items-center underline-offset-4 hover:underline"
          title={lesson.training ? t("common-practice-lessons") : t("lesson-show-students-record")}
        >
          <span className="min-w-0 truncate">{student.name}</span>
        </Link>
      </h1>
      <span className="shrink-0 text-soft max-lg:text-sm">
        {handed(lesson.hand)}
        <span className="max-xl:sr-only">
          {student.handicap === null ? "" : t("lesson-handicap", { handicap: student.handicap })}
        </span>
      </span>
      <Select
        variant="bar"
        label={t("common-club")}
        labelClass="max-lg:sr-only"
        className="max-lg:max-w-28"
        letsGo
        value={lesson.club}
        options={knowledge.clubs}
        onChange={(club) => actions.move.mutate({ club })}
      />
      <Turns />
      <span className="ml-auto">
        <Select
          variant="bar"
          label={t("lesson-bay")}
          labelClass="max-lg:sr-only"
          className="max-lg:max-w-28"
          letsGo
          value={String(lesson.bay_id ?? "")}
          options={[
            { id: "", label: t("lesson-no-bay") },
            ...(bays.data ?? []).map((bay) => ({
              id: String(bay.id),
              label: bay.name,
              about: whoIsThere(bay, lesson.id, clock.moment),
            })),
          ]}
          onChange={(bay) => actions.takeBay.mutate(bay ? Number(bay) : null)}
        />
      </span>
      <LessonClock />
      <span role="status" className={`flex items-center gap-2 text-sm ${line === "lost" ? "text-plum" : "text-soft"}`}>
        <svg viewBox="0 0 12 12" className="h-3 w-3" aria-hidden="true">
          {line === "live" ? (
            <circle cx="6" cy="6" r="5" className="fill-moss" />
          ) : (
            <path d="M2 2l8 8M10 2l-8 8" className={line === "lost" ? "stroke-plum" : "stroke-soft"} strokeWidth="2" />
          )}
        </svg>
        <span className={line === "live" ? "max-lg:sr-only" : ""}>{t(LINE[line])}</span>
      </span>
      <button
        type="button"
        onClick={find}
        className="flex min-h-11 items-center gap-2 rounded-sm px-2 text-sm text-soft underline-offset-4 hover:underline"
      >
        <svg viewBox="0 0 12 12" className="h-4 w-4 min-[1400px]:hidden" aria-hidden="true">
          <circle cx="5" cy="5" r="3.5" className="fill-none stroke-ink" />
          <path d="M7.6 7.6L11 11" className="stroke-ink" strokeWidth="1.5" />
        </svg>
        <span className="max-[1399px]:sr-only">{t("common-search")}</span>
        <span className="max-[1399px]:hidden">
          <KeyCap>{KEYS.find}</KeyCap>
        </span>
      </button>
      <LightSwitch {...light} />
    </header>
  );
});

/** Who hits in a bay, which hand, and when its last ball came. */
function whoIsThere(bay: Bay, lessonId: number, moment: (at: string) => string): string {
  const there =
    bay.lesson_id === null
      ? t("lesson-free")
      : bay.lesson_id === lessonId
        ? t("common-lesson-2")
        : t("lesson-take-over", { student: bay.student, hand: handed(bay.hand) });
  const last = bay.last_at ? t("common-last-ball", { moment: moment(bay.last_at) }) : t("common-no-ball-yet");
  return `${there} · ${last}`;
}
