import { test } from './support/test'
import { newWay } from '../src/core/job/board'
import { blankPoint } from '../src/core/job/point'
import { expect } from './support/expect'
import { sheet, working } from './support/survey'
import { goTo, newJob, saved, stage } from './support/walk'

const point = (id: string, name: string, from: string | null, lengthM: number) => ({ id, name, from, lengthM, watts: 200 })

test('two accessories of two circuits in one box: judged, wired and bought as one thing, and parted again', async ({ page }) => {
  await newJob(page, 'southern-africa', 'Extraction bench', 'Honey house', {
    at: 'boxes',
    edits: [
      { kind: 'supply.set', patch: { zeOhm: 0.4 } },
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'za-socket-16' } },
      { kind: 'circuit-point.add', circuit: 'c1', points: [point('p1', 'Extractor', null, 6), point('p2', 'Wax melter', 'p1', 4)] },
      { kind: 'circuit.add', id: 'c2', name: 'Warming shelf' },
      { kind: 'design.set', circuit: 'c2', design: 'a', patch: { accessory: 'za-socket-16' } },
      { kind: 'circuit-point.add', circuit: 'c2', points: [point('q1', 'Shelf', null, 9)] },
    ],
  })
  const inIt = working(page).getByRole('list', { name: 'Contents of this box' }).getByRole('listitem')
  await expect(inIt).toHaveCount(1)
  await working(page).getByLabel('Move in from another box').selectOption({ label: 'Shelf' })
  await expect(inIt).toHaveCount(2)
  await expect(inIt.nth(1)).toContainText('Warming shelf')
  await working(page).getByLabel('Box', { exact: true }).selectOption({ label: 'Surface moulded, 100 × 50 (45 mm)' })
  await expect(working(page).getByText(/Its accessories together are 2 gangs wide and this box takes 1/)).toBeVisible()
  await page.getByRole('button', { name: 'Use this box' }).first().click()
  await expect(working(page).getByText('Fill OK.')).toBeVisible()
  // One page of work for both, whichever circuit is in hand.
  await goTo(page, 'Wiring')
  for (const circuit of ['Circuit 1', 'Warming shelf']) {
    await page.getByLabel('Current circuit').selectOption({ label: circuit })
    await expect(page.getByText('Extractor and Shelf', { exact: true })).toBeVisible()
    await expect(
      working(page)
        .getByText(/bare copper of the cables .*\(Warming shelf\)/)
        .first(),
    ).toBeVisible()
  }
  await working(page).getByRole('checkbox').first().check()
  await page.getByLabel('Current circuit').selectOption({ label: 'Circuit 1' })
  await expect(working(page).getByRole('checkbox').first()).toBeChecked()
  await stage(page, 'Boxes').click()
  await page.getByRole('button', { name: 'Own box for Shelf' }).click()
  await expect(inIt).toHaveCount(1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(inIt).toHaveCount(2)
})

test('another accessory beside one on its circuit: no cable between, no length asked', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'Tea kitchen counter', 'Village hall', {
    at: 'boxes',
    edits: [
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13' } },
      { kind: 'circuit-point.add', circuit: 'c1', points: [point('p1', 'Urn', null, 6), point('p2', 'Fridge', 'p1', 4)] },
    ],
  })
  await working(page).getByLabel('Add in this box').selectOption({ label: 'a fixed appliance, on Circuit 1' })
  await saved(page)
  await stage(page, 'Circuit').click()
  await page.locator('nav[aria-label="Sheets of the circuit"]').getByRole('button', { name: 'This circuit', exact: true }).click()
  const row = page.getByRole('row', { name: /^Fixed appliance beside Urn/ })
  await expect(row).toContainText('same box')
  await row.getByRole('button', { name: 'Fixed appliance beside Urn', exact: true }).click()
  await expect(working(page).getByText('In the same box: joined there, no cable between.')).toBeVisible()
  await expect(working(page).getByLabel('Cable from there')).toHaveCount(0)
})

test('what is taken out is work: what is left is asked, and it is on the day', async ({ page }) => {
  await newJob(page, 'north-america', 'Wheel room, old outlets', 'Former dairy', {
    at: 'survey',
    edits: [
      { kind: 'way.add', way: newWay('w1', 'Wheel room', { position: 3, ratingA: 20, state: 'existing' }) },
      { kind: 'point.add', points: [blankPoint('near', 'Near the door'), blankPoint('far', 'Far wall')] },
    ],
  })
  await sheet(page, 'Points')
  await page
    .getByRole('button', { name: /^Near the door/ })
    .first()
    .click()
  await working(page).getByLabel('In this job it').selectOption({ label: 'Is there and is taken out' })
  const work = working(page).getByRole('list', { name: 'Work where it is taken out' })
  await expect(work.getByRole('listitem').first()).toContainText('Prove it dead here')
  await expect(page.getByRole('link', { name: /^Survey/ }).first()).toContainText('open')
  await working(page).getByLabel('What is left there').selectOption({ label: 'A joint or capped conductors, under a blank cover' })
  await expect(work).toContainText('Fit a blank cover')
  await saved(page)
  await goTo(page, 'Day')
  await expect(page.getByText('Near the door: take it out, and leave it safe').first()).toBeVisible()
})
