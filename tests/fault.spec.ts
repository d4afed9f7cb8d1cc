import type { Page } from '@playwright/test'
import { test } from './support/test'
import { expect } from './support/expect'
import { openCopy, reload } from './support/walk'

const sheetOf = (page: Page, name: string) =>
  page.locator('nav[aria-label="Sheets of the test"]').getByRole('button', { name, exact: true }).click()

test.beforeEach(async ({ page }) => {
  await openCopy(page, 'honey-house', 'test')
})

test('every wrong connection is tried, and those that pass every test are named with the test that would catch them', async ({ page }) => {
  // Tried unasked, and listed below the tests.
  await expect(page.getByText('7 of 36 single mistakes would pass all of these tests, 5 of them dangerous.')).toBeVisible()
  await page.getByRole('button', { name: 'Look at them' }).click()
  await expect(page.getByText(/36 single wrong connections were tried on Warming cabinet/)).toBeVisible()
  await expect(page.getByText('7 of them pass every test of the plan.')).toBeVisible()
  await expect(page.getByText(/neutral and earth exchanged at Warming cabinet/)).toBeVisible()
  await expect(page.locator('aside')).toContainText('the neutral lifted from its bar')
  // The fewest that catch them are put into the plan, where they are tests like any other, until they are taken out.
  const more = page.locator('aside')
  await expect(more).toContainText('The fewest that catch what is dangerous and passes:')
  const put = more.getByRole('button', { name: 'Put it into the plan' })
  for (let planned = 1; planned <= 3 && (await put.count()) > 0; planned++) {
    await put.first().click()
    await expect(more.getByText('In the plan.')).toHaveCount(planned)
    await expect(page.getByText(/36 single wrong connections were tried/)).toBeVisible()
  }
  // What merely trips is left; nothing dangerous is.
  await expect(page.getByText(/^36 single wrong connections.*2 of them pass every test of the plan\./s)).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Dangerous' })).toHaveCount(0)
  await sheetOf(page, 'Tests')
  await expect(page.getByRole('row', { name: /the neutral lifted from its bar/ })).toBeVisible()
  await sheetOf(page, 'Mistakes')
  await more.getByRole('button', { name: 'Take it out of the plan' }).first().click()
  await expect(page.getByText(/of them pass every test of the plan\./)).toBeVisible()
  await page.getByRole('button', { name: 'All', exact: true }).click()
  await expect(page.getByText(/live and earth exchanged at Warming cabinet/)).toContainText('is at 2')
  // Another length, other figures: it is tried again.
  await page.getByLabel('Current circuit').selectOption({ label: 'Store plugs, lengthened' })
  await expect(page.getByText(/110 single wrong connections were tried on Store plugs/)).toBeVisible({ timeout: 20_000 })
})

test('a planted fault is found by the measurements that are suggested, live ones shut while a dead one is off', async ({ page }) => {
  // What tried the mistakes for the tests finds faults too: none is started again.
  await expect(page.getByText('7 of 36 single mistakes would pass all of these tests, 5 of them dangerous.')).toBeVisible()
  let begun = 0
  page.on('worker', () => begun++)
  await sheetOf(page, 'Find a fault')
  await page.getByRole('button', { name: 'Practise: plant a fault' }).click()
  await expect(page.getByText('shut', { exact: true }).first()).toBeVisible()
  for (let i = 0; i < 12; i++) {
    const next = page
      .getByRole('row', { name: /tells most now/ })
      .getByRole('button', { name: /^Measure/ })
      .last()
    if ((await next.count()) === 0) break
    await next.click()
  }
  const said = page.getByRole('button', { name: /^It is this/ })
  const causes = await said.count()
  expect(causes).toBeGreaterThan(0)
  const answer = page.locator('aside').getByRole('status')
  await said.first().click()
  await expect(answer).toContainText(/Right|As good as right|something else/)
  for (let i = 1; i < causes && /something else/.test(await answer.innerText()); i++) await said.nth(i).click()
  expect(begun).toBe(0)
  await expect(answer).toContainText(/Right|As good as right/)
  // Put right, it is tested again from the beginning, until it may be switched on.
  await page.getByRole('button', { name: 'Put it right, and test again' }).click()
  await expect(page.getByText('It is put right.')).toBeVisible()
  const again = page.getByRole('button', { name: /^Measure: / })
  for (let left = 30; left > 0 && (await again.count()) > 0; left--) await again.first().click()
  await expect(page.getByText(/^Every test holds: tell those who are there/)).toBeVisible()
  await page.getByRole('button', { name: 'Back to the readings of this circuit' }).click()
  await expect(page.getByText('Nothing is measured yet.')).toBeVisible()
  // A complaint in plain words is a beginning too.
  await page.getByLabel('A plate is warm, or smells').check()
  await expect(page.locator('aside').getByRole('listitem').first()).toContainText(/loose/)
  await page.getByLabel('A plate is warm, or smells').uncheck()
})

test('instruments are tried on the circuit as designed: what each shows, trips and gets wrong', async ({ page }) => {
  await sheetOf(page, 'Find a fault')
  const see = async (instrument: string) => {
    await page.getByLabel('Instrument', { exact: true }).selectOption({ label: instrument })
    await page.getByRole('button', { name: 'See what it shows' }).click()
  }
  const shown = page.locator('main').getByRole('status')
  await see('Two-pole tester')
  await expect(shown).toContainText('0.0 V')
  await see('Insulation tester')
  await expect(shown).toContainText('>200 MΩ')
  await page.getByRole('group', { name: 'The breaker is' }).getByText('On', { exact: true }).click()
  await expect(page.getByText('In earnest nothing is switched on before the dead tests are made and hold.')).toBeVisible()
  await see('Insulation tester')
  await expect(shown).toContainText('live: not used')
  await see('Multimeter, volts')
  await expect(shown).toContainText('230 V')
  await see('Non-contact detector')
  await expect(shown).toContainText('alarms')
  // The loop tester draws so much to earth that what guards the circuit trips, and it is off until it is switched on again.
  await see('Loop tester')
  await expect(shown).toContainText('It has read nothing.')
  await see('Two-pole tester')
  await expect(shown).toContainText('0.0 V')
  await expect(page.getByRole('list', { name: 'Seen before' }).getByRole('listitem')).toHaveCount(6)
})

test('long work says how far it is, and can be given up and taken up again', async ({ page }) => {
  const id = /jobs\/([^/]+)/.exec(page.url())![1]!
  const { revision, job } = await (await page.request.get(`/api/jobs/${id}`)).json()
  const circuit = job.circuits.find((c: { name: string }) => c.name === 'Store plugs, lengthened').id
  const points = Array.from({ length: 48 }, (_, i) => ({
    id: `far${i}`,
    name: `Far ${i}`,
    lengthM: 2,
    from: i ? `far${i - 1}` : null,
    watts: 20,
  }))
  const edit = { kind: 'circuit-point.add', circuit, points }
  expect((await page.request.post(`/api/jobs/${id}/edits`, { data: { revision, edit } })).status()).toBe(200)
  await reload(page)
  await page.getByLabel('Current circuit').selectOption({ label: 'Store plugs, lengthened' })
  await sheetOf(page, 'Mistakes')
  const bar = page.getByRole('progressbar', { name: /^Every wrong connection of Store plugs/ })
  await expect(bar).toBeVisible()
  const far = Number(await bar.getAttribute('value'))
  expect(far).toBeGreaterThan(0)
  expect(far).toBeLessThan(1)
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByText('Cancelled.')).toBeVisible()
  await expect(bar).toHaveCount(0)
  await page.getByRole('button', { name: 'Try them' }).click()
  await expect(page.getByText(/[0-9]{4} single wrong connections were tried on Store plugs/)).toBeVisible({ timeout: 60_000 })
})
