import { describe, expect, it } from "vitest";

import {
  addBall,
  begin,
  EMPTY,
  finish,
  neverTaken,
  readLog,
  refuse,
  sendingWords,
  sent,
  tap,
  undo,
  wake,
} from "./practice";

const at = (minute: number) => new Date(2026, 4, 4, 18, minute);
const begun = begin(EMPTY, "entry-0001", at(0));

describe("a practice", () => {
  it("counts felt and unfelt repetitions with undo", () => {
    let log = [true, true, false, true].reduce((l, felt, i) => tap(l, felt, at(i + 1)), begun);
    expect(log.running).toMatchObject({ felt: 3, not_felt: 1, ended_at: at(4).toISOString(), day: "2026-05-04" });
    log = undo(undo(log, at(5)), at(5));
    expect(log.running).toMatchObject({ felt: 2, not_felt: 0 });
    expect(undo(begun, at(1)).running).toMatchObject({ felt: 0, not_felt: 0 });
  });

  it("is queued once when finished", () => {
    const log = finish(addBall(tap(begun, true, at(1)), { contact: "thin" }, at(2)), at(9));
    expect(log.running).toBeNull();
    expect(log.queue).toEqual([
      expect.objectContaining({ entry_id: "entry-0001", felt: 1, balls: [{ contact: "thin" }] }),
    ]);
    expect(finish(log, at(10)).queue).toHaveLength(1);
    expect(log.finished?.felt).toBe(1);
  });

  it("is dropped without taps unless pain is reported", () => {
    expect(finish(begun, at(1)).queue).toEqual([]);
    expect(finish(begun, at(1), "knee").queue[0]).toMatchObject({ pain: "knee", felt: 0 });
  });

  it("starts once, and taps without a practice change nothing", () => {
    expect(begin(begun, "entry-0002", at(1))).toBe(begun);
    for (const log of [tap(EMPTY, true, at(0)), undo(EMPTY, at(0)), addBall(EMPTY, {}, at(0)), finish(EMPTY, at(0))])
      expect(log).toEqual(EMPTY);
  });

  it("ends at its last tap when left alone for hours", () => {
    const log = tap(begun, true, at(3));
    expect(wake(log, at(30))).toBe(log);
    const later = wake(log, new Date(2026, 4, 5, 9, 0));
    expect(later.queue[0]?.ended_at).toBe(at(3).toISOString());
    expect(later.running).toBeNull();
  });
});

describe("sending", () => {
  const two = finish(tap(begin(finish(tap(begun, true, at(1)), at(2)), "entry-0002", at(5)), false, at(6)), at(7));

  it("removes stored entries in any order", () => {
    expect(sent(two, "entry-0002").queue.map((e) => e.entry_id)).toEqual(["entry-0001"]);
    expect(sent(sent(two, "entry-0001"), "entry-0001").queue).toHaveLength(1);
  });

  it("continues after a refused entry", () => {
    const log = refuse(two, "entry-0001", "felt is -3");
    expect(log.queue.map((e) => e.entry_id)).toEqual(["entry-0002"]);
    expect(log.refused[0]?.message).toBe("felt is -3");
    expect(refuse(log, "entry-0009", "x")).toBe(log);
  });

  it("survives a closed page; damaged storage counts as empty", () => {
    expect(readLog(JSON.stringify(two))).toEqual(two);
    for (const text of [null, "", "{", "[]", "7", '{"queue": 3}']) expect(readLog(text)).toEqual(EMPTY);
  });

  it("shows how many entries wait", () => {
    expect(sendingWords(two, false)).toContain("2 practice entries");
    expect(sendingWords(EMPTY, true)).toBe("Everything is sent.");
    expect(sendingWords(EMPTY, false)).toContain("Offline");
  });
});

describe("answers to a practice", () => {
  it.each([
    [422, 1, true],
    [409, 1, true],
    [404, 1, true],
    [429, 1, false],
    [429, 0, false],
    [404, 0, false],
    [413, 0, false],
    [503, 1, false],
    [0, 1, false],
  ])("status %i with %i reasons is dropped: %s", (status, reasons, thrown) => {
    expect(neverTaken(status, reasons)).toBe(thrown);
  });
});
