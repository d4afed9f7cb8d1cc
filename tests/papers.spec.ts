import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { bigJob } from '../scripts/big-job'
import { writeJobFile } from '../src/core/job/file'

test('a long paper says how far it is, can be left, and is had whole', async ({ page }) => {
  const made = await page.request.post('/api/jobs/import', { data: writeJobFile({ ...bigJob(60), title: 'Sixty circuits' }, []) })
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
  expect(paper.suggestedFilename()).toBe('Sixty-circuits-record.pdf')
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
