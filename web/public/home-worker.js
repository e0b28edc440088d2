/* Keeps a take-home page readable without a line: the page, its scripts and what was last told of it. Changes are never
   kept here: what is logged waits in the page itself until it can be sent. */
const KEPT = "instavis-home-1";
const PATIENCE_MS = 4000;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { pathname, origin } = new URL(request.url);
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (pathname.startsWith("/static/assets/")) event.respondWith(keptFirst(request));
  else if (request.mode === "navigate" && pathname.startsWith("/home/"))
    event.respondWith(freshFirst(request, "/home/"));
  else if (/^\/api\/v1\/home\/[^/]+$/.test(pathname)) event.respondWith(freshFirst(request, pathname));
});

/** Files with a hash in their name never change. */
async function keptFirst(request) {
  const kept = await caches.match(request);
  return kept ?? keep(request, await fetch(request));
}

/** The newest when the line is there and quick enough, else what was kept under the name. */
async function freshFirst(request, name) {
  const late = new Promise((_, refuse) => setTimeout(() => refuse(new Error("late")), PATIENCE_MS));
  try {
    return await keep(name, await Promise.race([fetch(request), late]));
  } catch (error) {
    const kept = await caches.match(name);
    if (kept) return kept;
    throw error;
  }
}

async function keep(name, response) {
  if (response.ok) (await caches.open(KEPT)).put(name, response.clone());
  return response;
}
