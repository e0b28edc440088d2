// @vitest-environment jsdom
/** Practice lessons: start at a level, hit and watch by keys, results at the end. */
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import axe from "axe-core";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { asked, changes, LESSON, onRecordedServer, openAt, openStation, recorded, sent, settled } from "./harness";

onRecordedServer();

const lesson = { ...recorded<Schemas["LessonOut"]>("lesson"), training: true, bay_id: null, ended_at: null };
const result = recorded<Schemas["TrainingOut"]>("training");
const rows = recorded<Schemas["TrainingRow"][]>("trainings");
const score = result.score as Schemas["Score"];
const swing: Schemas["SwingShown"] = {
  view: "down-the-line",
  seconds: 0.01,
  sheet: [-1, 0, 1, 2],
  frames: [
    [
      {
        ink: "body",
        width: 10,
        lines: [
          [
            [0, 0],
            [0, 1],
          ],
        ],
      },
    ],
  ],
};
const checks = recorded<Schemas["KnowledgeOut"]>("knowledge").checks;
const SWINGS = Object.fromEntries(
  checks.map(({ id, view }) => [
    `GET ${LESSON}/training/swings/${id}`,
    { ...swing, view: view === "any" ? "face-on" : view },
  ]),
);
const GOING = {
  [`GET ${LESSON}`]: lesson,
  [`GET ${LESSON}/training`]: { ...result, ended_at: null, score: null },
  ...SWINGS,
};

async function opened(station: string, special: Record<string, unknown> = {}) {
  const page = openStation(station, { ...GOING, ...special });
  const golfer = await screen.findByRole("complementary", { name: "The made-up golfer" });
  await settled(page.cache);
  return { ...page, golfer };
}

const looked = () => sent.filter((s) => s.path.includes("/training/swings/"));

describe("the golfer of a practice lesson", () => {
  it("is beside every station with a hint and passes axe", async () => {
    const { golfer, container } = await opened("baseline");
    within(golfer).getByText(/Hit about ten balls/);
    within(golfer).getByText(/Usual golfer/);
    const found = await axe.run(container, { rules: { "color-contrast": { enabled: false } } });
    expect(found.violations.map((v) => v.id)).toEqual([]);
  });

  it("hits by key and button, but not while typing", async () => {
    const { golfer } = await opened("baseline");
    fireEvent.keyDown(document.body, { key: "h" });
    const hits = () => changes().filter((c) => c.path === `${LESSON}/training/balls`);
    await waitFor(() => expect(hits()).toHaveLength(1));
    await waitFor(() => within(golfer).getByRole("button", { name: /Hit five/ }));
    fireEvent.click(within(golfer).getByRole("button", { name: "Hit five" }));
    await waitFor(() => expect(hits()).toHaveLength(2));
    expect(hits().map((c) => c.body)).toEqual([{ count: 1 }, { count: 5 }]);
    fireEvent.keyDown(screen.getAllByRole("combobox")[0] as HTMLElement, { key: "h" });
    expect(hits()).toHaveLength(2);
  });

  it("is shown from the current check's view", async () => {
    await opened("check");
    const [check] = screen.getAllByRole("heading", { level: 2 });
    const open = checks.find((l) => l.label === check?.textContent);
    const last = recorded<Schemas["ShotOut"][]>("shots").at(-1);
    await waitFor(() => expect(looked().at(-1)?.path).toBe(`${LESSON}/training/swings/${open?.id}`));
    expect(looked().at(-1)?.query).toEqual({ ball: String(last?.number) });
  });

  it("is shown on Prove for the correction's best check", async () => {
    await opened("prove");
    const fault = recorded<Schemas["ProofOut"]>("proof").correction?.fault ?? "";
    const id = looked().at(-1)?.path.split("/").at(-1);
    const speaks = checks.find((l) => l.id === id)?.speaks ?? {};
    expect(Math.max(...Object.values(speaks).map((s) => s[fault] ?? 0))).toBe(2);
  });

  it("changes its view on request", async () => {
    const { golfer } = await opened("baseline");
    const before = looked().at(-1)?.path;
    fireEvent.click(within(golfer).getByRole("button", { name: "Down the line" }));
    await waitFor(() => expect(looked().at(-1)?.path).not.toBe(before));
  });

  it("is revealed at the end and hits no more", async () => {
    const { golfer } = await opened("take-home");
    fireEvent.click(within(golfer).getByRole("button", { name: /End lesson/ }));
    await waitFor(() => expect(changes()).toContainEqual(expect.objectContaining({ body: { ended: true } })));
    expect(screen.queryByRole("button", { name: "End lesson" })).toBeNull();
  });

  it("does not hit after the end", async () => {
    const { golfer } = await opened("take-home", {
      [`GET ${LESSON}`]: { ...lesson, ended_at: "2026-05-04T10:00:00Z" },
      [`GET ${LESSON}/training`]: result,
    });
    within(golfer).getByRole("heading", { name: "Result" });
    for (const fault of score.faults) within(golfer).getByText(fault.label);
    fireEvent.keyDown(document.body, { key: "h" });
    expect(changes().filter((c) => c.path.endsWith("/balls"))).toEqual([]);
    expect(screen.queryByRole("button", { name: "Reopen lesson" })).toBeNull();
  });

  it("is absent in a student's lesson", async () => {
    const page = openStation("baseline");
    await settled(page.cache);
    expect(screen.queryByRole("complementary", { name: "The made-up golfer" })).toBeNull();
    fireEvent.keyDown(document.body, { key: "h" });
    expect(changes().filter((c) => c.path.endsWith("/balls"))).toEqual([]);
    expect(asked()).not.toContain("training");
  });
});

describe("the list of practice lessons", () => {
  it("starts one at a level and opens it", async () => {
    const page = openAt("/train", { "POST /api/v1/trainings": { lesson_id: lesson.id } });
    await settled(page.cache);
    fireEvent.click(screen.getByRole("button", { name: "Start: Tangled" }));
    await waitFor(() => expect(page.router.state.location.pathname).toBe(`/lessons/${lesson.id}/baseline`));
    expect(changes()[0]).toMatchObject({ path: "/api/v1/trainings", body: { level: "tangled" } });
  });

  it("shows results and deletes one", async () => {
    const page = openAt("/train");
    await settled(page.cache);
    const [row] = rows as [Schemas["TrainingRow"]];
    screen.getByText(new RegExp(`no correction · ${score.checks_right} of 1 checks · 10 balls`));
    for (const fault of score.faults) screen.getByText(fault.label);
    const found = await axe.run(page.container, { rules: { "color-contrast": { enabled: false } } });
    expect(found.violations.map((v) => v.id)).toEqual([]);
    fireEvent.click(screen.getByRole("button", { name: /^Remove/ }));
    expect(changes()).toEqual([]);
    fireEvent.click(screen.getByRole("button", { name: /^Remove now/ }));
    await waitFor(() =>
      expect(changes()[0]).toMatchObject({ method: "DELETE", path: `/api/v1/lessons/${row.lesson_id}/training` }),
    );
  });

  it.each([
    [
      { corrected: "Sway", right_cause: false, leading_cause: false, outcome: "verified", right_claim: false },
      /did not have it/,
      /though the cause was another/,
    ],
    [
      { corrected: "Sway", right_cause: true, leading_cause: false, outcome: "not-supported", right_claim: false },
      /another one led/,
      /though the cause was right/,
    ],
    [
      { corrected: "Sway", right_cause: true, leading_cause: true, outcome: "verified", right_claim: true },
      /the leading one/,
      /^verified, correctly/,
    ],
    [
      { corrected: "Sway", right_cause: false, leading_cause: false, outcome: "not-supported", right_claim: true },
      /did not have/,
      /not supported, correctly/,
    ],
    [
      { corrected: "Sway", right_cause: true, leading_cause: true, outcome: "open", right_claim: null },
      /the leading one/,
      /too few marked balls/,
    ],
  ])("rates the claim: %o", async (changed, cause, claim) => {
    const row = { ...rows[0], score: { ...score, ...changed, marks: 4, marks_right: 1 } };
    const page = openAt("/train", { "GET /api/v1/trainings": [row] });
    await settled(page.cache);
    screen.getByText(cause);
    screen.getByText(claim);
    screen.getByText("1 of 4 marks correct");
  });
});
