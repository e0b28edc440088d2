// @vitest-environment jsdom
/** The search: matching and targets. */
import { fireEvent, screen, waitFor } from "@testing-library/react";
import axe from "axe-core";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import type { Knowledge } from "../api/queries";
import { entriesOf, fitting, pagesFor, peopleIn } from "../features/find/finds";
import { asked, onRecordedServer, openAt, recorded, sent, settled } from "./harness";

onRecordedServer();

const roster = recorded<Schemas["RosterOut"]>("roster");
const knowledge = recorded<Knowledge>("knowledge");

const named = (words: string) =>
  fitting([...entriesOf(knowledge), ...pagesFor("head")], words).map((find) => find.label);

describe("search results", () => {
  it("match word starts without accents or case, names first", () => {
    expect(named("seat li")[0]).toBe("Seat line");
    expect(named("JUDGE")).toContain("Eye practice");
    expect(fitting([{ key: "1", kind: "", label: "Éloi Mårtens", says: "", to: "/" }], "eloi mar")).toHaveLength(1);
    expect(named("clicker")).toEqual(["Your account"]);
    expect(named("no such thing")).toEqual([]);
  });
  it("show the academy page only to the head coach", () => {
    expect(pagesFor("coach").map((page) => page.to)).not.toContain("/academy");
    expect(pagesFor("head").map((page) => page.to)).toContain("/academy");
  });
  it("contain every fault, check and drill once with its link", () => {
    const entries = entriesOf(knowledge);
    expect(new Set(entries.map((find) => find.to)).size).toBe(entries.length);
    expect(entries.length).toBeGreaterThan(knowledge.checks.length + knowledge.drills.length + 10);
  });
  it("contain a student's record and open lesson", () => {
    const row = roster.rows.find((one) => one.going);
    if (!row?.going) throw new Error("somebody's lesson goes on");
    expect(peopleIn([row]).map((find) => find.to)).toEqual([`/students/${row.student.id}`, `/lessons/${row.going.id}`]);
  });
});

describe("the search", () => {
  async function opened(address: string) {
    const page = openAt(address);
    await settled(page.cache);
    fireEvent.keyDown(document.body, { key: "/" });
    return { ...page, field: await screen.findByRole("combobox", { name: /A student, lesson/ }) };
  }
  it("opens and selects by keyboard and asks the server for people", async () => {
    const { router, field } = await opened("/bays");
    fireEvent.change(field, { target: { value: "seat line" } });
    const option = await screen.findByRole("option", { name: /^Check\s?Seat line/ });
    await waitFor(() => expect(sent.some((s) => s.query.words === "seat line")).toBe(true));
    const place = screen.getAllByRole("option").indexOf(option);
    for (let step = 0; step < place; step++) fireEvent.keyDown(field, { key: "ArrowDown" });
    expect(option.getAttribute("aria-selected")).toBe("true");
    expect(field.getAttribute("aria-activedescendant")).toBe(option.id);
    fireEvent.keyDown(field, { key: "Enter" });
    await waitFor(() => expect(router.state.location.pathname).toBe("/knowledge"));
    expect(router.state.location.search).toBe("?part=check&entry=seat-line");
    expect((await screen.findAllByText("Seat line")).length).toBeGreaterThan(0);
    expect(screen.queryByRole("dialog")).toBeNull();
  });
  it("passes axe while open", async () => {
    await opened("/");
    const found = await axe.run(screen.getByRole("dialog"), { rules: { "color-contrast": { enabled: false } } });
    expect(found.violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  });
  it("says so without results, and does not open while typing", async () => {
    await opened("/");
    fireEvent.change(screen.getByRole("combobox", { name: /A student, lesson/ }), { target: { value: "zzz" } });
    const people = screen.queryAllByRole("option").length;
    expect(people > 0 || screen.getByText(/No results/)).toBeTruthy();
    fireEvent.keyDown(screen.getByRole("dialog"), { key: "Escape" });
    fireEvent.keyDown(screen.getByRole("searchbox", { name: "Search by name" }), { key: "/" });
    expect(screen.queryByRole("dialog")).toBeNull();
    expect(asked()).toContain("roster");
  });
});
