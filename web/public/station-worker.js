// Lets a station open without its service: keeps the page, what it loads, and what it read last. What it writes goes its own way, through
// the queue on the device.

const KEPT = "acorn-dial-station";
const PAGE = "/station/";
/** How long the service may take before what was read last is shown. */
const PATIENCE = 4000;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

// What a page loaded before this worker was there.
self.addEventListener("message", ({ data }) => {
  const keepAll = async () => {
    const cache = await caches.open(KEPT);
    const wanted = data.loaded.filter((url) => url.startsWith(self.location.origin) && isKept(new URL(url).pathname));
    await Promise.all(wanted.map((url) => cache.add(url).catch(() => undefined)));
    if (data.page) await fetchPage(data.page).catch(() => undefined);
  };
  keepAll();
});

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (request.mode === "navigate") event.respondWith(fetchPage(request).catch(() => keptOr(PAGE)));
  else if (isPart(pathname)) event.respondWith(keptFirst(request));
  else if (isRead(pathname)) event.respondWith(freshFirst(request));
});

/** What belongs to a version of the application. */
const isPart = (pathname) => pathname.startsWith("/assets/") || pathname === "/acorn.svg";

const isKept = (pathname) => isPart(pathname) || isRead(pathname);

/** What a station reads: plans, lists, its dataset, its chart. Streams of events are none of it. */
const isRead = (pathname) =>
  pathname === "/api/floor" ||
  pathname === "/api/floor/lists" ||
  /^\/api\/datasets\/\d+$/.test(pathname) ||
  /^\/api\/studies\/\d+(\/outcome)?$/.test(pathname);

/** The page; when another version of the application serves it, what the one before loaded is dropped. */
async function fetchPage(request) {
  const answer = await within(fetch(request));
  if (!answer.ok) return answer;
  const cache = await caches.open(KEPT);
  const [now, before] = [await answer.clone().text(), await (await cache.match(PAGE))?.text()];
  if (before !== undefined && before !== now) {
    const keys = await cache.keys();
    await Promise.all(keys.filter(({ url }) => isPart(new URL(url).pathname)).map((key) => cache.delete(key)));
  }
  await cache.put(PAGE, answer.clone());
  return answer;
}

async function keptFirst(request) {
  const kept = await (await caches.open(KEPT)).match(request);
  return kept ?? freshFirst(request);
}

async function freshFirst(request) {
  try {
    const answer = await within(fetch(request));
    if (answer.ok) await (await caches.open(KEPT)).put(request, answer.clone());
    return answer;
  } catch {
    return keptOr(request);
  }
}

async function keptOr(request) {
  return (await (await caches.open(KEPT)).match(request)) ?? Response.error();
}

const within = (answer) =>
  Promise.race([answer, new Promise((_, reject) => setTimeout(() => reject(new Error("no answer in time")), PATIENCE))]);
