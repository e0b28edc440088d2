import { describe, expect, it } from "vitest";

import { type Guide, inside, movedBy, nextStep, placeOf, type Still } from "./stills";

const guide = { check: "seat-line", points: ["seat"], since_address: true, needs_length: true } as unknown as Guide;
const still = (points: Record<string, number[]> = {}, scale: unknown = null) =>
  ({ points, scale, width: 800, height: 600 }) as unknown as Still;
const scale = { a: [0, 0], b: [0, 300], length_cm: 100 };

describe("guided order", () => {
  it("asks for the address picture first, then the check's", () => {
    expect(nextStep(guide, undefined, undefined)).toEqual({ do: "add", which: "address" });
    expect(nextStep(guide, undefined, still())).toEqual({ do: "add", which: "check" });
  });
  it("asks for landmarks at address, then at the check, then for the length", () => {
    expect(nextStep(guide, still(), still())).toEqual({ do: "click", which: "address", landmark: "seat" });
    expect(nextStep(guide, still(), still({ seat: [1, 1] }))).toEqual({
      do: "click",
      which: "check",
      landmark: "seat",
    });
    expect(nextStep(guide, still({ seat: [1, 1] }), still({ seat: [1, 1] }))).toEqual({
      do: "scale",
      which: "address",
    });
    expect(nextStep(guide, still({ seat: [1, 1] }), still({ seat: [1, 1] }, scale))).toEqual({ do: "done" });
  });
  it("skips address and length if not needed", () => {
    const angle = { ...guide, since_address: false, needs_length: false };
    expect(nextStep(angle, still({ seat: [1, 1] }), undefined)).toEqual({ do: "done" });
  });
});

describe("positions on the picture", () => {
  it("convert clicks to picture pixels", () => {
    expect(placeOf([110, 70], { left: 10, top: 20, width: 400, height: 300 }, still())).toEqual([200, 100]);
  });
  it("stay inside the picture", () => {
    expect(inside([-5, 9999], still())).toEqual([0, 600]);
  });
  it("move by keys, faster with Shift", () => {
    expect(movedBy("ArrowLeft", false, [100, 100], still())).toEqual([98, 100]);
    expect(movedBy("ArrowDown", true, [100, 100], still())).toEqual([100, 120]);
    expect(movedBy("a", false, [100, 100], still())).toBeNull();
  });
});
