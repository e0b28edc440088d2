/** Pictures and tables of a page as files of their own: drawn as they stand on the screen, nothing asked of anybody. */

const DRAWN = [
  "fill",
  "fill-opacity",
  "stroke",
  "stroke-opacity",
  "stroke-width",
  "stroke-dasharray",
  "stroke-linecap",
  "stroke-linejoin",
  "opacity",
  "font-family",
  "font-size",
  "font-weight",
  "letter-spacing",
  "text-anchor",
  "dominant-baseline",
  "visibility",
];
const LEAST = 90; // pixels: a smaller drawing is a sign, not a picture
const SHARP = 2; // pixels of a PNG beside one of the screen
const MARGIN = 12;
const FORMULA = /^[=+@\t\r-]/;

export type Kept = { key: string; title: string; picture?: SVGSVGElement; table?: HTMLTableElement };

/** What there is to keep in a part of the page, in its order, each by a name of its own. */
export function keepable(place: HTMLElement): Kept[] {
  const taken = new Map<string, number>();
  return [...place.querySelectorAll<SVGSVGElement | HTMLTableElement>("svg[role=img], table")].flatMap((node, i) => {
    const picture = node instanceof SVGSVGElement ? node : undefined;
    if (picture && !isLarge(picture)) return [];
    const name = titleOf(node);
    const before = taken.get(name) ?? 0;
    taken.set(name, before + 1);
    const title = before ? `${name} (${before + 1})` : name;
    return [{ key: `${i}`, title, ...(picture ? { picture } : { table: node as HTMLTableElement }) }];
  });
}

function isLarge(picture: SVGSVGElement): boolean {
  const { width, height } = picture.getBoundingClientRect();
  return width >= LEAST && height >= LEAST / 2;
}

function titleOf(node: Element): string {
  const own = node.getAttribute("aria-label") ?? node.querySelector("caption")?.textContent;
  const around =
    node.closest("figure")?.querySelector("figcaption") ?? node.closest("section, article")?.querySelector("h2, h3");
  const place = node.closest("section[aria-label]")?.getAttribute("aria-label");
  return (own || around?.textContent || place || document.title).trim();
}

/** A drawing with its looks written into it, on the ground of the page; typefaces may be put in as well. */
export function svgOf(picture: SVGSVGElement, ground: string, faces = ""): string {
  const copy = picture.cloneNode(true) as SVGSVGElement;
  const from = [picture, ...picture.querySelectorAll("*")];
  const to = [copy, ...copy.querySelectorAll("*")];
  from.forEach((node, i) => {
    const looks = getComputedStyle(node);
    const target = to[i];
    for (const name of DRAWN) target?.setAttribute(name, looks.getPropertyValue(name));
    target?.removeAttribute("class");
  });
  const { width, height } = picture.getBoundingClientRect();
  const shape = { width: width + 2 * MARGIN, height: height + 2 * MARGIN };
  copy.setAttribute("x", String(MARGIN));
  copy.setAttribute("y", String(MARGIN));
  copy.setAttribute("width", String(width));
  copy.setAttribute("height", String(height));
  const style = faces && `<style>${faces}</style>`;
  const drawn = new XMLSerializer().serializeToString(copy);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${shape.width}" height="${shape.height}">${style}<rect width="100%" height="100%" fill="${ground}"/>${drawn}</svg>`;
}

/** The same as pixels, twice as fine as on the screen. */
export async function pngOf(svg: string): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = SHARP * image.width;
  canvas.height = SHARP * image.height;
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done, failed) =>
    canvas.toBlob((blob) => (blob ? done(blob) : failed(new Error("the picture could not be drawn"))), "image/png"),
  );
}

/** The page's typefaces for a drawing that leaves the page. */
export async function facesOf(sheets: Iterable<CSSStyleSheet>): Promise<string> {
  const rules = [...sheets].flatMap((sheet) => [...sheet.cssRules]).filter((rule) => rule instanceof CSSFontFaceRule);
  const faces = rules.map(async (rule) => {
    const address = rule.style.getPropertyValue("src").match(/url\("?([^")]+)"?\)/)?.[1];
    if (!address) return rule.cssText;
    const data = new Uint8Array(
      await (await fetch(new URL(address, rule.parentStyleSheet?.href ?? location.href))).arrayBuffer(),
    );
    const letters = Array.from(data, (byte) => String.fromCharCode(byte)).join("");
    return rule.cssText.replace(/url\([^)]*\)/, `url(data:font/woff2;base64,${btoa(letters)})`);
  });
  return (await Promise.all(faces)).join("");
}

/** A table as CSV (RFC 4180), numbers with a plain minus; no cell is a formula to a spreadsheet. */
export function csvOf(table: HTMLTableElement): string {
  const lines = [...table.rows].map((row) => [...row.cells].map((cell) => cellOf(cell.textContent)));
  return `${lines.map((cells) => cells.join(",")).join("\r\n")}\r\n`;
}

function cellOf(text: string): string {
  const told = text.replace(/\s+/g, " ").trim();
  const plain = /^[−-]?[\d.,]+$/.test(told) ? told.replace("−", "-") : FORMULA.test(told) ? `'${told}` : told;
  return /[",\n]/.test(plain) ? `"${plain.replaceAll('"', '""')}"` : plain;
}

/** A name that every system takes. */
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
