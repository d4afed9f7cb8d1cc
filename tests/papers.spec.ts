import { readFileSync } from 'node:fs'
import { test } from './support/test'
import type * as BigFile from './support/big-file'
import { bundled } from './support/bundled'
import { expect } from './support/expect'

// Papers are made one after another, whoever asked for them: these ask for so many that others would wait.
test.describe.configure({ mode: 'default' })

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
  const made = await page.request.post('/api/jobs/import', {
    data: bundled<typeof BigFile>('tests/support/big-file.ts').bigFile(40, 'Forty circuits'),
  })
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
  await expect(page.getByRole('alert').filter({ hasText: 'The server cannot be reached.' })).toBeVisible()
})
