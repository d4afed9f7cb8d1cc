import { readFileSync } from 'node:fs'
import { writeJobFile } from '../src/core/job/file'
import { met, whole } from './support/signed-job'
import { expect } from './support/expect'
import { test } from './support/test'
import { goTo, openCopy, saved as allSaved } from './support/walk'

/** A job of its own title at each try: bringing in a second of one title and place is asked about. */
function file(): string {
  const job = { ...whole(), title: `An urn, ${Date.now()}` }
  return JSON.stringify(writeJobFile(job, met(job)))
}
const saved = async (download: import('@playwright/test').Download) => readFileSync((await download.path())!)

test('a record is signed once its tests are met, and what changes later is the next issue', async ({ page }) => {
  await page.goto('/')
  await page
    .getByLabel('Job file or archive')
    .setInputFiles({ name: 'urn.json', mimeType: 'application/json', buffer: Buffer.from(file()) })
  await expect(page).toHaveURL(/\/jobs\/[0-9a-f-]{36}/)
  const job = /\/jobs\/([^/?]+)/.exec(page.url())![1]!
  await page.goto(`/jobs/${job}/handover`)
  const aside = page.locator('aside')
  await expect(aside.getByText('Not signed yet.')).toBeVisible()
  await aside.getByLabel('Name', { exact: true }).fill('Ben')
  await aside.getByLabel('Qualification').fill('Electrician')
  await aside.getByLabel('Qualification').press('Tab')
  await aside.getByRole('button', { name: 'Sign the record' }).click()
  await expect(aside.getByText('Issue 1')).toBeVisible()
  await expect(aside.getByText(/^The work: Ben, Electrician/)).toBeVisible()
  // Something changes: the reading no longer stands for it alone, and the next signature is another issue.
  await page.goto(`/jobs/${job}/brief`)
  await page.getByLabel('In the customer’s words').fill('An urn, and a light')
  await page.getByLabel('In the customer’s words').press('Tab')
  await expect(page.getByText('Saved')).toBeVisible()
  await page.goto(`/jobs/${job}/handover`)
  await expect(aside.getByText('The record has changed since issue 1 was signed.')).toBeVisible()
  await aside.getByLabel('Name', { exact: true }).fill('Cleo')
  await aside.getByLabel('Name', { exact: true }).press('Tab')
  await aside.getByRole('button', { name: 'Sign the record' }).click()
  await expect(aside.getByText('Issue 2')).toBeVisible()
  await expect(aside.getByText('The record has changed since')).toHaveCount(0)
  // The first is had as it was signed.
  const asked = page.waitForEvent('download')
  await aside.getByRole('link', { name: 'The pack as it was signed' }).first().click()
  expect((await saved(await asked)).subarray(0, 5).toString()).toBe('%PDF-')
  // All of it goes into one file, and comes back from it.
  const all = page.waitForEvent('download')
  await page.getByRole('link', { name: /^Archive/ }).click()
  const archive = await saved(await all)
  await page.goto('/')
  await page.getByLabel('Job file or archive').setInputFiles({ name: 'urn.zip', mimeType: 'application/zip', buffer: archive })
  await expect(page.getByText(/brought in\. There was one of this title and place already/)).toBeVisible()
  await page.getByRole('button', { name: 'Open the one brought in' }).click()
  await expect(page).toHaveURL((url) => /\/jobs\//.test(url.pathname) && !url.pathname.includes(job))
  await page.goto(`/jobs/${/\/jobs\/([^/?]+)/.exec(page.url())![1]!}/handover`)
  await expect(aside.getByText('Issue 2')).toBeVisible()
})

test('what keeps a record from being signed is listed, and the pack holds the parts that were chosen', async ({ page }) => {
  await page.goto('/jobs/village-hall/handover')
  await expect(page.locator('aside').getByText('It cannot be signed yet:')).toBeVisible()
  await expect(page.locator('aside').getByText(/^Tea urn: 7 isolation steps not met/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Sign the record' })).toHaveCount(0)
  const parts = page
    .getByRole('region', { name: 'What goes into the pack' })
    .or(page.locator('section', { hasText: 'What goes into the pack' }).last())
  for (const label of ['Boxes', 'Annex: every figure worked out', 'Test results']) await parts.getByLabel(label, { exact: true }).uncheck()
  const asked = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Make the pack' }).click()
  expect((await saved(await asked)).subarray(0, 5).toString()).toBe('%PDF-')
})

test('a backup is made by a button, says how old it is, and can be taken away', async ({ page }) => {
  await page.goto('/')
  const backup = page.getByRole('region', { name: 'Backup' })
  await backup.getByRole('button', { name: 'Back up now' }).click()
  await expect(backup.getByText(/^Last backup: \d\d:\d\d/)).toBeVisible({ timeout: 15_000 })
  const asked = page.waitForEvent('download')
  await backup.getByRole('link', { name: 'Download it' }).click()
  expect((await saved(await asked)).subarray(0, 2).toString()).toBe('PK')
})

test('labels are set for tape, carry a code, are ticked when stuck, and say when they are no longer true', async ({ page }) => {
  await page.goto('/')
  await page.getByLabel('Job file or archive').setInputFiles({
    name: 'labels.json',
    mimeType: 'application/json',
    buffer: Buffer.from(file().replace('"title":"Urn"', '"title":"Labelled urn"')),
  })
  await expect(page).toHaveURL(/\/jobs\/[0-9a-f-]{36}/)
  const job = /\/jobs\/([^/?]+)/.exec(page.url())![1]!
  await page.goto(`/jobs/${job}/handover`)
  const main = page.locator('main')
  await main.getByLabel('Printed on').selectOption({ label: 'Tape, 18 mm' })
  await expect(main.getByText(/× 18 mm$/).first()).toBeVisible()
  const bare = await main.getByText(/^Entry at the consumer unit, /).innerText()
  await main.getByLabel('QR code that opens this circuit').check()
  // The code makes each label longer.
  await expect(main.getByText(/^Entry at the consumer unit, /)).not.toHaveText(bare)
  await main.getByLabel('Address in the code').fill('ftp://van')
  await main.getByLabel('Address in the code').press('Tab')
  await expect(page.getByText('An address that begins with http:// or https://')).toBeVisible()
  await main.getByRole('button', { name: /^Mark all \d+ remaining labels as stuck$/ }).click()
  await expect(main.getByLabel('Stuck').first()).toBeChecked()
  await expect(page.getByText('Saved')).toBeVisible()
  await page.goto(`/jobs/${job}/brief`)
  await page.getByLabel('Circuit is called').fill('Urn and light')
  await page.getByLabel('Circuit is called').press('Tab')
  await expect(page.getByText('Saved')).toBeVisible()
  await page.goto(`/jobs/${job}/handover`)
  await expect(main.getByText(/labels no longer say what is there/)).toBeVisible()
  await expect(main.getByText('The label in place says something else.').first()).toBeVisible()
  await main.getByLabel('Replaced by this one').first().check()
  await expect(main.getByLabel('Stuck').first()).toBeChecked()
})

test('what is due again is entered, listed over all jobs with a calendar, and marked as done', async ({ page }) => {
  await openCopy(page, 'honey-house', 'handover')
  const due = page.locator('section', { has: page.getByRole('heading', { name: 'Due again' }) })
  await due.getByLabel('What', { exact: true }).fill('Inspection and test')
  await due.getByLabel('Due on').fill('2031-05-20')
  await due.getByRole('button', { name: 'Add' }).click()
  await expect(due.getByText('due on 20 May 2031')).toBeVisible()
  await allSaved(page)
  const job = page.url()
  await goTo(page, 'Brief')
  await expect(page.getByRole('heading', { name: 'Other jobs at this place' })).toBeVisible()
  await page.goto('/due')
  const may = page.getByRole('region', { name: 'May 2031' })
  await expect(may).toContainText('Inspection and test')
  const calendar = await page.request.get('/api/due')
  expect(calendar.headers()['content-type']).toContain('text/calendar')
  expect(await calendar.text()).toContain('20310520')
  await may.getByRole('link').first().click()
  await page.goto(job)
  await due.getByRole('button', { name: 'Inspection and test: done today' }).click()
  await allSaved(page)
  await page.goto('/due')
  await expect(page.getByText('20 May 2031')).toHaveCount(0)
})
