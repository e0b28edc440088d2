import { describe, expect, it } from "vitest";

import { choose, NOTHING, nextWaiting, only, step, waitingBalls } from "./selection";

const order = [11, 12, 13, 14, 15];
const ids = (s: { ids: ReadonlySet<number> }) => [...s.ids].sort();

describe("selecting balls", () => {
  it("selects one ball, then clears it", () => {
    const one = choose(NOTHING, 12, order, false, false);
    expect(ids(one)).toEqual([12]);
    expect(choose(one, 12, order, false, false)).toEqual(NOTHING);
  });

  it("extends a range in both directions and adds single balls", () => {
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

describe("balls that wait for a mark", () => {
  const balls = [
    { id: 1, covered: false },
    { id: 2, covered: true },
    { id: 3, covered: true },
    { id: 4, covered: true },
  ];

  it("are all hidden balls except the current one", () => {
    expect(waitingBalls(balls).map((ball) => ball.id)).toEqual([2, 3, 4]);
    expect(waitingBalls(balls, balls[3]).map((ball) => ball.id)).toEqual([2, 3]);
  });

  it("follow one another and end without a selection", () => {
    expect(nextWaiting(balls, { id: 2 })).toEqual(only(3));
    expect(nextWaiting(balls, { id: 4 })).toBe(NOTHING);
  });
});
