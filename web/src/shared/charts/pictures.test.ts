import { describe, expect, it } from "vitest";

import type { Shot } from "../../api/queries";
import type { Metric } from "../format/say";
import { dotsOf, flightPath, outlineOf, type Reading, roundReach, valueWithOrigin } from "./pictures";

const path = { id: "path_deg", mirrored: true } as Metric;
const face = { id: "face_deg", mirrored: true } as Metric;
const shot = (id: number, values: Partial<Shot>) =>
  ({
    id,
    number: id,
    path_deg: null,
    face_deg: null,
    carry_m: null,
    side_m: null,
    launch_direction_deg: null,
    ...values,
  }) as Shot;
const reading = (doubtful: { index: number; field: string }[] = []) =>
  ({ ball_ids: [1, 2, 3], inferred: { path_deg: [null, -4, null] }, reading: { doubtful } }) as unknown as Reading;

describe("values in the pictures", () => {
  it("are mirrored for left-handers with their origin", () => {
    expect(valueWithOrigin(reading(), 0, shot(1, { path_deg: 3 }), path, "left")).toEqual({
      value: -3,
      origin: "measured",
    });
    expect(valueWithOrigin(reading(), 1, shot(2, {}), path, "left")).toEqual({ value: -4, origin: "inferred" });
    expect(valueWithOrigin(reading(), 2, shot(3, {}), path, "right")).toBeNull();
    expect(
      valueWithOrigin(reading([{ index: 0, field: "path_deg" }]), 0, shot(1, { path_deg: 3 }), path, "right")?.origin,
    ).toBe("doubtful");
  });

  it("use the less certain origin and need both values", () => {
    const shots = [shot(1, { path_deg: 1, face_deg: 2 }), shot(2, { face_deg: 2 }), shot(3, { face_deg: 2 })];
    const dots = dotsOf(reading(), shots, path, face, "right", new Map([[1, "by the coach"]]), new Set([2]));
    expect(dots.map((d) => [d.id, d.origin, d.excluded, d.chosen])).toEqual([
      [1, "measured", true, false],
      [2, "inferred", false, true],
    ]);
  });
});

describe("shapes", () => {
  it("outline points lie on the ellipse", () => {
    const e = { x: "", y: "", centre_x: 1, centre_y: 2, half_long: 3, half_short: 1, angle_deg: 90, n: 9 };
    expect(outlineOf(e)[0]?.[0]).toBeCloseTo(1);
    expect(outlineOf(e)[0]?.[1]).toBeCloseTo(5);
  });

  it("a path starts in its direction and ends at the landing", () => {
    const path = flightPath(shot(1, { carry_m: 100, side_m: 6, launch_direction_deg: -2 }));
    expect(path?.end[0]).toBe(6);
    expect(path?.control[0]).toBeLessThan(0);
    expect(path?.started).toBe(true);
    expect(flightPath(shot(1, { carry_m: null }))).toBeNull();
  });

  it("a path without a measured start is straight and marked", () => {
    const path = flightPath(shot(1, { carry_m: 100, side_m: 6 }));
    const [[across, along], [side, forward]] = [path?.control ?? [0, 0], path?.end ?? [0, 0]];
    expect(across / along).toBeCloseTo(side / forward, 9);
    expect(path?.started).toBe(false);
  });

  it("ranges are rounded up", () => {
    expect(roundReach([3, -11], [10, 20, 40])).toBe(20);
    expect(roundReach([99], [10, 20, 40])).toBe(40);
    expect(roundReach([], [10, 20])).toBe(10);
  });
});
