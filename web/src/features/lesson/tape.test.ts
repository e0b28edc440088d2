import { describe, expect, it } from "vitest";

import type { Shot } from "../../api/queries";
import { CELL, filtered, inSight, layOut, SEAM, standing } from "./tape";

const shot = (id: number, block_id = 1, more: Partial<Shot> = {}) =>
  ({ id, block_id, stage: "", purpose: "baseline", movement: "", note: "", ...more }) as Shot;

describe("the tape", () => {
  it("puts a seam before every block", () => {
    const tape = layOut([shot(1), shot(2), shot(3, 2, { stage: "half", purpose: "prove" })]);
    expect(tape.cells.map((c) => c.seam)).toEqual(["baseline", null, "half"]);
    expect(tape.width).toBe(3 * CELL + 2 * SEAM);
  });

  it("names a block by its purpose", () => {
    const balls = [shot(1, 1, { stage: "full" }), shot(2, 2, { purpose: "trial" }), shot(3, 3, { purpose: "prove" })];
    expect(layOut(balls).cells.map((c) => c.seam)).toEqual(["baseline", "comparison", "proof"]);
  });

  it("takes the reason of exclusion from the server", () => {
    const excluded = { by: "rule", code: "turf", text: "marked fat" };
    const result = standing([
      { shot_id: 1, excluded, verdict: null },
      { shot_id: 2, excluded: null, verdict: "linked" },
    ]);
    expect([...result.excluded]).toEqual([[1, "marked fat"]]);
    expect([...result.verdicts]).toEqual([[2, "linked"]]);
    expect(standing(undefined).excluded.size).toBe(0);
  });

  it("draws only nearby balls of thousands", () => {
    const tape = layOut(Array.from({ length: 5000 }, (_, i) => shot(i)));
    const middle = inSight(tape, 100_000, 1000);
    expect(middle.length).toBeLessThan(70);
    expect(middle.some((c) => c.left <= 100_000 && c.left + CELL > 100_000)).toBe(true);
    expect(inSight(tape, 0, 1000)[0]?.shot.id).toBe(0);
    expect(inSight(tape, tape.width, 1000).at(-1)?.shot.id).toBe(4999);
  });

  it("filters balls", () => {
    const shots = [shot(1, 1, { movement: "done" }), shot(2, 1, { note: "x" }), shot(3)];
    const excluded = new Map([[3, "interrupted"]]);
    expect(filtered(shots, "clean", excluded).map((s) => s.id)).toEqual([1, 2]);
    expect(filtered(shots, "unmarked", excluded).map((s) => s.id)).toEqual([2, 3]);
    expect(filtered(shots, "noted", excluded).map((s) => s.id)).toEqual([2]);
  });
});
