// @ts-check
// The Stove goes on through a dropped connection: its page, with its clocks and alarms, and
// everything static are kept. The server puts "version" and "files" before this.

const worker = /** @type {ServiceWorkerGlobalScope} */ (/** @type {unknown} */ (globalThis));
const shelf = `kirdu-${version}`; // what is static, replaced by an update
const pages = `kirdu-pages-${version}`;
const patience = 4000; // ms that a page of the Stove is waited for

worker.addEventListener("install", (event) => {
  event.waitUntil(caches.open(shelf).then((cache) => cache.addAll(files)).then(() => worker.skipWaiting()));
});

worker.addEventListener("activate", (event) => {
  event.waitUntil(clear((name) => name !== shelf && name !== pages).then(() => worker.clients.claim()));
});

/** @param {(name: string) => boolean} which of our stores are emptied */
async function clear(which) {
  for (const name of await caches.keys()) if (name.startsWith("kirdu-") && which(name)) await caches.delete(name);
}

worker.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (url.origin !== location.origin) return;
  if (event.request.method === "POST" && url.pathname === "/logout") {
    event.waitUntil(clear((name) => name.startsWith("kirdu-pages-")));
    return;
  }
  if (event.request.method !== "GET") return;
  if (url.pathname.startsWith("/static/")) {
    event.respondWith(asset(event.request, url));
  } else if (/^\/stove\/[^/]+$/.test(url.pathname)) {
    event.respondWith(stove(event.request, url.pathname));
  } else if (event.request.mode === "navigate") {
    event.respondWith(fetch(event.request).catch(nothing));
  }
});

/** @param {Request} request @param {URL} url */
async function asset(request, url) {
  const cache = await caches.open(shelf);
  const keptHere = await cache.match(url.pathname);
  if (keptHere && url.searchParams.get("v") === version) return keptHere;
  try {
    const response = await fetch(request, keptHere ? { signal: AbortSignal.timeout(patience) } : {});
    if (response.status < 500 || !keptHere) return response;
  } catch (fault) {
    if (!keptHere) throw fault;
  }
  return keptHere;
}

/** A page of the Stove: from the kitchen if it answers, else as it was last. @param {Request} request @param {string} path */
async function stove(request, path) {
  const cache = await caches.open(pages);
  try {
    const response = await fetch(request, { signal: AbortSignal.timeout(patience) });
    if (response.ok && new URL(response.url).pathname === path) {
      const copy = response.clone();
      const html = await copy.text();
      // The clock of a page that is kept runs from when this device got it.
      const text = html.replace("data-stove=", `data-kept="${Date.now()}" data-stove=`);
      await cache.put(path, new Response(text, { headers: response.headers }));
    } else if (response.status < 500) {
      await cache.delete(path); // it is cooked, or the kitchen is locked
    }
    if (response.status < 500) return response;
  } catch {
    // No connection.
  }
  return (await cache.match(path)) ?? nothing();
}

/** What is said where nothing is kept, with the way to what is. */
async function nothing() {
  const cache = await caches.open(pages);
  const links = (await cache.keys()).map((request) => {
    const path = new URL(request.url).pathname;
    return `<li><a href="${path}">The pudding on the stove</a></li>`;
  });
  return new Response(
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>No connection</title>
<meta name="viewport" content="width=device-width,initial-scale=1"><link rel="stylesheet" href="/static/css/tokens.css?v=${version}">
</head><body><main><h1>No connection to the kitchen</h1><p>This page is not kept on this device. What is on the stove is.</p>
<ul>${links.join("")}</ul></main></body></html>`,
    { status: 503, headers: { "content-type": "text/html; charset=utf-8", "cache-control": "no-store" } },
  );
}
