import { writeFile } from 'node:fs/promises'
import type { Page } from '@playwright/test'
import sharp from 'sharp'
import { test } from './support/test'
import { expect } from './support/expect'
import { alive, openCopy } from './support/walk'

/** The label at the board of the second circuit, as it would be photographed: large, on a grey wall, a little askew. */
async function labelOfSecondCircuit(page: Page, job: string): Promise<{ circuit: string; png: Buffer }> {
  const { circuits } = (await (await page.request.get(`/api/jobs/${job}`)).json()).job as { circuits: { id: string; name: string }[] }
  const { id, name } = circuits[1]!
  await page.goto(`/jobs/${job}/handover?circuit=${id}`)
  const main = page.locator('main')
  await expect(main.getByRole('heading', { name: `Labels for ${name}` })).toBeVisible()
  await main.getByLabel('Printed on').selectOption({ label: 'Tape, 24 mm' })
  await main.getByLabel('QR code that opens this circuit').check()
  const svg = main.locator('li', { hasText: '× 24 mm' }).locator('svg').first()
  await expect(svg.locator('path').first()).toBeAttached()
  const path = await svg.evaluate((drawn) => ({
    box: drawn.getAttribute('viewBox')!,
    codes: [...drawn.querySelectorAll('path')].map((p) => p.getAttribute('d')!),
  }))
  const drawn = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="240" viewBox="${path.box}"><rect x="-99" y="-99" width="999"
    height="999" fill="#f4f2ea"/>${path.codes.map((d) => `<path d="${d}" fill="#111"/>`).join('')}</svg>`
  const png = await sharp(Buffer.from(drawn)).rotate(7, { background: '#8a8a86' }).flatten({ background: '#8a8a86' }).png().toBuffer()
  return { circuit: id, png }
}

/** A film of one still picture, as a camera would give it: YUV4MPEG2, 4:2:0, all of it grey. */
async function film(png: Buffer, path: string) {
  const [wide, high] = [640, 480]
  const grey = await sharp(png).resize(wide, high, { fit: 'contain', background: '#8a8a86' }).greyscale().raw().toBuffer()
  const frame = Buffer.concat([Buffer.from('FRAME\n'), grey, Buffer.alloc((wide * high) / 2, 128)])
  await writeFile(path, Buffer.concat([Buffer.from(`YUV4MPEG2 W${wide} H${high} F10:1 Ip A1:1 C420jpeg\n`), frame, frame]))
}

test('a label is scanned from a photograph, in the list of jobs and within a job', async ({ page }) => {
  await openCopy(page, 'village-hall', 'handover')
  const job = /\/jobs\/([^/?]+)/.exec(page.url())![1]!
  const { circuit, png } = await labelOfSecondCircuit(page, job)
  const picture = { name: 'label.png', mimeType: 'image/png', buffer: png }

  await page.goto('/')
  await alive(page)
  await page.getByRole('button', { name: 'Scan a label' }).click()
  const panel = page.getByRole('dialog', { name: 'Scan a label' })
  await panel.getByLabel('Photograph of a label').setInputFiles({
    name: 'wall.png',
    mimeType: 'image/png',
    buffer: await sharp({ create: { width: 300, height: 200, channels: 3, background: '#8a8a86' } })
      .png()
      .toBuffer(),
  })
  await expect(panel.getByText('No QR code was found in wall.png')).toBeVisible()
  await panel
    .getByLabel('Photograph of a label')
    .setInputFiles({ name: 'note.txt', mimeType: 'text/plain', buffer: Buffer.from('no picture') })
  await expect(panel.getByText('note.txt could not be read as a picture.')).toBeVisible()
  await panel.getByLabel('Photograph of a label').setInputFiles(picture)
  await expect(page).toHaveURL(new RegExp(`/jobs/${job}/circuit\\?.*circuit=${circuit}`))

  // Within the job another circuit is in hand; the label's is taken up.
  await page.goto(`/jobs/${job}/brief`)
  await alive(page)
  await page.keyboard.press('Control+k')
  await page.getByPlaceholder('What do you want to do?').fill('scan a label')
  await page.keyboard.press('Enter')
  await page.getByRole('dialog', { name: 'Scan a label' }).getByLabel('Photograph of a label').setInputFiles(picture)
  await expect(page).toHaveURL(new RegExp(`/jobs/${job}/circuit\\?.*circuit=${circuit}`))
})

test('a label is scanned through the camera', async ({ page, playwright, launchOptions, baseURL }, info) => {
  await openCopy(page, 'village-hall', 'handover')
  const job = /\/jobs\/([^/?]+)/.exec(page.url())![1]!
  const { circuit, png } = await labelOfSecondCircuit(page, job)
  const y4m = info.outputPath('label.y4m')
  await film(png, y4m)
  const camera = await playwright.chromium.launch({
    ...launchOptions,
    args: [
      ...(launchOptions.args ?? []),
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${y4m}`,
    ],
  })
  const seen = await (await camera.newContext({ baseURL: baseURL!, serviceWorkers: 'block' })).newPage()
  await seen.goto('/')
  await alive(seen)
  await seen.getByRole('button', { name: 'Scan a label' }).click()
  await expect(seen).toHaveURL(new RegExp(`/jobs/${job}/circuit\\?.*circuit=${circuit}`))
  await camera.close()
})
