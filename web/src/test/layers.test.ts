/** Import rules of the front end: app > features > shared, and features do not import each other. */
import { expect, it } from "vitest";

const FILES = import.meta.glob<string>("../**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true });

/** What a feature may use of another one, and why it is not shared: it is that feature's own and shown elsewhere. */
const GUESTS: Record<string, string[]> = {
  baseline: ["files"], // a file of balls is brought in from the tray
  bays: ["files"], // the columns of what a bay's bridge hands on
  lesson: ["files", "training"], // the same, where its rows wait; the golfer of a practice lesson
  reports: ["students"], // the file of a student
};
const STATIONS = ["intake", "baseline", "assessment", "diagnosis", "plan", "verify", "take-home"];

type Place = { room: string; feature: string };

function placeOf(path: string): Place {
  const [room = "", feature = ""] = path.split("/");
  return { room, feature };
}

function resolved(from: string, spec: string): string {
  const parts = from.split("/").slice(0, -1);
  for (const part of spec.split("/")) part === ".." ? parts.pop() : part !== "." && parts.push(part);
  return parts.join("/");
}

function allowed(from: Place, to: Place): boolean {
  if (from.room === to.room && from.room !== "features") return true;
  if (from.room === "app") return to.room !== "test";
  if (from.room === "features") {
    if (to.room === "features") {
      const guests = [...(GUESTS[from.feature] ?? []), ...(STATIONS.includes(from.feature) ? ["lesson"] : [])];
      return from.feature === to.feature || guests.includes(to.feature);
    }
    return to.room === "shared" || to.room === "api";
  }
  // What is shared shows what the server says, and the server's client formats a day.
  return (from.room === "shared" && to.room === "api") || (from.room === "api" && to.room === "shared");
}

it("imports only lower layers", () => {
  const wrong: string[] = [];
  for (const [file, text] of Object.entries(FILES)) {
    const path = file.replace("../", "");
    if (!path.includes("/") || path.startsWith("./") || path.includes(".test.")) continue;
    for (const [, spec = ""] of text.matchAll(/from "(\.[^"]*)"/g)) {
      const target = resolved(path, spec);
      if (!allowed(placeOf(path), placeOf(target))) wrong.push(`${path} -> ${target}`);
    }
  }
  expect(Object.keys(FILES).length).toBeGreaterThan(100);
  expect(wrong).toEqual([]);
});
