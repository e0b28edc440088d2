/** Search results: people and lessons, knowledge, pages. */
import type { Knowledge, RosterRow } from "../../api/queries";
import { t } from "../../shared/format/language";
import { stationName } from "../../shared/format/say";

export type Find = { key: string; kind: string; label: string; says: string; to: string };

export const MAXIMUM = 9;

const PAGES: { to: string; label: string; says: string; head?: true }[] = [
  { to: "/", label: "Students", says: "everyone who takes lessons here" },
  { to: "/day", label: "Day", says: "lessons of a day, open proofs, practice log" },
  { to: "/outcomes", label: "Outcomes", says: "what worked, drill by drill" },
  { to: "/bays", label: "Bays", says: "monitors, bridges, cameras, tokens" },
  { to: "/knowledge", label: "Knowledge", says: "faults, checks, drills, windows, versions" },
  { to: "/train", label: "Practice lessons", says: "a made-up golfer with hidden faults, revealed at the end" },
  { to: "/eye", label: "Eye practice", says: "made-up swings to judge at full speed" },
  { to: "/me", label: "Your account", says: "name, password, second factor, units, language, clicker, school" },
  { to: "/academy", label: "Academy", says: "team, invitations, data retention, email, activity log", head: true },
];

export function pagesFor(role: string): Find[] {
  return PAGES.filter((page) => !page.head || role === "head").map((page) => ({
    key: page.to,
    kind: t("Page"),
    label: t(page.label),
    says: t(page.says),
    to: page.to,
  }));
}

export function entriesOf(knowledge: Knowledge): Find[] {
  const entry = (part: string, kind: string, id: string, label: string, says: string): Find => ({
    key: `${part}/${id}`,
    kind: t(kind),
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
          cause.kind === "fault" ? "Fault" : "Partner",
          cause.variant ? `${cause.id}/${cause.variant}` : cause.id,
          cause.label,
          cause.happens,
        ),
      ),
    ...knowledge.checks.map((look) => entry("check", "Check", look.id, look.label, look.question)),
    ...knowledge.drills.map((drill) => entry("drill", "Drill", drill.id, drill.name, drill.cue)),
  ];
}

/** A student's record, and their open or last lesson. */
export function peopleIn(rows: RosterRow[]): Find[] {
  return rows.flatMap(({ student, going, last }) => {
    const lesson = going ?? last;
    const record = { kind: t("Student"), label: student.name, says: t("record"), to: `/students/${student.id}` };
    const found: Find[] = [{ key: `student/${student.id}`, ...record }];
    if (lesson)
      found.push({
        key: `lesson/${lesson.id}`,
        kind: t("Lesson"),
        label: student.name,
        says: going
          ? t("continues at {station}", { station: stationName(going.station) })
          : t("the last one, {ball_count} balls", { ball_count: lesson.ball_count }),
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
