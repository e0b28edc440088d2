import { describe, expect, it } from "vitest";

import { fieldsOf, type Mapping, signWords, withColumn } from "./mapping";

const metrics = [
  { id: "carry_m", label: "Carry", kind: "distance" },
  { id: "path_deg", label: "Club path", kind: "angle", plus: "in-to-out", minus: "out-to-in", mirrored: true },
  { id: "attack_deg", label: "Attack", kind: "angle", plus: "up", minus: "down" },
];
const fields = fieldsOf(metrics);
const mapping = {
  encoding: "utf-8-sig",
  delimiter: ",",
  decimal: ".",
  header_line: 1,
  columns: [
    { header: "A", field: "carry_m", unit: "yd", sign: "plus" },
    { header: "B", field: "", unit: "", sign: "plus" },
  ],
} as Mapping;

describe("a mapping", () => {
  it("moves a field between columns with a unit of its kind", () => {
    const moved = withColumn(mapping, 1, { field: "carry_m" }, fields);
    expect(moved.columns.map((c) => [c.field, c.unit])).toEqual([
      ["", "yd"],
      ["carry_m", "m"],
    ]);
  });

  it("keeps a unit that still fits and drops one that does not", () => {
    expect(withColumn(mapping, 0, { unit: "ft" }, fields).columns[0]?.unit).toBe("ft");
    expect(withColumn(mapping, 0, { field: "path_deg" }, fields).columns[0]?.unit).toBe("deg");
  });

  it("names sides in the field's words", () => {
    const named = (id: string) =>
      signWords(fields.find((f) => f.id === id) as (typeof fields)[0], metrics).map((s) => s.label);
    expect(named("attack_deg")).toEqual(["+ is up", "+ is down"]);
    expect(named("path_deg")).toEqual(["+ is right", "+ is left", "+ is in-to-out", "+ is out-to-in"]);
  });
});
