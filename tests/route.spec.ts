import { writeFileSync } from 'node:fs'
import type { Locator, Page } from '@playwright/test'
import { textOf } from './support/pdf'
import { test } from './support/test'
import { expect } from './support/expect'
import { fetchPaper, goTo, newJob, openCopy, reload, saved } from './support/walk'

const typedInto = async (field: Locator, words: string) => {
  await field.fill(words)
  await field.press('Tab')
}
const sheetOf = (page: Page, name: string) =>
  page.locator('nav[aria-label="Sheets of the route"]').getByRole('button', { name, exact: true }).click()

/** Counts keys and picks from now on; says how many there were. */
async function counted(page: Page): Promise<() => Promise<number>> {
  await page.evaluate(() => {
    const w = window as unknown as { acts: number }
    w.acts = 0
    for (const kind of ['keydown', 'pointerdown']) window.addEventListener(kind, () => w.acts++, true)
  })
  return () => page.evaluate(() => (window as unknown as { acts: number }).acts)
}

/** Fields of a form one after another, as they are typed at a desk. */
async function typed(page: Page, ...fields: readonly string[]) {
  for (const [i, field] of fields.entries()) {
    if (i) await page.keyboard.press('Tab')
    await page.keyboard.type(field)
  }
  await page.keyboard.press('Enter')
}

async function place(page: Page, name: string, room: string, wall: string, at: string, high: string) {
  await page.getByRole('button', { name, exact: true }).click()
  await page.locator('aside').getByLabel('Room', { exact: true }).selectOption(room)
  await page.getByRole('group', { name: 'On the wall' }).getByText(wall, { exact: true }).click()
  await page.getByLabel('From the left, facing it').fill(at)
  await page.getByLabel('Its middle above the floor').fill(high)
  await page.getByLabel('Its middle above the floor').press('Enter')
  await expect(page.getByText('On the plan.', { exact: true })).toBeVisible()
}

test('a building from a paper sketch, a way, the attic barred, a dimension measured again, lengths in the circuit', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Power for the wheel', 'Village hall, store', { at: 'route' })
  await expect(page.getByText('The building as measured, and the route of each cable through it.')).toBeVisible()
  const acts = await counted(page)
  await page.getByLabel('Room', { exact: true }).click()
  await typed(page, 'Hall', '6.2', '4.1', '2.4')
  await expect(page.getByLabel('which room')).toBeVisible()
  await typed(page, 'Store', '3.1', '4.1')
  await expect(page.getByLabel('which room')).toContainText('Store')
  await typed(page, 'Shed', '4', '4.1')
  await page.getByText('Hollow, on studs').click()
  await page.getByRole('group', { name: 'Accessible loft' }).getByText('There is').click()
  const used = await acts()
  console.log(`three rooms with an attic: ${used} keys and picks`)
  expect(used).toBeLessThanOrEqual(60)
  await expect(page.getByRole('button', { name: 'Shed', exact: true })).toBeVisible()

  await place(page, 'Consumer unit', 'Hall', 'North', '0.5', '1500')
  await place(page, 'Circuit 1', 'Shed', 'South', '1.5', '450')
  await saved(page)
  await sheetOf(page, 'Cable route')
  const best = page.getByRole('button', { name: /^Best: / })
  await expect(best).toContainText('attic')
  await page.getByRole('button', { name: 'Keep out of the attic' }).click()
  await expect(best).not.toContainText('attic')
  await page.getByRole('button', { name: 'Allow' }).click()
  await expect(best).toContainText('attic')
  await page.getByRole('button', { name: 'Use this route' }).click()
  const taken = page.getByRole('button', { name: /^The chosen route/ })
  await expect(taken).toBeVisible()
  await expect(page.getByText('The circuit uses this length.')).toBeVisible()
  await expect(page.getByText(/Bore 20 mm through both top plates of the north wall of Hall, 0\.\d\d m from its left corner/)).toBeVisible()

  // Measured again: the store is longer, and the point behind it is farther away.
  await sheetOf(page, 'Building')
  await page.getByRole('button', { name: 'Store', exact: true }).click()
  await page.getByLabel('Length, west to east').fill('5.1')
  await page.getByLabel('Length, west to east').press('Enter')
  await saved(page)
  await expect(page.getByText(/one of its ends has moved/)).toHaveCount(0)
  await sheetOf(page, 'Cable route')
  await expect(page.getByText(/one of its ends has moved/)).toBeVisible()
  await expect(page.getByText(/^Against the best found now: .*shorter/)).toBeVisible()
  await best.click()
  await page.getByRole('button', { name: 'Use this route' }).click()
  await expect(page.getByText(/one of its ends has moved/)).toHaveCount(0)
  await saved(page)

  await goTo(page, 'Circuit')
  await expect(page.getByRole('region', { name: 'Sections of the cable' })).toContainText('in the attic')
  await goTo(page, 'Handover')
  const paper = await fetchPaper(page, 'Routes through the building')
  expect(paper.body.subarray(0, 5).toString()).toBe('%PDF-')
})

test('a dimension is touched and typed; a room made otherwise; a point outside, and the way along the outer wall', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'route')
  await sheetOf(page, 'Building')
  await page.getByRole('button', { name: 'Kiln room', exact: true }).click()
  await page.getByRole('button', { name: 'length of Kiln room, 20 ft' }).click()
  await expect(page.getByLabel('Length, west to east')).toBeFocused()
  await page.keyboard.type('22')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'length of Kiln room, 22 ft' })).toBeVisible()
  const working = page.locator('aside')
  await working.getByText('Exceptions by floor and room').click()
  await working.getByLabel('Not made as the rest').selectOption({ label: 'Kiln room' })
  await working.getByRole('group', { name: 'Walls, Kiln room' }).getByText('Solid').click()
  await working.getByRole('group', { name: 'Conduit outside' }).getByText('Allowed').click()
  await page.getByRole('button', { name: 'Yard light', exact: true }).click()
  await working.getByLabel('Room', { exact: true }).selectOption({ label: 'Store' })
  await working.getByRole('group', { name: 'On the wall' }).getByText('West', { exact: true }).click()
  await working.getByLabel('On the outer face of the wall').check()
  await typedInto(working.getByLabel('From the left, facing it'), '10')
  await typedInto(working.getByLabel('Its middle above the floor'), '90')
  await expect(working.getByText('On the plan.', { exact: true })).toBeVisible()
  // Behind the wall between two rooms is no outside.
  await working.getByRole('group', { name: 'On the wall' }).getByText('East', { exact: true }).click()
  await expect(page.getByText(/Yard light: said to be outside, where another room is/)).toBeVisible()
  await working.getByRole('group', { name: 'On the wall' }).getByText('West', { exact: true }).click()
  await expect(page.getByText(/said to be outside/)).toHaveCount(0)
  await saved(page)
  // The kiln room is solid now: the way of its circuit ends on a face.
  await sheetOf(page, 'Cable route')
  await expect(page.getByRole('button', { name: /^Best: / })).toContainText(/one person|two people/)
  await reload(page)
  await sheetOf(page, 'Building')
  await expect(page.getByText('Exceptions by floor and room: 1')).toBeVisible()
})

test('what a way asks for is cut from the van first, and a leftover that is too short is named', async ({ page }) => {
  await openCopy(page, 'village-hall', 'route')
  await sheetOf(page, 'Cable route')
  await page.getByRole('button', { name: 'Use this route' }).click()
  await expect(page.getByRole('button', { name: /^The chosen route/ })).toBeVisible()
  await sheetOf(page, 'Cutting list')
  await expect(page.getByText('Hall consumer unit to Tea urn')).toBeVisible()
  await page.getByLabel('Add roll').fill('5')
  await page.getByRole('button', { name: 'In the van' }).click()
  await expect(page.getByText(/No length of this cable is as long as this piece/)).toBeVisible()
  await page.getByLabel('Add roll').fill('25')
  await page.getByRole('button', { name: 'In the shop' }).click()
  await expect(page.getByText('No cutting comes cheaper.')).toBeVisible()
  await expect(page.getByText(/To buy: 25 m/)).toBeVisible()
  const reel = await page.locator('main').getByRole('heading', { name: /mm², / }).first().innerText()
  // Bought, it is a length of the van; cut from it, the rest stays there for the next job, and this one has what it needs.
  await page.getByRole('button', { name: 'Bought: into the van' }).click()
  await expect(page.getByText('Nothing to buy.')).toBeVisible()
  await page.getByRole('button', { name: 'Cut: take it from the van' }).click()
  await expect(page.getByText('All cut and taken from the van for this job.')).toBeVisible()
  await saved(page)
  await goTo(page, 'Day')
  await page.locator('nav[aria-label="Sheets of the day"]').getByRole('button', { name: 'Materials' }).click()
  const working = page.locator('aside')
  await page.getByRole('button', { name: reel, exact: true }).click()
  await working.getByRole('button', { name: 'Bring it back' }).click()
  await expect(working.getByRole('button', { name: 'Bring it back' })).toHaveCount(0)
  await saved(page)
})

test('a room round a corner, what is inside walls and in the way above, and rooms out of a drawing', async ({ page }) => {
  await openCopy(page, 'former-dairy', 'route')
  await sheetOf(page, 'Building')
  // What is on the plan is moved by a pointer, and one step takes it back.
  const drag = async (name: string, right: number, down: number) => {
    const { x, y, width, height } = (await page.getByRole('button', { name, exact: true }).locator('rect').first().boundingBox())!
    await page.mouse.move(x + width / 2, y + height / 2)
    await page.mouse.down()
    await page.mouse.move(x + width / 2 + right, y + height / 2 + down, { steps: 4 })
    await page.mouse.up()
  }
  const left = page.getByLabel('From the left, facing it')
  await page.getByRole('button', { name: 'Pottery wheel', exact: true }).click()
  const before = Number(await left.inputValue())
  await drag('Pottery wheel', -80, 10)
  await expect(async () => expect(Number(await left.inputValue())).toBeLessThan(before - 4)).toPass()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(left).toHaveValue(String(before))
  await drag('Kiln room, east wall', 60, 0)
  await page.getByRole('button', { name: 'Kiln room', exact: true }).click()
  await expect(page.getByLabel('Length, west to east')).toHaveValue(/^2[5-8]/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('Length, west to east')).toHaveValue('20')
  const working = page.locator('aside')
  const main = page.locator('main')
  // A nook north of the wheel room, open to it.
  await page.getByLabel('It lies', { exact: true }).selectOption('north')
  await page.getByLabel('which room').selectOption({ label: 'Wheel room' })
  await page.getByLabel('Room', { exact: true }).click()
  await typed(page, 'Nook', '10', '6')
  await page.getByRole('button', { name: 'Nook', exact: true }).click()
  await working.getByLabel('No wall between: one room round a corner').check()
  await page.getByText('Obstacles').click()
  await working.getByLabel('What it is').fill('Duct')
  const sizes = { 'Off the west wall': '8', 'Off the south wall': '0', 'West to east': '1.5', 'South to north': '14' }
  for (const [label, value] of Object.entries(sizes)) await working.getByLabel(label, { exact: true }).fill(value)
  await working.getByRole('button', { name: 'It is in the way' }).click()
  await expect(working.getByText(/Duct, above/)).toBeVisible()
  await page.getByRole('button', { name: 'Wheel room, north wall' }).click()
  await expect(main.locator('svg:visible').getByText('no wall here')).toBeVisible()
  await working.getByLabel('A stud was found, from the left').fill('12')
  await working.getByLabel('Its face is finished and stays closed').check()
  await working.getByLabel('It begins, from the left').fill('22')
  await working.getByLabel('How wide').fill('1')
  await working.getByRole('button', { name: 'It is inside' }).click()
  await expect(main.locator('svg:visible').getByText('pipe inside')).toBeVisible()
  await expect(main.locator('svg:visible').getByText(/stud found .* from the left/)).toBeVisible()
  await expect(main.locator('svg:visible').getByText(/its face stays closed/)).toBeVisible()
  // What is no drawing, or too much of one, says so and changes nothing.
  const drawing = page.getByLabel('DXF drawing')
  await drawing.setInputFiles({ name: 'letter.dxf', mimeType: 'text/plain', buffer: Buffer.from('a letter') })
  await expect(main.getByRole('alert').filter({ hasText: 'Nothing was changed' })).toBeVisible()
  await page.getByRole('button', { name: 'Drop it' }).click()
  const huge = test.info().outputPath('huge.dxf')
  writeFileSync(huge, Buffer.alloc(10_000_001, 'x'))
  await drawing.setInputFiles(huge)
  await expect(main.getByText('huge.dxf is larger than 10 MB')).toBeVisible()
  // An outline round a corner in millimetres, with a cupboard on a layer of its own.
  const outline = (layer: string, ...corners: readonly (readonly [number, number])[]) =>
    `0\nLWPOLYLINE\n8\n${layer}\n90\n${corners.length}\n70\n1\n${corners.map(([x, y]) => `10\n${x}\n20\n${y}\n`).join('')}`
  const entities =
    outline('walls', [0, 0], [6000, 0], [6000, 5000], [4000, 5000], [4000, 3000], [0, 3000]) +
    outline('cupboards', [0, 0], [600, 0], [600, 3000], [0, 3000])
  const text = `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`
  await drawing.setInputFiles({ name: 'yard.dxf', mimeType: 'text/plain', buffer: Buffer.from(text) })
  const panel = page.getByRole('region', { name: 'Rooms from a drawing' })
  await expect(panel.getByRole('button', { name: 'Take 3 rooms' })).toBeDisabled()
  await panel.getByLabel(/^cupboards/).uncheck()
  await panel.getByLabel('Height of the rooms').fill('8')
  await panel.getByLabel('Name of 1', { exact: true }).fill('Wash house')
  await panel.getByLabel('Name of 2, open to 1').fill('Wash house, back')
  await panel.getByLabel('The largest lies').selectOption('south')
  await panel.getByLabel('which room').selectOption({ label: 'Store' })
  await panel.getByRole('button', { name: 'Take 2 rooms' }).click()
  await expect(page.getByRole('button', { name: 'Wash house', exact: true })).toBeVisible()
  await saved(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Wash house', exact: true })).toHaveCount(0)
})

test('framing is moved to where it was found, a picture lies under the plan, and what is on faces is marked out for bending', async ({
  page,
}) => {
  await openCopy(page, 'former-dairy', 'route')
  await sheetOf(page, 'Building')
  const working = page.locator('aside')
  const wall = page.locator('main').locator('svg:visible').last()
  await working.getByRole('group', { name: 'Blocking between studs' }).getByText('There are').click()
  await working.getByRole('group', { name: 'Joists run' }).getByText('North and south').click()
  await working.getByLabel('Depth of a joist').fill('9.25')
  await page.getByRole('button', { name: 'Wheel room', exact: true }).press('Enter')
  await working.getByLabel('A joist was found, off the west wall').fill('1')
  await page.getByRole('button', { name: 'Wheel room, east wall' }).click()
  await expect(wall.getByText('blocking 3 ft 11 in up')).toBeVisible()
  const drag = async (name: string, right: number, up: number) => {
    const part = wall.getByRole('button', { name, exact: true }).locator('rect').first()
    await part.scrollIntoViewIfNeeded()
    const { x, y, width, height } = (await part.boundingBox())!
    await page.mouse.move(x + width / 2, y + height / 4)
    await page.mouse.down()
    await page.mouse.move(x + width / 2 + right, y + height / 4 - up, { steps: 4 })
    await page.mouse.up()
  }
  const stud = working.getByLabel('A stud was found, from the left')
  await expect(stud).toHaveValue('')
  await drag('Its studs', 15, 0)
  await expect(stud).not.toHaveValue('')
  await expect(wall.getByText(/^stud found .* from the left$/)).toBeVisible()
  await drag('Its blocking', 0, 60)
  await expect(working.getByLabel('They are above the floor').first()).toHaveValue(/^[5-7]/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(wall.getByText('blocking 3 ft 11 in up')).toBeVisible()
  // A picture, by the ends of a wall on it.
  const picture = Buffer.from(await page.screenshot())
  await page.getByLabel('A picture under the plan').setInputFiles({ name: 'plan.png', mimeType: 'image/png', buffer: picture })
  const panel = page.getByRole('region', { name: 'A picture under the plan' })
  await panel.getByAltText('The picture that was chosen').click({ position: { x: 60, y: 200 } })
  await panel.getByRole('button', { name: /^East end|^North end/ }).press('ArrowRight')
  await panel.getByLabel('What they are').selectOption({ label: 'Ends of Store, south wall: 16 ft' })
  await panel.getByRole('button', { name: 'Lay it under' }).click()
  await expect(page.locator('main').locator('svg:visible image')).toHaveCount(1)
  await page.getByRole('button', { name: 'Take the picture away' }).click()
  await expect(page.locator('main').locator('svg:visible image')).toHaveCount(0)
  // Without attic, floor and lining it goes on the faces of walls, in a pipe that is bent.
  await sheetOf(page, 'Cable route')
  for (const place of ['Keep out of the attic', 'Keep out of the crawl space', 'Open no lining to cross studs'])
    await working.getByText(place).click()
  await expect(working.getByRole('heading', { name: 'Pipes on faces' })).toBeVisible()
  await expect(working.getByText(/quarter bends?/).first()).toBeVisible()
  await working.getByRole('button', { name: 'Mark it out for bending' }).first().click()
  await expect(page.locator('main').getByText(/marked out$/)).toBeVisible()
  await expect(page.locator('main').getByRole('table').getByRole('row').nth(1)).toContainText('90°')
  await saved(page)
})

test('a point is fed out of a cable that is there, by a joint box where the way to it is least', async ({ page }) => {
  await openCopy(page, 'former-dairy')
  const job = /jobs\/([^/]+)/.exec(page.url())![1]!
  let { revision } = (await (await page.request.get(`/api/jobs/${job}`)).json()) as { revision: number }
  for (const [id, side, atM] of [
    ['b1', 'south', 1],
    ['b2', 'south', 8],
    ['b3', 'north', 5],
  ] as const) {
    const edit = { kind: 'place.put', what: 'point', id, room: 'room-wheel-room', spot: { side, atM, heightMm: 1100, wall: `w-${side}` } }
    expect((await page.request.post(`/api/jobs/${job}/edits`, { data: { revision: revision++, edit } })).status()).toBe(200)
  }
  await page.goto(`/jobs/${job}/route?sheet=way`)
  await page.getByLabel('Current circuit').selectOption({ label: 'Glaze bench, two lines' })
  await sheetOf(page, 'Cable route')
  const working = page.locator('aside')
  const legs = page.getByRole('group', { name: 'Cables of this circuit' })
  await expect(page.getByRole('heading', { name: 'Or out of a cable that is there' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Take the best for all 3 cables' }).click()
  await legs.getByRole('button', { name: /to Bench, right/ }).click()
  await working.getByRole('button', { name: 'Look where a joint box would do' }).click()
  await expect(working.getByText(/and 25 min for the box/)).toBeVisible()
  await working.getByRole('button', { name: 'Put a joint box there' }).click()
  await expect(legs.getByRole('button', { name: /^Joint before .* to Bench, right ✓$/ })).toBeVisible()
  await expect(legs.getByRole('button')).toHaveCount(4)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(legs.getByRole('button')).toHaveCount(3)
})

test('a data cable beside power: what it shares is asked, refused without a barrier, and it is on the paper', async ({ page }) => {
  await openCopy(page, 'village-hall', 'route')
  const id = /\/jobs\/([^/]+)/.exec(page.url())![1]!
  await sheetOf(page, 'Data and control')
  await expect(page.getByText(/^No thermostat, bell, telephone, data or aerial cable is entered/)).toBeVisible()
  await page.getByRole('button', { name: 'Data or control cable', exact: true }).click()
  const aside = page.locator('aside')
  await typedInto(aside.getByLabel('From', { exact: true }), 'Tea kitchen')
  await typedInto(aside.getByLabel('To', { exact: true }), 'Stage')
  await typedInto(aside.getByLabel('Length', { exact: true }), '18')
  await expect(aside.getByText(/whether it runs in a raceway or box together with power conductors is not said/)).toBeVisible()
  const shared = aside.getByRole('group', { name: 'In a raceway or box with power conductors' })
  await shared.getByText('Yes', { exact: true }).click()
  await aside.getByRole('region', { name: 'What it shares' }).getByRole('checkbox').first().check()
  await aside.getByRole('group', { name: 'Insulated for the highest voltage present' }).getByText('No', { exact: true }).click()
  await aside.getByRole('group', { name: 'A barrier or divider is between them' }).getByText('No', { exact: true }).click()
  await expect(aside.getByText(/with power conductors and nothing parts them/)).toBeVisible()
  await shared.getByText('No', { exact: true }).click()
  await typedInto(aside.getByLabel('Least distance to power cables'), '60')
  await expect(aside.getByText('Kept apart from power as entered.')).toBeVisible()
  await saved(page)
  const paper = await page.request.get(`/api/jobs/${id}/record.pdf`, { timeout: 60_000 })
  const words = (await textOf(await paper.body())).boxes
    .map((b) => b.text)
    .join(' ')
    .replace(/\s+/g, ' ')
  expect(words).toContain('Tea kitchen to Stage; 18 m; apart from power; 60 mm from power cables at least')
})
