import { describe, expect, it } from "vitest";

import type { Ranking } from "../api/queries";
import { evidenceInWords, sureness } from "./explain";

const fault = (label: string, probability: number) => ({ label, probability, happens: `${label} happens.`, evidence: [] });
const ranking = (faults: [string, number][], others: [string, number][] = []) =>
  ({ faults: faults.map(([l, p]) => fault(l, p)), compensations: others.map(([l, p]) => fault(l, p)) }) as unknown as Ranking;

describe("how sure it is", () => {
  it("names nothing while it would be a guess", () => {
    const told = sureness(ranking([["Hip stall", 0.3]]));
    expect(told.named).toBe(false);
    expect(told.sentence).toContain("Not settled");
  });
  it("says what is not the body first", () => {
    const told = sureness(ranking([["Hip stall", 0.3]], [["Strike only", 0.8]]));
    expect(told.named).toBe(false);
    expect(told.sentence).toContain("not the way the body moves");
  });
  it.each([
    [0.95, "as good as sure"],
    [0.8, "likely, not certain"],
    [0.5, "possible, and we keep looking"],
  ])("at %s says %s", (p, words) => {
    expect(sureness(ranking([["Hip stall", p]])).sentence).toContain(words);
  });
  it("tells of a rival that is possible too", () => {
    expect(sureness(ranking([["Hip stall", 0.8], ["Hang back", 0.5]])).sentence).toContain("Hang back is possible as well");
  });
});

describe("reasons", () => {
  const e = (text: string, log_odds: number, kind = "metric") => ({ kind, id: text, log_odds, text });
  it("are the strongest first, with what speaks against it, without the chain", () => {
    const told = evidenceInWords([e("Path 4° in-to-out", 2), e("Seat line: on line", -1.5, "check"), e("Fits with its chain", 0.4, "chain"), e("Face open", 0.5)]);
    expect(told).toEqual(["Path 4° in-to-out.", "Face open.", "Against it: seat line: on line."]);
  });
});
