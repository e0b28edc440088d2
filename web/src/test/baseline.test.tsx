// @vitest-environment jsdom
/** Actions on Baseline: add unassigned balls, save the setup, try what-if. */
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { changes, LESSON, onRecordedServer, openStation, recorded, settled } from "./harness";

onRecordedServer();

const lesson = recorded<Schemas["LessonOut"]>("lesson");
const bays = recorded<Schemas["BayOut"][]>("bays");
const shots = recorded<Schemas["ShotOut"][]>("shots");
const setups = recorded<Schemas["SetupsOut"]>("setups");
const reading = recorded<{ reading: { clean: number } }>("reading");

async function opened(special: Record<string, unknown> = {}) {
  const page = openStation("baseline", special);
  await screen.findByRole("navigation", { name: "Stations" });
  await settled(page.cache);
  return page;
}

describe("unassigned balls", () => {
  const bay = bays[0] as Schemas["BayOut"];
  const waiting = (n: number) => ({
    [`GET ${LESSON}`]: { ...lesson, bay_id: bay.id, tray: n },
    [`GET /api/v1/bays/${bay.id}/tray`]: shots.slice(0, n),
    [`POST ${LESSON}/claim`]: { claimed: n },
  });

  it("are shown with their time and added with one tap", async () => {
    await opened(waiting(3));
    expect(await screen.findByText(/^3 unassigned balls in the bay, hit .+ to .+\.$/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Add to this lesson" }));
    await waitFor(() => expect(changes().some((c) => c.path === `${LESSON}/claim`)).toBe(true));
    expect(changes().find((c) => c.path === `${LESSON}/claim`)?.body).toEqual({
      bay_id: bay.id,
      shot_ids: shots.slice(0, 3).map((s) => s.id),
    });
  });

  it("use the singular for one ball", async () => {
    await opened(waiting(1));
    expect(await screen.findByText(/^1 unassigned ball in the bay, hit [^t]+\.$/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Add to this lesson" })).toBeTruthy();
  });
});

describe("the setup", () => {
  it("is saved as far as it was measured", async () => {
    await opened({ [`POST ${LESSON}/setups`]: setups });
    const note = screen.getByRole("button", { name: "Save setup", hidden: true }) as HTMLButtonElement;
    expect(note.disabled).toBe(true);
    const fields = within(note.closest("form") as HTMLElement);
    fireEvent.change(fields.getByLabelText(/^Aim/), { target: { value: "-1.5" } });
    expect(note.disabled).toBe(false);
    fireEvent.click(note);
    await waitFor(() => expect(changes().some((c) => c.path === `${LESSON}/setups`)).toBe(true));
    expect(changes().find((c) => c.path === `${LESSON}/setups`)?.body).toEqual({
      ball_cm: null,
      stance_cm: null,
      aim_deg: -1.5,
    });
  });
});

describe("the numbers", () => {
  it("state their number of balls and have a table", async () => {
    await opened();
    const behind = screen.getAllByText("As a table");
    expect(behind.length).toBeGreaterThan(1);
    for (const summary of behind) {
      const table = summary.closest("details")?.querySelector("table") as HTMLTableElement;
      const columns = table.tHead?.rows[0]?.cells.length ?? 0;
      expect(table.tBodies[0]?.rows.length).toBeGreaterThan(0);
      for (const row of table.tBodies[0]?.rows ?? []) expect(row.cells.length).toBe(columns);
    }
    fireEvent.click(screen.getByRole("radio", { name: "Table" }));
    const word = reading.reading.clean === 1 ? "ball" : "balls";
    expect(screen.getByText(`Median of ${reading.reading.clean} clean ${word}`)).toBeTruthy();
  });
});
