/// <reference lib="webworker" />
import { CacheableResponsePlugin } from 'workbox-cacheable-response'
import { ExpirationPlugin } from 'workbox-expiration'
import { registerRoute, setCatchHandler } from 'workbox-routing'
import { CacheFirst, NetworkFirst, NetworkOnly } from 'workbox-strategies'

/*
 * Opens the application where there is no connection: its code, and the pages of jobs without their jobs. The state of a job the page reads
 * from the device's own store, which every answer of the server updates; what is done on it waits in the outbox of the device.
 */

declare const self: ServiceWorkerGlobalScope
/** Every file of code and type of this build, put here when it is built. */
declare const CODE: readonly string[]

/** Pages of stages that hold no job, and the list of jobs as last seen. */
const SHELLS = 'shells'
const LIST = 'list'
/** As pages were kept before: with the job in them. */
const FORMER = 'pages'
const FILES = 'code'
const sound = new CacheableResponsePlugin({ statuses: [200] })
/** How long the network may take before the page as last seen is shown, in seconds. */
const PATIENCE_S = 5

const code = new CacheFirst({ cacheName: FILES, plugins: [sound, new ExpirationPlugin({ maxEntries: 2 * CODE.length + 100 })] })
const isCode = (sameOrigin: boolean, url: URL): boolean => sameOrigin && url.pathname.startsWith('/_next/static/')
// A worker takes what it is to run from the fragment of its address, which no cache keeps: an answer without an address of its own lets
// the one that was asked for are kept.
registerRoute(
  ({ sameOrigin, url, request }) => isCode(sameOrigin, url) && request.destination === 'worker',
  async (asked) => {
    const kept = await code.handle(asked)
    return new Response(kept.body, { status: kept.status, statusText: kept.statusText, headers: kept.headers })
  },
)
registerRoute(({ sameOrigin, url }) => isCode(sameOrigin, url), code)
registerRoute(({ request, url }) => request.mode === 'navigate' && url.pathname.startsWith('/api/'), new NetworkOnly())
/** The page of a stage as it was kept, without its job; one for all its sheets, whichever is in its address. */
const shellOf = async (url: URL): Promise<Response | undefined> =>
  (await caches.open(SHELLS)).match(url.pathname, { ignoreSearch: true, ignoreVary: true })
registerRoute(
  ({ request, sameOrigin, url }) => sameOrigin && request.mode === 'navigate' && url.pathname.startsWith('/jobs/'),
  async ({ request, url }) => {
    const page = fetch(request)
    const slow = new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE_S * 1000))
    const first = await Promise.race([page, slow]).catch(() => null)
    if (first) return first
    return (await shellOf(url)) ?? page
  },
)
registerRoute(
  ({ request, sameOrigin }) => sameOrigin && request.mode === 'navigate',
  new NetworkFirst({
    cacheName: LIST,
    networkTimeoutSeconds: PATIENCE_S,
    matchOptions: { ignoreSearch: true, ignoreVary: true },
    plugins: [sound, new ExpirationPlugin({ maxEntries: 20, matchOptions: { ignoreVary: true } })],
  }),
)
setCatchHandler(({ request }) =>
  Promise.resolve(
    request.destination === 'document'
      ? new Response(
          '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">' +
            '<title>No connection</title><body style="font:1.1rem/1.5 system-ui;max-width:34rem;margin:15vh auto;padding:0 1.2rem">' +
            '<h1>No connection</h1><p>This part needs the server, or was not opened on this device before. What you did is kept here and ' +
            'is sent when the server answers.</p><p><a href="javascript:history.back()">Back</a> · <a href="/">All jobs</a></p>',
          { status: 503, headers: { 'content-type': 'text/html; charset=utf-8' } },
        )
      : Response.error(),
  ),
)

self.addEventListener('install', () => void self.skipWaiting())
self.addEventListener('activate', (e) => e.waitUntil(Promise.all([caches.delete(FORMER), self.clients.claim()])))

/** The other stages of a job that is open, so that they open later without a connection. */
async function keepPages(pages: readonly string[]): Promise<void> {
  const [shells, list] = [await caches.open(SHELLS), await caches.open(LIST)]
  await Promise.all(
    pages.map(async (page) => {
      const cache = page.startsWith('/jobs/') ? shells : list
      const response = await fetch(page, { credentials: 'same-origin', headers: { 'x-synthema-shell': '1' } }).catch(() => null)
      if (response?.ok && !response.redirected) await cache.put(page, response)
    }),
  )
}
/** And the code they run, one file after another: people at work go first. */
async function keepCode(): Promise<void> {
  const cache = await caches.open(FILES)
  for (const file of CODE) if (!(await cache.match(file))) await cache.add(file).catch(() => null)
}
self.addEventListener('message', (e: ExtendableMessageEvent) => {
  const { pages } = e.data as { pages: string[] }
  e.waitUntil(keepPages(pages).then(keepCode))
})
