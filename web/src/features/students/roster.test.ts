import { describe, expect, it } from "vitest";

import type { RosterRow } from "../../api/queries";
import { EVERYBODY, wantedOf } from "./roster";

const NOW = Date.parse("2026-05-04T12:00:00Z");
const row = (name: string, coach: number, day: string | null) =>
  ({ student: { name }, coach_ids: [coach], last: day && { started_at: `${day}T10:00:00Z` } }) as RosterRow;
const ROWS = [row("Élodie Ström", 1, "2026-05-01"), row("Bram Oar", 2, "2026-02-01"), row("Ola Bram", 2, null)];
const names = (wanted: Partial<typeof EVERYBODY>) =>
  wantedOf(ROWS, { ...EVERYBODY, ...wanted }, NOW).map((r) => r.student.name);

describe("which students are shown", () => {
  it("are all of them, until something is wanted", () => expect(names({})).toHaveLength(3));
  it("are found by any words of the name, accents or not", () => {
    expect(names({ words: "strom elo" })).toEqual(["Élodie Ström"]);
    expect(names({ words: "  BRAM " })).toEqual(["Bram Oar", "Ola Bram"]);
    expect(names({ words: "nobody" })).toEqual([]);
  });
  it("are those of a coach", () => expect(names({ coach: "2" })).toEqual(["Bram Oar", "Ola Bram"]));
  it("are those seen lately, by the day", () => {
    expect(names({ lately: "7" })).toEqual(["Élodie Ström"]);
    expect(names({ lately: "90" })).toEqual(["Élodie Ström"]);
    expect(names({ coach: "2", lately: "7" })).toEqual([]);
  });
});
