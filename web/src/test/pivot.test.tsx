// @vitest-environment jsdom
/** The measured pivot in Prove: axis, gate, the selected ball's value, the slope, and coach overrides. */
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { LESSON, onRecordedServer, openStation, recorded, settled } from "./harness";

onRecordedServer();

type ProofOut = Schemas["ProofOut"];
type PivotProof = Schemas["PivotProof"];

const result = recorded<ProofOut>("proof");
const shots = recorded<Schemas["ShotOut"][]>("shots");

const seen = (value: number, mark: Schemas["Movement"] | null, more = {}) => ({
  value,
  error: 0.4,
  mark,
  close: false,
  broken: "",
  ...more,
});

const gate: Schemas["PivotGate"] = {
  series: "thrust_cm",
  label: "Thrust",
  unit: "cm",
  at: "halfway-down",
  since: "",
  centre: 4.3,
  band: [2.6, 6.1],
  balls: 13,
  reach: -4.7,
  gate: [-3.6, 1.5],
  partly: 2.6,
  blunt: false,
  guards: {},
};

/** One reading for each ball, matching its mark. */
function pivotOf(changes: Partial<PivotProof> = {}): PivotProof {
  const movement = new Map(shots.map((s) => [s.id, s.movement]));
  const balls = result.ball_ids.map((id) => {
    const mark = (movement.get(id) || "missed") as Schemas["Movement"];
    return seen({ done: -1, partly: 2, missed: 4.5, unseen: 4.5 }[mark], mark);
  });
  const slope = {
    estimate: 1.7,
    low: 1.0,
    high: 2.4,
    confidence: 0.95,
    evidence: 60,
    own: 0.9,
    balls: 20,
    baseline_balls: 13,
    unit: "°",
    sentence: "Thrust −2 cm: club path −3.4° (−4.8° to −2.0°, whenever you look).",
  };
  return { gate, balls, slope, by: "slope", agreement: { both: 0, same: 0 }, ...changes };
}

async function prove(pivot: PivotProof | null, last: Partial<Schemas["ShotOut"]> = {}) {
  const proof = { ...result, proof: { ...result.proof, pivot } };
  const balls = shots.map((s) => (s.id === result.ball_ids.at(-1) ? { ...s, ...last } : s));
  const page = openStation("prove", { [`GET ${LESSON}/proof`]: proof, [`GET ${LESSON}/shots`]: balls });
  await settled(page.cache);
  return {
    picture: within(await screen.findByRole("region", { name: "Strands" })),
    panel: within(await screen.findByRole("complementary", { name: "Proof" })),
  };
}

it("draws the pivot axis with its gate, movement upward", async () => {
  const { picture, panel } = await prove(pivotOf());
  picture.getByText("Thrust");
  expect(picture.queryByText("Movement")).toBeNull();
  const [near, far] = ["+1.5 cm", "−3.6 cm"].map((text) => Number(picture.getByText(text).getAttribute("y")));
  expect(far).toBeLessThan(near as number);
  panel.getByText("Measured: thrust, halfway down −1.0 cm ± 0.4 cm, done.");
  panel.getByText(/^Thrust −2 cm: club path −3.4°/);
  panel.getByText("slope on the measured pivot");
});

it("shows a differing coach mark beside the axis", async () => {
  const balls = pivotOf().balls.map((ball, i, all) => (i === all.length - 1 ? seen(4.6, "missed") : ball));
  const pivot = pivotOf({ balls, agreement: { both: 4, same: 3 } });
  const { picture, panel } = await prove(pivot, { movement: "done", mark_basis: "blind" });
  picture.getByText("Movement");
  panel.getByText("You judged it differently. Your mark counts.");
  panel.getByText("same on 3 of 4 balls");
});

describe("what leaves a mark open", () => {
  const balls = (more: Partial<Schemas["PivotMark"]>) => pivotOf().balls.map(() => ({ ...seen(1.2, "done"), ...more }));

  it("is a close value", async () => {
    const { panel } = await prove(pivotOf({ balls: balls({ close: true }) }));
    panel.getByText("Close to the limit.", { exact: false });
  });

  it("is a violated limit", async () => {
    const { panel } = await prove(pivotOf({ balls: balls({ broken: "lift_cm", mark: "partly" }) }));
    panel.getByText("Something else changed along with it; it explains part of the change at most.", { exact: false });
  });

  it("is a blunt gate or one from the table", async () => {
    const sentence = "4 balls measured; the slope takes a few more.";
    const slope = { ...pivotOf().slope, sentence, estimate: null, low: null, high: null, balls: 4 };
    const blunt = { ...gate, blunt: true, balls: 0 };
    const { panel } = await prove(pivotOf({ gate: blunt, balls: balls({ mark: null }), slope }));
    panel.getByText(sentence);
    panel.getByText(/^The belt can't separate/);
    panel.getByText(/^No baseline ball was measured/);
  });
});

it("is unchanged without measurements", async () => {
  const { picture, panel } = await prove(null);
  picture.getByText("Movement");
  expect(panel.queryByText(/^Measured:/)).toBeNull();
});
