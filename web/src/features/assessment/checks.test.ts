import { describe, expect, it } from "vitest";

import type { Check, Ranking } from "../../api/queries";
import { worthOf } from "../../shared/format/worth";
import { checksToCome, walkFrom } from "./checks";

const check = (id: string, view = "any") => ({ id, view, grades: ["good", "bad"] }) as unknown as Check;
const next = (...ids: string[]) => ids.map((id) => ({ id })) as unknown as Ranking["next_checks"];
const checks = [check("a", "down-the-line"), check("b", "face-on"), check("c")];
const ids = (checks: Check[]) => checks.map((c) => c.id);

describe("remaining checks", () => {
  it("leave out answered checks", () => {
    expect(ids(checksToCome(checks, { b: "good" }, next(), "swing"))).toEqual(["a", "c"]);
  });
  it("start with the most useful and end with unranked ones", () => {
    expect(ids(checksToCome(checks, {}, next("c", "a"), "value"))).toEqual(["c", "a", "b"]);
  });
  it("group by view in order", () => {
    expect(ids(checksToCome(checks, {}, next(), "view"))).toEqual(["b", "a", "c"]);
  });
});

describe("stepping through checks", () => {
  it("stays inside the list", () => {
    expect(walkFrom(checks, "a", -1)).toBe("a");
    expect(walkFrom(checks, "b", 1)).toBe("c");
    expect(walkFrom(checks, "c", 1)).toBe("c");
  });
  it("starts at the first check", () => {
    expect(walkFrom(checks, undefined, 1)).toBe("b");
    expect(walkFrom([], "a", 1)).toBeNull();
  });
});

describe("usefulness of a check", () => {
  it.each([
    [0.5, 0.5, "Most useful"],
    [0.25, 0.5, "Useful"],
    [0.1, 0.5, "Less useful"],
    [undefined, 0.5, "Less useful"],
    [0.001, 0.001, "Less useful"],
  ])("of %s against %s", (gain, most, words) => {
    expect(worthOf(gain, most)).toBe(words);
  });
});
