import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "./client";
import { follow, type LiveEvent, stale, withShot } from "./live";
import type { Shot } from "./queries";

class FakeSocket {
  static all: FakeSocket[] = [];
  onopen?: () => void;
  onmessage?: (m: { data: string }) => void;
  onclose?: (c: { code: number }) => void;
  constructor(readonly url: string) {
    FakeSocket.all.push(this);
  }
  close() {
    this.onclose?.({ code: 1000 });
  }
  say(cursor: number) {
    this.onmessage?.({ data: JSON.stringify({ cursor, kind: "ball", data: {} }) });
  }
}

const shot = (id: number, number: number) => ({ id, number }) as Shot;

describe("the live connection", () => {
  beforeEach(() => {
    FakeSocket.all = [];
    vi.useFakeTimers();
    vi.stubGlobal("WebSocket", FakeSocket);
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it("requests events after the last one on reconnect", () => {
    const heard: number[] = [];
    const states: string[] = [];
    const stop = follow(
      (after) => `ws?after=${after}`,
      4,
      (events) => heard.push(...events.map((e) => ("cursor" in e && e.cursor) || 0)),
      (s) => states.push(s),
    );
    const [first] = FakeSocket.all;
    first?.onopen?.();
    first?.say(5);
    first?.say(5);
    first?.say(6);
    first?.onclose?.({ code: 1006 });
    vi.advanceTimersByTime(10_000);
    expect(FakeSocket.all[1]?.url).toBe("ws?after=6");
    expect(heard).toEqual([5, 6]);
    expect(states).toEqual(["connecting", "live", "lost", "lost"]);
    stop();
    vi.advanceTimersByTime(60_000);
    expect(FakeSocket.all).toHaveLength(2);
  });

  it("continues from the log after a resync", () => {
    const heard: string[] = [];
    follow(
      (after) => `ws?after=${after}`,
      40,
      (events) => heard.push(...events.map((e) => e.kind)),
      () => {},
    );
    const [first] = FakeSocket.all;
    first?.onmessage?.({ data: JSON.stringify({ kind: "resync", cursor: 3 }) });
    first?.say(4);
    expect(heard).toEqual(["resync", "ball"]);
    expect(stale([{ kind: "resync", cursor: 3 }])("shots")).toBe(true);
  });

  it.each([4401, 4404])("does not reconnect after a refusal (%s)", (code) => {
    const states: string[] = [];
    const over = vi.fn();
    follow(
      (after) => `${after}`,
      0,
      () => {},
      (s) => states.push(s),
      over,
    );
    FakeSocket.all[0]?.onopen?.();
    FakeSocket.all[0]?.onclose?.({ code });
    vi.advanceTimersByTime(60_000);
    expect(FakeSocket.all).toHaveLength(1);
    expect(states.at(-1)).toBe("lost");
    expect(over).toHaveBeenCalledOnce();
  });

  it("inserts late balls in order and replaces known ones", () => {
    const list = [shot(1, 1), shot(3, 3)];
    expect(withShot(list, shot(2, 2)).map((s) => s.number)).toEqual([1, 2, 3]);
    expect(withShot(list, shot(3, 3))).toHaveLength(2);
    expect(withShot(undefined, shot(9, 1))).toHaveLength(1);
  });
});

describe("queries to fetch again", () => {
  const action = (changed: Schemas["Aspect"]): LiveEvent => ({ cursor: 1, kind: "lesson", data: { changed } });
  const ball = (marked?: string[]) => ({ cursor: 1, kind: "ball", data: marked ? { marked } : {} }) as LiveEvent;
  const names = ["lesson", "shots", "proof", "reading", "cause", "setups", "trials", "tray"];
  const asked = (...events: Parameters<typeof stale>[0]) => names.filter(stale(events));

  it("are none after a movement mark", () => {
    expect(asked(ball(["movement"]))).toEqual([]);
    expect(asked(ball(["note"]), ball(["movement"]))).toEqual([]);
    expect(asked(ball(["intent"]))).toEqual(["trials"]);
  });

  it("depend on the balls after a new or changed one", () => {
    const rest = ["lesson", "reading", "cause", "setups", "trials", "tray"];
    expect(asked(ball())).toEqual(rest);
    expect(asked(ball(["turf"]))).toEqual(rest);
    expect(asked(ball(["movement"]), ball(["set_aside"]))).toEqual(rest);
  });

  it("are few after a change without numbers, and all otherwise", () => {
    expect(asked(action("station"))).toEqual(["lesson"]);
    expect(asked(action("setup"))).toEqual(["lesson", "setups"]);
    expect(asked(action("bay"))).toEqual(["lesson", "tray"]);
    expect(asked(action("checks"))).toEqual(names.filter((n) => n !== "shots"));
    expect(asked(action("shots"))).toEqual(names);
  });
});
