import type { Page } from '@playwright/test'
import { test } from './support/test'
import { newWay } from '../src/core/job/board'
import { blankPoint } from '../src/core/job/point'
import { expect } from './support/expect'
import { askedTest, beyondIn, makeTest, pointRow, sheet, traceAll, working } from './support/survey'
import { goTo, newJob, openCopy, reload, saved, waiting } from './support/walk'

/** What really feeds what in a small building; the page never sees this. */
const truth: Record<string, string> = {
  Door: '1 Kiln',
  Window: 'Door',
  Bench: 'Window',
  Lamp: '2 Light',
  Switch: '2 Light',
  Freezer: '3 Store',
}
const ways = ['1 Kiln', '2 Light', '3 Store', '4 Spare']
const points = Object.keys(truth)
const deadIn = beyondIn(truth)

async function surveyBuilding(page: Page) {
  await sheet(page, 'Board')
  for (const [i, way] of ways.entries()) {
    await page.getByRole('button', { name: /^Add a (way|space)$/ }).click()
    const label = page.getByLabel('Label', { exact: true }).nth(i)
    await label.fill(way)
    await label.press('Tab')
  }
  await sheet(page, 'Points')
  const form = page.getByRole('form', { name: 'Add a point' })
  await form.getByLabel('Room').fill('Loft')
  for (const p of points) {
    await form.getByLabel('Name').fill(p)
    await form.getByLabel('Name').press('Enter')
  }
  await page.getByLabel('Freezer must not lose power').check()
  await saved(page)
}

/** The same, entered before the page was opened. */
const surveyed = {
  at: 'survey',
  edits: [
    ...ways.map((label, i) => ({ kind: 'way.add', way: newWay(`w${i}`, label) }) as const),
    { kind: 'point.add', points: points.map((p) => blankPoint(p.toLowerCase(), p, { room: 'Loft', mustHold: p === 'Freezer' })) },
  ],
} as const

test('a building is surveyed and traced to its true tree', async ({ page }) => {
  await newJob(page, 'north-america', 'Loft over the dairy', 'The former dairy')
  await surveyBuilding(page)
  await sheet(page, 'Trace')
  const asked = await traceAll(page, deadIn, 9)
  // What must not lose power is switched off last of all breakers.
  expect(asked.findIndex((a) => a.includes('3 Store'))).not.toBe(0)
  const pdf = await page.request.get((await page.getByRole('link', { name: 'Circuit map' }).getAttribute('href'))!)
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
  const svg = await page.request.get((await page.getByRole('link', { name: 'SVG' }).getAttribute('href'))!)
  expect(await svg.text()).toContain('Bench')
  await sheet(page, 'Points')
  for (const p of points) await expect(pointRow(page, p).getByRole('cell').nth(2)).toHaveText(truth[p]!)
})

test('a contradiction is explained, and goes when one observation is withdrawn', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Two breakers, one lamp', 'Village hall', surveyed)
  await sheet(page, 'Trace')
  for (const way of ['1 Kiln', '2 Light']) {
    await working(page)
      .getByLabel('Test to make')
      .selectOption({ label: `Switch off ${way}` })
    await working(page).getByRole('button', { name: /^Lamp/ }).click()
    await working(page).getByRole('button', { name: 'Record: 1 dead, the rest live' }).click()
    await saved(page)
  }
  await expect(working(page).getByText(/These cannot all be true: 1 Kiln off, Lamp dead; 2 Light off, Lamp dead/)).toBeVisible()
  await working(page).getByRole('listitem').filter({ hasText: '1 Kiln off, Lamp dead' }).getByRole('button', { name: 'Withdraw' }).click()
  await expect(working(page).getByText(/These cannot all be true/)).toBeHidden()
  await sheet(page, 'Points')
  await expect(pointRow(page, 'Lamp').getByRole('cell').nth(1)).toHaveText('2 Light')
})

test('what is left over for a breaker not switched off is no proof: what else hangs there is asked for', async ({ page }) => {
  await openCopy(page, 'honey-house', 'survey')
  await sheet(page, 'Trace')
  const asked = working(page).getByText(/^Not switched off: Water heater. Its load is not known/)
  await expect(asked).toBeHidden()
  await working(page)
    .getByRole('listitem')
    .filter({ hasText: 'Water heater off, Water heater dead' })
    .getByRole('button', { name: 'Withdraw' })
    .click()
  await expect(asked).toBeVisible()
  expect(await askedTest(page)).toBe('Switch off Water heater (not done yet)')
  await sheet(page, 'Points')
  await expect(pointRow(page, 'Water heater').getByRole('cell').nth(1)).toHaveText('Water heater left over')
  await sheet(page, 'Board')
  const spare = page.getByText('not known: the loads on Water heater is missing')
  await expect(spare).toBeVisible()
  await sheet(page, 'Trace')
  await makeTest(page, () => ['Water heater'])
  await expect(asked).toBeHidden()
  await sheet(page, 'Board')
  await expect(spare).toBeHidden()
})

test('what was tapped survives a reload, and what was recorded a lost connection, on a phone', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })
  const page = await context.newPage()
  await newJob(page, 'southern-africa', 'Honey house board', 'Farm', surveyed)
  await sheet(page, 'Trace')
  await working(page)
    .getByRole('button', { name: /^Window/ })
    .tap()
  await reload(page)
  const tapped = working(page).getByRole('button', { name: /^Window/ })
  await expect(tapped).toHaveAttribute('aria-pressed', 'true')
  await tapped.tap()
  await context.setOffline(true)
  await working(page)
    .getByRole('button', { name: /^Record:/ })
    .tap()
  await expect(page.getByText('Kept here, not saved yet')).toBeAttached()
  expect(await waiting(page)).toBe(1)
  await context.setOffline(false)
  await saved(page)
  await expect(working(page).getByText(/nothing dead/)).toBeVisible()
  await expect.poll(() => waiting(page)).toBe(0)
})

test('what a closed page left unsent is sent when the job is opened again', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Cut off while tracing', 'Village hall', surveyed)
  await sheet(page, 'Trace')
  await page.route('**/edits', (r) => r.abort())
  await working(page).getByLabel('Test to make').selectOption({ label: 'Switch off 2 Light' })
  await working(page).getByRole('button', { name: /^Lamp/ }).click()
  await working(page)
    .getByRole('button', { name: /^Record:/ })
    .click()
  await expect(page.getByText('Kept here, not saved yet')).toBeVisible()
  const address = page.url()
  page.on('dialog', (d) => void d.accept())
  await page.goto('about:blank')
  await page.unroute('**/edits')
  await page.goto(address)
  await saved(page)
  await expect(working(page).getByText('2 Light off, Lamp dead')).toBeVisible()
  await reload(page)
  await expect(working(page).getByText('2 Light off, Lamp dead')).toBeVisible()
})

test('one question alone asks only what answers it', async ({ page }) => {
  await newJob(page, 'north-america', 'The lamp alone', 'The former dairy', surveyed)
  await sheet(page, 'Trace')
  await working(page).getByLabel('To be found out').selectOption({ label: 'What feeds Lamp?' })
  const asked: string[] = []
  while (
    !(await working(page)
      .getByText(/Lamp is fed by/)
      .isVisible())
  ) {
    await expect(page.getByRole('heading', { name: 'Next test' })).toBeVisible()
    asked.push(await makeTest(page, deadIn))
    expect(asked.length).toBeLessThanOrEqual(4)
  }
  expect(asked.every((a) => a.startsWith('Switch off'))).toBe(true)
  await expect(working(page).getByText(/Lamp is fed by 2 Light/)).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Answered' })).toBeVisible()
})

test('a point found later: earlier tests say nothing of it until it is entered', async ({ page }) => {
  await newJob(page, 'north-america', 'One more box', 'The former dairy', surveyed)
  await sheet(page, 'Trace')
  await traceAll(page, deadIn, 9)
  await sheet(page, 'Points')
  await page.getByRole('form', { name: 'Add a point' }).getByLabel('Name').fill('Box behind the plaster')
  await page.getByRole('form', { name: 'Add a point' }).getByLabel('Name').press('Enter')
  await expect(pointRow(page, 'Lamp').getByRole('cell').nth(1)).toHaveText('not known')
  await sheet(page, 'Trace')
  await expect(working(page).getByText(/tests were made before Box behind the plaster was listed/)).toBeVisible()
  const first = working(page).getByRole('listitem').filter({ hasText: '1 Kiln off' })
  await first.getByRole('button', { name: 'Box behind the plaster live' }).click()
  await first.getByRole('button', { name: 'So it was' }).click()
  await working(page)
    .getByRole('button', { name: /live in all of them, I looked/ })
    .click()
  await saved(page)
  await sheet(page, 'Points')
  await expect(pointRow(page, 'Lamp').getByRole('cell').nth(1)).toHaveText('2 Light')
  await expect(pointRow(page, 'Box behind the plaster').getByRole('cell').nth(1)).toHaveText('1 Kiln')
})

test('what only a non-contact detector showed is a hint and never a proof', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Detector alone', 'Village hall', surveyed)
  await sheet(page, 'Trace')
  await working(page).getByText('Non-contact only', { exact: true }).click()
  await expect(working(page).getByText(/its silence proves nothing/)).toBeVisible()
  await working(page).getByLabel('Test to make').selectOption({ label: 'Switch off 2 Light' })
  await working(page).getByRole('button', { name: /^Lamp/ }).click()
  await working(page)
    .getByRole('button', { name: /^Record:/ })
    .click()
  await saved(page)
  await sheet(page, 'Points')
  await expect(pointRow(page, 'Lamp').getByRole('cell').nth(1)).toHaveText('2 Light? Not confirmed')
})

test('a layout known already is entered, kept as hearsay, and compared on a later day', async ({ page }) => {
  await newJob(page, 'north-america', 'An older drawing', 'The former dairy', surveyed)
  await sheet(page, 'Trace')
  await working(page).getByRole('form', { name: 'Keep this trace' }).getByLabel('Name of the trace').fill('Before')
  await working(page).getByRole('button', { name: 'Keep it' }).click()
  await working(page).getByLabel('Circuit whose layout is known').selectOption({ label: '1 Kiln' })
  await working(page).getByLabel('Door is fed from').selectOption({ label: 'Window' })
  await working(page).getByLabel('Window is fed from').selectOption({ label: 'Door' })
  await expect(working(page).getByText(/does not lead back to the board/)).toBeVisible()
  await working(page).getByLabel('Door is fed from').selectOption({ label: '1 Kiln' })
  await working(page).getByRole('button', { name: 'Record the layout of 1 Kiln' }).click()
  await saved(page)
  await working(page)
    .getByRole('button', { name: /^Before, / })
    .click()
  await expect(page.getByRole('region', { name: 'What changed since Before' })).toContainText('Learnt: Window')
  await sheet(page, 'Points')
  await expect(pointRow(page, 'Window').getByRole('cell').nth(2)).toHaveText('Door')
})

test('the board: ways in their places, a pair for a two-pole breaker, and the schedule of its door', async ({ page }) => {
  await newJob(page, 'north-america', 'Panel as found', 'The former dairy', { at: 'survey' })
  await sheet(page, 'Board')
  await page.getByLabel('Spaces').fill('6')
  await page.getByLabel('Spaces').press('Tab')
  for (const space of ['Space 1, not checked', 'Space 2, not checked', 'Space 6, not checked']) {
    await page.getByRole('button', { name: space }).click()
    await page.getByRole('button', { name: 'There is a breaker here' }).click()
    await page.getByLabel('Rating', { exact: true }).fill('20')
    await page.getByLabel('Rating', { exact: true }).press('Tab')
  }
  const once = page.getByLabel('Summary', { exact: true })
  // A space is not free because nothing was listed in it.
  await expect(once).toContainText('free spaces not checked')
  await page.getByRole('button', { name: 'Space 3, not checked' }).click()
  await page.getByRole('button', { name: 'Spare (checked)' }).click()
  await expect(once).toContainText('1: 3')
  await page.getByRole('button', { name: 'Back to the board' }).click()
  await expect(working(page).getByText('Not checked: 4, 5.')).toBeVisible()
  await page.getByRole('button', { name: 'These are spare too (checked)' }).click()
  await expect(once).toContainText('3: 3, 4, 5')
  await expect(once).toContainText('3 and 5')
  await page.getByRole('button', { name: /^2 not labelled, 20 A/ }).click()
  await page.getByLabel('Space', { exact: true }).fill('1')
  await page.getByLabel('Space', { exact: true }).press('Tab')
  await expect(working(page).getByText(/are in the same space, 1/)).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(working(page).getByText(/are in the same space/)).toBeHidden()
  const door = await page.request.get((await page.getByRole('link', { name: 'Circuit directory' }).getAttribute('href'))!)
  expect(door.headers()['content-type']).toBe('application/pdf')
})

test('the board of the honey house: the neutral on the wrong bar is found and put right', async ({ page }) => {
  await openCopy(page, 'honey-house', 'survey')
  await sheet(page, 'Board')
  await expect(
    working(page).getByText(/Plugs, store: its neutral is on the main neutral bar and belongs on the neutral bar of Earth leakage/),
  ).toBeVisible()
  await page.getByRole('button', { name: /^Plugs, store, C20 A/ }).click()
  await working(page).getByLabel('Neutral bar').selectOption({ label: 'Neutral bar of Earth leakage' })
  await expect(working(page).getByText('Nothing wrong was found in this board as it is described.')).toBeVisible()
})

test('a sub-board is fed from a way, and is on the door schedule', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Shed off the hall', 'Village hall', { at: 'survey' })
  await sheet(page, 'Board')
  await page.getByRole('button', { name: /^Add a (way|space)$/ }).click()
  await page.getByLabel('Label as found', { exact: true }).fill('Shed')
  await page.getByLabel('Label as found', { exact: true }).press('Tab')
  await page.getByRole('button', { name: 'Sub-board' }).click()
  await page.getByLabel('Name').fill('Shed board')
  await page.getByLabel('Name').press('Tab')
  await page.getByLabel('Fed from', { exact: true }).selectOption({ label: 'Shed' })
  await saved(page)
  await page.getByRole('button', { name: 'consumer unit', exact: true }).click()
  await expect(page.getByRole('button', { name: /^Shed, .*feeds Shed board/ })).toBeVisible()
})

test('what was traced is taken into the record, and a point that is there is put on a circuit of the job', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'survey')
  await sheet(page, 'Trace')
  await expect(working(page).getByText('No cable is in the record yet.')).toBeVisible()
  await working(page)
    .getByRole('button', { name: /^Take these \d+ cables over$/ })
    .click()
  await expect(working(page).getByText(/\d+ cables are in the record\.$/)).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(working(page).getByText('No cable is in the record yet.')).toBeVisible()
  await page.goto(page.url().replace(/survey.*/, 'circuit?sheet=points'))
  await page.getByLabel('Current circuit').selectOption({ index: 2 })
  await page.getByLabel('Point from the survey').selectOption({ label: 'Store light, Store' })
  await expect(working(page).getByLabel('Name')).toHaveValue('Store light')
  // It is the same one: renamed here, it is so in the survey.
  await working(page).getByLabel('Name').fill('Store lamp')
  await working(page).getByLabel('Name').press('Tab')
  await saved(page)
  await page.goto(page.url().replace(/circuit.*/, 'survey?sheet=points'))
  await expect(pointRow(page, 'Store lamp')).toBeVisible()
})

test('points are pasted with a preview that names bad rows, repeated, and asked what they may carry', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Points by list', 'Village hall', { at: 'survey' })
  await sheet(page, 'Points')
  await page
    .getByLabel('Point, room, kind, load, height, condition, cable')
    .fill('Point,Room,Kind,Load\nBy the door,Hall,socket,500\nTeapot,Hall,teapot,1\nLamp,Hall,light,60')
  await expect(page.getByText('line 3: “teapot” is no kind of point')).toBeVisible()
  await page.getByRole('button', { name: 'Take 2 points, leave out 1' }).click()
  await expect(pointRow(page, 'By the door')).toBeVisible()
  await page.getByRole('button', { name: 'Same again' }).click()
  await expect(pointRow(page, 'Lamp 2')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(pointRow(page, 'Lamp 2')).toBeHidden()
  await page.getByRole('button', { name: /^By the door/ }).click()
  await page.getByLabel('Draws').fill('2000')
  await expect(page.getByText(/Which breaker feeds this point is not known/)).toBeVisible()
  await page.getByLabel('Hidden: behind plaster or above a ceiling').check()
  await expect(page.getByText(/By the door is hidden\. Joints/)).toBeVisible()
  await page.getByRole('button', { name: /It can be reached now/ }).click()
  await expect(page.getByText(/By the door is hidden\. Joints/)).toBeHidden()
})

test('findings of a report are sorted, made work, declined with a reason, and answered on paper', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'The insurer’s list', 'Village hall', { at: 'survey' })
  await sheet(page, 'Report')
  await page
    .getByLabel('Finding, place')
    .fill('Finding,Place\nExtension lead used as fixed wiring,Stage\nNo RCD on the hall sockets,Hall\nThe clock is slow,Hall')
  await page.getByRole('button', { name: 'Take 3 findings' }).click()
  const list = page.getByRole('list', { name: 'Findings of the report' })
  await expect(list.getByRole('listitem').nth(0)).toContainText('Flexible cord used as fixed wiring')
  await expect(list.getByRole('listitem').nth(1)).toContainText('Outlet without residual current protection')
  await expect(list.getByRole('listitem').nth(2)).toContainText('kind not known')
  await page.getByRole('button', { name: 'Make it work: a point on this job' }).click()
  await expect(working(page).getByText('In this job as the point “Stage”.')).toBeVisible()
  await list.getByRole('button').nth(2).click()
  await page.getByRole('button', { name: 'Decline' }).click()
  await expect(page.getByText('Say why: the reply gives the reason.')).toBeVisible()
  await page.getByLabel('Or decline it, because').fill('A clock is no wiring')
  await page.getByRole('button', { name: 'Decline' }).click()
  await expect(list.getByRole('listitem').nth(2)).toContainText('Declined')
  await saved(page)
  const reply = await page.request.get((await page.getByRole('link', { name: 'Reply as PDF' }).getAttribute('href'))!)
  expect((await reply.body()).subarray(0, 5).toString()).toBe('%PDF-')
  await sheet(page, 'Points')
  await expect(pointRow(page, 'Stage').first()).toContainText('new')
})

test('gaps along a wall are closed by the fewest outlets, which can be dragged', async ({ page }) => {
  await newJob(page, 'north-america', 'Wheel room walls', 'The former dairy', { at: 'survey' })
  await sheet(page, 'Walls')
  await page.getByRole('button', { name: 'Add a wall or counter' }).click()
  await page.getByLabel('Length of piece 1').fill('20')
  await page.getByLabel('Length of piece 1').press('Tab')
  await expect(page.getByText(/1 part of the wall is too far from an outlet; 2 more close it/)).toBeVisible()
  await page.getByRole('button', { name: 'Put the 2 missing outlets in' }).click()
  await expect(page.getByText('Nothing is wrong with the outlets along it as measured.')).toBeVisible()
  const outlet = page.getByRole('button', { name: /^Outlet at 5 ft/ })
  const box = (await outlet.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + 120, box.y + 10, { steps: 6 })
  await page.mouse.up()
  await expect(outlet).toBeHidden()
  await expect(page.getByText(/too far from an outlet/)).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByText('Nothing is wrong with the outlets along it as measured.')).toBeVisible()
})

test('where to take power: weighed, chosen with a reason, and the circuit is filled in', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'survey')
  await sheet(page, 'Source')
  await page.getByLabel('Current circuit').selectOption({ index: 1 })
  await page.getByLabel('Room', { exact: true }).selectOption('Wheel room')
  await expect(page.getByText('its circuit would be over its rating by 1.67 A').first()).toBeVisible()
  const first = () => page.locator('section[aria-label="Survey: the drawing"]').locator('tbody tr').first()
  await expect(first()).toContainText('New circuit from the Barn panel')
  for (const w of ['Spare capacity', 'Little disturbance', 'Protected already', 'Room for later'])
    await page.getByRole('slider', { name: w }).fill('0')
  await page.getByRole('slider', { name: 'Short run' }).fill('5')
  await expect(first()).toContainText('Extend from Loft outlet')
  await page.getByRole('button', { name: /^Extend from Wash bench/ }).click()
  await page.getByLabel('Why from here').fill('it is spare and near')
  await page.getByRole('button', { name: 'Use this source' }).click()
  await expect(page).toHaveURL(/circuit(\?circuit=\w+)?$/)
  await expect(page.getByText('Extend from Wash bench, Parlor, because it is spare and near')).toBeVisible()
  await expect(page.getByLabel('Length, one way')).toHaveValue('36.09')
  await page.getByRole('button', { name: 'Undo in Survey: Power taken from: Extend from Wash bench, Parlor (Wheel outlets)' }).click()
  await expect(page.getByText('Extend from Wash bench, Parlor, because')).toBeHidden()
})

test('how long it takes narrows as the six questions are answered', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'It should be quick', 'Village hall', { at: 'survey' })
  await sheet(page, 'Time')
  const worst = async () =>
    Number(/worst ([\d.]+) h/.exec((await page.getByRole('img', { name: /^Best/ }).getAttribute('aria-label'))!)![1])
  const before = await worst()
  await expect(page.getByText('Not answered yet').first()).toBeVisible()
  for (const answer of [
    'Open framing or surface run',
    'None',
    'The same',
    'Yes, one can walk in it',
    'Traced and tested',
    'Unoccupied: free to switch off',
  ])
    await working(page).getByText(answer, { exact: true }).first().click()
  await saved(page)
  expect(await worst()).toBeLessThan(before / 2)
})

test('a newcomer surveys the practice building on a phone, to its true tree, a source and a circuit', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage()
  await page.goto('/')
  await page.getByRole('button', { name: 'New job' }).tap()
  await page
    .getByRole('form', { name: 'New job' })
    .getByText(/United Kingdom/)
    .tap()
  await page.getByLabel('Practice: a building with hidden wiring, to survey and trace').check()
  await page.getByRole('button', { name: 'Make it' }).tap()
  await expect(page.getByRole('heading', { name: 'Practice building' })).toBeVisible()
  const tiles = working(page).getByRole('list', { name: 'What went dead' }).getByRole('button')
  let tests = 0
  while (!(await page.getByRole('heading', { name: 'Every point is traced' }).isVisible())) {
    await working(page).getByRole('button', { name: 'Make this test in the practice building' }).tap()
    await expect(tiles.first()).toContainText('tester:')
    for (const tile of await tiles.filter({ hasText: 'tester: dark' }).all()) await tile.tap()
    const cables = working(page).getByText(/In the opened box:/)
    if (await cables.isVisible())
      await working(page)
        .getByLabel('Outgoing cables in the box, if counted')
        .fill(/(\d+) onward/.exec(await cables.innerText())![1]!)
    await working(page)
      .getByRole('button', { name: /^Record:/ })
      .tap()
    await saved(page)
    expect(++tests).toBeLessThan(20)
  }
  await page.getByRole('button', { name: 'Compare with the truth' }).tap()
  await expect(page.getByText('12 of 12 right.')).toBeVisible()
  const pdf = await page.request.get((await page.getByRole('link', { name: 'Circuit map' }).getAttribute('href'))!)
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
  await goTo(page, 'Brief')
  await page.getByRole('button', { name: 'Values and working' }).tap()
  await page.getByLabel('Kind of appliance').selectOption({ label: 'Pottery wheel (550 W, 230 V)' })
  await saved(page)
  await sheet(page, 'Source')
  await page
    .getByRole('button', { name: /^Extend from Dye room/ })
    .first()
    .tap()
  await page.getByLabel('Why from here').fill('the nearest')
  await page.getByRole('button', { name: 'Use this source' }).tap()
  await expect(page).toHaveURL(/circuit(\?circuit=\w+)?$/)
  await expect(page.getByText(/Extend from Dye room.*because the nearest/)).toBeVisible()
})
