// The page and what it needs are kept on this device while a flight runs, so that a reload without a connection shows it again.

const KEPT = "walkround-flight";

export async function keepPage() {
  if (!("serviceWorker" in navigator) || !window.caches) return;
  try {
    await navigator.serviceWorker.register("/flight-worker.js");
    const needed = performance.getEntriesByType("resource").map((entry) => new URL(entry.name)).filter((url) => url.origin === location.origin && url.pathname.startsWith("/static/"));
    const kept = await caches.open(KEPT);
    await Promise.all([location.pathname, ...new Set(needed.map((url) => url.pathname))].map((path) => kept.add(path)));
    document.documentElement.dataset.kept = "yes";
  } catch { /* not on this device, or not on an open network: the page runs on as long as it is not reloaded */ }
}

export async function forgetPage() {
  if (window.caches) await caches.delete(KEPT).catch(() => {});
}
