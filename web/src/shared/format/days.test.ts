import { describe, expect, it } from "vitest";

import { addDays, arrowDay, clockOf, daysBetween, localDay, weeksOf } from "./days";

describe("calendar days", () => {
  it("survive clock changes and leap days", () => {
    expect(addDays("2026-03-28", 2)).toBe("2026-03-30");
    expect(addDays("2026-10-24", 2)).toBe("2026-10-26");
    expect(addDays("2028-02-28", 1)).toBe("2028-02-29");
    expect(daysBetween("2026-03-20", "2026-04-03")).toBe(14);
  });

  it("cover the plan in whole weeks from Monday", () => {
    const weeks = weeksOf("2026-11-26", "2026-12-09");
    expect(weeks.every((w) => w.length === 7)).toBe(true);
    expect(weeks[0]?.[0]).toBe("2026-11-23");
    expect(weeks.at(-1)).toContain("2026-12-09");
    expect(weeks.flat()).toEqual([...new Set(weeks.flat())].sort());
    expect(weeksOf("2026-11-23", "2026-11-23")).toHaveLength(1);
    expect(weeksOf("2026-11-22", "2026-11-23")).toHaveLength(2);
  });

  it("move by arrows: a day sideways, a week up and down", () => {
    expect(arrowDay("2026-11-26", "ArrowLeft")).toBe("2026-11-25");
    expect(arrowDay("2026-11-26", "ArrowDown")).toBe("2026-12-03");
    expect(arrowDay("2026-11-26", "Enter")).toBeNull();
  });

  it("are local days, not UTC", () => {
    expect(localDay(new Date(2026, 4, 4, 0, 1))).toBe("2026-05-04");
    expect(localDay(new Date(2026, 4, 4, 23, 59))).toBe("2026-05-04");
  });
});

describe("the academy's clock", () => {
  it("shows the academy's day and time on every screen", () => {
    const evening = "2026-07-03T23:30:00Z";
    expect(clockOf("America/Denver").moment(evening)).toBe("3 Jul, 17:30");
    expect(clockOf("Pacific/Kiritimati").day(evening)).toBe("4 Jul 2026");
    expect(clockOf("UTC").time(evening)).toBe("23:30");
  });
});
