import type { Browser, Locator, Page } from '@playwright/test'
import type { Edit } from '../../src/core/job/edits'
import type { RegionId } from '../../src/core/region/types'
import { sheetsOf, type StageId, stages } from '../../src/core/report/stages'
import { expect } from './expect'

/*
 * What a page is made of is found by its element; by its role each element of the page is asked for its own, at every act.
 */
export const stage = (page: Page, name: string) =>
  page.locator('nav[aria-label="Stages of the work"]').getByRole('link', { name: new RegExp(`^${name}`) })

/** Goes to a stage by the strand and waits for its drawing; on a phone the whole line is opened where the stage is not about this one. */
export async function goTo(page: Page, name: string) {
  const link = stage(page, name)
  const all = page.getByRole('button', { name: 'All stages' })
  if ((await all.isVisible()) && !(await link.first().isVisible())) await all.click()
  await link.first().click()
  await expect(page.locator(`section[aria-label="${name}: the drawing"]`)).toBeVisible()
}

/** What is served can be read before its code runs: from here on it can be used, and what a worker lays out is there. */
export const alive = (page: Page) => expect(page.locator('[aria-busy=true], [inert]')).toHaveCount(0)

/** Loads the page again, and waits until it can be used. */
export async function reload(page: Page) {
  await page.reload()
  await alive(page)
}

/** A sheet by its name, which in North America may be another. */
export const tabNamed = (name: string): string | RegExp => (name === 'Board' ? /^(Board|Panel)$/ : name)

/** Goes on to a stage, and a sheet of it, by the page's own navigation, as a hand does; only another job is asked for by its address. */
export async function goToSheet(page: Page, job: string, of: StageId, wanted?: string) {
  const { name } = stages.find((s) => s.id === of)!
  const { pathname } = new URL(page.url())
  if (!pathname.startsWith(`/jobs/${job}/`)) await page.goto(`/jobs/${job}/${of}${wanted ? `?sheet=${wanted}` : ''}`)
  else {
    if (pathname !== `/jobs/${job}/${of}`) await goTo(page, name)
    const sheet = wanted && sheetsOf(of).find((s) => s.id === wanted)!.name
    if (sheet)
      await page
        .locator('nav[aria-label^="Sheets of"]')
        .getByRole('button', { name: tabNamed(sheet), exact: true })
        .click()
  }
  await expect(page.locator(`section[aria-label="${name}: the drawing"]`)).toBeVisible()
}

/** Everything entered so far is on the server. */
export async function saved(page: Page) {
  await expect(page.locator('[aria-live]', { hasText: /^Saved$/ })).toBeAttached()
}

/** Every fitness question answered so that nothing stops the job. */
export async function answerFitness(page: Page) {
  const good: [RegExp, string][] = [
    [/licence, permit/, 'yes'],
    [/locked off/, 'yes'],
    [/whole, dry/, 'yes'],
    [/means of (earth|ground)ing/, 'yes'],
    [/alumini?um/, 'no'],
    [/service conductors/, 'no'],
    [/asbestos/, 'no'],
    [/do not understand/, 'no'],
  ]
  for (const [question, answer] of good) await page.getByRole('group', { name: question }).getByText(answer, { exact: true }).click()
}

/** A reading that a sound circuit would show, from the words of what is expected. */
export function soundReading(expected: string): string {
  if (expected.startsWith('at least')) return '>200'
  if (expected.startsWith('up to 300 ms')) return '24'
  if (expected.startsWith('up to')) return '0'
  return /^[\d.]+/.exec(expected)![0]
}

const testRows = (page: Page) => page.locator('section[aria-label="Test: the drawing"]').locator('tbody tr')

/** Makes one test of the list, with a reading as it should be; it is selected unless it is open already. */
async function makeTest(page: Page, row: Locator) {
  const working = page.locator('aside')
  const pick = row.getByRole('button')
  if ((await pick.getAttribute('aria-pressed')) !== 'true') await pick.click()
  const expected = await row.locator('td').nth(2).innerText()
  if (expected === 'done') return working.getByRole('button', { name: 'Pass' }).click()
  await working.getByLabel('Reading', { exact: true }).fill(soundReading(expected))
  await working.getByRole('button', { name: 'Record' }).click()
}

/** Makes the first tests of the list, whether or not they were made before. */
export async function makeFirstTests(page: Page, count: number) {
  for (let i = 0; i < count; i++) await makeTest(page, testRows(page).nth(i))
}

/** Makes every test in order, as the page asks for them, until none is left. */
export async function makeTests(page: Page) {
  await goTo(page, 'Test')
  const rows = testRows(page)
  const count = await rows.count()
  expect(count).toBeGreaterThan(10)
  for (let i = 0; i < count; i++) {
    const row = rows.nth(i)
    if ((await row.locator('td').first().getByRole('img').getAttribute('aria-label')) !== 'not measured') continue
    await makeTest(page, row)
    await expect(row.locator('td').nth(3)).not.toBeEmpty()
  }
}

/** Ticks the steps of the wiring of the circuit in hand: the first by itself, the others together. */
export async function doWiring(page: Page) {
  await goTo(page, 'Wiring')
  const working = page.locator('aside')
  const steps = working.getByRole('checkbox')
  await steps.first().check()
  await working.getByRole('button', { name: /remaining steps are done/ }).click()
  for (let i = 0; i < (await steps.count()); i++) await expect(steps.nth(i)).toBeChecked()
  await saved(page)
}

/** Opens a paper as the link on the handover page does, and reads what comes. */
export async function fetchPaper(page: Page, name: string): Promise<{ type: string; body: Buffer }> {
  const href = await page.getByRole('link', { name: new RegExp(`^${name}`) }).getAttribute('href')
  // Papers are made one after another, whoever asked for them.
  const response = await page.request.get(href!, { timeout: 60_000 })
  expect(response.status()).toBe(200)
  return { type: response.headers()['content-type']!, body: await response.body() }
}

/** A job as it is when it is opened. */
interface Opened {
  readonly at?: StageId
  /** What was entered in it before. */
  readonly edits?: readonly Edit[]
}

/** A job of one's own, made and opened. */
export async function newJob(page: Page, region: RegionId, title: string, place: string, { at = 'brief', edits = [] }: Opened = {}) {
  const made = await page.request.post('/api/jobs', { data: { region, title, place } })
  const { id } = (await made.json()) as { id: string }
  for (const [i, edit] of edits.entries())
    expect((await page.request.post(`/api/jobs/${id}/edits`, { data: { revision: i + 1, edit } })).status()).toBe(200)
  await page.goto(`/jobs/${id}/${at}`)
  await expect(page.getByRole('heading', { name: title })).toBeVisible()
  await alive(page)
}

/** The page at hand, opened on another device: ready to be used, as the first is. */
export async function onOtherDevice(page: Page, browser: Browser): Promise<Page> {
  const other = await (await browser.newContext()).newPage()
  await other.goto(page.url())
  await alive(other)
  return other
}

/** The same on the page, from the list of jobs, as a hand does it. */
export async function newJobByHand(page: Page, world: RegExp, title: string, place: string) {
  await page.goto('/')
  await page.getByRole('button', { name: 'New job' }).click()
  await page.getByRole('form', { name: 'New job' }).getByText(world).click()
  await page.getByRole('textbox', { name: 'Title' }).fill(title)
  await page.getByRole('textbox', { name: 'Place' }).fill(place)
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page.getByRole('heading', { name: title })).toBeVisible()
}

/** Opens a copy of a demo job, so that the job itself stays as other tests and the pictures want it. */
export async function openCopy(page: Page, demo: 'former-dairy' | 'village-hall' | 'honey-house', at: StageId = 'brief') {
  const made = await page.request.post(`/api/jobs/${demo}/duplicate`, { data: {} })
  const { id } = (await made.json()) as { id: string }
  await page.goto(`/jobs/${id}/${at}`)
  await expect(page.getByRole('heading', { name: /\(copy\)$/ })).toBeVisible()
  await alive(page)
}

/** Counts what a hand does in the page, a press or a value given each one step; printed when the walk is over. */
export async function countSteps(page: Page): Promise<(walk: string) => Promise<number>> {
  await page.addInitScript(() => {
    const key = 'steps-of-the-walk'
    // The page of a worker may count already.
    if (Object.hasOwn(window, key)) return
    Object.assign(window, { [key]: true })
    const count = () => sessionStorage.setItem(key, String(Number(sessionStorage.getItem(key) ?? 0) + 1))
    const given = (e: Event) =>
      e.target instanceof Element && e.target.matches('input:not([type=radio]):not([type=checkbox]), textarea, select')
    addEventListener('click', (e) => e.isTrusted && !given(e) && count(), true)
    addEventListener('change', (e) => given(e) && count(), true)
  })
  return async (walk) => {
    const steps = await page.evaluate(() => Number(sessionStorage.getItem('steps-of-the-walk')))
    console.log(`steps of “${walk}”: ${steps}`)
    return steps
  }
}

/** How many acts this device keeps that the server has not answered. */
export const waiting = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((resolve, reject) => {
        const opening = indexedDB.open('synthema')
        opening.addEventListener('error', reject)
        opening.addEventListener('success', () => {
          const all = opening.result.transaction('acts').objectStore('acts').count()
          all.addEventListener('success', () => {
            opening.result.close()
            resolve(all.result)
          })
        })
      }),
  )
