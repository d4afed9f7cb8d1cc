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

test('a photograph is marked with an arrow and a measured length, taken off and put back, and set beside the one after', async ({
  page,
}) => {
  await newJob(page, 'united-kingdom', 'Marked', 'Village hall')
  const working = page.locator('aside')
  await working.getByLabel('Take or choose a photograph').setInputFiles([await shot(page, 'before.png'), await shot(page, 'after.png')])
  const thumbs = working.getByRole('button', { name: 'Photograph: nothing said of it yet' })
  await expect(thumbs).toHaveCount(2)
  await thumbs.first().click()
  const whole = page.getByRole('dialog')
  await whole.getByText('Before the work', { exact: true }).click()
  await whole.getByRole('button', { name: 'Arrow' }).click()
  const picture = whole.getByRole('img')
  const { x, y, width, height } = (await picture.boundingBox())!
  await page.mouse.move(x + width * 0.4, y + height * 0.4)
  await page.mouse.down()
  await page.mouse.move(x + width * 0.5, y + height * 0.6, { steps: 4 })
  await page.mouse.up()
  await whole.getByLabel('What the arrow points at').fill('Loose neutral')
  await whole.getByRole('button', { name: 'Add mark' }).click()
  await whole.getByRole('button', { name: 'Measured length' }).click()
  await expect(whole.getByRole('button', { name: 'Add mark' })).toBeDisabled()
  await whole.getByLabel('Length', { exact: true }).fill('1.2')
  await whole.getByLabel('Length', { exact: true }).press('Tab')
  await picture.press('ArrowDown')
  await whole.getByRole('button', { name: 'Add mark' }).click()
  await whole.getByRole('button', { name: 'Remove Arrow: Loose neutral' }).click()
  await expect(picture).toHaveAccessibleName(/\. 1\.2 m$/)
  await whole.getByRole('button', { name: 'Restore Arrow: Loose neutral' }).click()
  await expect(picture).toHaveAccessibleName(/1\.2 m; Arrow: Loose neutral/)
  await whole.getByRole('button', { name: 'Close' }).click()
  await thumbs.nth(1).click()
  await whole.getByText('After the work', { exact: true }).click()
  await whole.getByRole('button', { name: 'Close' }).click()
  await saved(page)
  await reload(page)
  await working.getByRole('button', { name: 'Before and after' }).click()
  await expect(whole.getByRole('img')).toHaveCount(2)
  await expect(whole.getByRole('img').first()).toHaveAccessibleName(/Loose neutral/)
  const job = /jobs\/([^/]+)/.exec(page.url())![1]!
  const paper = await page.request.get(`/api/jobs/${job}/photographs.pdf`)
  const boxes = (await textOf(await paper.body())).boxes.map((b) => b.text).join(' ')
  expect(boxes).toMatch(/Before.*After/)
  expect(boxes).toContain('Loose neutral')
})
