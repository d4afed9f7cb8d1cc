import { readFileSync } from 'node:fs'
import type * as JobFiles from '../src/core/job/file'
import { bundled } from './support/bundled'
import { expect } from './support/expect'
import type * as Figures from './support/figures'
import { test } from './support/test'
import { wholeJobs } from './support/whole-jobs'

const { readJobFile } = bundled<typeof JobFiles>('src/core/job/file.ts')
const whole = wholeJobs(readJobFile)
  .filter((f) => !f.startsWith('demo-'))
  // All of them on demand: FIGURES=all npx playwright test tests/figures.spec.ts.
  .filter((_, i) => process.env.FIGURES === 'all' || i % 70 === 7)
const { everyFigure } = bundled<typeof Figures>('tests/support/figures.ts')

for (const demo of ['former-dairy', 'village-hall', 'honey-house'])
  test(`${demo}: every figure on every sheet is the core’s own`, async ({ page }) => {
    await page.goto(`/jobs/${demo}/brief`)
    await everyFigure(page, demo)
  })

test('there are whole jobs to walk', () => expect(whole.length).toBeGreaterThan(1))

for (const file of whole)
  test(`${file} brought in: every figure on every sheet is the core’s own`, async ({ page }) => {
    const made = await page.request.post('/api/jobs/import', { data: JSON.parse(readFileSync(`tests/jobs/${file}`, 'utf8')) })
    expect(made.ok(), file).toBe(true)
    const { id } = (await made.json()) as { id: string }
    await everyFigure(page, id)
    await page.request.delete(`/api/jobs/${id}`)
  })
