import { test } from './support/test'
import { expect } from './support/expect'
import { working } from './support/survey'
import { newJob, openCopy, saved, stage } from './support/walk'

test('what is open and what is found lead to the field that answers them, across stages', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Asked for where it is needed', 'Village hall')
  await stage(page, 'Handover').click()
  await page.getByRole('button', { name: 'How long is the run from the board?' }).click()
  await expect(page.getByLabel('Length, one way')).toBeFocused()
  await page.keyboard.type('18')
  await page.getByRole('button', { name: 'Which accessory is at this point?' }).click()
  await expect(page.getByLabel('Accessory')).toBeFocused()
  await page.getByRole('button', { name: 'What does the appliance draw? Read its nameplate.' }).click()
  await expect(page).toHaveURL(/brief$/)
  await expect(page.getByLabel('Power', { exact: true })).toBeFocused()
  await page.keyboard.type('2000')
  await page.keyboard.press('Tab')
  await saved(page)
  // Ze is asked for by the circuit and given in the brief.
  await stage(page, 'Circuit').click()
  await working(page).getByRole('button', { name: 'Go to “Ze measured at the board”' }).first().click()
  await expect(page).toHaveURL(/brief$/)
  await expect(page.getByLabel('Ze measured at the board')).toBeFocused()
})

type Led = readonly [finding: RegExp, picked: RegExp, field: string]
const leadsOf: readonly (readonly ['former-dairy' | 'honey-house', readonly Led[]])[] = [
  [
    'former-dairy',
    [
      [/^.*Above the tank stand is hidden/, /^Above the tank stand$/, 'Hidden: behind plaster or above a ceiling'],
      [/Sunny wall conduit: it changes its length/, /^Sunny wall conduit$/, 'Coldest over the year'],
      [/Bench, right: A workshop/, /^Bench, right$/, 'Accessory here'],
    ],
  ],
  [
    'honey-house',
    [
      [/Plugs, store: its neutral is on the main neutral bar/, /^Way 2 Plugs, store$/, 'Neutral bar'],
      [/Trough wall, outlet at .* from the basin/, /^Extractor$/, 'From the left'],
      [/The size and kind of the cable that stays is not known/, /^What is there$/, 'The cable that stays leads to'],
    ],
  ],
]
for (const [demo, led] of leadsOf)
  test(`from the handover of the ${demo} a finding leads into the field of what it is about, picked among others like it`, async ({
    page,
  }) => {
    await openCopy(page, demo, 'handover')
    for (const [finding, picked, field] of led) {
      await page.getByRole('listitem').filter({ hasText: finding }).getByRole('button').click()
      await expect(page.locator('aside h2').first()).toHaveText(picked)
      await expect(page.getByLabel(field).and(page.locator(':focus'))).toBeVisible()
      await stage(page, 'Handover').click()
    }
  })

test('a finding of another circuit takes that circuit in hand', async ({ page }) => {
  await openCopy(page, 'village-hall')
  await stage(page, 'Handover').click()
  const finding = page.getByRole('listitem').filter({ hasText: 'Old spur behind the piano has 3 outlets' })
  await expect(finding).toContainText('Ring, hall and kitchen')
  await finding.getByRole('button').click()
  await expect(page).toHaveURL(/circuit\?sheet=this(&|$)/)
  await expect(page.getByLabel('Current circuit').locator('option:checked')).toContainText('Ring, hall and kitchen')
})

test('on a phone the field that is led to is pulled up from the foot', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage()
  await newJob(page, 'united-kingdom', 'Led to on a phone', 'Village hall', { at: 'handover' })
  await expect(page.locator('section[aria-label="Handover: the drawing"]')).toBeVisible()
  await page.getByRole('button', { name: 'Values and working' }).tap()
  await page.getByRole('button', { name: /How long is the run from the board/ }).tap()
  const field = page.getByLabel('Length, one way')
  await expect(field).toBeFocused()
  const box = (await field.boundingBox())!
  expect(box.y).toBeGreaterThan(100)
  expect(box.y + box.height).toBeLessThan(844 - 64)
})
