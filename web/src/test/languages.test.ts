import { afterEach, describe, expect, it } from "vitest";

import { ENGLISH, fixed, inside, speak, t } from "../shared/format/language";
import { say } from "../shared/format/say";

type Spoken = { decimal: string; nouns: string; entries: Record<string, string> };

const FILES = import.meta.glob<Spoken>("../languages/*.json", { import: "default", eager: true });
const LANGUAGES = Object.entries(FILES).map(([file, spoken]) => ({ code: file.slice(-7, -5), ...spoken }));
/** Keys of the keyboard, ids and values of attributes that stand in tables beside words. */
const NO_WORDS = new Set(
  (
    'Alt CapsLock Control Escape Meta [data-planned="{planned}"] aceinosuyACEINOSUY default deg en environment fill ft ' +
    "intent kmh mph mps numeric opacity rpm xx áçéíñóšúýÁÇÉÍÑÓŠÚÝ"
  ).split(" "),
);
const SOURCES = import.meta.glob<string>(["../**/*.tsx", "!../test/**"], {
  query: "?raw",
  import: "default",
  eager: true,
});
/** Attributes that are read out or shown, given as they stand: English on every screen. */
const SAID_AS_IT_STANDS = /\b(?:aria-label|label|title|placeholder|alt)="[A-Z][a-z][^"]*"/g;
const LABEL = 24;
const ROOM = 14;

const SCRIPT = new URL("../../entries.mjs", import.meta.url).href;
const { entries: listed } = (await import(/* @vite-ignore */ SCRIPT)) as { entries: () => string[] };
const said = listed();

const places = (text: string) => (text.match(/\{\w+\}/g) ?? []).toSorted();

afterEach(() => speak(ENGLISH));

describe("languages of the screens", () => {
  it("are German and Spanish beside English", () => {
    expect(LANGUAGES.map((l) => l.code)).toEqual(["de", "es"]);
    expect(said.length).toBeGreaterThan(1000);
  });

  it.each(LANGUAGES)("say everything in $code, with its places", ({ entries }) => {
    expect(said.filter((entry) => !(entry in entries) && !NO_WORDS.has(entry))).toEqual([]);
    const wrong = Object.entries(entries).filter(([entry, text]) => places(entry).join() !== places(text).join());
    expect(wrong).toEqual([]);
    expect(
      Object.entries(entries).filter(([entry, text]) => !text.trim() || /^ /.test(entry) !== /^ /.test(text)),
    ).toEqual([]);
  });

  it("are asked for by every attribute that says something", () => {
    const left = Object.entries(SOURCES).flatMap(([file, text]) =>
      (text.match(SAID_AS_IT_STANDS) ?? []).map((a) => [file, a]),
    );
    expect(left).toEqual([]);
  });

  it.each(LANGUAGES)("have no label in $code that is much longer", ({ entries }) => {
    const long = Object.entries(entries).filter(
      ([entry, text]) => entry.length <= LABEL && text.length > 2 * entry.length + ROOM,
    );
    expect(long).toEqual([]);
  });

  it("write numbers and labels inside a sentence as the language does", async () => {
    const path = { id: "path_deg", unit: "°", plus: "von innen", minus: "von außen" } as Parameters<typeof say>[0];
    await speak("de");
    expect([t("Baseline"), fixed(2.04, 1), inside("Schlägerbahn")]).toEqual(["Ausgangsmessung", "2,0", "Schlägerbahn"]);
    expect(say(path, 4.06, "m-ms")).toBe("4,1° von innen");
    expect(say(path, -0.02, "m-ms")).toBe("0,0°");
    await speak("es");
    expect(inside("Recorrido del palo")).toBe("recorrido del palo");
    await speak(ENGLISH);
    expect([fixed(2.04, 1), inside("Club path")]).toEqual(["2.0", "club path"]);
  });
});
