/** A lesson's screen on recorded answers of a real server; requests and changes are logged. */
import { type QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, configure, render, screen, waitFor } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, beforeEach, expect, vi } from "vitest";

import { newCache } from "../api/cache";
import { queries, type Session } from "../api/queries";
import { ROUTES } from "../app/routes";

const FILES = import.meta.glob<unknown>(["./answers/*.json", "./answers-pseudo/*.json"], {
  eager: true,
  import: "default",
});
let folder = "answers";

/** From here on the server answers in the recorded pseudo-language. */
export function answerInPseudo() {
  folder = "answers-pseudo";
}
// A busy machine is waited for; what never comes is still result.
configure({ asyncUtilTimeout: 20_000 });

const MOMENT_MS = 10;

export type Sent = { method: string; path: string; query: Record<string, string>; body: unknown };

/** Return the recorded answer of a name such as "proof". */
export function recorded<T>(name: string): T {
  const answer = FILES[`./${folder}/${name}.json`];
  if (answer === undefined) throw new Error(`no answer was recorded as ${name}`);
  return structuredClone(answer) as T;
}

const lesson = recorded<{ id: number; bay_id: number | null }>("lesson");
const LESSON_OR_PAGE = [
  new RegExp(`^/api/v1/lessons/${lesson.id}/([a-z-]+)$`),
  /^\/api\/v1\/(?:session\/)?([a-z]+)$/,
  /^\/api\/v1\/students\/\d+\/(history)$/,
  /^\/api\/v1\/(home|ask)\/[a-z]+$/,
  /^\/api\/v1\/bays\/\d+\/([a-z]+)$/,
];
const NAMES: Record<string, string> = {
  [`/api/v1/lessons/${lesson.id}`]: "lesson",
  [`/api/v1/lessons/${lesson.id}/cause/history`]: "cause-history",
  "/api/v1/knowledge/versions": "versions",
};

function nameOf(path: string): string | undefined {
  return NAMES[path] ?? LESSON_OR_PAGE.map((pattern) => path.match(pattern)?.[1]).find(Boolean);
}

/** The live connection's socket: open when someone listens; `say` pushes a message. */
class Line {
  static open: Line[] = [];
  onopen?: () => void;
  onmessage?: (message: { data: string }) => void;
  onclose?: (closed: { code: number }) => void;
  constructor(readonly url: string) {
    Line.open.push(this);
    queueMicrotask(() => this.onopen?.());
  }
  close() {}
}

export function push(event: { cursor?: number; kind: string; data: unknown }) {
  for (const line of Line.open) line.onmessage?.({ data: JSON.stringify(event) });
}

export let sent: Sent[] = [];
let answers: Record<string, unknown> = {};

/** All reads, by recorded name. */
export const asked = () => sent.filter((s) => s.method === "GET").map((s) => nameOf(s.path) ?? s.path);
export const changes = () => sent.filter((s) => s.method !== "GET");

/** Return an error answer that names the field. */
export class Refusal {
  readonly errors: { field: string; message: string }[];
  constructor(
    readonly status: number,
    field: string,
    message: string,
  ) {
    this.errors = [{ field, message }];
  }
}

async function answer(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const request =
    typeof input === "object" && "method" in input ? input : new Request(new URL(String(input), location.origin), init);
  const { pathname: path, searchParams } = new URL(request.url);
  const text = await request.text();
  const query = Object.fromEntries(searchParams);
  // Of a file only that it was sent is written down.
  const json = request.headers.get("content-type")?.includes("json");
  sent.push({ method: request.method, path, query, body: text && json ? JSON.parse(text) : null });
  const key = `${request.method} ${path}`;
  const special = answers[key];
  if (special instanceof Refusal) return Response.json({ errors: special.errors }, { status: special.status });
  if (key in answers) return Response.json(special);
  const student = path.match(/^\/api\/v1\/students\/(\d+)$/)?.[1];
  if (request.method === "GET" && student)
    return Response.json(recorded<{ id: number }[]>("students").find((one) => one.id === Number(student)));
  const name = nameOf(path);
  if (request.method === "GET" && name && FILES[`./${folder}/${name}.json`] !== undefined)
    return Response.json(recorded(name));
  if (request.method === "GET")
    return Response.json({ errors: [{ field: "address", message: `nothing recorded for ${path}` }] }, { status: 404 });
  return Response.json({});
}

/** Open an address on the recorded answers; `special` answers come first, by "METHOD path". */
export function openAt(address: string, special: Record<string, unknown> = {}) {
  answers = special;
  const cache = newCache();
  cache.setDefaultOptions({ queries: { ...cache.getDefaultOptions().queries, retry: false } });
  const session = special["GET /api/v1/session"] ?? recorded<Session>("session");
  if (!(session instanceof Refusal)) cache.setQueryData(queries.session.queryKey, session as Session);
  cache.setQueryData(queries.knowledge.queryKey, recorded("knowledge"));
  const router = createMemoryRouter(ROUTES, { initialEntries: [address] });
  return {
    cache,
    router,
    ...render(
      <QueryClientProvider client={cache}>
        <RouterProvider router={router} />
      </QueryClientProvider>,
    ),
  };
}

/** Wait until the page has content. */
export async function settled(cache: QueryClient) {
  let painted = false; // an answer that has come is painted a moment later, and what it paints may ask for more
  while (!painted) {
    await waitFor(() => {
      expect(document.querySelector("main")?.textContent).toBeTruthy();
      expect(cache.isFetching()).toBe(0);
    });
    await act(() => new Promise((done) => setTimeout(done, MOMENT_MS)));
    painted = cache.isFetching() === 0;
  }
}

/** Open a station of the recorded lesson. */
export const openStation = (station: string, special: Record<string, unknown> = {}) =>
  openAt(`/lessons/${lesson.id}/${station}`, special);

export const LESSON = `/api/v1/lessons/${lesson.id}`;

/** Call once per test file: clean page, clean log, and no hidden React warning. */
export function onRecordedServer() {
  const complaints: string[] = [];
  beforeEach(() => {
    sent = [];
    Line.open = [];
    complaints.length = 0;
    vi.stubGlobal("fetch", answer);
    vi.stubGlobal("WebSocket", Line);
    vi.stubGlobal(
      "ResizeObserver",
      class {
        observe() {}
        disconnect() {}
        unobserve() {}
      },
    );
    vi.spyOn(Element.prototype, "clientWidth", "get").mockReturnValue(4000); // wide enough for the whole tape
    Element.prototype.scrollTo = () => undefined;
    Element.prototype.scrollIntoView = () => undefined;
    vi.spyOn(console, "error").mockImplementation((...words) => void complaints.push(words.map(String).join(" ")));
  });
  afterEach(async () => {
    cleanup();
    await vi.dynamicImportSettled(); // a page still on its way when the file ends would be counted as a failure
    vi.unstubAllGlobals();
    vi.restoreAllMocks();
    if (complaints.length > 0) throw new Error(complaints.join("\n"));
  });
}

/** Open a station and wait until no request is open. */
export async function opened(station: string, special: Record<string, unknown> = {}) {
  const page = openStation(station, special);
  await screen.findByRole("navigation", { name: "Stations" });
  await settled(page.cache);
  return page;
}
