// @vitest-environment jsdom
/** The account page on recorded answers: second factors, sessions, the clicker. */
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { changes, onRecordedServer, openAt, Refusal, recorded, settled } from "./harness";

onRecordedServer();

async function opened(address: string, special: Record<string, unknown> = {}) {
  const page = openAt(address, special);
  await screen.findByRole("main");
  await settled(page.cache);
  return page;
}

describe("the account page", () => {
  const has = recorded<Schemas["AccountOut"]>("account");
  const elsewhere = {
    id: "ab12",
    browser: "Safari, iPhone",
    address: "10.0.0.9",
    begun_at: null,
    seen_at: null,
    here: false,
  };

  it("asks for confirmation before a sign-in method changes", async () => {
    const guarded = new Refusal(403, "confirm", "Show first that it is you.");
    await opened("/me", { "POST /api/v1/session/app": guarded, "POST /api/v1/session/confirmed": {} });
    fireEvent.click(await screen.findByRole("button", { name: "Set up authenticator app" }));
    fireEvent.change(await screen.findByLabelText("Your password"), { target: { value: "hush" } });
    fireEvent.click(screen.getByRole("button", { name: "Confirm" }));
    await waitFor(() => expect(changes().filter((c) => c.path.endsWith("/app"))).toHaveLength(2));
    expect(changes()[1]).toMatchObject({ path: "/api/v1/session/confirmed", body: { password: "hush" } });
  });

  it("shows recovery codes once after the first code", async () => {
    const codes = ["11112222", "33334444"];
    await opened("/me", {
      "POST /api/v1/session/app": { secret: "ABCD", picture: "data:," },
      "PUT /api/v1/session/app": { codes },
    });
    fireEvent.click(await screen.findByRole("button", { name: "Set up authenticator app" }));
    fireEvent.change(await screen.findByLabelText("Current code"), { target: { value: "123456" } });
    fireEvent.click(screen.getByRole("button", { name: "Use this app" }));
    await screen.findByText("33334444");
    expect(changes().at(-1)).toMatchObject({ method: "PUT", path: "/api/v1/session/app", body: { code: "123456" } });
    fireEvent.click(screen.getByRole("button", { name: "I have saved them" }));
    expect(screen.queryByText("33334444")).toBeNull();
  });

  it("lists sessions and notices, and ends sessions", async () => {
    const here = recorded<Schemas["OwnSessionOut"][]>("list");
    const notice = { at: "2026-05-04T10:00:00Z", text: "A passkey was added: Phone.", seen_at: null };
    await opened("/me", {
      "GET /api/v1/session/list": [...here, elsewhere],
      "GET /api/v1/session/notices": [notice],
      "GET /api/v1/session/account": { ...has, app_since: "2026-05-04T10:00:00Z", codes_left: 7 },
    });
    screen.getByText("7 recovery codes left for a lost phone");
    fireEvent.click(screen.getByRole("button", { name: "Sign out Safari, iPhone" }));
    fireEvent.click(screen.getByRole("button", { name: "That was me" }));
    await waitFor(() => expect(changes()).toHaveLength(2));
    expect(changes().map((c) => `${c.method} ${c.path}`)).toEqual([
      "DELETE /api/v1/session/list/ab12",
      "POST /api/v1/session/notices/seen",
    ]);
  });

  it("learns a clicker key by pressing it", async () => {
    await opened("/me", { "PATCH /api/v1/session": recorded("session") });
    const line = screen.getByRole("button", { name: "Change key for: Movement missed" });
    fireEvent.click(line);
    fireEvent.keyDown(line, { key: "x" });
    expect(changes()).toEqual([]);
    fireEvent.keyDown(line, { key: "ArrowLeft" });
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]).toMatchObject({ body: { clicker: { PageDown: "done", ArrowLeft: "missed" } } });
  });
});

describe("an academy that requires a second factor", () => {
  it("opens only the account page until codes are saved", async () => {
    const session = recorded<Schemas["SessionOut"]>("session");
    const shut = { ...session, needs_factor: true };
    const special: Record<string, unknown> = {
      "GET /api/v1/session": shut,
      "POST /api/v1/session/app": { secret: "ABCD", picture: "data:," },
      "PUT /api/v1/session/app": { codes: ["11112222"] },
    };
    await opened("/students/3", special);
    expect(screen.queryByRole("navigation")).toBeNull();
    fireEvent.click(await screen.findByRole("button", { name: "Set up authenticator app" }));
    fireEvent.change(await screen.findByLabelText("Current code"), { target: { value: "123456" } });
    special["GET /api/v1/session"] = session;
    fireEvent.click(screen.getByRole("button", { name: "Use this app" }));
    await screen.findByText("Done. Save your recovery codes before you continue.");
    screen.getByText("11112222");
    fireEvent.click(screen.getByRole("button", { name: "Continue" }));
    await screen.findByRole("navigation");
  });
});

describe("signing in", () => {
  const nobody = new Refusal(401, "session", "Sign in first.");
  const session = recorded<Schemas["SessionOut"]>("session");

  it("asks for the second factor", async () => {
    await opened("/", {
      "GET /api/v1/session": nobody,
      "POST /api/v1/session": { ways: ["code"] },
      "POST /api/v1/session/code": session,
    });
    fireEvent.change(screen.getByLabelText("Username"), { target: { value: "imke" } });
    fireEvent.change(screen.getByLabelText("Password"), { target: { value: "hush" } });
    fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
    const code = await screen.findByLabelText("Code from your app, or a recovery code");
    fireEvent.change(code, { target: { value: "123456" } });
    fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
    await screen.findByRole("heading", { name: "Students" });
  });

  it("offers a password reset to everyone", async () => {
    await opened("/", { "GET /api/v1/session": nobody, "POST /api/v1/password-lost": {} });
    fireEvent.click(screen.getByRole("button", { name: "Forgot your password?" }));
    fireEvent.change(screen.getByLabelText("Username or email address"), { target: { value: "imke" } });
    fireEvent.click(screen.getByRole("button", { name: "Email me a link" }));
    await screen.findByText(/If we have an email address/);
    fireEvent.click(screen.getByRole("button", { name: "Back to sign-in" }));
    screen.getByLabelText("Password");
  });
});
