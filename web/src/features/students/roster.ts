/** Which students of several hundred are shown. */
import type { RosterRow } from "../../api/queries";

export type Wanted = { words: string; coach: string; lately: string };

export const EVERYBODY: Wanted = { words: "", coach: "", lately: "" };
/** Days back that count as lately; empty for ever. */
export const LATELY = ["", "7", "30", "90"];

const DAY_MS = 24 * 3600 * 1000;

/** As a name is looked for: without accents and large letters. */
const plain = (text: string) => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

/** Every word somewhere in the name, of that coach, seen lately enough. */
export function wantedOf(rows: RosterRow[], wanted: Wanted, now: number): RosterRow[] {
  const words = plain(wanted.words).split(/\s+/).filter(Boolean);
  return rows.filter((row) => {
    const name = plain(row.student.name);
    const seen = row.last ? Date.parse(row.last.started_at) : 0;
    return (
      words.every((word) => name.includes(word)) &&
      (wanted.coach === "" || row.coach_ids.includes(Number(wanted.coach))) &&
      (wanted.lately === "" || now - seen <= Number(wanted.lately) * DAY_MS)
    );
  });
}
