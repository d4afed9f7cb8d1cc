import type { Page } from '@playwright/test'
import { test } from './support/test'
import { expect } from './support/expect'
import { newJob, reload, saved } from './support/walk'
import { textOf } from './support/pdf'

/** A picture as a camera makes it: larger than is kept, and of many colours. */
async function shot(page: Page, name: string) {
  const data = await page.evaluate(() => {
    const canvas = Object.assign(document.createElement('canvas'), { width: 3200, height: 2400 })
    const on = canvas.getContext('2d')!
    for (let i = 0; i < 48; i++) {
      on.fillStyle = `hsl(${i * 30} 60% ${40 + (i % 5) * 8}%)`
      on.fillRect((i % 8) * 400, Math.floor(i / 8) * 400, 380, 380)
    }
    return canvas.toDataURL('image/png').split(',')[1]!
  })
  return { name, mimeType: 'image/png', buffer: Buffer.from(data, 'base64') }
}

test('a board is photographed without a connection, seen by another hand, put away and brought back, and printed', async ({
  page,
  context,
  browser,
}) => {
  await newJob(page, 'united-kingdom', 'Photographed', 'Village hall')
  const job = /jobs\/([^/]+)/.exec(page.url())![1]!
  await page.goto(`/jobs/${job}/survey?sheet=board`)
  await saved(page)
  const working = page.locator('aside')
  const door = await shot(page, 'door.png')
  await context.setOffline(true)
  await working.getByLabel('Take or choose a photograph').setInputFiles([door])
  await expect(working.getByText('waits here')).toBeVisible()
  await working.getByRole('button', { name: 'Photograph: nothing said of it yet' }).click()
  const whole = page.getByRole('dialog')
  await whole.getByRole('textbox', { name: 'What it shows' }).fill('Cover off, upper row')
  await whole.getByRole('textbox', { name: 'What it shows' }).press('Tab')
  await whole.getByRole('button', { name: 'Close' }).click()
  await context.setOffline(false)
  await saved(page)
  await expect(working.getByText('waits here')).toHaveCount(0)

  // Another hand sees it where everything is handed over, no larger than is kept and upright.
  const other = await (await browser.newContext({ serviceWorkers: 'block' })).newPage()
  await other.goto(`/jobs/${job}/handover`)
  const kept = other.getByRole('button', { name: 'Photograph: Cover off, upper row' })
  await expect(kept).toBeVisible()
  await expect.poll(() => kept.locator('img').evaluate((i: HTMLImageElement) => [i.naturalWidth, i.naturalHeight])).toEqual([1600, 1200])

  await working.getByRole('button', { name: 'Photograph: Cover off, upper row' }).click()
  await whole.getByRole('button', { name: 'Put away' }).click()
  await expect(kept).toHaveCount(0)
  await other.getByRole('button', { name: '1 put away' }).click()
  await other.getByRole('button', { name: 'Bring back' }).click()
  await expect(working.getByRole('button', { name: 'Photograph: Cover off, upper row' })).toBeVisible()
  await other.close()

  await reload(page)
  await expect(working.getByRole('button', { name: 'Photograph: Cover off, upper row' })).toBeVisible()
  const paper = await page.request.get(`/api/jobs/${job}/photographs.pdf`)
  const words = (await textOf(await paper.body())).boxes.map((b) => b.text).join(' ')
  expect(words).toContain('Cover off, upper row')

  await working
    .getByLabel('Take or choose a photograph')
    .setInputFiles([{ name: 'note.txt', mimeType: 'text/plain', buffer: Buffer.from('no') }])
  await expect(working.getByRole('alert')).toContainText('note.txt cannot be read as a picture')
})
