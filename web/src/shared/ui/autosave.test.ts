import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { forgetUnsaved, unsaved } from "../../api/unsaved";
import { autosave, merged, QUIET_MS, RETRY_MS, type SaveState } from "./autosave";

class Memory {
  [key: string]: unknown;
  getItem = (key: string) => (this[key] as string | undefined) ?? null;
  setItem = (key: string, value: string) => {
    this[key] = value;
  };
  removeItem = (key: string) => void delete this[key];
}

const OFFLINE = new Error("offline");
const INVALID = new Error("invalid");

function form(answers: (Error | null)[] = []) {
  const storage = new Memory() as unknown as Storage;
  const sent: string[] = [];
  const states: SaveState[] = [];
  const saver = autosave<string>({
    name: "form",
    storage,
    send: async (value) => {
      sent.push(value);
      const error = answers.shift();
      if (error) throw error;
    },
    after: (error) => (error === OFFLINE ? "retry" : "drop"),
    onState: (state) => states.push(state),
  });
  return { storage, sent, states, saver, left: () => unsaved<string>("form", storage) };
}

describe("autosave", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it("sends the last value once after a pause", async () => {
    const { saver, sent, states, left } = form();
    saver.change("a");
    saver.change("ab");
    expect(left()).toBe("ab");
    await vi.advanceTimersByTimeAsync(QUIET_MS);
    expect(sent).toEqual(["ab"]);
    expect(states).toEqual(["saving", "saved"]);
    expect(left()).toBeUndefined();
  });

  it("sends at once when the page is left", () => {
    const { saver, sent } = form();
    saver.change("a");
    void saver.flush();
    expect(sent).toEqual(["a"]);
  });

  it("keeps unacknowledged changes for the next visit", () => {
    const { saver, left } = form();
    saver.change("a");
    void saver.flush();
    expect(left()).toBe("a");
    vi.advanceTimersByTime(86_400_000);
    expect(left()).toBeUndefined();
  });

  it("repeats a save without a connection, with the newest value", async () => {
    const { saver, sent, states, left } = form([OFFLINE]);
    saver.change("a");
    await vi.advanceTimersByTimeAsync(QUIET_MS);
    expect(states.at(-1)).toBe("offline");
    saver.change("ab");
    await vi.advanceTimersByTimeAsync(RETRY_MS);
    expect(sent).toEqual(["a", "ab"]);
    expect(states.at(-1)).toBe("saved");
    expect(left()).toBeUndefined();
  });

  it("drops a value the server refuses, and saves the corrected one", async () => {
    const { saver, states, left } = form([INVALID]);
    saver.change("a");
    await vi.advanceTimersByTimeAsync(QUIET_MS);
    expect(states.at(-1)).toBe("refused");
    expect(left()).toBeUndefined();
    saver.change("b");
    await vi.advanceTimersByTimeAsync(QUIET_MS);
    expect(states.at(-1)).toBe("saved");
  });

  it("sends one request at a time", async () => {
    const storage = new Memory() as unknown as Storage;
    const open: (() => void)[] = [];
    const sent: string[] = [];
    const saver = autosave<string>({
      name: "form",
      storage,
      send: (value) => {
        sent.push(value);
        return new Promise<void>((done) => open.push(done));
      },
      after: () => "drop",
      onState: () => undefined,
    });
    saver.change("a");
    void saver.flush();
    saver.change("b");
    void saver.flush();
    expect(sent).toEqual(["a"]);
    open[0]?.();
    await vi.advanceTimersByTimeAsync(0);
    expect(sent).toEqual(["a", "b"]);
  });

  it("forgets unsaved changes when asked to", () => {
    const { saver, storage, left } = form();
    saver.change("a");
    storage.setItem("other", "1");
    forgetUnsaved(storage);
    expect(left()).toBeUndefined();
    expect(storage.getItem("other")).toBe("1");
  });

  it("replaces only a waiting change", async () => {
    const { saver, sent, left } = form();
    saver.replace("theirs");
    await vi.advanceTimersByTimeAsync(QUIET_MS);
    expect(sent).toEqual([]);
    saver.change("mine");
    saver.replace("both");
    expect(left()).toBe("both");
    await vi.advanceTimersByTimeAsync(QUIET_MS);
    expect(sent).toEqual(["both"]);
  });
});

describe("two places that change one value", () => {
  const base = { note: "", minutes: 10, misses: { irons: "left", driver: "right" }, contact: ["thin"] };

  it("keeps both changes", () => {
    const mine = { ...base, note: "Slow.", misses: { ...base.misses, irons: "straight" } };
    const theirs = { ...base, minutes: 15, misses: { ...base.misses, driver: "left" }, contact: ["thin", "heel"] };
    expect(merged(base, mine, theirs)).toEqual({
      note: "Slow.",
      minutes: 15,
      misses: { irons: "straight", driver: "left" },
      contact: ["thin", "heel"],
    });
  });

  it("prefers the local value of a field and local removals", () => {
    const mine = { note: "Mine", minutes: 10 };
    const theirs = { note: "Theirs", minutes: 10, contact: ["thin"], extra: 1 };
    expect(merged<object>({ note: "", minutes: 10, contact: ["thin"] }, mine, theirs)).toEqual({
      note: "Mine",
      minutes: 10,
      extra: 1,
    });
  });

  it("takes over remote changes without local ones", () => {
    expect(merged(base, base, { ...base, note: "Theirs" })).toEqual({ ...base, note: "Theirs" });
  });
});
