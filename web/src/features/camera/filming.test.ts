import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { Problems } from "../../api/client";
import { LONGEST_WAIT, Outbox, type Stand, type Store, type Waiting } from "./outbox";
import { AFTER, Ring, TURN } from "./ring";

class FakeRecorder {
  state: RecordingState = "inactive";
  ondataavailable: ((event: BlobEvent) => void) | null = null;
  begun = 0;
  start() {
    this.state = "recording";
    this.begun = Date.now();
  }
  stop() {
    this.state = "inactive";
    this.ondataavailable?.({ data: new Blob([`${Date.now() - this.begun}`]) } as BlobEvent);
  }
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe("the ring", () => {
  const made: FakeRecorder[] = [];
  const ring = () => {
    made.length = 0;
    const make = () => {
      const one = new FakeRecorder();
      made.push(one);
      return one as unknown as MediaRecorder;
    };
    return new Ring({} as MediaStream, make, () => Date.now());
  };

  it("holds between half a period and one and a half", async () => {
    const one = ring();
    one.start();
    for (const wait of [TURN, 1700, 3900, 2200, 8100]) {
      await vi.advanceTimersByTimeAsync(wait);
      const ball = Date.now();
      const cutting = one.cut(ball - 300);
      await vi.advanceTimersByTimeAsync(AFTER);
      const film = await cutting;
      expect(film?.about).toBeLessThanOrEqual(1.5 * (TURN / 1000));
      expect(film?.about).toBeGreaterThan(1.5);
    }
  });

  it("keeps filming after the ball and knows its time in the film", async () => {
    const one = ring();
    one.start();
    await vi.advanceTimersByTimeAsync(4000);
    const cutting = one.cut(Date.now() - 500);
    await vi.advanceTimersByTimeAsync(AFTER);
    const film = await cutting;
    expect(film?.about).toBe(3.5);
    expect(await film?.blob.text()).toBe(`${3500 + AFTER}`);
  });

  it("keeps nothing after stopping or from before starting", async () => {
    const one = ring();
    one.start();
    await vi.advanceTimersByTimeAsync(3000);
    one.stop();
    expect(made.every((r) => r.state === "inactive" && r.ondataavailable === null)).toBe(true);
    expect(await one.cut(Date.now())).toBeUndefined();
    one.start();
    expect(await one.cut(Date.now() - 1)).toBeUndefined();
  });
});

describe("the outbox", () => {
  const film = (key: string, at = 0): Waiting => ({ key, at, lesson: 1, ball: 2, about: 3, blob: new Blob(["film"]) });
  const shelf = (...films: Waiting[]): Store & { stored: Map<string, Waiting> } => {
    const stored = new Map(films.map((one) => [one.key, one]));
    return {
      stored,
      all: async () => [...stored.values()].sort((a, b) => a.at - b.at),
      put: async (one) => void stored.set(one.key, one),
      drop: async (key) => void stored.delete(key),
    };
  };
  const refusal = (status: number, message = "No.") => new Problems(status, [{ field: "film", message } as never]);

  it("sends the oldest first and deletes accepted films", async () => {
    const store = shelf(film("second", 2), film("first", 1));
    const sent: string[] = [];
    const stands: Stand[] = [];
    await new Outbox(
      store,
      async ({ key }) => void sent.push(key),
      (stand) => stands.push(stand),
    ).flush();
    expect(sent).toEqual(["first", "second"]);
    expect(store.stored.size).toBe(0);
    expect(stands.at(-1)).toEqual({ waiting: 0, sent: 2, problem: "" });
  });

  it.each([0, 401, 429, 500, 503])("keeps a film after %s and retries with growing pauses", async (status) => {
    const store = shelf();
    let tries = 0;
    const outbox = new Outbox(
      store,
      async () => {
        tries += 1;
        if (tries < 4) throw refusal(status);
      },
      () => undefined,
    );
    await outbox.add(film("one"));
    expect([tries, store.stored.size]).toEqual([1, 1]);
    await vi.advanceTimersByTimeAsync(1000 + 2000);
    expect([tries, store.stored.size]).toEqual([3, 1]);
    await vi.advanceTimersByTimeAsync(4000);
    expect([tries, store.stored.size]).toEqual([4, 0]);
  });

  it("drops a permanently refused film with its reason", async () => {
    const store = shelf(film("one"));
    const stands: Stand[] = [];
    const send = async () => {
      throw refusal(409, "The student has not agreed to be filmed.");
    };
    await new Outbox(store, send, (stand) => stands.push(stand)).flush();
    expect(store.stored.size).toBe(0);
    expect(stands.at(-1)).toEqual({ waiting: 0, sent: 0, problem: "The student has not agreed to be filmed." });
  });

  it("sends one film at a time, and none after stopping", async () => {
    const store = shelf(film("one"));
    const send = vi.fn(async () => {
      throw refusal(0);
    });
    const outbox = new Outbox(store, send, () => undefined);
    await Promise.all([outbox.flush(), outbox.flush()]);
    expect(send).toHaveBeenCalledTimes(1);
    outbox.end();
    await vi.advanceTimersByTimeAsync(LONGEST_WAIT);
    expect(send).toHaveBeenCalledTimes(1);
  });
});
