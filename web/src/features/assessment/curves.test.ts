import { describe, expect, it } from "vitest";

import { CURVE, curveOf, nudged, readingWords, valueAt } from "./curves";

describe("curve", () => {
  it("spans the sheet and includes zero", () => {
    const curve = curveOf([0, 1, 2], [3, 5, 4]);
    expect(curve.low).toBe(0);
    expect(curve.high).toBe(5);
    expect(curve.x(2)).toBe(CURVE.width - CURVE.right);
    expect(curve.path.startsWith("M6.0")).toBe(true);
  });
  it("draws a flat curve", () => {
    expect(curveOf([0, 1], [0, 0]).path).not.toContain("NaN");
  });
});

describe("value at a time", () => {
  it("is linear between points and constant at the ends", () => {
    expect(valueAt([0, 1, 2], [0, 10, 0], 0.5)).toBe(5);
    expect(valueAt([0, 1, 2], [3, 10, 7], -1)).toBe(3);
    expect(valueAt([0, 1, 2], [3, 10, 7], 9)).toBe(7);
  });
});

describe("a moved moment", () => {
  const at = { top: 1, transition: 1.1, impact: 1.3 };
  it("moves freely between its neighbors", () => {
    expect(nudged(at, "transition", 0.05, 2)).toBe(1.15);
  });
  it("never passes a neighbor", () => {
    expect(nudged(at, "transition", 5, 2)).toBe(1.295);
    expect(nudged(at, "transition", -5, 2)).toBe(1.005);
  });
  it("stays inside the recording", () => {
    expect(nudged(at, "impact", 5, 2)).toBe(2);
    expect(nudged(at, "top", -5, 2)).toBe(0);
  });
});

describe("a recorded value in words", () => {
  it.each([
    [0.524, 0.004, "", "52 % ± 0.4"],
    [-44.51, 0.83, "°", "−44.5° ± 0.8"],
    [13.06, 0.31, "cm", "+13.1 cm ± 0.3"],
    [50.2, 8, "ms", "+50 ms ± 8"],
    [0.01, 0.3, "cm", "0.0 cm ± 0.3"],
  ])("%s ± %s %s", (value, error, unit, words) => {
    expect(readingWords({ value, error, unit })).toBe(words);
  });
});
