// @vitest-environment jsdom
/** Films of a lesson on recorded answers: upload, progress, errors, proposed answers. */
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { changes, LESSON, onRecordedServer, openStation, Refusal, recorded, settled } from "./harness";

onRecordedServer();

const recordings = recorded<Schemas["RecordingsOut"]>("recordings");
const clip = { id: 7, name: "a.mp4", view: "", ball: null, state: "waiting", frames: 0, problem: null };
const reading = {
  series: "thrust_cm",
  label: "Thrust",
  axis: "toward the ball",
  grade: "leaves-early",
  unit: "cm",
  at: "impact",
  since: "",
  error: 1.2,
  bound: 1.8,
};
const seen = [
  {
    check: "seat-line",
    grade: "leaves-early",
    close: false,
    swings: 2,
    agree: 2,
    readings: [{ ...reading, value: 5.2 }],
  },
];

/** Requests other than the stored station. */
const actions = () => changes().filter((one) => one.path !== LESSON);

async function films(
  clips: unknown[],
  more: Partial<Schemas["RecordingsOut"]> = {},
  watchable: unknown[] = [],
  student: Partial<Schemas["StudentOut"]> = { filming_agreed_at: "2026-05-04T08:00:00Z" },
) {
  const lesson = recorded<Schemas["LessonOut"]>("lesson");
  const page = openStation("check", {
    [`GET ${LESSON}`]: { ...lesson, student: { ...lesson.student, ...student } },
    [`GET /api/v1/students/${lesson.student_id}/films`]: watchable,
    [`GET ${LESSON}/clips`]: clips,
    [`GET ${LESSON}/recordings`]: { ...recordings, ...more },
  });
  await settled(page.cache);
  return within(await screen.findByRole("region", { name: "Films" }));
}

it("shows progress and reasons of failed films", async () => {
  const problem = { field: "clip", message: "…", value: "'nobody'", expected: "one golfer in the picture" };
  const section = await films([
    { ...clip, state: "running", frames: 84 },
    { ...clip, id: 8, name: "b.mov" },
    { ...clip, id: 9, name: "c.mp4", state: "failed", problem },
  ]);
  section.getByText("84 frames measured");
  section.getByText("queued");
  section.getByText("Not measured: nobody. Expected: one golfer in the picture.");
  fireEvent.click(section.getByRole("button", { name: "Dismiss c.mp4" }));
  await waitFor(() => expect(actions()).toMatchObject([{ method: "DELETE", path: "/api/v1/clips/9" }]));
});

it("stores film answers as the camera's", async () => {
  const row = { id: 41, name: "a.mp4", view: "down-the-line", ball: 3, received_at: "2026-05-04T09:00:00Z" };
  const filmed = { ...row, adjusted: false };
  const section = await films([], { recordings: [...recordings.recordings, filmed], seen });
  section.getByText("ball 3");
  section.getByRole("button", { name: "Curves of ball 3" });
  fireEvent.click(section.getByRole("button", { name: /^Accept: leaves early/ }));
  await waitFor(() => expect(actions()).toHaveLength(1));
  expect(actions()[0]).toMatchObject({ body: { grades: { "seat-line": "leaves-early" }, source: "camera" } });
  const others = within(screen.getByRole("region", { name: "Recordings" }));
  expect(others.queryByRole("button", { name: "ball 3" })).toBeNull();
});

it("plays a single film and hides deleted ones", async () => {
  const row = { name: "a.mp4", view: "down-the-line", received_at: "2026-05-04T09:00:00Z", adjusted: false };
  const filmed = [
    { ...row, id: 41, ball: 3 },
    { ...row, id: 42, ball: 4 },
  ];
  const section = await films([], { recordings: filmed }, [{ id: 42, ball: 4 }]);
  const link = section.getByRole("link", { name: "Watch the film of ball 4" });
  expect(link.getAttribute("href")).toContain("/films?now=42");
  section.getByRole("link", { name: /^Watch the film$|^Watch the film f/ });
  expect(section.queryByRole("link", { name: "Watch the film of ball 3" })).toBeNull();
});

it("uploads several films one after another", async () => {
  const section = await films([]);
  section.getByText(/stored as long as the academy allows/);
  const files = ["a.mp4", "b.mp4"].map((name) => new File(["film"], name, { type: "video/mp4" }));
  fireEvent.change(section.getByLabelText("Film of a swing"), { target: { files } });
  await waitFor(() => expect(actions().map((one) => one.path)).toEqual([`${LESSON}/clips`, `${LESSON}/clips`]));
});

it("asks for the student's consent before a film can be imported", async () => {
  const section = await films([], {}, [], { filming_agreed_at: null });
  expect(section.queryByLabelText("Film of a swing")).toBeNull();
  fireEvent.click(section.getByRole("checkbox", { name: /Agrees to be filmed/ }));
  await waitFor(() => expect(actions()).toMatchObject([{ method: "PUT", body: { given: true, confirmed: false } }]));
});

it("deletes films on withdrawal after stating their number", async () => {
  const student = recorded<Schemas["LessonOut"]>("lesson").student;
  const path = `/api/v1/students/${student.id}/filming`;
  const agreed = {
    ...recorded<Schemas["LessonOut"]>("lesson"),
    student: { ...student, filming_agreed_at: "2026-05-04T08:00:00Z" },
  };
  const special: Record<string, unknown> = {
    [`GET ${LESSON}`]: agreed,
    [`PUT ${path}`]: new Refusal(409, "films", "3 films will be deleted."),
  };
  await settled(openStation("ask", special).cache);
  fireEvent.click(await screen.findByRole("checkbox", { name: /Agreed to be filmed/ }));
  const result = within(await screen.findByRole("alert"));
  result.getByText("3 films will be deleted.");
  delete special[`PUT ${path}`];
  fireEvent.click(result.getByRole("button", { name: "Delete films and withdraw" }));
  await waitFor(() => expect(actions().at(-1)).toMatchObject({ path, body: { given: false, confirmed: true } }));
});
