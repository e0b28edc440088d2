import { afterEach, describe, expect, it, vi } from "vitest";
import { ENGLISH, PSEUDO, speak, t } from "./language";
import { handed, sideAndHandicap } from "./player";

afterEach(() => speak(ENGLISH));

describe("a student in a line", () => {
  it("has a hand, and a handicap if known", () => {
    expect(sideAndHandicap({ hand: "left", handicap: 12 })).toBe("left-handed, handicap 12");
    expect(sideAndHandicap({ hand: "right", handicap: null })).toBe("right-handed");
    expect(sideAndHandicap({ hand: "right" })).toBe("right-handed");
    expect(sideAndHandicap({ hand: "right", handicap: 0 })).toBe("right-handed, handicap 0");
  });

  it("is in the reader's language", async () => {
    await speak(PSEUDO);
    expect(handed("left")).toBe("⟦léft-háñdéd⟧");
    expect(sideAndHandicap({ hand: "left", handicap: 12 })).toContain("12");
  });
});

describe("one and many", () => {
  it("are forms of one sentence, with the number in both", () => {
    const balls = (n: number) => t("baseline-median-clean-balls", { n });
    expect([0, 1, 2, 2380].map(balls)).toEqual([
      "Median of 0 clean balls",
      "Median of 1 clean ball",
      "Median of 2 clean balls",
      "Median of 2380 clean balls",
    ]);
  });

  it("leaves a value that was not given visible", () => {
    const logged = vi.spyOn(console, "error").mockImplementation(() => undefined);
    expect(t("import-down", {})).toBe("down");
    expect(t("prove-feel")).toBe("Feel: {$way}");
    expect(logged).toHaveBeenCalledOnce();
  });
});
