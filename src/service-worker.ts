/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />
/// <reference types="@sveltejs/kit" />
import { version } from '$service-worker';

const worker = globalThis as unknown as ServiceWorkerGlobalScope;

/** What views are made of; it has a new name with every build. */
const ASSETS = `uncia assets ${version}`;
/** The pages that somebody works on, as they were opened last. They are forgotten when that person goes. */
const PAGES = 'uncia pages';
/** So long a page can be opened without a network, in milliseconds. */
const DAYS = 7 * 24 * 60 * 60_000;
/** Whose they are; no address that anybody asks for. */
const WHOSE = '/whose-pages';
/** When a page was kept, in epoch milliseconds. */
const KEPT = 'x-kept';

const isAsset = ({ pathname }: URL) => pathname.startsWith('/_app/immutable/');
/** A classmate's copy is shown while it is to be scored, and not kept. */
const isWork = ({ pathname }: URL) => /^\/(work|read)(\/(?!classmates\/)|$)/.test(pathname);

worker.addEventListener('install', (event) => event.waitUntil(worker.skipWaiting()));
worker.addEventListener('activate', (event) =>
  event.waitUntil(
    (async () => {
      for (const name of await caches.keys())
        if (name.startsWith('uncia assets') && name !== ASSETS) await caches.delete(name);
      await worker.clients.claim();
    })(),
  ),
);

/** Keeps an answer with the time; one that leads elsewhere (somebody is signed out) forgets all pages. */
async function keep(path: string, answer: Response): Promise<void> {
  const leads = answer.redirected || answer.type === 'opaqueredirect';
  if (leads || answer.status === 401) return void (await caches.delete(PAGES));
  if (!answer.ok) return;
  const cache = await caches.open(PAGES);
  const headers = new Headers(answer.headers);
  // The body is plain by now.
  headers.delete('content-encoding');
  headers.set(KEPT, String(Date.now()));
  await cache.put(path, new Response(await answer.blob(), { status: 200, headers }));
  for (const request of await cache.keys()) {
    const kept = await cache.match(request);
    if (Date.now() - Number(kept?.headers.get(KEPT)) > DAYS) await cache.delete(request);
  }
}

/** From the network, or the browser's own cache of it; what is kept here is for when there is none. */
async function openAsset(request: Request): Promise<Response> {
  try {
    return await fetch(request);
  } catch (error) {
    const kept = await (await caches.open(ASSETS)).match(request);
    if (kept) return kept;
    throw error;
  }
}

async function openWork(request: Request, { pathname }: URL): Promise<Response> {
  try {
    const answer = await fetch(request);
    void keep(pathname, answer.clone()).catch(() => undefined);
    return answer;
  } catch (error) {
    const kept = await (await caches.open(PAGES)).match(pathname);
    if (kept) return kept;
    throw error;
  }
}

worker.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== 'GET' || url.origin !== worker.location.origin) return;
  if (isAsset(url)) event.respondWith(openAsset(event.request));
  else if (event.request.mode === 'navigate' && isWork(url))
    event.respondWith(openWork(event.request, url));
});

/** Pages are of one person: of whoever is somebody else those of the one before are forgotten. */
async function beOf(person: string): Promise<void> {
  const before = await (await caches.open(PAGES)).match(WHOSE);
  if (before && (await before.text()) === person) return;
  await caches.delete(PAGES);
  await (
    await caches.open(PAGES)
  ).put(WHOSE, new Response(person, { headers: { [KEPT]: 'Infinity' } }));
}

/** A view says who is here; what it is, and what it is made of; or that its person goes. */
worker.addEventListener('message', ({ data }) => {
  const work = async () => {
    if (data.forget) return void (await caches.delete(PAGES));
    if (data.person) return beOf(data.person);
    if (!isWork(new URL(data.path, worker.location.href))) return;
    const answer = await fetch(data.path, { headers: { accept: 'text/html' } });
    await keep(data.path, answer);
    const assets = await caches.open(ASSETS);
    for (const one of data.assets as string[])
      if (isAsset(new URL(one)) && !(await assets.match(one)))
        await assets.add(one).catch(() => undefined);
  };
  void work().catch(() => undefined);
});
