/**
 * Keeps the built pages on a phone: a reload without a link opens them all the same. Only files
 * that are the same for everybody are kept; what the server answers about a job never is.
 */
export {};

declare const self: ServiceWorkerGlobalScope;
/** Every built file, put in by the build. */
declare const FILES: readonly string[];

const PAGE = "/";
/** By what was built: another build is another cache, and the older one goes. */
const CACHE = `pages ${FILES.join(" ")}`;
/** A lost network may say nothing at all: so long the server is waited for. */
const ANSWER_MS = 3000;

self.addEventListener("install", (event) => {
  const all = caches.open(CACHE).then((cache) => cache.addAll([PAGE, ...FILES]));
  event.waitUntil(all.then(() => self.skipWaiting()));
});

self.addEventListener("activate", (event) => {
  const older = async () => {
    for (const name of await caches.keys()) if (name !== CACHE) await caches.delete(name);
    await self.clients.claim();
  };
  event.waitUntil(older());
});

async function kept(asked: RequestInfo): Promise<Response> {
  return (await (await caches.open(CACHE)).match(asked)) ?? fetch(asked);
}

/** The page as the server has it, or as it was built when the server does not answer. */
async function page(asked: Request): Promise<Response> {
  try {
    const answer = await fetch(asked, { signal: AbortSignal.timeout(ANSWER_MS) });
    return answer.ok ? answer : kept(PAGE);
  } catch {
    return kept(PAGE);
  }
}

self.addEventListener("fetch", (event) => {
  const { pathname } = new URL(event.request.url);
  if (event.request.method !== "GET" || pathname.startsWith("/api/")) return;
  if (event.request.mode === "navigate") event.respondWith(page(event.request));
  else if (FILES.includes(pathname)) event.respondWith(kept(event.request));
});
