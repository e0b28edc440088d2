import { describe, expect, it } from "vitest";

import type { Check, Ranking } from "../../api/queries";
import { ribbonsOf, separating, stepSentence } from "./board";

const fault = (id: string, evidence: [string, number][]) => ({
  id,
  probability: 0.5,
  evidence: evidence.map(([e, log_odds]) => ({ kind: "metric", id: e, log_odds, text: e })),
});
const ranking = {
  faults: [
    fault("one", [
      ["path", 2],
      ["face", -1],
      ["attack", 0.01],
    ]),
    fault("two", [["path", 0.5]]),
  ],
  next_checks: [
    { id: "check", gain_bits: 0.3 },
    { id: "idle", gain_bits: 0 },
  ],
} as unknown as Ranking;
const checks = [{ id: "check", speaks: { bad: { one: 2 } } }] as unknown as Check[];

describe("the cause board", () => {
  const board = ribbonsOf(ranking, checks);

  it("draws a ribbon for every relevant piece, wider for more", () => {
    expect(board.left.map((r) => r.key)).toEqual(["one/metric:path", "one/metric:face", "two/metric:path"]);
    expect(board.left[0]?.width).toBeGreaterThan(board.left[2]?.width ?? 99);
    expect(board.left.map((r) => r.against)).toEqual([false, true, false]);
  });

  it("links checks only to their faults and leaves out others", () => {
    expect(board.checks.map((l) => l.id)).toEqual(["check"]);
    expect(board.right.map((r) => r.fault)).toEqual(["one"]);
  });
});

describe("checks that separate two causes", () => {
  const check = (id: string, speaks: Record<string, Record<string, number>>) => ({ id, speaks }) as unknown as Check;
  const checks = [
    check("both", { bad: { one: 2, other: 2 } }),
    check("for-one", { bad: { one: 2 } }),
    check("neither", { bad: { third: 2 } }),
    check("against", { good: { other: -2 } }),
  ];
  const ranking = {
    next_checks: ["neither", "against", "both", "for-one"].map((id) => ({ id })),
  } as unknown as Ranking;
  it("differ for the two causes, most useful first", () => {
    expect(separating(checks, ranking, "one", "other").map((c) => c.id)).toEqual(["against", "for-one"]);
  });
  it("leave out answered checks", () => {
    const less = { next_checks: [{ id: "for-one" }] } as unknown as Ranking;
    expect(separating(checks, less, "one", "other").map((c) => c.id)).toEqual(["for-one"]);
  });
});

describe("steps of the ranking's history", () => {
  it("are sentences", () => {
    expect(stepSentence({ check: "", grade: "", coach: "" }, 0, (id) => id)).toBe(
      "Before any check, from balls and words",
    );
    expect(stepSentence({ check: "seat-line", grade: "leaves-early", coach: "x" }, 3, () => "Seat line")).toBe(
      "After the third check, seat line: leaves early",
    );
    expect(stepSentence({ check: "a", grade: "b", coach: "" }, 15, (id) => id)).toBe("After the 15th check, a: b");
  });
});
