/** Export pictures and tables of a page as files, drawn from what is on screen. */

const MINIMUM = 90; // pixels: a smaller drawing is a sign, not a picture
const FORMULA = /^[=+@\t\r-]/;

export type Saved = { key: string; title: string; picture?: Element; table?: HTMLTableElement };

/** Return the exportable items in a part of the page, each with a unique name. */
export function keepable(place: HTMLElement): Saved[] {
  const taken = new Map<string, number>();
  // A board of words and boxes says itself that it is a picture.
  return [...place.querySelectorAll("svg[role=img], [data-picture], table")].flatMap((node, i) => {
    const picture = node instanceof HTMLTableElement ? undefined : node;
    if (picture && !isLarge(picture)) return [];
    const name = titleOf(node);
    const before = taken.get(name) ?? 0;
    taken.set(name, before + 1);
    const title = before ? `${name} (${before + 1})` : name;
    return [{ key: `${i}`, title, ...(picture ? { picture } : { table: node as HTMLTableElement }) }];
  });
}

function isLarge(picture: Element): boolean {
  const { width, height } = picture.getBoundingClientRect();
  return width >= MINIMUM && height >= MINIMUM / 2;
}

function titleOf(node: Element): string {
  const own = node.getAttribute("aria-label") ?? node.querySelector("caption")?.textContent;
  const around =
    node.closest("figure")?.querySelector("figcaption") ?? node.closest("section, article")?.querySelector("h2, h3");
  const place = node.closest("section[aria-label]")?.getAttribute("aria-label");
  return (own || around?.textContent || place || document.title).trim();
}

/** Write a table as CSV (RFC 4180), numbers with a plain minus; no cell is a formula. */
export function csvOf(table: HTMLTableElement): string {
  const lines = [...table.rows].map((row) => [...row.cells].map((cell) => cellOf(cell.textContent)));
  return `${lines.map((cells) => cells.join(",")).join("\r\n")}\r\n`;
}

function cellOf(text: string): string {
  const result = text.replace(/\s+/g, " ").trim();
  const plain = /^[−-]?[\d.,]+$/.test(result) ? result.replace("−", "-") : FORMULA.test(result) ? `'${result}` : result;
  return /[",\n]/.test(plain) ? `"${plain.replaceAll('"', '""')}"` : plain;
}

/** Return a file name valid on every system. */
export function fileName(...words: string[]): string {
  return words
    .join(" ")
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 90);
}
