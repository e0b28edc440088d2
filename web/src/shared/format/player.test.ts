import { afterEach, describe, expect, it } from "vitest";
import { counted, ENGLISH, PSEUDO, speak, t } from "./language";
import { handed, sideAndHandicap } from "./player";

afterEach(() => speak(ENGLISH));

describe("a student in a line", () => {
  it("has a side, and a handicap where one is known", () => {
    expect(sideAndHandicap({ hand: "left", handicap: 12 })).toBe("left-handed, handicap 12");
    expect(sideAndHandicap({ hand: "right", handicap: null })).toBe("right-handed");
    expect(sideAndHandicap({ hand: "right" })).toBe("right-handed");
    expect(sideAndHandicap({ hand: "right", handicap: 0 })).toBe("right-handed, handicap 0");
  });

  it("is said in the reader's language, the number as it is", async () => {
    await speak(PSEUDO);
    expect(handed("left")).toBe("⟦léft-háñdéd⟧");
    expect(sideAndHandicap({ hand: "left", handicap: 12 })).toContain("12");
  });
});

describe("one and many", () => {
  it("are entries of their own, with the number in both", () => {
    const balls = (n: number) => counted(n, "{n} ball of {of}", "{n} balls of {of}", { of: 9 });
    expect([0, 1, 2].map(balls)).toEqual(["0 balls of 9", "1 ball of 9", "2 balls of 9"]);
  });

  it("leaves a place that was given no value, so that it is seen", () => {
    expect(t("{n} of {planned}", { n: 1 })).toBe("1 of {planned}");
  });
});
