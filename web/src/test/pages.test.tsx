// @vitest-environment jsdom
/** Pages outside the lesson on recorded answers: content, requests, and no writes on reading. */
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import axe from "axe-core";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import type { Home } from "../api/records";
import { asked, changes, LESSON, onRecordedServer, openAt, Refusal, recorded, sent, settled } from "./harness";

onRecordedServer();

const students = recorded<Schemas["StudentOut"][]>("students");
const history = recorded<Schemas["History"]>("history");
const onRecord = students.find((s) => s.name === "Lasse Corrigall")?.id;
const outcomes = recorded<Schemas["Outcomes"]>("outcomes");
const coaches = recorded<Schemas["CoachOut"][]>("coaches");
const roster = recorded<Schemas["RosterOut"]>("roster");
const colleagues = recorded<Schemas["ColleagueOut"][]>("colleagues");
const bays = recorded<Schemas["BayOut"][]>("bays");
const home = recorded<Home>("home");
const lesson = recorded<Schemas["LessonOut"]>("lesson");

const PAGES: [string, string, RegExp][] = [
  ["students", "/", new RegExp(students[0]?.name ?? "-")],
  ["the day", "/day", /Still open/],
  ["outcomes", "/outcomes", /Share verified/],
  ["a student's record", `/students/${onRecord}`, /Suspected, tried, proven, refuted/],
  ["bays", "/bays", new RegExp(bays[0]?.name ?? "-")],
  ["the academy", "/academy", /Team/],
  ["one's own page", "/me", /A new password signs you out/],
  ["the knowledge base", "/knowledge", /What the ranking is based on/],
  ["the student's phone", "/home/token", /Does anything hurt/],
  ["the questions before a lesson", "/ask/token", /Before your lesson/],
];

// A list of six hundred zones takes the checker for screen readers half a minute.
const academy = recorded<Schemas["AcademyOut"]>("academy");
const FEW_ZONES = { "GET /api/v1/academy": { ...academy, zones: [academy.time_zone] } };

async function opened(address: string, special: Record<string, unknown> = {}) {
  const page = openAt(address, Object.assign(special, { ...FEW_ZONES, ...special }));
  await screen.findByRole("main");
  await settled(page.cache);
  return page;
}

describe.each(PAGES)("%s", (_, address, words) => {
  it("shows recorded data, writes nothing, and passes axe", async () => {
    const { container } = await opened(address);
    expect(within(screen.getByRole("main")).getAllByText(words).length).toBeGreaterThan(0);
    expect(changes().filter((c) => !c.path.endsWith("/preview"))).toEqual([]);
    const found = await axe.run(container, { rules: { "color-contrast": { enabled: false } } });
    expect(found.violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  });
});

describe.each([
  ["/", "Students"],
  ["/day", "Day"],
  ["/me", "Your account"],
  ["/eye", "Eye practice"],
  ["/train", "Practice lessons"],
  [`/students/${onRecord}`, "Lasse Corrigall"],
  [`${LESSON.replace("/api/v1", "")}/explain`, `Why the ball does what it does · ${lesson.student.name}`],
])("the title at %s", (address, title) => {
  it(`says ${title}`, async () => {
    document.title = "";
    await opened(address);
    await waitFor(() => expect(document.title).toBe(`${title} · Instavis`));
  });
});

describe("the academy", () => {
  it("lists everyone with their role and sends changes", async () => {
    await opened("/academy");
    for (const coach of coaches) {
      const row = within(screen.getByRole("main")).getByText(coach.name).closest("li") as HTMLElement;
      expect(row.textContent).toContain(coach.username);
    }
    const other = coaches.find((coach) => coach.role === "coach");
    fireEvent.change(screen.getByLabelText(`Role of ${other?.name}`), { target: { value: "desk" } });
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]).toMatchObject({
      method: "PATCH",
      path: `/api/v1/coaches/${other?.id}`,
      body: { role: "desk" },
    });
    fireEvent.change(screen.getByLabelText("Name"), { target: { value: "Ilse Brine" } });
    fireEvent.click(screen.getByRole("radio", { name: "Desk" }));
    fireEvent.click(screen.getByRole("button", { name: "Create link" }));
    await waitFor(() => expect(changes()).toHaveLength(2));
    expect(changes()[1]).toMatchObject({
      path: "/api/v1/invitations",
      body: { name: "Ilse Brine", role: "desk" },
    });
  });

  it("is for the head coach only", async () => {
    const session = recorded<Schemas["SessionOut"]>("session");
    await opened("/academy", { "GET /api/v1/session": { ...session, role: "coach" } });
    expect(screen.queryByText("Team")).toBeNull();
    expect(screen.queryByRole("link", { name: "Academy" })).toBeNull();
  });
});

describe("data retention", () => {
  it("sends retention times and warns about deletions", async () => {
    await opened("/academy", { "GET /api/v1/academy": { ...FEW_ZONES["GET /api/v1/academy"], students_due: 2 } });
    await screen.findByText(/This rule will erase 2 students/);
    fireEvent.change(screen.getByLabelText("Pictures of students (answers stay)"), {
      target: { value: "365" },
    });
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]).toMatchObject({ path: "/api/v1/academy", body: { keep_pictures_days: 365 } });
  });

  it("searches the activity log and record views", async () => {
    await opened("/academy");
    fireEvent.click(screen.getByRole("radio", { name: "Record views" }));
    fireEvent.change(screen.getByLabelText("Search"), { target: { value: "student 3" } });
    await waitFor(() => expect(asked().filter((name) => name === "audit").length).toBeGreaterThan(1));
  });
});

describe("the desk", () => {
  it("books lessons without links to results", async () => {
    const session = recorded<Schemas["SessionOut"]>("session");
    const ended = { ...roster, rows: roster.rows.map((row) => ({ ...row, going: null })) };
    await opened("/", { "GET /api/v1/session": { ...session, role: "desk" }, "GET /api/v1/roster": ended });
    const [student] = students;
    expect(screen.queryByRole("link", { name: student?.name ?? "" })).toBeNull();
    for (const hidden of ["Outcomes", "Bays", "Knowledge"]) {
      expect(screen.queryByRole("link", { name: hidden })).toBeNull();
    }
    const row = screen.getByText(student?.name ?? "").closest("li") as HTMLElement;
    const [, second] = colleagues;
    const choice = await within(row).findByLabelText(`Coach for ${student?.name}`);
    fireEvent.change(choice, { target: { value: second?.id } });
    fireEvent.click(within(row).getByRole("button", { name: `Start lesson for ${student?.name}` }));
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]).toMatchObject({
      path: "/api/v1/bookings",
      body: { student_id: student?.id, coach_id: second?.id },
    });
  });
});

describe("students", () => {
  it("are found, archived and merged", async () => {
    const special: Record<string, unknown> = {};
    await opened("/", special);
    const [one, other] = students.filter((s) => s.hand === "right");
    const find = screen.getByLabelText("Search by name");
    special["GET /api/v1/roster"] = { rows: roster.rows.slice(0, 1), found: 250, there: true };
    fireEvent.change(find, { target: { value: "a" } });
    await screen.findByText("Showing the first 1 of 250. Search by name for the others.");
    special["GET /api/v1/roster"] = { rows: [], found: 0, there: true };
    fireEvent.change(find, { target: { value: "nobody" } });
    fireEvent.change(screen.getByLabelText("Taught by"), { target: { value: colleagues[0]?.id } });
    await screen.findByText("No match. Try fewer words, or all coaches.");
    const last = sent.filter((one) => one.path === "/api/v1/roster").at(-1);
    expect(last?.query).toMatchObject({ words: "nobody", coach: String(colleagues[0]?.id) });
    delete special["GET /api/v1/roster"];
    fireEvent.change(find, { target: { value: "" } });
    fireEvent.change(screen.getByLabelText("Taught by"), { target: { value: "" } });
    await screen.findByText(roster.rows[1]?.student.name ?? "");

    fireEvent.click(screen.getByRole("button", { name: new RegExp(`^Details ?of ${one?.name}$`) }));
    const dialog = within(await screen.findByRole("dialog"));
    fireEvent.change(await dialog.findByLabelText(`Other record of ${one?.name}`), { target: { value: other?.id } });
    fireEvent.click(dialog.getByRole("button", { name: `Merge ${other?.name} into this record` }));
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]).toMatchObject({
      path: `/api/v1/students/${one?.id}/merge`,
      body: { other_id: other?.id },
    });
    fireEvent.click(await screen.findByRole("button", { name: new RegExp(`^Details ?of ${one?.name}$`) }));
    fireEvent.click(within(await screen.findByRole("dialog")).getByRole("button", { name: "Archive" }));
    await waitFor(() => expect(changes()).toHaveLength(2));
    expect(changes()[1]).toMatchObject({ path: `/api/v1/students/${one?.id}/archived`, body: { archived: true } });
  });

  it("show hand and handicap, and save a new student", async () => {
    await opened("/");
    for (const student of students) {
      const row = screen.getByRole("link", { name: student.name }).closest("li") as HTMLElement;
      expect(row.textContent).toContain(`${student.hand}-handed`);
      if (student.handicap !== null) expect(row.textContent).toContain(`handicap ${student.handicap}`);
    }
    fireEvent.click(screen.getByRole("button", { name: "New student" }));
    const form = await screen.findByRole("dialog");
    fireEvent.change(within(form).getByLabelText("Name"), { target: { value: "Ada Smallwater" } });
    fireEvent.click(within(form).getByRole("radio", { name: "Left-handed" }));
    fireEvent.click(within(form).getByRole("button", { name: "Save" }));
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]).toMatchObject({
      method: "POST",
      path: "/api/v1/students",
      body: { name: "Ada Smallwater", hand: "left" },
    });
  });

  it("start the first lesson of a new student, created once", async () => {
    const LESSONS = "POST /api/v1/lessons";
    const special: Record<string, unknown> = {
      "POST /api/v1/students": { ...students[0], id: 77 },
      [LESSONS]: new Refusal(409, "lesson", "The server is busy."),
    };
    const page = await opened("/", special);
    fireEvent.click(screen.getByRole("button", { name: "New student" }));
    const form = await screen.findByRole("dialog");
    fireEvent.change(within(form).getByLabelText("Name"), { target: { value: "Ada Smallwater" } });
    fireEvent.click(within(form).getByRole("button", { name: "Save and start lesson" }));
    await within(form).findByRole("alert");
    special[LESSONS] = recorded("lesson");
    fireEvent.click(within(form).getByRole("button", { name: "Save and start lesson" }));
    await waitFor(() => expect(page.router.state.location.pathname).toMatch(/^\/lessons\/\d+\/ask$/));
    const posted = changes().filter((c) => c.method === "POST");
    expect(posted.map((c) => c.path)).toEqual(["/api/v1/students", "/api/v1/lessons", "/api/v1/lessons"]);
    expect(posted[2]?.body).toMatchObject({ student_id: 77 });
  });
});

describe("a student's record", () => {
  it("shows the state of every fault and the drill", async () => {
    await opened(`/students/${onRecord}`);
    const faults = screen.getByRole("region", { name: "Faults by lesson" });
    const tried = history.lessons.flatMap((lesson) => lesson.tried);
    expect(tried.length).toBeGreaterThan(0);
    for (const row of tried) expect(faults.textContent).toContain(row.drill);
    expect(within(faults).getAllByRole("columnheader")).toHaveLength(1 + history.lessons.length);
  });
});

describe("outcomes", () => {
  it("give every drill a row with its interval", async () => {
    await opened("/outcomes");
    const rows = within(screen.getByRole("table")).getAllByRole("row").slice(1);
    expect(rows).toHaveLength(outcomes.rows.length);
    for (const [i, row] of outcomes.rows.entries()) expect(rows[i]?.textContent).toContain(row.drill_name);
  });
});

describe("bays", () => {
  it("issue and revoke device tokens", async () => {
    const bay = bays[0] as Schemas["BayOut"];
    await opened("/bays", {
      [`POST /api/v1/bays/${bay.id}/devices`]: {
        device: { ...bay.devices[0], name: "Second monitor" },
        token: "iv_told",
      },
    });
    const card = screen.getByRole("heading", { name: bay.name }).closest("section") as HTMLElement;
    fireEvent.change(within(card).getByLabelText("New device"), { target: { value: "Second monitor" } });
    fireEvent.click(within(card).getByRole("button", { name: "Create token" }));
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]).toMatchObject({ path: `/api/v1/bays/${bay.id}/devices`, body: { name: "Second monitor" } });
    expect((await within(card).findByText("iv_told")).tagName).toBe("CODE");
    const device = bay.devices.find((d) => !d.revoked_at);
    fireEvent.click(within(card).getByRole("button", { name: `Revoke ${device?.name} in ${bay.name}` }));
    await waitFor(() => expect(changes()).toHaveLength(2));
    expect(changes()[1]?.path).toBe(`/api/v1/devices/${device?.id}/revoke`);
  });
});

describe("the student's phone", () => {
  const start = async () => {
    localStorage.clear();
    await opened("/home/token", { "POST /api/v1/home/token/practice": { stored: 1, known: 0, home } });
  };

  it("counts repetitions with undo and sends the practice once", async () => {
    await start();
    fireEvent.click(screen.getByRole("button", { name: "Nothing hurts, start" }));
    for (const touch of ["Felt it", "Felt it", "Did not feel it", "Felt it"])
      fireEvent.click(screen.getByRole("button", { name: touch }));
    fireEvent.click(screen.getByRole("button", { name: "Undo last" }));
    expect(screen.getByRole("region", { name: "Counting" }).textContent).toContain("2 felt");
    fireEvent.click(screen.getByRole("button", { name: "Done for today" }));
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]?.body).toMatchObject({ entries: [{ felt: 2, not_felt: 1, pain: "" }] });
    expect(await screen.findByText("Everything is sent.")).toBeTruthy();
  });

  it("stops for pain in two taps and says who can resume", async () => {
    await start();
    fireEvent.click(screen.getByRole("button", { name: "Something hurts" }));
    const [id, region] = Object.entries(home.words.region)[0] as [string, string];
    fireEvent.click(screen.getByRole("button", { name: region }));
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]?.body).toMatchObject({ entries: [{ felt: 0, not_felt: 0, pain: id }] });
  });

  it("shows the lesson page and every planned day", async () => {
    await start();
    fireEvent.click(screen.getByRole("radio", { name: "Page" }));
    for (const section of home.page.sections) expect(screen.getByRole("heading", { name: section.title })).toBeTruthy();
    fireEvent.click(screen.getByRole("radio", { name: "Plan" }));
    expect(within(screen.getByRole("region", { name: "Plan" })).getAllByRole("listitem")).toHaveLength(
      home.page.plan.length,
    );
  });
});

describe("the knowledge base", () => {
  it("previews a change on stored lessons and saves it", async () => {
    await opened("/knowledge", {
      "POST /api/v1/knowledge/preview": { lessons: 3, moved: [] },
      "POST /api/v1/knowledge/versions": { number: 2 },
    });
    const [entry] = within(screen.getByRole("list", { name: "Entries" })).getAllByRole("button");
    fireEvent.click(entry as HTMLElement);
    const field = (await screen.findAllByRole("spinbutton"))[0] as HTMLInputElement;
    fireEvent.change(field, { target: { value: String(Number(field.value) + 0.1) } });
    await waitFor(() => expect(changes().some((c) => c.path === "/api/v1/knowledge/preview")).toBe(true));
    expect(changes().some((c) => c.path === "/api/v1/knowledge/versions")).toBe(false);
  });
});

describe("the intake page", () => {
  it("sends all answers once after the last tap", async () => {
    const page = recorded<Schemas["AskPageOut"]>("ask");
    await opened("/ask/token", { "PUT /api/v1/ask/token": page });
    const goal = screen.getByLabelText("Goal") as HTMLInputElement;
    fireEvent.change(goal, { target: { value: "A" } });
    fireEvent.change(goal, { target: { value: "A straight tee shot" } });
    expect(changes()).toEqual([]);
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]?.body).toEqual({ ...page.answers, goal: "A straight tee shot" });
  });
});
