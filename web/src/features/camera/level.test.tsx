// @vitest-environment jsdom
import { act, render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { turned, useLevel } from "./level";

const G = 9.81;

function felt(degrees: number, sign = 1) {
  const angle = (degrees * Math.PI) / 180;
  return { x: sign * G * Math.sin(angle), y: sign * G * Math.cos(angle), z: 0 };
}

function Shown() {
  return <output>{useLevel() ?? "?"}</output>;
}

describe("the level of a camera", () => {
  it.each([0, 90, 180, -90])("is known in every orientation: %d°", (held) => {
    for (const sign of [1, -1]) {
      expect(turned(felt(held + 5, sign))).toBeCloseTo(5);
      expect(turned(felt(held - 3, sign))).toBeCloseTo(-3);
    }
  });

  it("is unknown for a phone lying flat or without sensors", () => {
    expect(turned({ x: 0.4, y: -0.2 })).toBeUndefined();
    expect(turned({ x: null, y: null })).toBeUndefined();
    expect(turned(null)).toBeUndefined();
  });

  it("follows a tilt, ignores shaking and small angles", () => {
    const feel = (degrees: number, times = 1) =>
      act(() => {
        for (let i = 0; i < times; i++) {
          const event = Object.assign(new Event("devicemotion"), { accelerationIncludingGravity: felt(degrees) });
          window.dispatchEvent(event);
        }
      });
    render(<Shown />);
    expect(screen.getByRole("status").textContent).toBe("?");
    feel(1);
    expect(screen.getByRole("status").textContent).toBe("0");
    feel(9);
    expect(screen.getByRole("status").textContent).toBe("2");
    feel(9, 60);
    expect(screen.getByRole("status").textContent).toBe("9");
  });
});
