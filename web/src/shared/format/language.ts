/**
 * Texts of the screens. English is the key of every entry; another language is a file of entries. Texts from the
 * server arrive in the reader's language.
 */

export const ENGLISH = "en";
/** A pseudo-language: every entry in brackets and accents, so that texts missing in the catalog show. */
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

/** Switch to a language; one without a file falls back to English. */
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

/** The locale for dates and times. */
export const locale = (): string => (language === ENGLISH || language === PSEUDO ? "en-GB" : language);

/** Return a catalog entry with its values: `t("{n} checks are open.", { n: 3 })`. */
export function t(entry: string, values: Record<string, string | number | undefined> = {}): string {
  if (!/\p{L}{2}/u.test(entry) || entry.includes("⟦")) return filled(entry, values);
  return filled(language === PSEUDO ? pseudo(entry) : spoken.entries[entry] || entry, values);
}

/** Format a number with fixed decimals in the language. */
export const fixed = (value: number, digits: number): string => value.toFixed(digits).replace(".", spoken.decimal);

/** Format a number with the decimals it has. */
export const plainly = (value: number): string => value.toString().replace("-", "−").replace(".", spoken.decimal);

/** Quote a person's own words in the language's quotation marks. */
export const quoted = (words: string): string => t("“{words}”", { words });

/** Return a label as it appears inside a sentence. */
export const inside = (label: string): string => (spoken.nouns === "kept" ? label : label.toLowerCase());

function filled(entry: string, values: Record<string, string | number | undefined>): string {
  return entry.replace(/\{(\w+)\}/g, (place, name: string) => (name in values ? String(values[name] ?? "") : place));
}

/** Return the singular or plural entry; `{n}` is the number. */
export function counted(n: number, one: string, many: string, values: Record<string, string | number> = {}): string {
  return t(n === 1 ? one : many, { n, ...values });
}
