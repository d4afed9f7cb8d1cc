import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { bigJob } from '../scripts/big-job'
import { writeJobFile } from '../src/core/job/file'
import { goTo, makeFirstTests, openCopy } from './support/walk'

// Settings hold for every page of the server, so these run when nothing else does.
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
  await page.reload()
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
  await page.getByLabel('Wanted at least').fill('30')
  await page.getByLabel('Wanted at least').press('Tab')
  await page.getByRole('button', { name: 'History' }).click()
  await expect(page.getByRole('dialog').getByRole('listitem').first()).toContainText('Apprentice')
})

test('who measures is asked where the first reading is taken, and stands on it', async ({ page }) => {
  await page.request.post('/api/settings', { data: { name: '' } })
  await openCopy(page, 'honey-house')
  await goTo(page, 'Test')
  const working = page.getByRole('complementary')
  await working.getByLabel(/^Who measures/).fill('The beekeeper')
  await working.getByLabel(/^Who measures/).press('Tab')
  await makeFirstTests(page, 1)
  await page.getByRole('region', { name: 'Test: the drawing' }).locator('tbody tr').first().getByRole('button').click()
  await expect(working.getByText(/^The beekeeper ·/)).toBeVisible()
  await page.reload()
  await expect(
    working
      .getByText('The reading that counts')
      .or(working.getByRole('button', { name: 'Done and seen' }))
      .first(),
  ).toBeVisible()
  await expect(working.getByLabel(/^Who measures/)).toHaveCount(0)
  await page.request.post('/api/settings', { data: { name: '' } })
})

test('papers are made aside: others are answered meanwhile, and more than can be made soon are refused', async ({ request }) => {
  const papers = Promise.all(Array.from({ length: 12 }, () => request.get('/api/jobs/village-hall/record.pdf', { timeout: 85_000 })))
  const waits: number[] = []
  for (let i = 0; i < 10; i++) {
    const start = Date.now()
    expect((await request.get('/api/jobs/village-hall')).status()).toBe(200)
    waits.push(Date.now() - start)
  }
  const made = await papers
  expect(new Set(made.map((r) => r.status()))).toEqual(new Set([200, 503]))
  const whole = made.find((r) => r.status() === 200)!
  expect((await whole.body()).subarray(0, 5).toString()).toBe('%PDF-')
  // Made where they are asked for, one record alone would hold everybody up for longer.
  expect(waits.toSorted((a, b) => a - b)[5]!).toBeLessThan(1500)
})

test('a long paper says how far it is, can be left, and is had whole', async ({ page }) => {
  const made = await page.request.post('/api/jobs/import', { data: writeJobFile({ ...bigJob(40), title: 'Forty circuits' }, []) })
  const { id } = (await made.json()) as { id: string }
  await page.goto(`/jobs/${id}/handover`)
  const record = page.getByRole('link', { name: /^Record / })
  await record.click()
  const status = page.getByRole('status').filter({ hasText: 'Record' })
  await expect(status).toContainText(/Record: (being made|being laid out|\d+ % written)/)
  await status.getByRole('button', { name: 'Cancel' }).click()
  await expect(status).toBeHidden()
  await record.click()
  await expect(status).toContainText(/\d+ % written/, { timeout: 40_000 })
  const paper = await page.waitForEvent('download', { timeout: 60_000 })
  expect(paper.suggestedFilename()).toBe('Forty-circuits-record.pdf')
  expect(
    readFileSync(await paper.path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-')
  await expect(status).toBeHidden()
  await page.request.delete(`/api/jobs/${id}`)
})

test('a paper that cannot be made says why, where it was asked for', async ({ page }) => {
  await page.goto('/jobs/honey-house/handover')
  await page.route('**/labels.pdf*', (r) =>
    r.fulfill({ status: 503, json: { error: { path: '', message: 'Many papers are being made.' } } }),
  )
  await page.getByRole('link', { name: /^Labels, PDF/ }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'Labels, PDF: Many papers are being made.' })).toBeVisible()
  await page.route('**/design.pdf*', (r) => r.abort())
  await page.getByRole('link', { name: /^Design sheets/ }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'The server that makes papers cannot be reached.' })).toBeVisible()
})
