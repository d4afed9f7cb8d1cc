import { expect, type Page, test } from '@playwright/test'
import { goTo, newJob, saved } from './support/walk'

/** What really feeds what in a small building; the page never sees this. */
const truth: Record<string, string> = { Door: '1 Kiln', Window: 'Door', Bench: 'Window', Lamp: '2 Light', Switch: '2 Light', Freezer: '3 Store' }
const points = Object.keys(truth)
const hangsBeyond = (point: string, place: string): boolean => {
  const up = truth[point]
  return up !== undefined && (up === place || hangsBeyond(up, place))
}

async function surveyBuilding(page: Page) {
  await goTo(page, 'Survey')
  for (const [i, way] of ['1 Kiln', '2 Light', '3 Store', '4 Spare'].entries()) {
    await page.getByRole('button', { name: 'Add a way' }).click()
    const label = page.getByLabel('Way, label as found').nth(i)
    await label.fill(way)
    await label.press('Tab')
  }
  const form = page.getByRole('form', { name: 'Add a point' })
  await form.getByLabel('Room').fill('Loft')
  for (const p of points) {
    await form.getByLabel('Name').fill(p)
    await form.getByLabel('Name').press('Enter')
  }
  await page.getByLabel('Freezer must not lose power').check()
  await saved(page)
}

/** Makes the test that is asked for, and taps what truly dies. */
async function makeTest(page: Page) {
  const working = page.getByRole('complementary')
  const asked = await working.getByLabel('Test', { exact: true }).evaluate((s) => (s as HTMLSelectElement).selectedOptions[0]!.text)
  const place = asked.replace('Switch off ', '').replace('Part the onward cables at ', '')
  for (const p of points) if (p !== place && hangsBeyond(p, place)) await working.getByRole('button', { name: new RegExp(`^${p}`) }).click()
  await working.getByRole('button', { name: /^Record:/ }).click()
  await saved(page)
  return asked
}

async function traceAll(page: Page) {
  const asked: string[] = []
  while (!(await page.getByRole('heading', { name: 'Every point is traced' }).isVisible())) {
    asked.push(await makeTest(page))
    expect(asked.length).toBeLessThan(12)
  }
  return asked
}

const rowOf = (page: Page, point: string) => page.getByRole('row', { name: new RegExp(`^${point} `) })

test('a building is surveyed and traced to its true tree', async ({ page }) => {
  await newJob(page, /North America/, 'Loft over the dairy', 'The former dairy')
  await surveyBuilding(page)
  const asked = await traceAll(page)
  for (const p of points) await expect(rowOf(page, p).getByRole('cell').nth(2)).toHaveText(truth[p]!)
  expect(asked.length).toBeLessThanOrEqual(9)
  const pdf = await page.request.get((await page.getByRole('link', { name: 'Tree for the board’s door' }).getAttribute('href'))!)
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
  const svg = await page.request.get((await page.getByRole('link', { name: 'SVG' }).getAttribute('href'))!)
  expect(await svg.text()).toContain('Bench')
})

test('a contradiction is explained, and goes when one observation is withdrawn', async ({ page }) => {
  await newJob(page, /United Kingdom/, 'Two breakers, one lamp', 'Village hall')
  await surveyBuilding(page)
  const working = page.getByRole('complementary')
  for (const way of ['1 Kiln', '2 Light']) {
    await working.getByLabel('Test', { exact: true }).selectOption({ label: `Switch off ${way}` })
    await working.getByRole('button', { name: /^Lamp/ }).click()
    await working.getByRole('button', { name: 'Record: 1 dead, the rest live' }).click()
    await saved(page)
  }
  await expect(working.getByText(/These cannot all be true: 1 Kiln off, Lamp dead; 2 Light off, Lamp dead/)).toBeVisible()
  await working.getByRole('listitem').filter({ hasText: '1 Kiln off, Lamp dead' }).getByRole('button', { name: 'Withdraw' }).click()
  await expect(working.getByText(/These cannot all be true/)).toBeHidden()
  await expect(rowOf(page, 'Lamp').getByRole('cell').nth(1)).toHaveText('2 Light')
})

test('what was tapped survives a reload, on a phone', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage()
  await newJob(page, /Southern Africa/, 'Honey house board', 'Farm')
  await surveyBuilding(page)
  await page.getByRole('button', { name: 'Values and working' }).tap()
  await page.getByRole('complementary').getByRole('button', { name: /^Window/ }).tap()
  await page.reload()
  await page.getByRole('button', { name: 'Values and working' }).tap()
  const tapped = page.getByRole('complementary').getByRole('button', { name: /^Window/ })
  await expect(tapped).toHaveAttribute('aria-pressed', 'true')
  await tapped.tap()
  const asked = await traceAll(page)
  expect(asked.length).toBeGreaterThan(3)
})
