/** Typed calls to the server; every error arrives as Problems. */
import createClient from "openapi-fetch";

import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** The server's error messages. */
export class Problems extends Error {
  constructor(
    readonly status: number,
    readonly list: Problem[],
  ) {
    super(list.map((p) => p.message).join(" ") || "The server cannot be reached.");
  }
}

/**
 * Return true if the same request may succeed a moment later: no connection, or a server that is busy, down or
 * restarting.
 */
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

/** Return the data of an answer, or throw Problems. */
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

/** Return the bytes of a file on the server. */
export async function bytes(path: string): Promise<ArrayBuffer> {
  const call = fetch(path).then(async (response) =>
    response.ok ? { data: await response.arrayBuffer(), response } : { error: await response.json(), response },
  );
  return ask(call);
}

type Words = Record<string, string>;

/** Upload one file with optional fields; the generated client does not support multipart. */
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
