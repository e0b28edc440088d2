/** Search results: people and lessons, knowledge, pages. */
import type { Knowledge, RosterRow } from "../../api/queries";
import { t } from "../../shared/format/language";
import { stationName } from "../../shared/format/say";

export type Find = { key: string; kind: string; label: string; says: string; to: string };

export const MAXIMUM = 9;

const PAGES: { to: string; label: string; says: string; head?: true }[] = [
  { to: "/", label: "common-students", says: "search-everyone-who-takes-lessons-here" },
  { to: "/day", label: "common-day-2", says: "search-lessons-day-open-proofs-practice" },
  { to: "/outcomes", label: "common-outcomes", says: "search-what-worked-drill-drill" },
  { to: "/bays", label: "common-bays", says: "search-monitors-bridges-cameras-tokens" },
  { to: "/knowledge", label: "common-knowledge", says: "search-faults-checks-drills-windows-versions" },
  { to: "/train", label: "common-practice-lessons", says: "search-made-up-golfer-hidden-faults" },
  { to: "/eye", label: "common-eye-practice", says: "search-made-up-swings-judge-full" },
  { to: "/me", label: "common-account", says: "search-name-password-second-factor-units" },
  { to: "/academy", label: "common-academy", says: "search-team-invitations-data-retention-email", head: true },
];

export function pagesFor(role: string): Find[] {
  return PAGES.filter((page) => !page.head || role === "head").map((page) => ({
    key: page.to,
    kind: t("common-page"),
    label: t(page.label),
    says: t(page.says),
    to: page.to,
  }));
}

export function entriesOf(knowledge: Knowledge): Find[] {
  const entry = (part: string, kind: string, id: string, label: string, says: string): Find => ({
    key: `${part}/${id}`,
    kind,
    label,
    says,
    to: `/knowledge?${new URLSearchParams({ part, entry: id })}`,
  });
  return [
    ...knowledge.causes
      .filter((cause) => cause.kind === "fault" || cause.kind === "partner")
      .map((cause) =>
        entry(
          cause.kind,
          cause.kind === "fault" ? t("search-fault") : t("search-partner"),
          cause.variant ? `${cause.id}/${cause.variant}` : cause.id,
          cause.label,
          cause.happens,
        ),
      ),
    ...knowledge.checks.map((check) => entry("check", t("search-check"), check.id, check.label, check.question)),
    ...knowledge.drills.map((drill) => entry("drill", t("search-drill"), drill.id, drill.name, drill.cue)),
  ];
}

/** A student's record, and their open or last lesson. */
export function peopleIn(rows: RosterRow[]): Find[] {
  return rows.flatMap(({ student, going, last }) => {
    const lesson = going ?? last;
    const record = {
      kind: t("search-student"),
      label: student.name,
      says: t("search-record"),
      to: `/students/${student.id}`,
    };
    const found: Find[] = [{ key: `student/${student.id}`, ...record }];
    if (lesson)
      found.push({
        key: `lesson/${lesson.id}`,
        kind: t("common-lesson"),
        label: student.name,
        says: going
          ? t("search-continues", { station: stationName(going.station) })
          : t("search-last-one-balls", { ball_count: lesson.ball_count }),
        to: `/lessons/${lesson.id}`,
      });
    return found;
  });
}

/** Return entries in which every word starts a word, best matches first. */
export function fitting(finds: Find[], words: string): Find[] {
  const wanted = plain(words).split(" ").filter(Boolean);
  const holds = (text: string) => {
    const there = plain(text).split(" ");
    return wanted.every((word) => there.some((one) => one.startsWith(word)));
  };
  const byName = finds.filter((find) => holds(find.label));
  return [...byName, ...finds.filter((find) => !byName.includes(find) && holds(`${find.label} ${find.says}`))];
}

/** Normalize: lower case, no accents, single spaces. */
function plain(text: string): string {
  return text
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();
}
