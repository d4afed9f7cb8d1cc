import { expect as ofPlaywright, type ExpectMatcherState, type Locator } from '@playwright/test'

type Standing = Parameters<Locator['waitFor']>[0] & {}

/*
 * Whether something is there, or is seen, is waited for inside the page. Playwright's own matchers ask from outside, and at each try that
 * fails describe the whole page again: a tenth of all that the pages of the tests took.
 */
const waits = (standing: Standing['state'], otherwise: Standing['state']) =>
  async function (this: ExpectMatcherState, of: Locator, { timeout = this.timeout }: { timeout?: number } = {}) {
    await of.waitFor({ state: this.isNot ? otherwise : standing, timeout })
    return { pass: !this.isNot, message: () => '' }
  }

export const expect = ofPlaywright.extend({
  toBeVisible: waits('visible', 'hidden'),
  toBeHidden: waits('hidden', 'visible'),
  toBeAttached: waits('attached', 'detached'),
})
