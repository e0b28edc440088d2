/** The sentences of the screens: every id in the code exists, none is unused, translations fit. */
import ts from "typescript";
import { afterEach, describe, expect, it } from "vitest";

import { ENGLISH, fixed, inside, locale, speak, t } from "../shared/format/language";
import { say } from "../shared/format/say";

const FILES = import.meta.glob<string>("../../../report/instavis_report/languages/*/{language,screens/*}.ftl", {
  query: "?raw",
  import: "default",
  eager: true,
});
const SOURCES = import.meta.glob<string>(["../{app,features,shared}/**/*.{ts,tsx}", "!../**/*.test.*"], {
  query: "?raw",
  import: "default",
  eager: true,
});
/** Ids that are made from the ids of words. */
const MADE = /^word-/;
/** Visible or spoken attributes with plain text, which would be English on every screen. */
const PLAIN_ATTRIBUTES = /\b(?:aria-label|label|title|placeholder|alt)="[A-Z][a-z][^"]*"/g;
const LABEL = 24;
const ROOM = 14;

/** The messages of a language: the text of each after its id. */
function messages(language: string): Map<string, string> {
  const texts = Object.entries(FILES).filter(([file]) => file.includes(`/languages/${language}/`));
  return new Map(
    texts.flatMap(([, text]) => [...text.matchAll(/^([a-z][\w-]*) = ?((?:.*\n?)(?: .*\n?)*)/gm)].map(entry)),
  );
}
const entry = (found: RegExpMatchArray): [string, string] => [found[1] ?? "", (found[2] ?? "").trimEnd()];
const values = (text: string): string[] =>
  [...new Set([...text.matchAll(/\$(\w+)/g)].map((found) => found[1] ?? ""))].toSorted();

const english = messages("en");
const LANGUAGES = [...new Set(Object.keys(FILES).map((file) => /languages\/(\w+)/.exec(file)?.[1] ?? ""))].toSorted();
const OTHERS = LANGUAGES.filter((language) => language !== ENGLISH);

type Use = { file: string; id: string; given: string[] | undefined };

/** Every literal id of a call `t(id, values)`, with the names of its values where they are written out. */
function uses(): Use[] {
  return Object.entries(SOURCES).flatMap(([file, text]) => {
    const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
    const found: Use[] = [];
    const visit = (node: ts.Node): void => {
      if (ts.isCallExpression(node) && node.expression.getText(source) === "t")
        for (const id of branches(node.arguments[0])) found.push({ file, id, given: names(node.arguments[1], source) });
      ts.forEachChild(node, visit);
    };
    visit(source);
    return found;
  });
}

function branches(node: ts.Expression | undefined): string[] {
  if (node && ts.isConditionalExpression(node)) return [...branches(node.whenTrue), ...branches(node.whenFalse)];
  return node && ts.isStringLiteralLike(node) ? [node.text] : [];
}

function names(node: ts.Expression | undefined, source: ts.SourceFile): string[] | undefined {
  if (!node) return [];
  if (!ts.isObjectLiteralExpression(node) || node.properties.some(ts.isSpreadAssignment)) return undefined;
  return node.properties.map((property) => property.name?.getText(source) ?? "");
}

afterEach(() => speak(ENGLISH));

describe("sentences of the screens", () => {
  it("exist for every id in the code, with the values it needs", () => {
    const wrong = uses().filter(({ id, given }) => {
      const text = english.get(id);
      return text === undefined || (given && values(text).some((name) => !given.includes(name)));
    });
    expect(wrong).toEqual([]);
  });

  it("are all used", () => {
    const quoted = new Set(Object.values(SOURCES).flatMap((text) => text.match(/"[a-z][\w-]+"/g) ?? []));
    expect([...english.keys()].filter((id) => !MADE.test(id) && !quoted.has(`"${id}"`))).toEqual([]);
  });

  it("are used by every attribute that shows text", () => {
    expect(Object.values(SOURCES).flatMap((text) => text.match(PLAIN_ATTRIBUTES) ?? [])).toEqual([]);
  });
});

describe.each(OTHERS)("the language %s", (language) => {
  const translated = messages(language);

  it("has no id that English lacks, and fills in the same values", () => {
    const wrong = [...translated].filter(
      ([id, text]) => values(english.get(id) ?? "$missing").join() !== values(text).join(),
    );
    expect(wrong).toEqual([]);
  });

  it("warns about what it lacks", () => {
    const missing = [...english.keys()].filter((id) => !translated.has(id));
    if (missing.length > 0) console.warn(`${language} lacks ${missing.length} sentences: ${missing.join(", ")}`);
  });

  it("has no label that is much longer than in English", () => {
    const long = [...translated].filter(([id, text]) => {
      const original = english.get(id) ?? "";
      return original.length <= LABEL && text.length > 2 * original.length + ROOM;
    });
    expect(long).toEqual([]);
  });
});

describe("a sentence", () => {
  it("falls back to English, and to the text itself", async () => {
    await speak("tlh");
    expect([t("common-baseline"), t("Ola Nordlys"), locale()]).toEqual(["Baseline", "Ola Nordlys", "tlh"]);
  });

  it("writes numbers and labels as the language does", async () => {
    const path = { id: "path_deg", unit: "°", plus: "von innen", minus: "von außen" } as Parameters<typeof say>[0];
    await speak("de");
    expect([t("common-baseline"), fixed(2.04, 1), inside("Schlägerbahn")]).toEqual([
      "Ausgangsmessung",
      "2,0",
      "Schlägerbahn",
    ]);
    expect(say(path, 4.06, "m-ms")).toBe("4,1° von innen");
    expect(say(path, -0.02, "m-ms")).toBe("0,0°");
    await speak("es");
    expect(inside("Recorrido del palo")).toBe("recorrido del palo");
    await speak(ENGLISH);
    expect([fixed(2.04, 1), inside("Club path")]).toEqual(["2.0", "club path"]);
  });
});
