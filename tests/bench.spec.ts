import type { Page } from '@playwright/test'
import { test } from './support/test'
import { expect } from './support/expect'
import { openCopy, reload, saved } from './support/walk'

const sheetOf = (page: Page, stage: string, name: string) =>
  page.locator(`nav[aria-label="Sheets of the ${stage}"]`).getByRole('button', { name, exact: true }).click()
const circuit = async (page: Page, name: string) => {
  const all = page.getByLabel('Current circuit')
  const options = await all.locator('option').allInnerTexts()
  await all.selectOption({ index: options.findIndex((o) => o.startsWith(name)) })
}
const part = (page: Page, name: string) => page.locator(`svg:visible [data-part="${name}"]`)

test('line and load of a residual outlet exchanged: seen at once, put right, printed', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'wiring')
  await sheetOf(page, 'wiring', 'Bench')
  await circuit(page, 'Wheel outlets')
  const working = page.locator('aside')
  await expect(working.getByText('A ground fault here trips GFCI, Pottery wheel.').first()).toBeVisible()
  // One by drawing it there, one by taking it and then its screw.
  await part(page, 'end to-end-c2 line').locator('rect.ring').dragTo(part(page, 'to d1 LOAD HOT').locator('rect.ring'))
  await saved(page)
  await expect(page.getByText('Picked up:')).toHaveCount(0)
  await part(page, 'end to-end-c2 neutral').click()
  await expect(page.getByText('Picked up:')).toBeVisible()
  await part(page, 'to d1 LOAD N').click()
  await saved(page)
  await expect(page.getByText('Wired by hand.')).toBeVisible()
  await expect(working.getByText(/Pottery wheel is not protected by a GFCI at Pottery wheel.*put the feed on LINE/)).toBeVisible()
  await expect(working.getByText('No GFCI device trips on a ground fault here.').first()).toBeVisible()
  // By keyboard: the letters of a conductor, then its screw.
  for (const [core, terminal] of [
    ['line', 'LINE HOT'],
    ['neutral', 'LINE N'],
  ] as const) {
    await part(page, `end to-end-c2 ${core}`).focus()
    await page.keyboard.press('Enter')
    await part(page, `to d1 ${terminal}`).focus()
    await page.keyboard.press('Enter')
  }
  await expect(working.getByText(/is not protected by a GFCI/)).toHaveCount(0)
  await expect(working.getByText('A ground fault here trips GFCI, Pottery wheel.').first()).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Page to stick up' }).click()
  expect((await download).suggestedFilename()).toMatch(/boxes\.pdf$/)
})

test('a short opens the breaker, a loose screw runs hot, switched off it is dead: nothing of it is kept', async ({ page }) => {
  await openCopy(page, 'honey-house', 'wiring')
  await sheetOf(page, 'wiring', 'Bench')
  const working = page.locator('aside')
  const line = working.getByRole('button', { name: /^(brown|red) of the cable from/i })
  await line.click()
  await working.getByLabel('Goes to').selectOption({ label: 'E' })
  await expect(page.getByRole('list', { name: 'What trips' })).toContainText(/trips: /)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('list', { name: 'What trips' })).toHaveCount(0)
  await expect(page.getByText('Standard wiring.')).toBeVisible()
  await page.getByRole('button', { name: 'outlet: empty' }).click()
  await page.getByRole('button', { name: 'outlet: 100 W' }).click()
  await expect(working.getByText(/1\d\d\d W/)).toBeVisible()
  await working.getByLabel('Try it loose (not saved)').check()
  await expect(working.getByText(/turns \d+ W to heat/)).toBeVisible()
  await page.getByRole('button', { name: /circuit-breaker of Warming cabinet/ }).click()
  await expect(working.getByText(/^Dead \(/)).toBeVisible()
  // What stays as it is is alive beside it, until its own breaker is off.
  const besides = working.locator('section', { hasText: 'What else is in the box' })
  const light = besides.locator('li li', { hasText: 'Store light' })
  await expect(light).toContainText('230 V')
  await besides.locator('li', { hasText: 'Lights' }).getByRole('button', { name: 'on' }).first().click()
  await expect(light).toContainText('dead')
  await expect(page.getByText('Standard wiring.')).toBeVisible()
})

test('a two-way pair on three cores is wired from an empty box, and works from either end', async ({ page }) => {
  await openCopy(page, 'village-hall', 'wiring')
  await sheetOf(page, 'wiring', 'Bench')
  await circuit(page, 'Stage lights')
  const working = page.locator('aside')
  const box = page.getByLabel('Box you work on')
  // The box in hand is the same on both sheets.
  await box.selectOption({ label: 'Back bar' })
  await sheetOf(page, 'wiring', 'Order of work')
  await expect(page.getByLabel('Points you work on').locator('option:checked')).toHaveText(/^Back bar: /)
  await sheetOf(page, 'wiring', 'Bench')
  await expect(box.locator('option:checked')).toHaveText('Back bar')
  // The first two boxes become switches, the cable between them has three cores.
  await box.selectOption({ label: 'Front bar' })
  await working.getByLabel('Cores of the cable to Back bar').selectOption('three')
  await working.getByRole('button', { name: 'Disconnect every conductor' }).click()
  await working.getByRole('button', { name: 'Remove Light' }).click()
  await working.getByLabel('Put a device in').selectOption({ label: 'Two-way plate switch' })
  await expect(working.getByText(/ends nowhere: make it off/).first()).toBeVisible()
  const make = async (end: string, to: string) => {
    await part(page, `end ${end}`).click()
    await part(page, `to ${to}`).click()
    await expect(part(page, `end ${end}`)).toHaveAttribute('aria-label', /, on /)
  }
  await make('to-l1 line', 'd1 com')
  await make('to-l2 line', 'd1 one')
  await make('to-l2 line-2', 'd1 two')
  await make('to-l1 pe', 'd1 e')
  await make('to-l2 pe', 'd1 e')
  await working.getByLabel('Add a connector').selectOption({ label: 'Lever connector, 3 conductors' })
  await make('to-l1 neutral', 'j1')
  await make('to-l2 neutral', 'j1')
  const boxes = await box.locator('option').allInnerTexts()
  await box.selectOption({ index: boxes.findIndex((o) => o.startsWith('Back bar')) })
  // Its light is on the other switch: the common of a second two-way switch in the same box.
  await working.getByLabel('Put a device in').selectOption({ label: 'Two-way plate switch' })
  await working.getByLabel('Add a pigtail').selectOption({ label: 'brown' })
  await make('to-l2 line', 'd2 one')
  await make('to-l2 line-2', 'd2 two')
  const tail = async (side: number, to: RegExp) => {
    await working
      .getByRole('button', { name: /^brown pigtail/i })
      .nth(side)
      .click()
    const places = working.getByLabel('Goes to')
    const all = await places.locator('option').allInnerTexts()
    await places.selectOption({ index: all.findIndex((o) => to.test(o)) })
  }
  await tail(0, /^COM/)
  await working
    .getByRole('button', { name: /^brown pigtail/i })
    .nth(0)
    .click()
  await tail(1, /^L of Light$/)
  // The switch before them stays on.
  await page
    .getByRole('button', { name: /Light switch.*off/ })
    .first()
    .click()
  const lamp = working.getByText(/Back bar, lamp/).locator('..')
  const flip = (n: number) =>
    page
      .getByRole('button', { name: /switch: position/ })
      .nth(n)
      .click()
  await expect(lamp).toContainText(/\d+ W/)
  await flip(0)
  await expect(lamp).not.toContainText(/\d+ W/)
  await flip(1)
  await expect(lamp).toContainText(/\d+ W/)
  await saved(page)
  await reload(page)
  await circuit(page, 'Stage lights')
  await box.selectOption({ index: boxes.findIndex((o) => o.startsWith('Front bar')) })
  await expect(page.getByText('Wired by hand.')).toBeVisible()
})

test('how a box is held: layers against the clamp, the stud beside it, and a template to cut by', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'boxes')
  await circuit(page, 'Wheel outlets')
  const working = page.locator('aside')
  await working.getByLabel('Box', { exact: true }).selectOption('na-old-20')
  await sheetOf(page, 'boxes', 'In the wall')
  await expect(working.getByText('What is the wall made of there?', { exact: false })).toBeVisible()
  await working.getByText('Wall is finished').click()
  for (const layer of ['cabinet', 'gap', 'board']) await working.getByLabel('One layer more, further in').selectOption(layer)
  await expect(working.getByText(/slip the clamp into the gap/)).toBeVisible()
  const fill = async (label: string, value: string) => {
    await working.getByLabel(label).fill(value)
    await working.getByLabel(label).press('Tab')
  }
  await fill('up to', '45 mm')
  await fill('Free behind it', '90 mm')
  await fill('Middle to the nearest stud', '20 mm')
  await expect(working.getByText(/A stud is .* from its middle/)).toBeVisible()
  await fill('Middle to the nearest stud', '120 mm')
  await expect(working.getByText('It can be held there, by what was entered.')).toBeVisible()
  await fill('Wide, outside', '60 mm')
  await expect(page.getByRole('img', { name: 'How the box is held' })).toContainText('as measured')
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Template, real size' }).click()
  expect((await download).suggestedFilename()).toMatch(/template\.pdf$/)
})
