import { expect, type Page, test } from '@playwright/test'
import { goTo, openCopy } from './support/walk'

const sheetOf = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Sheets of the test' }).getByRole('button', { name, exact: true }).click()

test.beforeEach(async ({ page }) => {
  await openCopy(page, 'honey-house')
  await goTo(page, 'Test')
})

test('every wrong connection is tried, and those that pass every test are named with the test that would catch them', async ({ page }) => {
  await sheetOf(page, 'Mistakes')
  await expect(page.getByText(/22 single wrong connections were tried on Warming cabinet/)).toBeVisible()
  await expect(page.getByText('5 of them pass every test of the plan.')).toBeVisible()
  await expect(page.getByText(/neutral and earth exchanged at Warming cabinet/)).toBeVisible()
  await expect(page.getByRole('complementary')).toContainText('the neutral lifted from its bar')
  // The fewest that catch them are put into the plan, where they are tests like any other, until they are taken out.
  const more = page.getByRole('complementary')
  await expect(more).toContainText('The fewest that catch what is dangerous and passes:')
  const put = more.getByRole('button', { name: 'Put it into the plan' })
  for (let planned = 1; planned <= 3 && (await put.count()) > 0; planned++) {
    await put.first().click()
    await expect(more.getByText('In the plan.')).toHaveCount(planned)
    await expect(page.getByText(/22 single wrong connections were tried/)).toBeVisible()
  }
  // What merely trips is left; nothing dangerous is.
  await expect(page.getByText('1 of them passes every test of the plan.')).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Dangerous' })).toHaveCount(0)
  await sheetOf(page, 'Tests')
  await expect(page.getByRole('row', { name: /the neutral lifted from its bar/ })).toBeVisible()
  await sheetOf(page, 'Mistakes')
  await more.getByRole('button', { name: 'Take it out of the plan' }).first().click()
  await expect(page.getByText(/of them pass every test of the plan\./)).toBeVisible()
  await page.getByRole('button', { name: 'All', exact: true }).click()
  await expect(page.getByText(/live and earth exchanged at Warming cabinet/)).toContainText('stands at 2')
  // Another length, other figures: it is tried anew.
  await page.getByLabel('Circuit you work on').selectOption({ label: 'Store plugs, lengthened' })
  await expect(page.getByText(/64 single wrong connections were tried on Store plugs/)).toBeVisible({ timeout: 20_000 })
})

test('a planted fault is found by the measurements that are suggested, live ones shut while a dead one is off', async ({ page }) => {
  await sheetOf(page, 'Find a fault')
  await page.getByRole('button', { name: 'Practise: plant a fault' }).click()
  await expect(page.getByText('shut', { exact: true }).first()).toBeVisible()
  for (let i = 0; i < 12; i++) {
    const next = page.getByRole('row', { name: /tells most now/ }).getByRole('button', { name: /^Measure/ })
    if ((await next.count()) === 0) break
    await next.click()
  }
  const said = page.getByRole('button', { name: /^It is this/ })
  const causes = await said.count()
  expect(causes).toBeGreaterThan(0)
  const answer = page.getByRole('complementary').getByRole('status')
  await said.first().click()
  await expect(answer).toContainText(/Right|As good as right|something else/)
  for (let i = 1; i < causes && /something else/.test(await answer.innerText()); i++) await said.nth(i).click()
  await expect(answer).toContainText(/Right|As good as right/)
  await page.getByRole('button', { name: 'Back to the readings of this circuit' }).click()
  await expect(page.getByText('Nothing is measured yet.')).toBeVisible()
  // A complaint in plain words is a beginning too.
  await page.getByLabel('What is complained of').selectOption({ label: 'A plate is warm, or smells' })
  await expect(page.getByRole('complementary').getByRole('listitem').first()).toContainText(/loose/)
})
