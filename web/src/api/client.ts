/** Typed calls to the server; every error arrives as Problems. */
import createClient from "openapi-fetch";

import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** What the server refused, in its own words. */
export class Problems extends Error {
  constructor(
    readonly status: number,
    readonly list: Problem[],
  ) {
    super(list.map((p) => p.message).join(" ") || "The server cannot be reached.");
  }
}

/** Whether the same question may be answered a moment later: no line, or a server that is busy, away or restarting. */
export function passes(error: unknown): boolean {
  return error instanceof Problems && (error.status === 0 || [502, 503, 504].includes(error.status));
}

export function csrfToken(): string {
  return document.cookie.match(/(?:^|; )(?:__Host-)?instavis_csrf=([^;]+)/)?.[1] ?? "";
}

// The fetch of the moment of the call, and whole addresses: both can be other than the browser's where this is tested.
const raw = createClient<paths>({ baseUrl: globalThis.location?.origin ?? "", fetch: (request) => fetch(request) });
raw.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
});
export const client = raw;

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or Problems thrown. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Problems(0, [{ field: "connection", message: "No connection to the server. It is tried again." }]);
  }
  if (answer.response.ok) return answer.data as T;
  const list = (answer.error as { errors?: Problem[] } | undefined)?.errors ?? [];
  throw new Problems(answer.response.status, list);
}

/** The bytes of a file that the server keeps. */
export async function bytes(path: string): Promise<ArrayBuffer> {
  const call = fetch(path).then(async (response) =>
    response.ok ? { data: await response.arrayBuffer(), response } : { error: await response.json(), response },
  );
  return ask(call);
}

type Words = Record<string, string>;

/** Upload of one file, perhaps with fields; the generated client does not speak multipart. */
export async function upload<T>(path: string, file: File, fields: Words = {}, headers: Words = {}): Promise<T> {
  const body = new FormData();
  for (const [name, value] of Object.entries(fields)) body.append(name, value);
  body.append("file", file);
  const call = fetch(path, { method: "POST", body, headers: { "X-CSRFToken": csrfToken(), ...headers } });
  return ask(
    call.then(async (response) => {
      const content = await response.json().catch(() => ({}));
      return response.ok ? { data: content, response } : { error: content, response };
    }),
  );
}
