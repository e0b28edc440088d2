/** Draw parts of the page as standalone drawings: pictures as they are, boards of words and boxes redrawn. */

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
const WRITTEN = ["font-family", "font-size", "font-weight", "letter-spacing"];
const SHARP = 2; // pixels of a PNG beside one of the screen
const MARGIN = 12;
const SPACE = "http://www.w3.org/2000/svg";

/** Return a picture or board with its computed styles, on the page's background; optionally with fonts. */
export function svgOf(picture: Element, ground: string, faces = ""): string {
  const { left, top, width, height } = picture.getBoundingClientRect();
  const shape = { width: width + 2 * MARGIN, height: height + 2 * MARGIN };
  const complete = made("svg", { width: shape.width, height: shape.height });
  if (faces) complete.append(made("style", {}, faces));
  complete.append(made("rect", { width: "100%", height: "100%", fill: ground }));
  draw(picture, complete, { left: left - MARGIN, top: top - MARGIN });
  return new XMLSerializer().serializeToString(complete);
}

type Corner = { left: number; top: number };

function draw(node: Element, into: SVGElement, corner: Corner) {
  if (node instanceof SVGSVGElement) return into.append(copied(node, corner));
  const style = getComputedStyle(node);
  if (style.display === "none" || style.visibility === "hidden") return;
  const box = placed(node.getBoundingClientRect(), corner);
  drawBox(style, box, into);
  for (const child of node.childNodes) {
    if (child instanceof Element) draw(child, into, corner);
    else if (child instanceof Text) drawWords(child, style, into, corner);
  }
}

/** Return a drawing with all computed styles inlined. */
function copied(picture: SVGSVGElement, corner: Corner): SVGElement {
  const copy = picture.cloneNode(true) as SVGSVGElement;
  const from = [picture, ...picture.querySelectorAll("*")];
  const to = [copy, ...copy.querySelectorAll("*")];
  from.forEach((node, i) => {
    const style = getComputedStyle(node);
    const target = to[i];
    for (const name of DRAWN) target?.setAttribute(name, style.getPropertyValue(name));
    target?.removeAttribute("class");
  });
  dress(copy, placed(picture.getBoundingClientRect(), corner));
  return copy;
}

function drawBox(style: CSSStyleDeclaration, box: Box, into: SVGElement) {
  if (isInk(style.backgroundColor)) into.append(made("rect", { ...box, fill: style.backgroundColor }));
  for (const [side, strip] of Object.entries(BORDERS)) {
    const wide = Number.parseFloat(style.getPropertyValue(`border-${side}-width`));
    const ink = style.getPropertyValue(`border-${side}-color`);
    if (wide && isInk(ink)) into.append(made("rect", { ...box, ...strip(box, wide), fill: ink }));
  }
}

/** Each border as a strip of its box. */
const BORDERS: Record<string, (box: Box, wide: number) => Partial<Box>> = {
  top: (_, wide) => ({ height: wide }),
  right: (box, wide) => ({ x: box.x + box.width - wide, width: wide }),
  bottom: (box, wide) => ({ y: box.y + box.height - wide, height: wide }),
  left: (_, wide) => ({ width: wide }),
};

/** The words of a text, one per line of the page. */
function drawWords(text: Text, style: CSSStyleDeclaration, into: SVGElement, corner: Corner) {
  const lines: { words: string; box: Box }[] = [];
  const range = document.createRange();
  for (const { 0: word, index } of text.data.matchAll(/\S+/g)) {
    range.setStart(text, index);
    range.setEnd(text, index + word.length);
    const box = placed(range.getBoundingClientRect(), corner);
    if (!box.width) continue;
    const line = lines.at(-1);
    if (line && Math.abs(line.box.y - box.y) < box.height / 2) line.words += ` ${word}`;
    else lines.push({ words: word, box });
  }
  const font = Object.fromEntries(WRITTEN.map((name) => [name, style.getPropertyValue(name)]));
  for (const { words, box } of lines) {
    const place = { x: box.x, y: box.y + box.height / 2, "dominant-baseline": "central" };
    into.append(made("text", { ...place, ...font, fill: style.color }, words));
  }
}

type Box = { x: number; y: number; width: number; height: number };

function placed({ left, top, width, height }: DOMRect, corner: Corner): Box {
  return { x: left - corner.left, y: top - corner.top, width, height };
}

function isInk(colour: string): boolean {
  return colour !== "transparent" && !/[,/]\s*0\)$/.test(colour);
}

function made(kind: string, style: Record<string, string | number>, words = ""): SVGElement {
  const node = document.createElementNS(SPACE, kind);
  node.textContent = words;
  return dress(node, style);
}

function dress<E extends Element>(node: E, style: Record<string, string | number>): E {
  for (const [name, value] of Object.entries(style)) node.setAttribute(name, String(value));
  return node;
}

/** Render at twice the screen's resolution. */
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

/** The page's fonts for an exported drawing. */
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
