import { describe, expect, it } from "vitest";

import type { Check, Ranking } from "../api/queries";
import { ribbonsOf } from "./board";

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
    { id: "look", gain_bits: 0.3 },
    { id: "idle", gain_bits: 0 },
  ],
} as unknown as Ranking;
const checks = [{ id: "look", speaks: { bad: { one: 2 } } }] as unknown as Check[];

describe("the cause board", () => {
  const board = ribbonsOf(ranking, checks);

  it("draws a ribbon for every piece that matters, wider for more", () => {
    expect(board.left.map((r) => r.key)).toEqual(["one/metric:path", "one/metric:face", "two/metric:path"]);
    expect(board.left[0]?.width).toBeGreaterThan(board.left[2]?.width ?? 99);
    expect(board.left.map((r) => r.against)).toEqual([false, true, false]);
  });

  it("links looks only to the faults they speak of, and leaves idle looks out", () => {
    expect(board.looks.map((l) => l.id)).toEqual(["look"]);
    expect(board.right.map((r) => r.fault)).toEqual(["one"]);
  });
});
