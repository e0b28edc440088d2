import { describe, expect, it } from "vitest";

import type { Schemas } from "../../api/client";
import { matWords } from "./screen";

const view = (changes: Partial<Schemas["MatView"]>): Schemas["MatView"] => ({
  language: "en",
  first_name: "A",
  cue: "",
  stage: "Half",
  ball: 3,
  moved: "",
  answered: "",
  verdict: "",
  hits: 2,
  need: 4,
  of: 6,
  more: 2,
  advice: "hold",
  call: "",
  task: "",
  ended: false,
  ...changes,
});

describe("the student screen", () => {
  it("shows nothing before the first result", () => {
    expect(matWords(view({}))).toMatchObject({ move: "…", ball: "…", ground: "bg-paper" });
  });
  it("shows both answers, green only if both are yes", () => {
    expect(matWords(view({ moved: "yes", answered: "yes" }))).toMatchObject({
      move: "done",
      ball: "ball followed",
      ground: "bg-moss-ground",
    });
    expect(matWords(view({ moved: "no", answered: "yes" })).ground).toBe("bg-paper");
    expect(matWords(view({ moved: "partly" })).move).toBe("half done");
  });
  it.each([
    ["hold", 2, "2 linked, 2 more for the next stage"],
    ["up", 0, "Next stage"],
    ["down", 2, "Try a smaller swing"],
    ["hold", 0, "Keep going"],
  ])("shows what is next at advice %s", (advice, more, words) => {
    expect(matWords(view({ advice, more })).more).toBe(words);
  });
  it("shows the call of a comparison", () => {
    expect(matWords(view({ call: "new" })).call).toBe("New move");
    expect(matWords(view({ call: "Turn first" })).call).toBe("Turn first");
  });
  it("shows no steps without stages", () => {
    expect(matWords(view({ stage: "", of: 0 })).more).toBe("");
  });
});
