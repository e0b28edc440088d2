import { describe, expect, it } from "vitest";

import type { History, LessonOnRecord } from "../../api/records";
import { fateOf, faultsOf, reachOf, stopsOf } from "./record";

const span = (kind: string, centre: number, metric = "path_deg") => ({
  kind,
  metric,
  balls: 10,
  centre,
  low: centre - 1,
  high: centre + 1,
  spread: 2,
  inferred: false,
});
const tried = (fault: string, outcome: string) => ({
  fault,
  label: `The ${fault}`,
  drill: "Bar stool",
  primary: "path_deg",
  gate: [-1, 3] as [number, number],
  stage: "full",
  outcome,
  status: "",
});
const suspect = (fault: string, word = "likely") => ({
  fault,
  label: `The ${fault}, from inside`,
  probability: 0.8,
  word,
});

function lesson(day: string, parts: Partial<LessonOnRecord> = {}): LessonOnRecord {
  return {
    id: Number(day.replaceAll("-", "")),
    day,
    club: "7i",
    coach: "Imke",
    balls: 20,
    spans: [],
    suspects: [],
    tried: [],
    dose: null,
    cold: null,
    ...parts,
  };
}

function record(...lessons: LessonOnRecord[]): History {
  return {
    lessons,
    metrics: ["path_deg"],
    alarm: null,
    dose_link: { lessons: 0, tau: null, p: null, sentence: "" },
    left_out: 0,
  };
}

describe("the time picture", () => {
  it("places lessons by day and separates two of one day", () => {
    const xs = stopsOf(record(lesson("2026-05-01"), lesson("2026-05-15"), lesson("2026-05-29")), "path_deg").map(
      (s) => s.x,
    );
    expect(xs).toEqual([0, 0.5, 1]);
    const close = stopsOf(record(lesson("2026-05-01"), lesson("2026-05-01"), lesson("2026-06-30")), "path_deg").map(
      (s) => s.x,
    );
    expect(close[1]).toBeGreaterThan(0.1);
    expect(close[2]).toBe(1);
  });

  it("stays in order and inside its edges", () => {
    const days = [
      "2026-01-01",
      "2026-06-01",
      "2026-06-01",
      "2026-06-02",
      "2026-06-02",
      "2026-06-02",
      "2026-06-03",
      "2026-06-03",
      "2026-06-03",
    ];
    const xs = stopsOf(record(...days.map((d) => lesson(d))), "path_deg").map((s) => s.x);
    expect(xs.every((x, i) => x >= 0 && x <= 1 && x > (xs[i - 1] ?? -1))).toBe(true);
    expect(stopsOf(record(lesson("2026-05-01")), "path_deg")[0]?.x).toBe(0);
    expect(stopsOf(record(), "path_deg")).toEqual([]);
  });

  it("shows only the selected number with its gate", () => {
    const spans = [span("baseline", 5), span("exit", 1), span("baseline", 9, "face_deg")];
    const [stop] = stopsOf(record(lesson("2026-05-01", { spans, tried: [tried("a", "open")] })), "path_deg");
    expect([stop?.baseline?.centre, stop?.exit?.centre, stop?.gate]).toEqual([5, 1, [-1, 3]]);
    const [low, high] = reachOf(stop ? [stop] : [], true);
    expect(low).toBeLessThan(-1);
    expect(high).toBeGreaterThan(7);
    expect(reachOf([], true)).toEqual([-1, 1]);
    expect(
      reachOf(stopsOf(record(lesson("2026-05-01", { spans: [span("baseline", 30)] })), "path_deg"), false)[0],
    ).toBeGreaterThan(25);
  });
});

describe("the state of a fault", () => {
  it("is the strongest known in a lesson", () => {
    const of = (parts: Partial<LessonOnRecord>) => fateOf(lesson("2026-05-01", parts), "a")?.word;
    expect(of({ tried: [tried("a", "verified")], suspects: [suspect("a")] })).toBe("proven");
    expect(of({ tried: [tried("a", "not-supported")] })).toBe("refuted");
    expect(of({ tried: [tried("a", "stopped")] })).toBe("tried, stopped");
    expect(of({ tried: [tried("a", "open")] })).toBe("tried");
    expect(of({ suspects: [suspect("a", "possible")] })).toBe("possible");
    expect(of({ suspects: [suspect("b")] })).toBeUndefined();
  });

  it("lists each fault once, by first occurrence", () => {
    const result = faultsOf(
      record(
        lesson("2026-05-01", { suspects: [suspect("b"), suspect("a")] }),
        lesson("2026-05-15", { tried: [tried("c", "open"), tried("a", "open")] }),
      ),
    );
    expect(result.map((f) => f.fault)).toEqual(["b", "a", "c"]);
    expect(result[0]?.label).toBe("The b");
  });
});
