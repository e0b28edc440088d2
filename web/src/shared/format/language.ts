/**
 * The words of the screens. English is the key of every entry and therefore complete; another language is a file of
 * entries. What the server says comes in the reader's language already.
 */

export const ENGLISH = "en";
/** Not a language: every entry in brackets and accents, so that a text which misses the catalogue is seen. */
export const PSEUDO = "xx";

interface Spoken {
  decimal: string;
  /** Whether nouns keep their capitals inside a sentence. */
  nouns: "kept" | "small";
  entries: Record<string, string>;
}

const FILES = import.meta.glob<Spoken>("../../languages/*.json", { import: "default" });
const PLAINLY: Spoken = { decimal: ".", nouns: "small", entries: {} };
const PLAIN = "aceinosuyACEINOSUY";
const ACCENTS = "áçéíñóšúýÁÇÉÍÑÓŠÚÝ";

let language = ENGLISH;
let spoken = PLAINLY;

/** From here on everything is said in a language; one without a file is said in English. */
export async function speak(code: string): Promise<void> {
  const load = FILES[`../../languages/${code}.json`];
  spoken = load ? await load() : PLAINLY;
  language = code;
  if (typeof document !== "undefined") document.documentElement.lang = code;
}

function pseudo(entry: string): string {
  const parts = entry.split(/(\{\w+\})/);
  const said = parts.map((part) =>
    part.startsWith("{") ? part : part.replace(/[a-z]/gi, (letter) => ACCENTS[PLAIN.indexOf(letter)] ?? letter),
  );
  return `⟦${said.join("")}⟧`;
}

/** What dates and times are written by. */
export const locale = (): string => (language === ENGLISH || language === PSEUDO ? "en-GB" : language);

/** An entry of the catalogue, its places filled: `t("{n} looks are open.", { n: 3 })`. */
export function t(entry: string, values: Record<string, string | number | undefined> = {}): string {
  if (!/\p{L}{2}/u.test(entry) || entry.includes("⟦")) return filled(entry, values);
  return filled(language === PSEUDO ? pseudo(entry) : spoken.entries[entry] || entry, values);
}

/** A number with so many decimals, as it is written in the language. */
export const fixed = (value: number, digits: number): string => value.toFixed(digits).replace(".", spoken.decimal);

/** A number with the decimals it has. */
export const plainly = (value: number): string => value.toString().replace("-", "−").replace(".", spoken.decimal);

/** Somebody's own words, in the marks of the language. */
export const quoted = (words: string): string => t("“{words}”", { words });

/** A label as it stands inside a sentence. */
export const inside = (label: string): string => (spoken.nouns === "kept" ? label : label.toLowerCase());

function filled(entry: string, values: Record<string, string | number | undefined>): string {
  return entry.replace(/\{(\w+)\}/g, (place, name: string) => (name in values ? String(values[name] ?? "") : place));
}

/** One and many are entries of their own; `{n}` is the number. */
export function counted(n: number, one: string, many: string, values: Record<string, string | number> = {}): string {
  return t(n === 1 ? one : many, { n, ...values });
}
