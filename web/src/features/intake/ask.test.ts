import { describe, expect, it } from "vitest";

import { type Answers, needsClinician, nextLimit, withLimit, withMiss } from "./ask";

const none = {} as Answers;

describe("the intake", () => {
  it("stores a miss by club group and drops an empty one", () => {
    const left = withMiss(none, "irons", { start: "left" });
    expect(left.misses).toEqual({ irons: { start: "left", curve: "", off_m: null } });
    expect(withMiss(left, "irons", { start: "" }).misses).toEqual({});
    expect(Object.keys(withMiss(left, "driver", { off_m: 20 }).misses ?? {})).toEqual(["irons", "driver"]);
  });

  it("cycles through limits, mildest first", () => {
    const kinds = ["pain", "injury", "stiff"];
    const round = [
      nextLimit(undefined, kinds),
      nextLimit("stiff", kinds),
      nextLimit("injury", kinds),
      nextLimit("pain", kinds),
    ];
    expect(round).toEqual(["stiff", "injury", "pain", undefined]);
    expect(withLimit(withLimit(none, "knee", "pain"), "knee", undefined).limits).toEqual({});
  });

  it("suggests a clinician for pain and conditions, not stiffness", () => {
    expect(needsClinician(withLimit(none, "knee", "stiff"))).toBe(false);
    expect(needsClinician(withLimit(none, "knee", "pain"))).toBe(true);
    expect(needsClinician({ ...none, health: ["heart"] })).toBe(true);
  });
});
