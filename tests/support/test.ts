import { type Page, test as ofPlaywright } from '@playwright/test'
import './stacks'

/** Leaves nothing of a test behind: neither what its page kept, nor what it was told of network, screen and requests. */
async function emptied(page: Page): Promise<void> {
  const context = page.context()
  await Promise.all(context.pages().map((p) => p !== page && p.close()))
  await page.removeAllListeners(undefined, { behavior: 'ignoreErrors' })
  await context.unrouteAll({ behavior: 'ignoreErrors' })
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  await context.setOffline(false)
  await context.clearCookies()
  await context.clearPermissions()
  const { origin } = new URL(page.url())
  if (origin !== 'null') {
    // A session's own store is not among what the browser clears for an origin.
    await page.evaluate(() => sessionStorage.clear())
    await page.goto('about:blank')
    const browser = await context.newCDPSession(page)
    await browser.send('Storage.clearDataForOrigin', { origin, storageTypes: 'all' })
    await browser.detach()
  }
  await page.emulateMedia({ media: null, colorScheme: null })
  const { viewport } = ofPlaywright.info().project.use
  if (viewport) await page.setViewportSize(viewport)
}

/** The page of this worker, once a test has asked for one. */
let kept: Page | null = null

/**
 * Playwright's test, with one page for all tests of a worker: starting one for each took a third of a second of each. What else is set by
 * `test.use` (a server, a service worker) reaches a page only where `own` is set too; so does a clock, which cannot be taken back.
 */
export const test = ofPlaywright.extend<{ own: boolean }>({
  own: [false, { option: true }],
  context: async ({ browser, own }, use) => {
    if (own) {
      const context = await browser.newContext()
      await use(context)
      return context.close()
    }
    kept ??= await (await browser.newContext()).newPage()
    const context = kept.context()
    await use(context)
    // What a test left open would go on asking the server.
    await Promise.all(browser.contexts().map((c) => c !== context && c.close()))
    await emptied(kept)
  },
  page: async ({ context, own }, use) => use(own ? await context.newPage() : context.pages()[0]!),
})
