import type { Page } from '@playwright/test'
import { bigJob } from '../scripts/big-job'
import { writeJobFile } from '../src/core/job/file'
import { test } from './support/test'
import type { StageId } from '../src/core/report/stages'
import { violationsOf } from './support/axe'
import { expect } from './support/expect'
import { alive, goToSheet, saved } from './support/walk'

/** Of each job the sheets of a stage that stand for all like them. */
const views: readonly { job: string; stage: StageId; sheets: readonly (string | undefined)[] }[] = [
  { job: 'former-dairy', stage: 'brief', sheets: [undefined] },
  { job: 'former-dairy', stage: 'survey', sheets: ['board', 'points', 'trace', 'walls', 'source', 'time'] },
  { job: 'village-hall', stage: 'survey', sheets: ['report'] },
  { job: 'honey-house', stage: 'survey', sheets: ['board'] },
  { job: 'former-dairy', stage: 'circuit', sheets: ['this', 'raceways'] },
  { job: 'village-hall', stage: 'circuit', sheets: ['all', 'this', 'protection', 'choices'] },
  { job: 'former-dairy', stage: 'boxes', sheets: ['size', 'mount', 'all'] },
  { job: 'village-hall', stage: 'wiring', sheets: ['order', 'bench'] },
  { job: 'former-dairy', stage: 'route', sheets: ['house', 'way'] },
  { job: 'honey-house', stage: 'day', sheets: ['plan', 'isolation', 'offer'] },
  { job: 'honey-house', stage: 'test', sheets: ['tests', 'mistakes', 'fault'] },
  { job: 'honey-house', stage: 'handover', sheets: [undefined] },
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

/** The page as it stands, held against the rules of access in each size and colour, and against the room it has. */
async function accessibleAndFits(page: Page, where: string, ofAJob: boolean) {
  for (const { viewport, colorScheme, only } of sizes) {
    await page.setViewportSize(viewport)
    await page.emulateMedia({ colorScheme })
    if (ofAJob) await expect(page.getByRole('complementary')).toBeAttached()
    expect(await violationsOf(page, only), where).toEqual([])
    const { width, height } = await page.evaluate(() => ({
      width: document.documentElement.scrollWidth,
      height: document.documentElement.scrollHeight,
    }))
    expect(width, where).toBeLessThanOrEqual(viewport.width)
    if (ofAJob) expect(height, where).toBeLessThanOrEqual(viewport.height)
  }
}

test('the list of jobs is accessible and fits, on a desk and on a phone in the dark', async ({ page }) => {
  await page.goto('/')
  await alive(page)
  await accessibleAndFits(page, '/', false)
})

for (const { job, stage, sheets } of views)
  test(`${job}, ${[stage, ...sheets].filter(Boolean).join(' ')} is accessible and fits, on a desk and on a phone in the dark`, async ({
    page,
  }) => {
    for (const sheet of sheets) {
      await page.setViewportSize(sizes[0]!.viewport)
      await page.emulateMedia({ colorScheme: sizes[0]!.colorScheme })
      await goToSheet(page, job, stage, sheet)
      // Alive, and whole: what a worker lays out comes last.
      await saved(page)
      await alive(page)
      await accessibleAndFits(page, `${stage} ${sheet ?? ''}`, true)
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
  await expect(page).toHaveURL(/circuit(\?circuit=\w+)?$/)
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

test('of a long list what is in sight is drawn, and its end is reached by scrolling', async ({ page }) => {
  const job = JSON.stringify(writeJobFile(bigJob(30), []))
  const { id } = (await (
    await page.request.post('/api/jobs/import', { headers: { 'content-type': 'application/json' }, data: job })
  ).json()) as {
    id: string
  }
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`/jobs/${id}/day`)
  const table = page.getByRole('table').filter({ hasText: 'Task' }).last()
  const rows = table.locator('tbody tr[data-index]')
  await expect(rows.first()).toBeVisible()
  const all = Number(await table.getAttribute('aria-rowcount')) - 1
  expect(all).toBeGreaterThan(150)
  expect(await rows.count()).toBeLessThan(60)
  await page.locator('section[aria-label="Day: the drawing"]').evaluate(async (area) => {
    for (let was = -1; was !== area.scrollTop;) {
      was = area.scrollTop
      area.scrollTo(0, area.scrollHeight)
      await new Promise((r) => setTimeout(r, 150))
    }
  })
  await expect(table.locator(`tr[data-index="${all - 1}"]`)).toBeVisible()
  expect(await rows.count()).toBeLessThan(60)
})
