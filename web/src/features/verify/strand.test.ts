import { describe, expect, it } from "vitest";

import type { Shot } from "../../api/queries";
import { golferValue, type Metric, say, signed } from "../../shared/format/say";
import { distance, speed } from "../../shared/format/units";
import { cellsOf, clickerOf, movementOfKey } from "../../shared/format/verdict";
import { ballShape } from "../../shared/ui/glyph";
import { axesOf, bandOn, movementAxis, pointsOf } from "./strand";

const metric = (id: string, lane: string, rest: Partial<Metric> = {}): Metric => ({
  id,
  lane,
  label: id,
  unit: "°",
  kind: "angle",
  range: [-40, 40],
  noise: 1,
  mirrored: true,
  plus: "in-to-out",
  minus: "out-to-in",
  ...rest,
});
const metrics = [
  metric("path_deg", "club"),
  metric("face_deg", "club"),
  metric("strike_toe_mm", "ball", { mirrored: false, unit: "mm" }),
];
const shot = (values: Partial<Shot>) =>
  ({ movement: "", path_deg: null, face_deg: null, strike_toe_mm: null, ...values }) as Shot;

describe("sentences", () => {
  it("name the side and mirror left-handers", () => {
    const path = metrics[0] as Metric;
    expect(say(path, 4.12, "yd-mph")).toBe("4.1° in-to-out");
    expect(say(path, -0.04, "yd-mph")).toBe("0.0°");
    expect(golferValue(path, 3, "left")).toBe(-3);
    expect(golferValue(metrics[2], 3, "left")).toBe(3);
    expect(signed(-2)).toBe("−2.0");
    expect(signed(-0.01)).toBe("0.0");
  });

  it("use the coach's units", () => {
    expect(distance(91.44, "yd-mph")).toBe("100 yd");
    expect(distance(91.44, "m-mph")).toBe("91 m");
    expect(speed(44.704, "m-mph")).toBe("100 mph");
    expect(speed(44.704, "m-ms")).toBe("44.7 m/s");
  });
});

describe("strands", () => {
  const axes = axesOf([movementAxis()], "path_deg", ["path_deg", "strike_toe_mm"], metrics, () => [1, 5]);

  it("pass pivot, club and ball in order", () => {
    expect(axes.map((a) => a.lane)).toEqual(["pivot", "club", "club", "ball"]);
    expect(axes.every((a) => a.domain[0] < 0 || a.id === "movement")).toBe(true);
  });

  it("leave out unmeasured and unmarked values", () => {
    expect(pointsOf(shot({ path_deg: 2 }), axes, metrics, "right").map((p) => p.axis.id)).toEqual(["path_deg"]);
    const marked = pointsOf(shot({ movement: "partly", path_deg: 2 }), axes, metrics, "left");
    expect(marked.map((p) => p.value)).toEqual([0.5, -2]);
  });

  it("show the server's band on measured axes", () => {
    const bands = bandOn({ path_deg: [1, 5], carry_m: [120, 140] }, axes);
    expect(bands.map((b) => [b.axis.id, b.low, b.high])).toEqual([["path_deg", 1, 5]]);
  });
});

describe("glyphs and verdicts", () => {
  it("lean with the path and show the strike", () => {
    const out = ballShape(5, 0, 10, 0, "right");
    const left = ballShape(5, 0, 10, 0, "left");
    expect(out.dot?.x).toBeGreaterThan(17);
    expect(left.dot?.x).toBeLessThan(17);
    expect(ballShape(null, null, null, null, "right").dot).toBeNull();
  });

  it("stay inside their box for absurd values", () => {
    const { dot } = ballShape(400, 400, 400, 400, "right");
    expect(dot?.x).toBeLessThanOrEqual(29);
    expect(dot?.y).toBeGreaterThanOrEqual(40);
  });

  it("show two answers in two cells", () => {
    expect(cellsOf("linked")).toEqual(["yes", "yes"]);
    expect(cellsOf("changed-without-move")).toEqual(["no", "yes"]);
    expect(cellsOf("anything else")).toEqual(["unknown", "unknown"]);
    expect(movementOfKey("1")).toBe("done");
    expect(clickerOf({})).toEqual({ PageDown: "done", PageUp: "missed" });
    expect(clickerOf({ F5: "done" })).toEqual({ F5: "done" });
    expect(movementOfKey("q")).toBeUndefined();
  });
});
