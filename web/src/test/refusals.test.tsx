// @vitest-environment jsdom
/** How the screens handle server errors. */
import { act, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { newCache } from "../api/cache";
import { Problems } from "../api/client";
import { asked, LESSON, onRecordedServer, openStation, Refusal, settled } from "./harness";

onRecordedServer();

async function asksAgain(refused: Record<string, unknown>) {
  const special: Record<string, unknown> = {};
  const { cache } = openStation("baseline", special);
  await settled(cache);
  Object.assign(special, refused);
  await act(() => cache.invalidateQueries({ queryKey: ["lesson"] }));
  return { cache, text: () => asked().filter((name) => name === "session").length };
}

describe("a lesson on screen", () => {
  it("checks the session after a 401", async () => {
    const stranger = new Refusal(401, "session", "Sign in first.");
    await asksAgain({ [`GET ${LESSON}`]: stranger, "GET /api/v1/session": stranger });
    expect(await screen.findByRole("button", { name: "Sign in" })).toBeTruthy();
  });

  it("keeps the known session until the answer", async () => {
    const stranger = new Refusal(401, "session", "Sign in first.");
    const { cache, text } = await asksAgain({ [`GET ${LESSON}`]: stranger, "GET /api/v1/session": stranger });
    await screen.findByRole("button", { name: "Sign in" });
    expect(cache.getQueryData(["session"])).toBeTruthy();
    expect(text()).toBeLessThan(3); // who is there is not asked for ever
  });

  it("stays while the server is down", async () => {
    const away = new Refusal(503, "server", "The database does not answer.");
    await asksAgain({ [`GET ${LESSON}`]: away, [`GET ${LESSON}/shots`]: away });
    expect(screen.getByRole("region", { name: "Balls" })).toBeTruthy();
  });
});

describe("a query", () => {
  const retry = newCache().getDefaultOptions().queries?.retry as (count: number, error: Error) => boolean;

  it.each([0, 502, 503, 504])("is retried after %s, with a limit", (status) => {
    expect(retry(0, new Problems(status, []))).toBe(true);
    expect(retry(5, new Problems(status, []))).toBe(false);
  });

  it.each([401, 403, 404, 422, 500])("is not retried after %s", (status) => {
    expect(retry(0, new Problems(status, []))).toBe(false);
  });
});
