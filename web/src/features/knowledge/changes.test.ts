import { describe, expect, it } from "vitest";

import { countOf, ownKey, same, withField, withRow } from "./changes";

describe("changes", () => {
  it("contain only differences from the shipped tables", () => {
    const one = withField({}, "fault", "hip-stall", "prior", 0.2, 0.1);
    expect(one).toEqual({ fault: { "hip-stall": { prior: 0.2 } } });
    expect(withField(one, "fault", "hip-stall", "prior", 0.1, 0.1)).toEqual({});
  });
  it("keep the other fields and entries", () => {
    const both = withField(withField({}, "fault", "a", "prior", 0.2, 0.1), "fault", "a", "label", "A", "B");
    expect(withField(both, "fault", "a", "label", "B", "B")).toEqual({ fault: { a: { prior: 0.2 } } });
    expect(countOf(withRow(both, "check", "own-x", { label: "x" }))).toBe(2);
  });
  it("do not modify their source", () => {
    const before = { fault: { a: { prior: 0.2 } } };
    withField(before, "fault", "a", "prior", 0.3, 0.1);
    expect(before).toEqual({ fault: { a: { prior: 0.2 } } });
  });
});

describe("sameness", () => {
  it("ignores the order of keys", () => {
    expect(same({ a: 1, b: [1, 2] }, { b: [1, 2], a: 1 })).toBe(true);
    expect(same([1, 2], [2, 1])).toBe(false);
  });
});

describe("keys of own entries", () => {
  it("come from the name and are unique", () => {
    expect(ownKey("Trail Heel!", [])).toBe("own-trail-heel");
    expect(ownKey("Trail heel", ["own-trail-heel"])).toBe("own-trail-heel-2");
    expect(ownKey("…", [])).toBe("own-entry");
  });
});
