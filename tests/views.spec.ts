import { expect, test } from '@playwright/test'
import { violationsOf } from './support/axe'

const views = [
  '/',
  '/jobs/former-dairy/brief',
  ...['board', 'points', 'trace', 'walls', 'source', 'time'].map((s) => `/jobs/former-dairy/survey?sheet=${s}`),
  '/jobs/village-hall/survey?sheet=report',
  '/jobs/honey-house/survey?sheet=board',
  '/jobs/former-dairy/circuit',
  ...['all', 'this', 'protection', 'choices'].map((s) => `/jobs/village-hall/circuit?sheet=${s}`),
  '/jobs/former-dairy/circuit?sheet=raceways',
  '/jobs/former-dairy/boxes',
  '/jobs/former-dairy/boxes?sheet=mount',
  '/jobs/village-hall/wiring',
  '/jobs/village-hall/wiring?sheet=bench',
  '/jobs/honey-house/test',
  ...['house', 'way'].map((s) => `/jobs/former-dairy/route?sheet=${s}`),
  ...['plan', 'isolation', 'offer'].map((s) => `/jobs/honey-house/day?sheet=${s}`),
  ...['mistakes', 'fault'].map((s) => `/jobs/honey-house/test?sheet=${s}`),
  '/jobs/honey-house/handover',
]
const sizes = [
  { viewport: { width: 1280, height: 800 }, colorScheme: 'light' as const, only: null },
  { viewport: { width: 1280, height: 800 }, colorScheme: 'dark' as const, only: ['color-contrast'] },
  { viewport: { width: 820, height: 1180 }, colorScheme: 'light' as const, only: ['scrollable-region-focusable'] },
  // In the dark on a phone the page is the same but for its colours and its size.
  {
    viewport: { width: 390, height: 844 },
    colorScheme: 'dark' as const,
    only: ['color-contrast', 'target-size', 'scrollable-region-focusable'],
  },
]

for (const view of views)
  test(`${view} is accessible and fits, on a desk and on a phone in the dark`, async ({ page }) => {
    await page.goto(view)
    // Alive, and whole: what a worker lays out comes last.
    if (view !== '/') await expect(page.getByText(/^Saved$/)).toBeAttached()
    await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
    for (const { viewport, colorScheme, only } of sizes) {
      await page.setViewportSize(viewport)
      await page.emulateMedia({ colorScheme })
      if (view !== '/') await expect(page.getByRole('complementary')).toBeAttached()
      expect(await violationsOf(page, only)).toEqual([])
      const { width, height } = await page.evaluate(() => ({
        width: document.documentElement.scrollWidth,
        height: document.documentElement.scrollHeight,
      }))
      expect(width).toBeLessThanOrEqual(viewport.width)
      if (view !== '/') expect(height).toBeLessThanOrEqual(viewport.height)
    }
  })

test('on a phone the stages are under the thumb and the working is pulled up', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage()
  await page.goto('/jobs/former-dairy/circuit')
  const strand = await page.getByRole('navigation', { name: 'Stages of the work' }).boundingBox()
  expect(strand!.y).toBeGreaterThan(700)
  // What is touched brings its values up, and stays in sight above them; the way back lets them down again.
  await page.getByRole('button', { name: /^Receptacle/ }).tap()
  await expect(page.getByLabel('Accessory')).toBeVisible()
  const [part, values] = [page.getByRole('button', { name: /^Receptacle/ }), page.getByRole('complementary')]
  await expect.poll(async () => (await part.boundingBox())!.y + 40 < (await values.boundingBox())!.y).toBe(true)
  await page.goBack()
  await expect(page).toHaveURL(/circuit$/)
  await expect(page.getByLabel('Accessory')).toBeHidden()
  await page.getByRole('button', { name: 'Values and working' }).tap()
  await expect(page.getByLabel('Accessory')).toBeVisible()
  for (const button of await page.getByRole('button').all()) {
    const box = await button.boundingBox()
    if (box && box.width > 0 && (await button.evaluate((e) => e.tagName)) === 'BUTTON')
      expect(Math.max(box.width, box.height), await button.innerText()).toBeGreaterThanOrEqual(40)
  }
  // The strand shows the stages about this one; the others are a touch away.
  const line = page.getByRole('navigation', { name: 'Stages of the work' })
  await expect(line.getByRole('link', { name: /^(Survey|Boxes)/ })).toHaveCount(2)
  await expect(line.getByRole('link', { name: /^Test/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'All stages' }).tap()
  await line.getByRole('link', { name: /^Test/ }).tap()
  await expect(page).toHaveURL(/test$/)
})
