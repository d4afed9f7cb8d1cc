/// <reference lib="webworker" />
import { CacheableResponsePlugin } from 'workbox-cacheable-response'
import { ExpirationPlugin } from 'workbox-expiration'
import { registerRoute, setCatchHandler } from 'workbox-routing'
import { CacheFirst, NetworkFirst, NetworkOnly } from 'workbox-strategies'

/*
 * Opens the application where there is no connection: its code, and the pages of jobs last seen, as they stood then. What is done on
 * them waits in the outbox of the device.
 */

declare const self: ServiceWorkerGlobalScope
/** Every file of code and type of this build, put here when it is built. */
declare const CODE: readonly string[]

const PAGES = 'pages'
const FILES = 'code'
const sound = new CacheableResponsePlugin({ statuses: [200] })
/** How long the network may take before the page as last seen is shown, in seconds. */
const PATIENCE_S = 5

registerRoute(
  ({ sameOrigin, url }) => sameOrigin && url.pathname.startsWith('/_next/static/'),
  new CacheFirst({ cacheName: FILES, plugins: [sound, new ExpirationPlugin({ maxEntries: 2 * CODE.length + 100 })] }),
)
registerRoute(({ request, url }) => request.mode === 'navigate' && url.pathname.startsWith('/api/'), new NetworkOnly())
registerRoute(
  ({ request, sameOrigin }) => sameOrigin && request.mode === 'navigate',
  new NetworkFirst({
    cacheName: PAGES,
    networkTimeoutSeconds: PATIENCE_S,
    // A sheet is the page's own to choose; the page is one whichever stands in its address.
    matchOptions: { ignoreSearch: true, ignoreVary: true },
    plugins: [sound, new ExpirationPlugin({ maxEntries: 120, matchOptions: { ignoreVary: true } })],
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
self.addEventListener('activate', (e) => e.waitUntil(self.clients.claim()))

/** The other stages of a job that is open, so that they open later without a connection. */
async function keepPages(pages: readonly string[]): Promise<void> {
  const cache = await caches.open(PAGES)
  await Promise.all(
    pages.map(async (page) => {
      const response = await fetch(page, { credentials: 'same-origin' }).catch(() => null)
      if (response?.ok && !response.redirected) await cache.put(page, response)
    }),
  )
}
/** And the code they run, one file after another: whoever is at work goes first. */
async function keepCode(): Promise<void> {
  const cache = await caches.open(FILES)
  for (const file of CODE) if (!(await cache.match(file))) await cache.add(file).catch(() => null)
}
self.addEventListener('message', (e: ExtendableMessageEvent) => {
  const { pages } = e.data as { pages: string[] }
  e.waitUntil(keepPages(pages).then(keepCode))
})
