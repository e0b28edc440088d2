import { describe, expect, it } from "vitest";

import { choose, NOTHING, step } from "./selection";

const order = [11, 12, 13, 14, 15];
const ids = (s: { ids: ReadonlySet<number> }) => [...s.ids].sort();

describe("choosing balls", () => {
  it("chooses one, then takes it back", () => {
    const one = choose(NOTHING, 12, order, false, false);
    expect(ids(one)).toEqual([12]);
    expect(choose(one, 12, order, false, false)).toEqual(NOTHING);
  });

  it("stretches a range either way and adds single balls", () => {
    const from = choose(NOTHING, 14, order, false, false);
    expect(ids(choose(from, 12, order, true, false))).toEqual([12, 13, 14]);
    expect(ids(choose(from, 11, order, false, true))).toEqual([11, 14]);
  });

  it("steps along the tape and stops at its ends", () => {
    expect(step(NOTHING, order, -1).anchor).toBe(15);
    expect(step(NOTHING, order, 1).anchor).toBe(15);
    expect(step({ ids: new Set([11]), anchor: 11 }, order, -1).anchor).toBe(11);
    expect(step({ ids: new Set([11]), anchor: 11 }, order, 2).anchor).toBe(13);
    expect(step(NOTHING, [], 1)).toEqual(NOTHING);
  });
});
