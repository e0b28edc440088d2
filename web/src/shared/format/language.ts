/**
 * Texts of the screens: each sentence has an id and lives in the Fluent files of its language, a file for each screen.
 * Texts from the server arrive in the reader's language.
 */
import { FluentBundle, FluentNumber, FluentResource, type FluentVariable } from "@fluent/bundle";

export const ENGLISH = "en";
/** A pseudo-language: every sentence in brackets and accents, so that text missing in the files shows. */
export const PSEUDO = "xx";

type Values = Record<string, string | number | undefined>;

const LANGUAGES = "../../../../report/instavis_report/languages";
const ENGLISH_FILES = import.meta.glob<string>(
  [
    "../../../../report/instavis_report/languages/en/screens/*.ftl",
    "../../../../report/instavis_report/languages/en/language.ftl",
  ],
  { query: "?raw", import: "default", eager: true },
);
const OTHER_FILES = import.meta.glob<string>(
  [
    "../../../../report/instavis_report/languages/*/screens/*.ftl",
    "../../../../report/instavis_report/languages/*/language.ftl",
    "!../../../../report/instavis_report/languages/en/**",
  ],
  { query: "?raw", import: "default" },
);
const PLAIN = "aceinosuyACEINOSUY";
const ACCENTS = "áçéíñóšúýÁÇÉÍÑÓŠÚÝ";

const english = new FluentResource(Object.values(ENGLISH_FILES).join("\n"));

let language = ENGLISH;
let bundle = bundleOf(ENGLISH, []);
let decimal = ".";

/** Switch to a language; a sentence it lacks, or a language without files, falls back to English. */
export async function speak(code: string): Promise<void> {
  const files = Object.entries(OTHER_FILES).filter(([file]) => file.startsWith(`${LANGUAGES}/${code}/`));
  const texts = await Promise.all(files.map(([, load]) => load()));
  bundle = bundleOf(code, texts);
  language = code;
  decimal = (1.5).toLocaleString(locale()).charAt(1);
  if (typeof document !== "undefined") document.documentElement.lang = code;
}

function bundleOf(code: string, texts: string[]): FluentBundle {
  const made = new FluentBundle(code === PSEUDO ? ENGLISH : [code, ENGLISH], {
    useIsolating: false,
    ...(code === PSEUDO && { transform: accented }),
  });
  made.addResource(english);
  made.addResource(new FluentResource(texts.join("\n")), { allowOverrides: true });
  return made;
}

const accented = (text: string): string =>
  text.replace(/[a-z]/gi, (letter) => ACCENTS[PLAIN.indexOf(letter)] ?? letter);

/** The locale for dates and times. */
export const locale = (): string => (language === ENGLISH || language === PSEUDO ? "en-GB" : language);

/**
 * Return the sentence with this id and its values: `t("check-open", { n: 3 })`. Text that is not an id is returned
 * unchanged.
 */
export function t(id: string, values: Values = {}): string {
  const pattern = bundle.getMessage(id)?.value;
  if (!pattern) return id;
  const problems: Error[] = [];
  const text = bundle.formatPattern(pattern, variables(values), problems);
  for (const problem of problems) console.error(`Sentence ${id}: ${problem.message}`);
  return language === PSEUDO ? `⟦${text}⟧` : text;
}

function variables(values: Values): Record<string, FluentVariable> {
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => [
      name,
      typeof value === "number" ? new FluentNumber(value, { useGrouping: false }) : (value ?? ""),
    ]),
  );
}

/** Return the word for an id of the knowledge or the protocol: "leaves-early". An academy's own ids are words. */
export function word(id: string): string {
  const known = `word-${id}`;
  return bundle.hasMessage(known) ? t(known) : id.replaceAll("-", " ");
}

/** Return a table of choices with its labels in the reader's language. */
export const labeled = <Row extends { label: string }>(rows: readonly Row[]): Row[] =>
  rows.map((row) => ({ ...row, label: t(row.label) }));

/** Format a number with fixed decimals in the language. */
export const fixed = (value: number, digits: number): string => value.toFixed(digits).replace(".", decimal);

/** Format a number with the decimals it has. */
export const plainly = (value: number): string => value.toString().replace("-", "−").replace(".", decimal);

/** Quote a person's own words in the language's quotation marks. */
export const quoted = (words: string): string => t("quoted", { words });

/** Return a label as it appears inside a sentence. */
export const inside = (label: string): string => (t("nouns-keep-capitals") === "yes" ? label : label.toLowerCase());
