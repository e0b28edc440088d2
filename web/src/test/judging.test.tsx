// @vitest-environment jsdom
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { changes, LESSON, onRecordedServer, opened, recorded } from "./harness";

onRecordedServer();

const shots = recorded<Schemas["ShotOut"][]>("shots");
const proof = recorded<Schemas["ProofOut"]>("proof");

describe("unmarked balls", () => {
  const unmarked = shots.map((shot, i) =>
    i >= shots.length - 3 ? { ...shot, covered: true, movement: "", mark_basis: "", intent: "" } : shot,
  );

  it("are counted on Prove and marked one by one", async () => {
    await opened("prove", { [`GET ${LESSON}/shots`]: unmarked });
    screen.getByText("2 balls are waiting for your mark."); // the newest is asked for already
    for (const key of ["a", "1", "3", "2"]) fireEvent.keyDown(window, { key });
    await waitFor(() => expect(changes().filter((c) => c.method === "PATCH" && /shots/.test(c.path))).toHaveLength(3));
    expect(changes().filter((c) => /shots/.test(c.path))).toMatchObject(
      unmarked.slice(-3).map((shot, i) => ({
        path: `/api/v1/shots/${shot.id}`,
        body: { movement: ["done", "missed", "partly"][i], mark_basis: "blind" },
      })),
    );
  });

  it("are shown at other stations with a link to Prove", async () => {
    const page = await opened("baseline", { [`GET ${LESSON}/shots`]: unmarked });
    screen.getByText("3 balls are waiting for your mark.");
    fireEvent.click(screen.getByRole("button", { name: /^Mark one by one/ }));
    expect(page.router.state.location.pathname).toMatch(/prove$/);
    await screen.findByText("2 more balls are waiting for your mark.");
  });
});

describe("a stage without a ball", () => {
  const at = (stage: string) => ({ ...proof, correction: { ...proof.correction, stage } });

  it("shows what to do and no verdict of a ball", async () => {
    await opened("prove", { [`GET ${LESSON}/proof`]: at("rehearse") });
    const panel = within(screen.getByRole("complementary", { name: "Proof" }));
    expect(panel.queryByRole("group", { name: /^Movement/ })).toBeNull();
    expect(panel.queryByText(/^Ball \d+\./)).toBeNull();
    panel.getAllByText("Rehearse");
    panel.getByText("Success looks like:");
  });

  it("differs from one with a ball", async () => {
    await opened("prove", { [`GET ${LESSON}/proof`]: at("half") });
    const panel = within(screen.getByRole("complementary", { name: "Proof" }));
    panel.getByRole("group", { name: /^Movement/ });
    panel.getByText("Success looks like:");
  });
});

describe("a partly made movement", () => {
  it("is shown differently from a full one", async () => {
    const last = shots.at(-1) as Schemas["ShotOut"];
    const partly = shots.map((s) => (s.id === last.id ? { ...s, covered: false, movement: "partly" } : s));
    const place = proof.ball_ids.indexOf(last.id);
    const verdicts = proof.proof?.verdicts.map((v, i) =>
      i === place ? { ...v, verdict: "linked", moved: true, answered: true } : v,
    );
    await opened("prove", {
      [`GET ${LESSON}/shots`]: partly,
      [`GET ${LESSON}/proof`]: { ...proof, proof: { ...proof.proof, verdicts } },
    });
    screen.getAllByText("Partly");
    expect(screen.queryByText("Linked")).toBeNull();
  });
});

describe("a verified claim", () => {
  it("shows exactly one interval", async () => {
    const pattern = { estimate: 1.4, low: 0.6, high: 2.2, evidence: 40, metrics: ["path_deg", "attack_deg"] };
    const change = { ...proof.proof?.change, estimate: -2, low: -5.6, high: 1.6 };
    const verified = { ...proof.proof, status: "verified", rests_on: "pattern", pattern, change };
    await opened("prove", { [`GET ${LESSON}/proof`]: { ...proof, proof: verified } });
    const running = within(screen.getByRole("region", { name: "Change so far" }));
    running.getByText("+1.4 SD toward the prediction");
    expect(running.queryByRole("img", { name: /Change of/ })).toBeNull();
    const details = running.getByText("Details").closest("details") as HTMLElement;
    expect(details.textContent).toContain("−2.0° (−5.6 to +1.6).");
    expect(running.getAllByText(/−5\.6/).every((node) => details.contains(node))).toBe(true);
  });

  it("names the ball by its tape number", async () => {
    const [, second] = proof.ball_ids;
    const number = shots.find((s) => s.id === second)?.number;
    const verified = { ...proof, proof: { ...proof.proof, status: "verified", verified_at: 2 } };
    await opened("prove", { [`GET ${LESSON}/proof`]: verified });
    screen.getByText(`since ball ${number}`);
    expect(number).not.toBe(2);
  });
});
