// @vitest-environment jsdom
/** Eye practice: a swing is shown, answered by a key, revealed at once, and counted at the end. */
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { changes, onRecordedServer, openAt, recorded, settled } from "./harness";

onRecordedServer();
afterEach(() => vi.restoreAllMocks());

const check = recorded<Schemas["KnowledgeOut"]>("knowledge").checks[0] as Schemas["Check"];
const [sound, fault] = check.grades as [string, string];
const swing: Schemas["SwingShown"] = {
  view: "face-on",
  seconds: 0.025,
  sheet: [-1, 0, 1, 2],
  frames: [0, 1].map((x) => [
    {
      ink: "body",
      width: 6,
      lines: [
        [
          [x, 0],
          [x, 1],
        ],
      ],
    },
  ]),
};

async function begun(result: Schemas["PractisedOut"]) {
  const swings = Object.fromEntries(
    Array.from({ length: 10 }, (_, n) => [`GET /api/v1/eye/swings/${check.id}/0/${n}`, swing]),
  );
  vi.spyOn(Math, "random").mockReturnValue(0);
  const page = openAt("/eye", { ...swings, "POST /api/v1/eye/practice": result });
  fireEvent.click(await screen.findByRole("button", { name: "Begin" }));
  await settled(page.cache);
  return page;
}

it("reveals the answer at once and stores the coach's", async () => {
  await begun({ grade: sound, true_grade: fault });
  await screen.findByText("Swing 1 of 10");
  fireEvent.keyDown(window, { key: "1" });
  await screen.findByText(`It was ${fault.replaceAll("-", " ")}.`);
  expect(changes()[0]?.body).toMatchObject({ check: check.id, seed: 0, number: 0, grade: sound });
  // A second answer is none.
  expect(screen.getAllByRole("button", { name: new RegExp(sound.replaceAll("-", " ")) })[0]).toHaveProperty(
    "disabled",
    true,
  );
  const next = screen.getByRole("button", { name: /Next swing/ });
  expect(document.activeElement).toBe(next);
  fireEvent.click(next);
  await screen.findByText("Swing 2 of 10");
});

it("counts faults seen and false alarms after ten", async () => {
  await begun({ grade: fault, true_grade: fault });
  for (let n = 1; n <= 10; n++) {
    await screen.findByText(`Swing ${n} of 10`);
    const grade = () =>
      within(screen.getByRole("region", { name: "What you saw" })).getAllByRole("button")[1] as Element;
    await waitFor(() => expect(grade()).toHaveProperty("disabled", false));
    fireEvent.click(grade());
    await screen.findByText(/^Right: /);
    if (n < 10) fireEvent.click(screen.getByRole("button", { name: /Next swing/ }));
  }
  expect((await screen.findByRole("status")).textContent).toBe(
    "10 of 10 right. You saw 10 of 10 faults; you called 0 of 0 sound swings faulty.",
  );
});
