/**
 * The words of the screens. English is the key of every entry and therefore complete; another language is a file of
 * entries. What the server says comes in the reader's language already.
 */

export const ENGLISH = "en";
/** Not a language: every entry in brackets and accents, so that a text which misses the catalogue is seen. */
export const PSEUDO = "xx";

const FILES = import.meta.glob<{ entries: Record<string, string> }>("../../languages/*.json", { import: "default" });
const PLAIN = "aceinosuyACEINOSUY";
const ACCENTS = "áçéíñóšúýÁÇÉÍÑÓŠÚÝ";

let language = ENGLISH;
let entries: Record<string, string> = {};

/** From here on everything is said in a language; one without a file is said in English. */
export async function speak(code: string): Promise<void> {
  const load = FILES[`../../languages/${code}.json`];
  entries = load ? (await load()).entries : {};
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
  return filled(language === PSEUDO ? pseudo(entry) : entries[entry] || entry, values);
}

function filled(entry: string, values: Record<string, string | number | undefined>): string {
  return entry.replace(/\{(\w+)\}/g, (place, name: string) => (name in values ? String(values[name] ?? "") : place));
}

/** One and many are entries of their own; `{n}` is the number. */
export function counted(n: number, one: string, many: string, values: Record<string, string | number> = {}): string {
  return t(n === 1 ? one : many, { n, ...values });
}
