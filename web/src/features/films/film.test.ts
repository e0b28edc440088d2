import { describe, expect, it } from "vitest";
import {
  chosenPair,
  type Film,
  type FilmRow,
  frameAt,
  laidOver,
  pictureOf,
  reach,
  shaftAtAddress,
  steepness,
} from "./film";

const film = (changes: Partial<Film> = {}): Film => ({
  id: 1,
  view: "down-the-line",
  hand: "right",
  width: 720,
  height: 400,
  times: [0.3, 0.32, 0.34, 0.36],
  sizes: [2, 1, 3, 2],
  moments: { top: 0.33, impact: 0.36 },
  landmarks: {},
  lines: {
    centimetre: 0.004,
    head: [0.5, 0.2, 0.03, 0.06],
    seat: 0.35,
    lead_hip: null,
    hands: [0.48, 0.5, 0.04, 0.06],
    feet: [0.4, 0.9],
  },
  ...changes,
});

const row = (id: number, changes: Partial<FilmRow> = {}): FilmRow => ({
  id,
  lesson_id: 5,
  day: "2026-03-02",
  ball: id,
  purpose: "prove",
  movement: "",
  view: "face-on",
  name: "",
  ...changes,
});

describe("frames", () => {
  it("are nearest to the moment plus steps", () => {
    expect(frameAt(film(), "impact", 0)).toBe(3);
    expect(frameAt(film(), "top", 0.028)).toBe(3);
    expect(frameAt(film(), "top", -1)).toBe(0);
  });

  it("are limited to the overlap of both films", () => {
    const longer = film({ times: [0, 1], moments: { top: 0.5 } });
    const [from, to] = reach([film(), longer], "top");
    expect(from).toBeCloseTo(-0.03);
    expect(to).toBeCloseTo(0.03);
  });

  it("are stored one after another", async () => {
    const bytes = new Uint8Array([1, 2, 3, 4, 5, 6, 7, 8]).buffer;
    const got = await new Response(pictureOf(film(), bytes, 2)).arrayBuffer();
    expect([...new Uint8Array(got)]).toEqual([4, 5, 6]);
  });
});

describe("lines", () => {
  it("align feet and body size", () => {
    const other = film({ width: 360, height: 200, lines: { ...film().lines, feet: [0.5, 0.8] } });
    const { scale, x, y } = laidOver(film(), other);
    expect(scale).toBeCloseTo(0.5);
    expect(x + scale * 0.4 * 720).toBeCloseTo(0.5 * 360);
    expect(y + scale * 0.9 * 400).toBeCloseTo(0.8 * 200);
  });

  it("have the displayed angle in either direction", () => {
    const square = film({ width: 100, height: 100 });
    expect(steepness({ from: [0.5, 0.2], to: [0.7, 0.4] }, square)).toBeCloseTo(45);
    expect(steepness({ from: [0.5, 0.2], to: [0.3, 0.4] }, square)).toBeCloseTo(45);
    expect(steepness({ from: [0.5, 0.2], to: [0.5, 0.9] }, square)).toBeCloseTo(90);
  });

  it("start at the hands and end on the ground", () => {
    const { from, to } = shaftAtAddress(film());
    expect(from[0]).toBeCloseTo(0.5);
    expect(to[0]).toBeGreaterThan(from[0]);
    expect(to[1]).toBeCloseTo(0.9);
  });
});

describe("two films", () => {
  const baseline = { purpose: "baseline" };
  const rows = [row(9), row(8), row(3, baseline), row(2, baseline), row(1, { ...baseline, lesson_id: 4 })];

  it("are the newest and the first of the baseline", () => {
    expect(chosenPair(rows, { before: undefined, now: undefined })).toEqual({ before: rows[3], now: rows[0] });
  });

  it("are the requested ones", () => {
    expect(chosenPair(rows, { before: 1, now: 8 })).toEqual({ before: rows[4], now: rows[1] });
  });

  it("have the same view", () => {
    const behind = row(7, { view: "down-the-line" });
    expect(chosenPair([behind, ...rows], { before: 1, now: 7 })).toEqual({ now: behind });
    expect(chosenPair([], { before: 1, now: 7 })).toEqual({});
  });
});
