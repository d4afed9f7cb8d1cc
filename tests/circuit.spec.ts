import type { Page } from '@playwright/test'
import { test } from './support/test'
import { blankPoint } from '../src/core/job/point'
import { newRaceway } from '../src/core/job/raceway'
import { expect } from './support/expect'
import { working } from './support/survey'
import { newJob, openCopy, reload, saved, stage } from './support/walk'

/** Goes to a sheet of the circuit stage. */
async function sheet(page: Page, name: string) {
  if (!new URL(page.url()).pathname.endsWith('/circuit')) {
    await stage(page, 'Circuit').click()
    await expect(page).toHaveURL(/circuit/)
  }
  const tab = page.locator('nav[aria-label="Sheets of the circuit"]').getByRole('button', { name, exact: true })
  await tab.click()
  await expect(tab).toHaveAttribute('aria-current', 'page')
  await expect(page.locator('section[aria-label="Circuit: the drawing"]')).toBeVisible()
}
/** Goes to the board, where new circuits are put in their ways. */
async function board(page: Page) {
  await stage(page, 'Survey').click()
  await page
    .locator('nav[aria-label="Sheets of the survey"]')
    .getByRole('button', { name: /^(Board|Panel)$/ })
    .click()
  await expect(page.getByRole('region', { name: /^The .*, drawn$/ })).toBeVisible()
}
const surveyed = (page: Page) => page.locator('section[aria-label="Survey: the drawing"]')
const pick = (page: Page, name: string) => page.getByLabel('Current circuit').selectOption({ label: name })
const drawing = (page: Page) => page.locator('section[aria-label="Circuit: the drawing"]')

test('circuits of every kind are in one list, what is wrong first, with the service they share', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'circuit')
  await sheet(page, 'All circuits')
  const rows = drawing(page).locator('table').first().locator('tbody tr')
  await expect(rows).toHaveCount(6)
  await expect(rows.first()).toContainText('outlet below breaker')
  await expect(rows.last()).not.toContainText('error')
  await expect(drawing(page).getByText('Spare of a service of 100 A')).toBeVisible()
  await page.getByRole('button', { name: 'Feeder', exact: true }).click()
  await expect(rows).toHaveCount(7)
  await page.keyboard.press('Control+z')
  await expect(rows).toHaveCount(6)
  const pdf = await page.request.get((await page.getByRole('link', { name: 'Design sheets' }).getAttribute('href'))!)
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
})

test('a radial of several points: the worst named, a branch too thin put right, every figure opened', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Points along the stage', 'Village hall')
  await page.getByLabel('Ze measured at the board').fill('0.35')
  await page.getByLabel('Ze measured at the board').press('Tab')
  await sheet(page, 'This circuit')
  await page.getByRole('button', { name: /^Socket-outlet \?/ }).click()
  await page.getByLabel('Accessory').selectOption({ label: '13 A socket-outlet, single switched' })
  await sheet(page, 'This circuit')
  for (const [name, length, watts] of [
    ['Left', '12', '1150'],
    ['Right', '8', '920'],
  ] as const) {
    await page.getByRole('button', { name: 'Next point' }).click()
    await working(page).getByLabel('Name').fill(name)
    await working(page).getByLabel('Cable from there').fill(length)
    await working(page).getByLabel('Draws').fill(watts)
    await working(page).getByLabel('Draws').press('Tab')
  }
  await saved(page)
  const row = (name: string) => drawing(page).getByRole('row', { name: new RegExp(`^${name}`) })
  await expect(row('Left')).toContainText('9 A')
  await expect(row('Right')).toContainText('4 A')
  await expect(working(page).getByRole('region', { name: 'Working: Voltage drop at Right' })).toContainText(
    '3.132 V + 29 × 8 m × 4 A / 1000 = 4.06 V, of 230 V',
  )
  await working(page).getByLabel('Cable size').selectOption({ label: '1.0 mm²' })
  await sheet(page, 'This circuit')
  await page.getByRole('button', { name: /^Circuit-breaker/ }).click()
  await page.getByLabel('Minimum breaker').fill('16')
  await page.getByLabel('Minimum breaker').press('Tab')
  await sheet(page, 'This circuit')
  await page.getByRole('button', { name: 'Right', exact: true }).click()
  await page.getByRole('button', { name: 'Divide into sections' }).click()
  await expect(working(page).getByLabel('Length')).toHaveValue('8')
  await working(page).getByLabel('Length').fill('4')
  await working(page).getByLabel('How it is run').selectOption({ label: 'In conduit in an insulated wall (A)' })
  await page.getByRole('button', { name: 'Next section to Right' }).click()
  await working(page).getByLabel('Length').fill('4')
  await working(page).getByLabel('Length').press('Tab')
  await saved(page)
  const stretches = page.getByRole('region', { name: 'Sections of the cable' })
  const ofRight = stretches.getByRole('button', { name: 'Cable to Right 8 m in 2 sections 11.5 A at the least' })
  await ofRight.click()
  await expect(ofRight).toHaveAttribute('aria-expanded', 'true')
  await expect(working(page).getByRole('heading', { name: 'Section 1 to Right' })).toBeVisible()
  await sheet(page, 'This circuit')
  await expect(working(page).getByText(/1.0 mm² to Right is good for 11.5 A behind 16 A/)).toBeVisible()
  await page.getByRole('button', { name: 'Right', exact: true }).click()
  await expect(working(page).getByRole('button', { name: '8 m in 2 sections' })).toBeVisible()
  await working(page).getByLabel('Through a fuse').selectOption({ label: '5 A' })
  await expect(working(page).getByText(/is good for 11.5 A behind/)).toBeHidden()
})

test('the ring of the hall: the spur with too many outlets is fused, and the legs are shown', async ({ page }) => {
  await openCopy(page, 'village-hall', 'circuit')
  await sheet(page, 'This circuit')
  await pick(page, 'Ring, hall and kitchen (1 error)')
  await expect(drawing(page).getByText('The leg that leaves first carries 9.97 A, the one that comes back 9.42 A.')).toBeVisible()
  await expect(working(page).getByText(/Old spur behind the piano has 3 outlets on an unfused spur/)).toBeVisible()
  await page
    .getByRole('button', { name: /^Old spur behind the piano/ })
    .last()
    .click()
  await working(page).getByLabel('Through a fuse').selectOption({ label: '13 A' })
  await expect(working(page).getByText(/outlets on an unfused spur/)).toHaveCount(0)
  // A ring is fed from 32 A and nothing else.
  await sheet(page, 'This circuit')
  await pick(page, 'Ring, hall and kitchen')
  await page.getByRole('button', { name: /^Circuit-breaker/ }).click()
  await page.getByLabel('Minimum breaker').fill('20')
  await page.getByLabel('Minimum breaker').press('Tab')
  await expect(working(page).getByText(/A ring final circuit is protected at 30 or 32 A, not 20 A/)).toBeVisible()
})

test('a point with an accessory of its own: its fuse, its box, its wiring, its label', async ({ page }) => {
  await openCopy(page, 'village-hall', 'circuit')
  await sheet(page, 'This circuit')
  await pick(page, 'Ring, hall and kitchen (1 error)')
  await page.getByRole('button', { name: 'Fridge', exact: true }).click()
  await expect(working(page).getByLabel('Accessory here')).toHaveValue('alike')
  await working(page).getByLabel('Accessory here').selectOption({ label: '13 A switched fused connection unit, flex outlet' })
  await expect(working(page).getByLabel('Outlets there')).toHaveValue('0')
  // Back to a socket it has outlets again, and is judged as one.
  await working(page).getByLabel('Accessory here').selectOption('alike')
  await expect(working(page).getByLabel('Outlets there')).toHaveValue('2')
  await working(page).getByLabel('Accessory here').selectOption({ label: '13 A switched fused connection unit, flex outlet' })
  await expect(working(page).getByText(/Fridge: Whether its fuse suits is not judged/)).toBeVisible()
  await working(page).getByLabel('Fuse in it').selectOption({ label: '3 A' })
  await working(page).getByLabel('Draws').fill('900')
  await working(page).getByLabel('Draws').press('Tab')
  await expect(working(page).getByText('Fridge: A fuse of 3 A carries less than the 3.91 A it feeds and will blow. Fit 5 A.')).toBeVisible()
  await working(page).getByText('A', { exact: true }).click()
  await expect(working(page).getByLabel('Draws')).toHaveValue('3.913')
  await working(page).getByLabel('Draws').fill('4')
  await working(page).getByLabel('Draws').press('Tab')
  await expect(working(page).getByText('Fridge: A fuse of 3 A carries less than the 4 A it feeds and will blow. Fit 5 A.')).toBeVisible()
  await working(page).getByLabel('Fuse in it').selectOption({ label: '5 A' })
  await expect(working(page).getByText(/and will blow/)).toHaveCount(0)
  // A unit on the ring holds two cables and one on a spur one: each is judged in a box of its own.
  await stage(page, 'Boxes').click()
  await page.getByLabel('Points you work on').selectOption({ label: 'Fridge: 13 A switched fused connection unit, flex outlet, 2 cables' })
  await working(page).getByLabel('Box that is there').selectOption({ label: 'Metal, flush, 25 mm (25 mm)' })
  await expect(working(page).getByText(/need 35 mm of depth and the box has 25 mm/)).toBeVisible()
  // What was found stays; another is put in its place.
  await page.getByRole('button', { name: 'Fit this one instead' }).first().click()
  await expect(working(page).getByLabel('Box that is there')).toHaveValue('uk-metal-25')
  await expect(working(page).getByText('Fill OK.')).toBeVisible()
  await stage(page, 'Wiring').click()
  await expect(page.getByRole('link', { name: 'Sheet to stick up' })).toBeVisible()
  await page.getByLabel('Points you work on').selectOption({ label: 'Fridge: 13 A switched fused connection unit, flex outlet, 2 cables' })
  await expect(page.getByText('The fuse suits the appliance and its flex', { exact: false })).toBeVisible()
  await working(page).getByRole('checkbox').first().check()
  await page.getByLabel('Points you work on').selectOption({ index: 0 })
  await expect(working(page).getByRole('checkbox').first()).not.toBeChecked()
  const sheets = await page.request.get((await page.getByRole('link', { name: 'Sheet to stick up' }).getAttribute('href'))!)
  expect((await sheets.body()).subarray(0, 5).toString()).toBe('%PDF-')
  await saved(page)
  await reload(page)
  await saved(page)
  await page.getByLabel('Current circuit').selectOption({ label: 'Ring, hall and kitchen (1 error)' })
  await page.getByLabel('Points you work on').selectOption({ label: 'Fridge: 13 A switched fused connection unit, flex outlet, 2 cables' })
  await expect(working(page).getByRole('checkbox').first()).toBeChecked()
})

test('an outlet with a device of its own guards what is on its load side, once that is said', async ({ page }) => {
  await newJob(page, 'north-america', 'Wheel room outlets', 'The former dairy', { at: 'circuit' })
  await sheet(page, 'This circuit')
  await page.getByRole('button', { name: /^Receptacle \?/ }).click()
  await page.getByLabel('Accessory').selectOption({ label: 'Duplex receptacle, 20 A' })
  await sheet(page, 'This circuit')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Next point' }).click()
  await sheet(page, 'Protection')
  await working(page).getByLabel('The place is').selectOption({ label: 'Dry' })
  await working(page).getByLabel('Kind of room').selectOption({ label: 'Garage' })
  const row = (name: string) => page.getByRole('table', { name: 'What each point needs' }).getByRole('row', { name })
  await expect(row('Point 2')).toContainText('needed')
  await sheet(page, 'This circuit')
  await page.getByRole('button', { name: 'Point 2', exact: true }).click()
  await working(page).getByLabel('Accessory here').selectOption({ label: '20 A GFCI receptacle, line and load side' })
  await working(page).getByLabel('Its load side feeds the points downstream').check()
  await sheet(page, 'Protection')
  await expect(row('Point 1')).toContainText('needed')
  await expect(row('Point 2')).toContainText('in the outlet')
  await expect(row('Point 3')).toContainText('in an outlet ahead')
  await expect(working(page).getByText(/The feed goes on the line side of Point 2/)).toBeVisible()
})

test('the stretch that governs is found, and what moving it would win', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'circuit')
  await sheet(page, 'This circuit')
  await pick(page, 'Feeder, pug mill shed')
  await expect(drawing(page).getByText('1, in conduit with others').last()).toBeVisible()
  await expect(drawing(page).getByText(/Moving it does not reduce the size/)).toBeVisible()
  await page.getByRole('button', { name: /2, outdoors/ }).click()
  await working(page).getByLabel('Ambient temperature').fill('158')
  await working(page).getByLabel('Ambient temperature').press('Tab')
  await expect(drawing(page).getByText('2, outdoors').last()).toBeVisible()
  await expect(drawing(page).getByText(/Run it as the rest is run, and 6 AWG would do instead of/)).toBeVisible()
})

test('a cable is held against the places of its run: buried, hidden in a wall', async ({ page }) => {
  await openCopy(page, 'village-hall', 'circuit')
  await sheet(page, 'This circuit')
  await pick(page, 'Stage floods')
  await page.getByRole('button', { name: 'Divide into sections' }).click()
  const place = page.getByLabel('Where', { exact: true }).first()
  await place.selectOption({ label: 'Buried' })
  await expect(working(page).getByText(/Flat twin and earth is not made to lie buried/)).toBeVisible()
  await place.selectOption({ label: 'In a wall' })
  await expect(working(page).getByText(/is not made to lie/)).toHaveCount(0)
  await sheet(page, 'This circuit')
  await page.getByRole('button', { name: /^Circuit-breaker/ }).click()
  await working(page).getByText('At the outlet', { exact: true }).click()
  await sheet(page, 'This circuit')
  await expect(working(page).getByText(/the cable needs an RCD of 30 mA or less at the consumer unit/)).toBeVisible()
})

test('protection: what the rules ask for, where it sits, and the curves', async ({ page }) => {
  await openCopy(page, 'honey-house', 'circuit')
  await sheet(page, 'Protection')
  await pick(page, 'Extractor')
  await expect(working(page).getByText(/Switching on draws about 22.8 A; a 5 A breaker of type B may trip from 15 A/)).toBeVisible()
  await expect(drawing(page).getByRole('img', { name: /^Time against current/ })).toContainText('switching on')
  await sheet(page, 'This circuit')
  await page.getByRole('button', { name: /^Circuit-breaker/ }).click()
  await page.getByText('C', { exact: true }).click()
  await sheet(page, 'Protection')
  await expect(working(page).getByText(/Switching on draws/)).toBeHidden()
  await drawing(page).getByRole('radio', { name: 'None' }).check()
  await expect(working(page).getByText(/A socket-outlet needs an earth leakage unit of 30 mA or less/)).toBeVisible()
  await drawing(page).getByRole('radio', { name: 'At the board' }).check()
  await working(page).getByLabel('Fault current at the board').fill('9')
  await working(page).getByLabel('Fault current at the board').press('Tab')
  await expect(working(page).getByText(/A fault at the board may reach 9 kA and the breaker breaks 6 kA/)).toBeVisible()
})

test('the device of the board that a circuit is behind is said, and decides its neutral bar', async ({ page }) => {
  await openCopy(page, 'village-hall', 'circuit')
  await sheet(page, 'Protection')
  await expect(
    working(page).getByText('Its neutral goes on the neutral bar of RCD, sockets; on any other bar the device trips.'),
  ).toBeVisible()
  await working(page).getByLabel('Protected by').selectOption({ label: 'A device of its own' })
  await expect(working(page).getByText(/its neutral goes on the terminal of that/)).toBeVisible()
  await sheet(page, 'This circuit')
  await page.getByRole('button', { name: /^Circuit-breaker/ }).click()
  await working(page).getByLabel('Protected by').selectOption({ label: 'RCD, sockets, 30 mA' })
  await page.getByLabel('Rated residual current').fill('100')
  await page.getByLabel('Rated residual current').press('Tab')
  await expect(working(page).getByText(/RCD, sockets trips at 100 mA, and this circuit is designed for 30 mA/)).toBeVisible()
  await page.getByRole('button', { name: 'Use 100 mA, not 30' }).click()
  await expect(working(page).getByText(/is designed for/)).toHaveCount(0)
  // The device is the same one on the board sheet.
  await stage(page, 'Survey').click()
  await page
    .locator('nav[aria-label="Sheets of the survey"]')
    .getByRole('button', { name: /^(Board|Panel)$/ })
    .click()
  await page
    .getByRole('button', { name: /^RCD, sockets/ })
    .first()
    .click()
  await expect(page.getByLabel('Trips at')).toHaveValue('100')
})

test('what each point needs: a wet counter alone, a type read off the device, what is fitted there', async ({ page }) => {
  await openCopy(page, 'village-hall', 'circuit')
  await sheet(page, 'Protection')
  await pick(page, 'Ring, hall and kitchen (1 error)')
  const table = page.getByRole('table', { name: 'What each point needs' })
  const row = (name: string) => table.getByRole('row', { name: new RegExp(name) })
  // What was read off the device at the board is what the circuit is behind; there is no second type of it.
  await expect(table.getByText('type A')).toHaveCount(7)
  await page.getByLabel('Type marked on it').selectOption('unknown')
  await expect(table.getByText('not known')).toHaveCount(7)
  await page.getByLabel('Type marked on it').selectOption('A')
  await expect(table.getByText('type A')).toHaveCount(7)
  await table.getByRole('button', { name: 'Counter, left' }).click()
  await page.getByLabel('The place is').selectOption({ label: 'Wet' })
  await expect(row('Counter, left')).toContainText('needed')
  await expect(row('Counter, right')).not.toContainText('needed')
  await expect(working(page).getByText(/^Error: Counter, left: In the wet/)).toBeVisible()
  await page.getByLabel('Fitted as along the circuit').uncheck()
  await page.getByLabel('Weather-resistant, in-use cover').check()
  await expect(row('Counter, left')).toContainText('fitted')
  await expect(working(page).getByText(/Counter, left: In the wet/)).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(row('Counter, left')).toContainText('needed')
  // A device in the first outlet of a ring would guard one outlet; it is not offered.
  await expect(page.getByText('In the first outlet, guarding those downstream')).toHaveCount(0)
  await pick(page, 'Stage lights')
  // Its switch and three lights.
  await expect(table.getByRole('row')).toHaveCount(5)
})

test('a circuit on the board at the end of a feeder: both lose, the feeder’s breaker is ahead', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'circuit')
  await sheet(page, 'All circuits')
  const row = (name: RegExp) => drawing(page).getByRole('row', { name })
  await expect(row(/^\S* ?Pug mill/)).toContainText('from Feeder, pug mill shed')
  await row(/Pug mill.*Branch circuit/)
    .getByRole('button')
    .click()
  await sheet(page, 'Protection')
  await expect(
    working(page).getByText('Fed from the panel at the end of Feeder, pug mill shed, protected by its 60 A breaker.'),
  ).toBeVisible()
  await sheet(page, 'This circuit')
  await page.getByLabel('Figures; each opens its working').getByRole('button', { name: /Drop/ }).click()
  await expect(working(page).getByText(/With 1.3257 % lost in Feeder, pug mill shed: 2.4983 % from the supply/)).toBeVisible()
  await page.getByLabel('Length, one way').fill('85')
  await expect(working(page).getByText(/from the supply, and the limit is 5 %. Enlarge the feeder/)).toBeVisible()
  await sheet(page, 'All circuits')
  await page.getByLabel('Fed from', { exact: true }).selectOption({ label: 'Barn panel' })
  await expect(row(/Pug mill.*Branch circuit/)).not.toContainText('from Feeder')
  // A feeder is not offered its own board.
  await row(/Feeder.*60 A/)
    .getByRole('button')
    .click()
  await expect(page.getByLabel('Fed from', { exact: true })).toHaveCount(0)
})

test('several circuits in one raceway: overfilled, put right; the growth of the plastic one shown', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'circuit')
  await sheet(page, 'Raceways')
  await expect(working(page).getByText(/it is filled to 45 %, and 40 % is allowed. Trade size 1 holds it/)).toBeVisible()
  await working(page).getByLabel('Trade size').selectOption('1')
  await expect(working(page).getByText('Fill OK.')).toBeVisible()
  await page
    .getByText('Kiln', { exact: true })
    .first()
    .dragTo(page.getByRole('button', { name: /^Sunny wall conduit/ }))
  await page.getByRole('button', { name: /^Sunny wall conduit/ }).click()
  await expect(working(page).getByLabel('Kiln')).toBeChecked()
  await expect(working(page).getByText(/Kiln is in sheathed cable, which the fill does not count/)).toBeVisible()
  await expect(working(page).getByText('changes its length by 2-5/8 in over the year', { exact: false })).toBeVisible()
})

test('a conduit of the hall: two circuits drawn in, too tight round three bends, put right', async ({ page }) => {
  await openCopy(page, 'village-hall', 'circuit')
  for (const name of ['Tea urn', 'Stage floods']) {
    await sheet(page, 'This circuit')
    await page
      .getByLabel('Current circuit')
      .selectOption({ label: await page.getByLabel('Current circuit').locator('option', { hasText: name }).innerText() })
    await page.getByLabel('Cable', { exact: true }).selectOption('singles')
    await page.getByLabel('How it is run').selectOption('conduit-on-wall')
  }
  await sheet(page, 'Raceways')
  await page.getByRole('button', { name: 'Conduit', exact: true }).click()
  await working(page).getByLabel('Tea urn').check()
  await working(page).getByLabel('Stage floods').check()
  await expect(working(page).getByText(/not judged until the length between draw-in points is known/)).toBeVisible()
  await working(page).getByLabel('Between draw-in points').fill('4.5')
  await working(page).getByLabel('Quarter bends in it').fill('3')
  await working(page).getByLabel('Quarter bends in it').press('Tab')
  await expect(drawing(page).getByText('of 149')).toBeVisible()
  await working(page).getByLabel('Size').selectOption('16')
  await expect(working(page).getByText(/16 mm takes 91 there. 20 mm holds them/)).toBeVisible()
  await working(page).getByLabel('Size').selectOption('20')
  await expect(working(page).getByText('Fill OK.')).toBeVisible()
})

test('ways to build a circuit are laid out, one is taken with its reason', async ({ page }) => {
  await openCopy(page, 'village-hall', 'circuit')
  await sheet(page, 'Options')
  await pick(page, 'Stage floods')
  await expect(drawing(page).getByRole('img', { name: /\d+ options/ })).toBeVisible()
  const rows = drawing(page).locator('tbody tr')
  const good = await rows.count()
  expect(good).toBeGreaterThan(1)
  await page.getByLabel(/that are worse or not allowed/).check()
  expect(await rows.count()).toBeGreaterThan(good)
  await expect(
    drawing(page)
      .getByText(/No better in anything than/)
      .first(),
  ).toBeVisible()
  await page.getByLabel(/that are worse or not allowed/).uncheck()
  await rows.nth(1).getByRole('button').click()
  const words = (await rows.nth(1).getByRole('button').innerText()).trim()
  await working(page).getByLabel('Why this one').fill('room for a second flood')
  await page.getByRole('button', { name: 'Use this option' }).click()
  await saved(page)
  await expect(working(page).getByText('Chosen now because: room for a second flood')).toBeVisible()
  await sheet(page, 'This circuit')
  await expect(drawing(page).getByRole('radio', { name: new RegExp(words.split(',')[0]!) })).toBeChecked()
  // A price of one's own moves every cost.
  await sheet(page, 'Options')
  const before = await rows.first().locator('td').nth(1).innerText()
  await working(page).getByLabel('Price: An hour').fill('90')
  await working(page).getByLabel('Price: An hour').press('Tab')
  await expect(rows.first().locator('td').nth(1)).not.toHaveText(before)
})

test('old work: as found beside as it becomes; what may stay, what must change, what stops the job', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'circuit')
  await sheet(page, 'This circuit')
  const beside = page.getByRole('region', { name: 'As it is found and as it becomes' })
  await expect(beside).toHaveCount(0)
  await pick(page, 'Light over the wheel')
  await expect(beside).toContainText('Found: its breaker is not recorded')
  await page.getByRole('button', { name: 'What is there' }).click()
  await expect(working(page).getByText(/Of the old part 4 things are not known/)).toBeVisible()
  const answer = (question: RegExp, said: string) =>
    working(page).getByRole('group', { name: question }).getByText(said, { exact: true }).click()
  await answer(/aluminum/, 'Yes')
  await expect(working(page).getByText(/Stop and call somebody licensed for it/)).toBeVisible()
  for (const question of [/aluminum/, /rubber/, /three-wire/, /share a neutral/]) await answer(question, 'No')
  await expect(working(page).getByText(/Of the old part/)).toHaveCount(0)
  // What is there is asked for where it is needed: the way, its breaker, the cable that stays.
  await working(page).getByLabel('The way it sits on').selectOption({ label: '6 Parlor' })
  await expect(beside).toContainText('Found: Parlor')
  await expect(beside.getByRole('row', { name: /^Breaker/ })).toContainText('20 A')
  await expect(working(page).getByText(/The size and kind of the cable that stays is not known/)).toBeVisible()
  await working(page)
    .getByLabel(/The cable that stays leads to/)
    .selectOption({ label: 'Parlor switch, Parlor' })
  await working(page).getByLabel('Kind of the cable there').selectOption({ label: 'NM-B non-metallic cable' })
  await working(page).getByLabel('Its size', { exact: true }).selectOption({ label: '12 AWG' })
  await expect(beside.getByRole('row', { name: /^Cable/ })).toContainText('12 AWG, NM-B non-metallic cable')
  await expect(working(page).getByText(/The size and kind of the cable that stays is not known/)).toHaveCount(0)
})

test('a circuit is put in its way: dragged, refused where another is, two spaces for two poles', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'survey')
  await board(page)
  await page.getByRole('button', { name: /^Kiln/ }).click()
  await surveyed(page).getByRole('button', { name: 'Space 17, free' }).click()
  await expect(page.getByRole('button', { name: 'Kiln 17-19' })).toBeVisible()
  await page.getByRole('button', { name: /^Wheel outlets/ }).dragTo(surveyed(page).getByRole('button', { name: 'Space 8, free' }))
  await expect(page.getByRole('button', { name: 'Wheel outlets 8' })).toBeVisible()
  await page.getByRole('button', { name: /^Wheel outlets/ }).dragTo(surveyed(page).getByRole('button', { name: /^Parlor/ }))
  await expect(page.getByText('Wheel outlets does not go in 6: Parlor is there.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Wheel outlets 8' })).toBeVisible()
})

test('the board at the end of a feeder is laid out before it is bought, and its legs are shown', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'survey')
  await board(page)
  await page.getByRole('button', { name: /^Pug mill/ }).click()
  await expect(surveyed(page).getByText(/Shed panel is not bought yet: with the circuits planned it needs 8 spaces/)).toBeVisible()
  await expect(working(page).getByText('Planned on leg A 9.17 A, on leg B 0 A.')).toBeVisible()
  await surveyed(page).getByRole('button', { name: 'Space 4, free' }).click()
  await expect(page.getByRole('button', { name: 'Pug mill 4, Shed panel' })).toBeVisible()
  await expect(working(page).getByText('Planned on leg A 0 A, on leg B 9.17 A.')).toBeVisible()
  await page.getByRole('button', { name: /^Kiln/ }).click()
  await expect(surveyed(page).getByText('Spare supply capacity')).toBeVisible()
})

test('a nameplate in kilowatt-hours, a duty, a motor: the load as it is', async ({ page }) => {
  await newJob(page, 'north-america', 'Loads as they are', 'The former dairy')
  await page.getByText('kWh', { exact: true }).click()
  await page.getByLabel('Energy used').fill('12')
  await page.getByLabel('in so many hours').fill('8')
  await page.getByLabel('in so many hours').press('Tab')
  await expect(page.getByText('It draws 12.5 A.')).toBeVisible()
  await page.getByLabel('Kind of load').selectOption({ label: 'On and off by duty' })
  await page.getByLabel('On for').fill('25')
  await page.getByLabel('On for').press('Tab')
  await expect(page.getByText('It draws 12.5 A; the circuit is made for 6.25 A.')).toBeVisible()
  await expect(page.getByText(/heats a cable as 0.5 of its current/)).toBeVisible()
  await page.getByLabel('Kind of load').selectOption({ label: 'Motor' })
  await expect(page.getByText(/125 % of its full-load current/)).toBeVisible()
})

test('two lines with a shared neutral: balanced, tied, and on different legs', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'circuit')
  await sheet(page, 'This circuit')
  await pick(page, 'Glaze bench, two lines')
  await expect(drawing(page).getByText('Line A carries 15 A, line B 7.5 A, the neutral 7.5 A.')).toBeVisible()
  await page.getByRole('button', { name: 'Bench, right', exact: true }).click()
  await working(page).getByText('B', { exact: true }).click()
  await expect(drawing(page).getByText('Line A carries 10 A, line B 12.5 A, the neutral 2.5 A.')).toBeVisible()
  await sheet(page, 'All circuits')
  await working(page).getByLabel('Space', { exact: true }).fill('9-10')
  await working(page).getByLabel('Space', { exact: true }).press('Tab')
  await sheet(page, 'This circuit')
  await expect(working(page).getByText(/Spaces 9 and 10 are not one above the other/)).toBeVisible()
})

test('on a phone: a point is touched, what is about it is said, and the table follows', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage()
  await openCopy(page, 'former-dairy')
  const { pathname } = new URL(page.url())
  await page.goto(pathname.replace('/brief', '/circuit?sheet=protection'))
  await saved(page)
  await page.getByLabel('Current circuit').selectOption({ label: 'Glaze bench, two lines' })
  const table = page.getByRole('table', { name: 'What each point needs' })
  await table.getByRole('button', { name: 'Bench, right' }).tap()
  await page.getByLabel('The place is').selectOption({ label: 'Outdoors' })
  await expect(
    working(page).getByText(/^Error: Bench, right: In a wet place or outdoors the receptacle is weather-resistant/),
  ).toBeAttached()
  await page.getByLabel('Weather-resistant, in-use cover').check()
  await page.getByRole('button', { name: 'Values and working' }).tap()
  await expect(table.getByRole('row', { name: /Bench, right/ })).toContainText('fitted')
  await saved(page)
})

test('a conduit is marked out for the bender: in one piece, in the lengths it comes in, and through a pull point', async ({ page }) => {
  await openCopy(page, 'village-hall')
  const job = /jobs\/([^/]+)/.exec(page.url())![1]!
  const { revision } = (await (await page.request.get(`/api/jobs/${job}`)).json()) as { revision: number }
  const conduit = { kind: 'raceway.add', item: newRaceway('r', 'Stage conduit') }
  expect((await page.request.post(`/api/jobs/${job}/edits`, { data: { revision, edit: conduit } })).status()).toBe(200)
  await page.goto(`/jobs/${job}/circuit?sheet=raceways`)
  const drawing = page.locator('section[aria-label="Circuit: the drawing"]')
  const working = page.locator('aside')
  for (const kind of ['Straight', '90° stub', 'Straight']) await working.getByRole('button', { name: kind, exact: true }).click()
  await expect(drawing.getByText('Give the radius of the former')).toBeVisible()
  await working.getByLabel('Radius of the former').fill('63.5')
  await working.getByLabel('Radius of the former').press('Tab')
  // 914.4 + 304.8 + 914.4, less 2 × 63.5 − 63.5 × π/2 spared round the bend.
  await expect(drawing.getByText('One piece, cut to 2106 mm.')).toBeVisible()
  await expect(drawing.locator('tbody tr')).toHaveText([/^1190°one way851 mm951 mm$/])
  await working.getByLabel('Lengths the pipe comes in').fill('1.2')
  await working.getByLabel('Lengths the pipe comes in').press('Tab')
  await expect(drawing.getByText('2 pieces, 2106 mm together, 1 coupling.')).toBeVisible()
  for (let i = 0; i < 4; i++)
    for (const kind of ['90° stub', 'Straight']) await working.getByRole('button', { name: kind, exact: true }).click()
  await expect(drawing.getByText('A pull point or an access fitting after bend 4: more than 360° would lie between two.')).toBeVisible()
  const paper = await page.request.get(
    page
      .url()
      .replace('/jobs/', '/api/jobs/')
      .replace(/circuit.*/, 'bending.pdf'),
  )
  expect(paper.status()).toBe(200)
})

test('a point that is to be put in is put on a circuit, and nothing is worked out to it until its cable is measured', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'One more light', 'Village hall', {
    at: 'circuit',
    edits: [
      { kind: 'supply.set', patch: { zeOhm: 0.35 } },
      { kind: 'load.set', circuit: 'c1', patch: { volts: 230, lighting: true, connection: 'fixed' } },
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-light' } },
      {
        kind: 'circuit-point.add',
        circuit: 'c1',
        points: [{ id: 'a', name: 'Porch', kind: 'light', from: null, lengthM: 9, watts: 60, outlets: 0 }],
      },
      { kind: 'point.add', points: [blankPoint('b', 'Store', { kind: 'light', state: 'new', watts: 40 })] },
    ],
  })
  await sheet(page, 'This circuit')
  await page.getByLabel('Point from the survey').selectOption({ label: 'Store' })
  const row = page.locator('tbody tr', { has: page.getByRole('button', { name: 'Store', exact: true }) })
  await expect(row.locator('td').nth(5)).toHaveText('?')
  await expect(row.locator('td').nth(6)).toHaveText('?')
  const figures = page.locator('section[aria-label="Circuit: the drawing"]')
  await expect(figures.getByRole('button', { name: /^Drop/ })).toHaveText(/\?$/)
  await expect(working(page).getByText(/Length not known: the cable to Store/)).toBeVisible()
  await working(page).getByLabel('Cable from there').fill('6')
  await working(page).getByLabel('Cable from there').press('Tab')
  await expect(row.locator('td').nth(5)).toHaveText(/^0\.\d %$/)
  await expect(row.locator('td').nth(6)).toHaveText(/ Ω$/)
  await expect(figures.getByRole('button', { name: /^Drop/ })).toHaveText(/ %$/)
})

test('the circuit in hand is the same after a reload, on another stage and in a link', async ({ page, context }) => {
  await openCopy(page, 'village-hall', 'circuit')
  const inHand = page.getByLabel('Current circuit')
  await inHand.selectOption({ index: 2 })
  const name = await inHand.locator('option:checked').innerText()
  await expect(page).toHaveURL(/circuit=\w+/)
  await reload(page)
  await expect(inHand.locator('option:checked')).toHaveText(name)
  await stage(page, 'Test').click()
  await expect(page).toHaveURL(/test\?.*circuit=\w+/)
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(other.getByLabel('Current circuit').locator('option:checked')).toHaveText(name)
})
