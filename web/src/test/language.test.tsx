// @vitest-environment jsdom
/** Every sentence of a station has an id: seen in a language that brackets its sentences. */
import { screen } from "@testing-library/react";
import { beforeAll, describe, expect, it } from "vitest";

import { STATIONS } from "../app/stations";
import { PSEUDO, speak, t } from "../shared/format/language";
import { answerInPseudo, onRecordedServer, openAt, openStation, recorded, settled } from "./harness";

onRecordedServer();
beforeAll(async () => {
  await speak(PSEUDO);
  answerInPseudo();
});

type Named = { name: string; devices?: { name: string }[] };

/** Names of people and places, and signs that are not words. */
const NAMES = ["Instavis", "English", "Deutsch", "Español", "CSV", "JSON", "C3D", "PDF"];
const session = recorded<{ name: string; academy: string }>("session");
NAMES.push(session.name, session.academy);
for (const coach of recorded<{ name: string; username: string }[]>("coaches")) NAMES.push(coach.name, coach.username);
for (const student of recorded<Named[]>("students")) NAMES.push(student.name, ...student.name.split(" "));
for (const bay of recorded<Named[]>("bays")) NAMES.push(bay.name, ...(bay.devices ?? []).map((d) => d.name));
const zones = recorded<{ zones: string[] }>("academy").zones;
NAMES.push(...zones.map((zone) => zone.replaceAll("_", " ")));
NAMES.sort((a, b) => b.length - a.length);
/** The coach's own words on the page. */
const OWN = "Film five buckles a day. Slow counts.";
const DATES =
  /\b((Mon|Tues?|Wed(nes)?|Thu(rs)?|Fri|Sat(ur)?|Sun)(day)?|Jan(uary)?|Feb(ruary)?|Mar(ch)?|Apr(il)?|May|June?|July?|Aug(ust)?|Sept?(ember)?|Oct(ober)?|Nov(ember)?|Dec(ember)?)\b/g;
const UNITS = /\b(yd|mph|mm|cm|min|rpm|SD|ms)\b/g;

function unsaid(text: string): string {
  let depth = 0;
  let left = "";
  for (const letter of text) {
    if (letter === "⟦") depth += 1;
    else if (letter === "⟧") depth -= 1;
    else if (depth === 0) left += letter;
  }
  for (const name of [...NAMES, OWN]) left = left.replaceAll(name, "");
  return left.replace(DATES, "").replace(UNITS, "");
}

const SPOKEN = ["aria-label", "title", "placeholder", "alt", "aria-valuetext", "aria-description"];

/** Return every text and accessible name without brackets. */
function english(root: Element): string[] {
  const texts: string[] = [];
  for (const element of root.querySelectorAll("*")) {
    if (element.closest("kbd, style, script, [translate=no]")) continue;
    const own = [...element.childNodes].filter((n) => n.nodeType === Node.TEXT_NODE).map((n) => n.textContent ?? "");
    texts.push(own.join(""), ...SPOKEN.map((name) => element.getAttribute(name) ?? ""));
  }
  return [...new Set(texts.filter((text) => /\p{L}{2}/u.test(unsaid(text))))];
}

it("brackets a sentence and keeps its values", () => {
  expect(t("prove-feel", { way: "Ola" })).toBe("⟦Féél: Ola⟧");
});

describe.each(STATIONS.map((s) => s.id))("the station %s", (station) => {
  it("shows no text without an id", async () => {
    const page = openStation(station);
    await screen.findByRole("navigation");
    await settled(page.cache);
    expect(recorded<{ language: string }>("session").language).toBe(PSEUDO);
    expect(english(page.container)).toEqual([]);
  });
});

const STUDENTS = recorded<{ id: number; name: string }[]>("students");
const ADDRESSES = [
  "/",
  "/day",
  "/outcomes",
  "/academy",
  "/me",
  `/students/${STUDENTS.at(-1)?.id}`,
  "/bays",
  "/knowledge",
  "/home/token",
  "/ask/token",
];

describe.each(ADDRESSES)("the page %s", (address) => {
  it("shows no text without an id", async () => {
    const page = openAt(address);
    await screen.findByRole("main");
    await settled(page.cache);
    expect(english(page.container)).toEqual([]);
  });
});
