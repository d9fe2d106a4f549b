// For the flight page alone: what the server does not answer comes from what this device kept. It changes nothing else.

const KEPT = "walkround-flight";
const SLOW_MS = 4000;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

async function answer(request) {
  try {
    return await fetch(request, { signal: AbortSignal.timeout(SLOW_MS) });
  } catch (silence) {
    const kept = await (await caches.open(KEPT)).match(new URL(request.url).pathname);
    if (kept) return kept;
    throw silence;
  }
}

self.addEventListener("fetch", (event) => {
  const { method, mode, url } = event.request;
  const { origin, pathname } = new URL(url);
  if (method !== "GET" || origin !== self.location.origin) return;
  const flight = mode === "navigate" && /^\/rounds\/\d+\/flight$/.test(pathname);
  if (flight || pathname.startsWith("/static/")) event.respondWith(answer(event.request));
});
