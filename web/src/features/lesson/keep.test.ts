// @vitest-environment jsdom
/** Export of pictures and tables: what is found, CSV content, valid file names. */
import { expect, it } from "vitest";

import { svgOf } from "./drawing";
import { csvOf, fileName, keepable } from "./keep";

function page(html: string): HTMLElement {
  document.body.innerHTML = `<main>${html}</main>`;
  for (const svg of document.querySelectorAll("svg"))
    svg.getBoundingClientRect = () => ({ width: Number(svg.dataset.wide ?? 300), height: 200 }) as DOMRect;
  return document.querySelector("main") as HTMLElement;
}

it("finds named pictures and tables with unique names", () => {
  const found = keepable(
    page(`
    <figure><figcaption>Where it starts</figcaption><svg role="img" aria-label="Start: 14 balls"></svg>
      <table><tr><td>1</td></tr></table><table><tr><td>2</td></tr></table></figure>
    <svg role="img" data-wide="20" aria-label="a sign"></svg><svg aria-hidden="true"></svg>`),
  );
  expect(found.map((one) => one.title)).toEqual(["Start: 14 balls", "Where it starts", "Where it starts (2)"]);
  expect(found.map((one) => Boolean(one.picture))).toEqual([true, false, false]);
});

it("writes a table with plain minus signs, quoted where it must be, and no formula", () => {
  const main = page(`<table><thead><tr><th>Ball</th><th>Path [°]</th></tr></thead>
    <tbody><tr><td>1 <em>inferred</em></td><td>−4.1</td></tr><tr><td>say "so", she</td><td>=1+1</td></tr></tbody></table>`);
  expect(csvOf(main.querySelector("table") as HTMLTableElement)).toBe(
    'Ball,Path [°]\r\n1 inferred,-4.1\r\n"say ""so"", she",\'=1+1\r\n',
  );
});

it("writes styles into a drawing with the page's background", () => {
  const main = page(
    '<svg role="img" aria-label="x" class="w-full"><path d="M0 0H9" style="stroke: rgb(1, 2, 3)"/></svg>',
  );
  const text = svgOf(main.querySelector("svg") as SVGSVGElement, "rgb(9, 9, 9)");
  const drawn = new DOMParser().parseFromString(text, "image/svg+xml").documentElement;
  expect(drawn.querySelector("rect")?.getAttribute("fill")).toBe("rgb(9, 9, 9)");
  expect(drawn.querySelector("path")?.getAttribute("stroke")).toBe("rgb(1, 2, 3)");
  expect([drawn.getAttribute("width"), drawn.getAttribute("height")]).toEqual(["324", "224"]);
  expect(text).not.toContain("w-full");
});

it("names files without accents, signs and spaces", () => {
  expect(fileName("Éloi Mårtens", "2026-05-04", "Prove", "Start: 14 balls")).toBe(
    "eloi-martens-2026-05-04-prove-start-14-balls",
  );
});
