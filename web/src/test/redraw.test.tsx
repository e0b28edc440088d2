// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { onRecordedServer, openStation, settled } from "./harness";

const drawn = vi.hoisted(() => ({ desk: 0, balls: 0, chosen: 0 }));

vi.mock("../features/assessment/CheckStation", async () => {
  const { useBalls, useChosen, useDesk } = await import("../features/lesson/LessonContext");
  const Desk = () => {
    useDesk();
    drawn.desk += 1;
    return <p>a station</p>;
  };
  const Balls = () => {
    useBalls();
    drawn.balls += 1;
    return null;
  };
  const Chosen = () => {
    useChosen();
    drawn.chosen += 1;
    return null;
  };
  return { CheckStation: () => [<Desk key="desk" />, <Balls key="balls" />, <Chosen key="chosen" />] };
});

onRecordedServer();

describe("a key press", () => {
  it("re-renders only what shows the selection", async () => {
    const { cache } = openStation("check");
    await screen.findByText("a station");
    await settled(cache);
    const before = { ...drawn };
    for (let i = 0; i < 5; i++) fireEvent.keyDown(window, { key: "ArrowLeft", code: "ArrowLeft" });
    expect(drawn.chosen).toBe(before.chosen + 5);
    expect(drawn.balls).toBe(before.balls);
    expect(drawn.desk).toBe(before.desk);
  });
});
