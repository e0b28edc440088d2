import { describe, expect, it, vi } from "vitest";

import { calm } from "./calm";

describe("calm", () => {
  it("runs the first call at once and merges the rest", () => {
    vi.useFakeTimers();
    const run = vi.fn();
    const called = calm(run, 100);
    for (let i = 0; i < 30; i++) called();
    expect(run).toHaveBeenCalledTimes(1);
    vi.advanceTimersByTime(100);
    expect(run).toHaveBeenCalledTimes(2);
    vi.advanceTimersByTime(500);
    expect(run).toHaveBeenCalledTimes(2);
    called();
    expect(run).toHaveBeenCalledTimes(3);
    vi.useRealTimers();
  });
});
