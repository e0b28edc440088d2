// @vitest-environment jsdom
import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import axe from "axe-core";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import type { Ranking } from "../api/queries";
import { asked, changes, LESSON, onRecordedServer, opened, push, recorded, sent } from "./harness";

onRecordedServer();

const STATIONS: [string, RegExp][] = [
  ["ask", /usual miss/i],
  ["baseline", /pattern|path/i],
  ["check", /checks?/i],
  ["cause", /fault/i],
  ["correct", /If only/],
  ["prove", /through the gate|no balls yet|gate/i],
  ["take-home", /one thing to change/i],
];
const shots = recorded<Schemas["ShotOut"][]>("shots");
const proof = recorded<Schemas["ProofOut"]>("proof");
const lesson = recorded<Schemas["LessonOut"]>("lesson");
const corrections = recorded<Schemas["Choices"]>("corrections");

describe.each(STATIONS)("the station %s", (station, words) => {
  it("shows recorded data, changes nothing, and passes axe", async () => {
    const { container } = await opened(station);
    expect(within(screen.getByRole("main")).getAllByText(words).length).toBeGreaterThan(0);
    // The server remembers where the lesson is; nothing else is written by looking.
    expect(changes().filter((c) => !(c.path === LESSON && c.method === "PATCH"))).toEqual([]);
    const found = await axe.run(container, { rules: { "color-contrast": { enabled: false } } });
    expect(found.violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  });
});

describe("the next stations", () => {
  it("are prefetched when idle, each query once", async () => {
    await opened("baseline");
    const ahead = ["checks", "cause", "stills", "intake", "corrections", "take-home"];
    const askedAhead = () => asked().filter((name) => ahead.includes(name));
    await waitFor(() => expect(askedAhead()).toContain("stills"));
    expect(askedAhead()).toEqual(["checks", "cause", "stills"]);
    await waitFor(() => expect(askedAhead()).toContain("take-home"));
    expect(askedAhead()).toEqual(["checks", "cause", "stills", "intake", "corrections", "take-home"]);
    expect(document.title).toBe(`Baseline · ${lesson.student.name} · Instavis`);
  });
});

describe("the tape", () => {
  it("shows the server's state of every ball", async () => {
    await opened("prove");
    const tape = screen.getByRole("region", { name: "Balls" });
    for (const row of proof.tape.slice(-6)) {
      const ball = shots.find((s) => s.id === row.shot_id);
      const button = within(tape).getByRole("button", { name: new RegExp(`^Ball ${ball?.number}(,|$| )`) });
      if (row.excluded) expect(button.textContent).toContain(`excluded: ${row.excluded.text}`);
      if (row.verdict) expect(button.textContent).toContain("verdict");
    }
  });
});

describe("a number that contradicts its balls", () => {
  it("leads to the column mapping by one key", async () => {
    const ranking = { ...recorded<Ranking>("cause"), signs_in_doubt: true };
    const page = await opened("cause", { [`GET ${LESSON}/cause`]: ranking });
    await screen.findByRole("button", { name: /^Check the column mapping/ });
    fireEvent.keyDown(window, { key: "m" });
    await screen.findByText(/^Choose the file again/);
    expect(page.router.state.location.pathname).toMatch(/baseline$/);
    await waitFor(() => expect(document.activeElement?.textContent).toBe("Import file"));
  });

  it("is not reported if all agree", async () => {
    await opened("cause");
    expect(screen.queryByRole("button", { name: /^Check the column mapping/ })).toBeNull();
  });
});

describe("the body screen", () => {
  it("explains results and saves each part at once", async () => {
    const body = recorded<Schemas["BodyOut"]>("body");
    await opened("check");
    const section = screen.getByRole("region", { name: "Body screen" });
    for (const text of body.says) within(section).getByText(text);
    fireEvent.click(within(section).getByRole("button", { name: "Test again" }));
    const sheet = await screen.findByRole("dialog", { name: "Body screen" });
    within(sheet).getByText(body.caution);
    const short = body.results.find((r) => r.grade === "short");
    const part = body.tests.flatMap((t) => t.parts).find((p) => p.id === short?.part);
    const chips = within(sheet).getByRole("radiogroup", { name: part?.label });
    expect(within(chips).getByRole("radio", { name: "Limited" }).getAttribute("aria-checked")).toBe("true");
    fireEvent.click(within(chips).getByRole("radio", { name: "Free" }));
    await waitFor(() => expect(changes().some((c) => c.path === `${LESSON}/body`)).toBe(true));
    expect(changes().find((c) => c.path === `${LESSON}/body`)?.body).toEqual({
      results: { [short?.part ?? ""]: "free" },
    });
    // Touched again it is taken back.
    fireEvent.click(within(chips).getByRole("radio", { name: "Limited" }));
    await waitFor(() => expect(changes().filter((c) => c.path === `${LESSON}/body`)).toHaveLength(2));
    expect(changes().filter((c) => c.path === `${LESSON}/body`)[1]?.body).toEqual({
      results: { [short?.part ?? ""]: "" },
    });
  });
});

describe("hints", () => {
  const session = { ...recorded<Schemas["SessionOut"]>("session"), begins: true };
  const NEW = { "GET /api/v1/session": session };
  const text = /Change one thing only/;

  it("guide a new coach until dismissed", async () => {
    const first = await opened("correct", NEW);
    screen.getByText(text);
    fireEvent.click(screen.getByRole("button", { name: "Got it" }));
    expect(screen.queryByText(text)).toBeNull();
    first.unmount();
    const again = await opened("correct", NEW);
    expect(screen.queryByText(text)).toBeNull();
    again.unmount();
    await opened("cause", NEW);
    screen.getByText(/Faults by likelihood/);
    localStorage.clear();
  });

  it("return from the list of keys", async () => {
    await opened("correct");
    expect(screen.queryByText(text)).toBeNull();
    fireEvent.keyDown(document.body, { key: "?" });
    fireEvent.click(await screen.findByRole("button", { name: "Show hints at every station" }));
    await screen.findByText(text);
    localStorage.clear();
  });
});

describe("the coach's school", () => {
  const [candidate] = corrections.candidates;
  const drills = candidate?.drills ?? [];
  const [mine, other] = drills;
  const under = (side: string) => ({
    ...corrections,
    active: null,
    candidates: [
      {
        ...candidate,
        drills: [...drills]
          .sort((a, b) => Number(b.drill.id === side) - Number(a.drill.id === side))
          .map((d) => ({
            ...d,
            follows_school: d.drill.id === side,
            opposes_school: d !== mine && d !== other ? false : d.drill.id !== side,
          })),
      },
    ],
  });

  it("moves the selected drill along when the coach takes another side, and leaves a pick of the coach alone", async () => {
    const special: Record<string, unknown> = { [`GET ${LESSON}/corrections`]: under(mine?.drill.id ?? "") };
    const page = await opened("correct", special);
    const selected = () =>
      within(screen.getByRole("radiogroup", { name: "Drill" })).getByRole("radio", { checked: true });
    expect(selected().textContent).toContain(mine?.drill.name);
    special[`GET ${LESSON}/corrections`] = under(other?.drill.id ?? "");
    await act(() => page.cache.invalidateQueries({ queryKey: ["lesson", lesson.id, "corrections"] }));
    await waitFor(() => expect(selected().textContent).toContain(other?.drill.name));
    fireEvent.click(within(screen.getByRole("radiogroup", { name: "Drill" })).getByText(mine?.drill.name ?? ""));
    await waitFor(() => expect(selected().textContent).toContain(mine?.drill.name));
  });
});

describe("correct", () => {
  it("lets the coach choose a feel with the drill", async () => {
    await opened("correct");
    const feels = screen.getByRole("radiogroup", { name: "Feel" });
    const [, other] = within(feels).getAllByRole("radio");
    fireEvent.click(other as HTMLElement);
    fireEvent.click(screen.getByRole("button", { name: /^Start (over|correction)$/ }));
    await waitFor(() => expect(changes().some((c) => c.path === `${LESSON}/corrections`)).toBe(true));
    const body = changes().find((c) => c.path === `${LESSON}/corrections`)?.body as { felt_by: string };
    const feel = recorded<{ felt: { id: string; label: string }[] }>("knowledge").felt.find(
      (w) => w.id === body.felt_by,
    );
    expect(feel?.label).toBe(other?.textContent);
  });

  it("sends only the choice, and a gate only if moved", async () => {
    await opened("correct");
    const candidate =
      corrections.candidates.find((c) => c.id === corrections.active?.fault) ?? corrections.candidates[0];
    const take = screen.getByRole("button", { name: /^Start (over|correction)$/ });
    fireEvent.click(take);
    await waitFor(() => expect(changes().some((c) => c.path === `${LESSON}/corrections`)).toBe(true));
    const body = changes().find((c) => c.path === `${LESSON}/corrections`)?.body as Record<string, unknown>;
    expect(new Set(Object.keys(body))).toEqual(new Set(["fault", "variant", "drill", "felt_by", "stage"]));
    expect(body.fault).toBe(candidate?.id);
  });

  it("sends a moved gate", async () => {
    await opened("correct");
    fireEvent.click(screen.getByRole("radio", { name: "Gate" }));
    const [from] = screen.getAllByLabelText(/^From/);
    fireEvent.change(from as HTMLElement, { target: { value: "-9" } });
    fireEvent.click(screen.getByRole("button", { name: /^Start (over|correction)$/ }));
    await waitFor(() => expect(changes().some((c) => c.path === `${LESSON}/corrections`)).toBe(true));
    const body = changes().find((c) => c.path === `${LESSON}/corrections`)?.body as { gate: Record<string, number[]> };
    expect(Object.values(body.gate)[0]?.[0]).toBe(-9);
  });
});

describe("prove", () => {
  it("says when the next balls go into the baseline, and switches back", async () => {
    const elsewhere = {
      ...lesson,
      ended_at: null,
      open_block: { id: 1, purpose: "baseline", stage: "", correction_id: null },
    };
    await opened("prove", { [`GET ${LESSON}`]: elsewhere });
    expect(screen.getByText("The next balls go into the baseline.")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Prove it" }));
    await waitFor(() => expect(changes().at(-1)?.path).toBe(`${LESSON}/blocks`));
    expect(changes().at(-1)?.body).toEqual({ purpose: "prove", stage: proof.correction?.stage });
  });

  it("marks the newest ball by one key without duplicate queries", async () => {
    const newest = shots.at(-1) as Schemas["ShotOut"];
    const marked = { ...newest, movement: "missed" };
    await opened("prove", { [`PATCH /api/v1/shots/${newest.id}`]: marked });
    await waitFor(() => expect(asked()).toContain("take-home"), { timeout: 10_000 });
    sent.length = 0;
    fireEvent.keyDown(window, { key: "3", code: "Digit3" });
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]?.body).toEqual({ movement: "missed" });
    act(() => push({ cursor: lesson.cursor + 1, kind: "ball", data: { ...marked, marked: ["movement"] } }));
    act(() => push({ kind: "proof", data: proof }));
    await new Promise((done) => setTimeout(done, 600));
    expect(asked()).toEqual([]);
  });
});

describe("a ball whose mark is newer than the proof", () => {
  it("shows only its number until the proof is updated", async () => {
    const newest = shots.at(-1) as Schemas["ShotOut"];
    const last = proof.ball_ids.indexOf(newest.id);
    const verdicts = proof.proof?.verdicts.map((reply, i) =>
      i === last ? { ...reply, verdict: "unclear", moved: null, reasons: ["The movement is not marked yet."] } : reply,
    );
    await opened("prove", {
      [`GET ${LESSON}/shots`]: shots.map((s) => (s === newest ? { ...s, movement: "missed", covered: false } : s)),
      [`GET ${LESSON}/proof`]: { ...proof, proof: { ...proof.proof, verdicts } },
    });
    const panel = within(screen.getByRole("complementary", { name: "Proof" }));
    expect(panel.getByText(`Ball ${newest.number}`)).toBeTruthy();
    expect(panel.queryByText(/not marked yet/)).toBeNull();
  });
});

describe("a hidden ball", () => {
  const newest = shots.at(-1) as Schemas["ShotOut"];
  const covered = { ...newest, movement: "", mark_basis: "", covered: true };
  const special = { [`GET ${LESSON}/shots`]: [...shots.slice(0, -1), covered] };
  const verdict = proof.proof?.verdicts.at(-1)?.reasons.join(" ") ?? "";

  it("shows no number, strand or verdict until marked", async () => {
    await opened("prove", special);
    const whole = document.body.textContent ?? "";
    expect(verdict.length).toBeGreaterThan(10);
    expect(whole).not.toContain(verdict);
    expect(within(screen.getByRole("complementary", { name: "Proof" })).getByText("Did the body do it?")).toBeTruthy();
    const ball = within(screen.getByRole("region", { name: "Balls" })).getByRole("button", {
      name: `Ball ${newest.number}, hidden until its movement is marked`,
    });
    expect(ball.textContent).not.toMatch(/path|verdict/);
  });

  it("stays hidden on Baseline", async () => {
    await opened("baseline", special);
    sent.length = 0;
    fireEvent.keyDown(window, { key: "End", code: "End" });
    await screen.findByText(`Ball ${newest.number} is hidden until you mark it.`);
    expect(asked().filter((path) => path.includes(String(newest.id)))).toEqual([]);
  });

  it("is marked blind by one key, or shown by another and then seen", async () => {
    await opened("prove", { ...special, [`PATCH /api/v1/shots/${newest.id}`]: covered });
    sent.length = 0;
    fireEvent.keyDown(window, { key: "u", code: "KeyU" });
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]?.body).toEqual({ mark_basis: "seen" });
    fireEvent.keyDown(window, { key: "1", code: "Digit1" });
    await waitFor(() => expect(changes()).toHaveLength(2));
    expect(changes()[1]?.body).toEqual({ movement: "done", mark_basis: "blind" });
  });
});

describe("a change whose link is untested", () => {
  const reply = {
    ...proof,
    proof: { ...proof.proof, status: "supported", call_balls: true, reason: "Changed.", verified_at: null },
  };

  it("offers called balls by tap and by key", async () => {
    await opened("prove", { [`GET ${LESSON}`]: { ...lesson, ended_at: null }, [`GET ${LESSON}/proof`]: reply });
    const offer = screen.getByRole("button", { name: /Test old vs. new/ });
    sent.length = 0;
    fireEvent.keyDown(window, { key: "c", code: "KeyC" });
    await waitFor(() => expect(changes()[0]).toMatchObject({ method: "POST", path: `${LESSON}/calls` }));
    expect(offer).toBeTruthy();
  });

  it("shows the call in large letters", async () => {
    const trial = { id: 4, first: "old", second: "new", primary: "path_deg", balls_planned: 8, ended: false };
    const running = [{ ...trial, next_call: "old", balls: [], result: null, sentence: "0 of 8 balls." }];
    await opened("prove", { [`GET ${LESSON}/trials`]: running });
    expect(screen.getByText("Old move")).toBeTruthy();
    expect(screen.getByText(/ball 1 of 8/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Stop test" }));
    await waitFor(() => expect(changes().at(-1)?.path).toBe("/api/v1/trials/4/end"));
  });
});

describe("check", () => {
  const graded = recorded<Schemas["Grades"]>("checks");
  const ranking = recorded<Ranking>("cause");
  const heading = () => within(screen.getByRole("main")).getByRole("heading", { level: 2 }).textContent;
  const turned = { ...ranking, next_checks: ranking.next_checks.toReversed() };

  it("keeps the current check when a new order arrives", async () => {
    const special: Record<string, unknown> = {};
    const page = await opened("check", special);
    const before = heading();
    special[`GET ${LESSON}/cause`] = turned;
    await act(() => page.cache.invalidateQueries({ queryKey: ["lesson", lesson.id, "cause"] }));
    expect(heading()).toBe(before);
  });

  it("moves to the most useful check once the new order is known", async () => {
    const special: Record<string, unknown> = {};
    const page = await opened("check", special);
    const before = heading() ?? "";
    fireEvent.keyDown(window, { key: "2", code: "Digit2" });
    await waitFor(() => expect(changes().at(-1)?.path).toBe(`${LESSON}/checks`));
    const [[check, grade]] = Object.entries(
      (changes().at(-1) as { body: { grades: Record<string, string> } }).body.grades,
    ) as [[string, string]];
    special[`GET ${LESSON}/checks`] = { ...graded, grades: { ...graded.grades, [check]: grade } };
    special[`GET ${LESSON}/cause`] = turned;
    expect(heading()).toBe(before);
    await act(() => page.cache.invalidateQueries({ queryKey: ["lesson", lesson.id] }));
    const best = turned.next_checks.find((c) => c.id !== check && !(c.id in graded.grades));
    await waitFor(() => expect(heading()).not.toBe(before));
    const { checks } = recorded<{ checks: { id: string; label: string }[] }>("knowledge");
    expect(heading()).toBe(checks.find((c) => c.id === best?.id)?.label);
  });
});

describe("refused balls", () => {
  it("are shown on every station with what to do", async () => {
    const group = {
      reason: "other-hand",
      count: 2,
      ids: [7, 8],
      text: "2 balls came marked left-handed. They are kept.",
    };
    await opened("check", { [`GET ${LESSON}`]: { ...lesson, bay_id: 1, refused: [group] } });
    expect(screen.getByText(group.text)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Add mirrored" }));
    await waitFor(() => expect(changes().at(-1)?.path).toBe(`${LESSON}/refused`));
    expect(changes().at(-1)?.body).toEqual({ bay_id: 1, refused_ids: [7, 8], how: "mirrored" });
  });
});
