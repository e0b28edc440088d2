import { describe, expect, it } from "vitest";

import { clickerOf } from "../../shared/format/verdict";
import { keyActionOf, type Press, type Situation, UNCOVER } from "./keys";
import { NOTHING } from "./selection";

const press = (key: string, rest: Partial<Press> = {}): Press => ({
  key,
  code: "",
  alt: false,
  shift: false,
  inGroup: false,
  ...rest,
});
const now: Situation = {
  stations: ["ask", "baseline", "check"],
  order: [1, 2, 3],
  selection: NOTHING,
  target: { id: 3, turf: "", set_aside: "", covered: false },
  digitsTaken: false,
  clicker: clickerOf({}),
};
const one = (id: number) => ({ ids: new Set([id]), anchor: id });

describe("keys of a lesson", () => {
  it.each([
    ["1", "done"],
    ["2", "partly"],
    ["3", "missed"],
    ["0", "unseen"],
    ["PageDown", "done"],
    ["PageUp", "missed"],
  ])("%s marks the movement %s", (key, movement) => {
    expect(keyActionOf(press(key), now)).toEqual({ do: "mark", id: 3, mark: { movement } });
  });

  it.each(["1", "3", "PageDown"])("%s marks a hidden ball as blind", (key) => {
    const covered = { ...now, target: { id: 3, turf: "", set_aside: "", covered: true } };
    expect(keyActionOf(press(key), covered)).toMatchObject({ do: "mark", mark: { mark_basis: "blind" } });
  });

  it("show a hidden ball, and nothing else", () => {
    const covered = { ...now, target: { id: 3, turf: "", set_aside: "", covered: true } };
    expect(keyActionOf(press("u"), covered)).toEqual({ do: "mark", id: 3, mark: UNCOVER });
    expect(keyActionOf(press("u"), now)).toBeNull();
  });

  it("leave digits to Check, and the clicker to the balls", () => {
    const check = { ...now, digitsTaken: true };
    expect(keyActionOf(press("1"), check)).toBeNull();
    expect(keyActionOf(press("PageDown"), check)).toMatchObject({ do: "mark" });
  });

  it("use the clicker's own keys first", () => {
    const own = { ...now, clicker: clickerOf({ ArrowRight: "done", F5: "partly" }) };
    expect(keyActionOf(press("ArrowRight"), own)).toMatchObject({ do: "mark", mark: { movement: "done" } });
    expect(keyActionOf(press("F5"), own)).toMatchObject({ do: "mark", mark: { movement: "partly" } });
    expect(keyActionOf(press("PageDown"), own)).toBeNull();
    expect(keyActionOf(press("ArrowRight"), { ...own, target: undefined })).toBeNull();
  });

  it("switch stations only", () => {
    expect(keyActionOf(press("2", { alt: true, code: "Digit2" }), now)).toEqual({ do: "go", station: "baseline" });
    expect(keyActionOf(press("9", { alt: true, code: "Digit9" }), now)).toBeNull();
    expect(keyActionOf(press("q", { alt: true, code: "KeyQ" }), now)).toBeNull();
  });

  it("step along the tape and extend a range", () => {
    expect(keyActionOf(press("ArrowLeft"), { ...now, selection: one(3) })).toEqual({ do: "select", selection: one(2) });
    const range = keyActionOf(press("ArrowLeft", { shift: true }), { ...now, selection: one(3) });
    expect(range).toEqual({ do: "select", selection: { ids: new Set([3, 2]), anchor: 2 } });
    expect(keyActionOf(press("ArrowLeft", { inGroup: true }), now)).toBeNull();
    expect(keyActionOf(press("Home"), now)).toEqual({ do: "select", selection: one(1) });
    expect(keyActionOf(press("End"), now)).toEqual({ do: "select", selection: one(3) });
    expect(keyActionOf(press("Escape"), now)).toEqual({ do: "select", selection: NOTHING });
  });

  it("exclude, undo, and cycle the turf marks", () => {
    expect(keyActionOf(press("x"), now)).toMatchObject({ mark: { set_aside: "excluded by the coach" } });
    expect(
      keyActionOf(press("x"), { ...now, target: { id: 3, turf: "", set_aside: "rain", covered: false } }),
    ).toMatchObject({
      mark: { set_aside: "" },
    });
    expect(keyActionOf(press("t"), now)).toMatchObject({ mark: { turf: "clean" } });
    expect(
      keyActionOf(press("t"), { ...now, target: { id: 3, turf: "sky", set_aside: "", covered: false } }),
    ).toMatchObject({
      mark: { turf: "" },
    });
  });

  it("mark nothing without a ball", () => {
    const empty = { ...now, order: [], target: undefined };
    for (const key of ["1", "x", "t", "n"]) expect(keyActionOf(press(key), empty)).toBeNull();
    expect(keyActionOf(press("?"), empty)).toEqual({ do: "help" });
    expect(keyActionOf(press("z"), empty)).toEqual({ do: "undo" });
    expect(keyActionOf(press("w"), now)).toBeNull();
  });
});
