import { test } from './support/test'
import { expect } from './support/expect'
import { makeFirstTests, openCopy, reload } from './support/walk'

// Settings hold for every page of the server, so these run one after another, when nothing else does but what asks for papers.
test.describe.configure({ mode: 'default' })

test('metric or imperial, light or dark, whatever the world', async ({ page }) => {
  await page.goto('/jobs/former-dairy/circuit')
  await expect(page.getByLabel('Length, one way')).toHaveValue('70')
  const command = async (words: string) => {
    const input = page.getByPlaceholder('What do you want to do?')
    // The page answers keys once it is alive, which the first look at it does not tell.
    await expect(async () => {
      await page.keyboard.press('Control+k')
      await expect(input).toBeVisible({ timeout: 1000 })
    }).toPass()
    await input.fill(words)
    await page.keyboard.press('Enter')
  }
  await command('units: metric')
  await expect(page.getByLabel('Length, one way')).toHaveValue('21.336')
  await expect(page.getByText('°C', { exact: true })).toBeVisible()
  await command('dark page')
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
  await reload(page)
  await expect(page.getByLabel('Length, one way')).toHaveValue('21.336')
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
  await command('units as used where')
  await expect(page.getByLabel('Length, one way')).toHaveValue('70')
  await command('as the system says')
  await page.goto('/')
  await page.getByLabel(/Your name/).fill('Apprentice')
  await page.getByLabel(/Your name/).press('Tab')
  await page.goto('/jobs/former-dairy/circuit')
  await page.getByRole('button', { name: /^Breaker:/ }).click()
  await page.getByLabel('Minimum breaker').fill('30')
  await page.getByLabel('Minimum breaker').press('Tab')
  await page.getByRole('button', { name: 'History' }).click()
  await expect(page.getByRole('dialog').getByRole('listitem').first()).toContainText('Apprentice')
})

test('who measures is asked where the first reading is taken, and stands on it', async ({ page }) => {
  await page.request.post('/api/settings', { data: { name: '' } })
  await openCopy(page, 'honey-house', 'test')
  const working = page.locator('aside')
  await working.getByLabel(/^Measured by/).fill('The beekeeper')
  await working.getByLabel(/^Measured by/).press('Tab')
  await makeFirstTests(page, 1)
  await page.locator('section[aria-label="Test: the drawing"]').locator('tbody tr').first().getByRole('button').click()
  await expect(working.getByText(/^The beekeeper ·/)).toBeVisible()
  await reload(page)
  await expect(
    working
      .getByText('The reading that counts')
      .or(working.getByRole('button', { name: 'Pass' }))
      .first(),
  ).toBeVisible()
  await expect(working.getByLabel(/^Measured by/)).toHaveCount(0)
  await page.request.post('/api/settings', { data: { name: '' } })
})

test('the firm’s abbreviations shorten a label that is too long for its tape, on the page and on paper', async ({ page }) => {
  await openCopy(page, 'honey-house', 'handover')
  await page.getByLabel('Printed on').selectOption({ label: 'Tape, 6 mm' })
  await page.getByText('The firm’s abbreviations').click()
  await page.getByLabel('Word', { exact: true }).fill('Honey warming cabinet')
  await page.getByLabel('Written as').fill('HWC')
  await page.getByLabel('Written as').press('Tab')
  await page.getByRole('button', { name: 'Add abbreviation' }).click()
  await expect(page.getByText('The firm’s abbreviations (1)')).toBeVisible()
  await expect(page.locator('svg text', { hasText: 'HWC' }).first()).toBeVisible()
  const id = /\/jobs\/([^/]+)/.exec(page.url())![1]!
  await expect(async () => expect(await (await page.request.get(`/api/jobs/${id}/labels.svg`)).text()).toContain('HWC')).toPass()
  await page.getByRole('button', { name: 'Remove Honey warming cabinet' }).click()
  await expect(page.getByText('The firm’s abbreviations', { exact: true })).toBeVisible()
})
