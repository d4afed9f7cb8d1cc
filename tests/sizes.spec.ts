import type { Locator, Page } from '@playwright/test'
import { test } from './support/test'
import { expect } from './support/expect'
import { fetchPaper, saved, soundReading } from './support/walk'

/*
 * A new job from the first page to its record: by touch at the three sizes that are worked at, and once by keys alone. What a hand does
 * is counted, and printed.
 */

/** A hand: how it presses, gives a value, chooses; and how often it did something. */
interface Hand {
  readonly press: (on: Locator) => Promise<void>
  readonly give: (to: Locator, value: string) => Promise<void>
  readonly choose: (from: Locator, label: string) => Promise<void>
  /** Brings up the working, where the size keeps it down: by its handle, or by touching what it is of, which stays in sight. */
  readonly bringUp: (by?: Locator) => Promise<void>
  readonly putDown: () => Promise<void>
  readonly goTo: (stage: string) => Promise<void>
  readonly steps: () => number
}

function touching(page: Page): Hand {
  let steps = 0
  const press = async (on: Locator) => {
    steps++
    await on.tap()
  }
  const foot = page.getByRole('button', { name: 'Values and working' })
  const line = page.locator('nav[aria-label="Stages of the work"]')
  return {
    press,
    give: async (to, value) => {
      steps++
      await to.fill(value)
      await to.blur()
    },
    choose: async (from, label) => {
      steps++
      await from.selectOption({ label })
    },
    bringUp: async (by = foot) => {
      if ((await foot.isVisible()) && (await foot.getAttribute('aria-expanded')) === 'false') await press(by)
    },
    putDown: async () => {
      if ((await foot.isVisible()) && (await foot.getAttribute('aria-expanded')) === 'true') await press(foot)
    },
    goTo: async (stage) => {
      const link = line.getByRole('link', { name: new RegExp(`^${stage}`) })
      if (!(await link.isVisible())) await press(page.getByRole('button', { name: 'All stages' }))
      await press(link)
      await expect(page.locator(`section[aria-label="${stage}: the drawing"]`)).toBeVisible()
    },
    steps: () => steps,
  }
}

/** Keys alone: Tab until the focus is there, and then what the thing there answers to. */
function typing(page: Page): Hand {
  let steps = 0
  const key = async (name: string) => {
    steps++
    await page.keyboard.press(name)
  }
  const reach = async (on: Locator) => {
    // Found by its name once, and not before each key; again where the page put another in its place.
    let at = await on.elementHandle()
    for (let i = 0; i < 150; i++) {
      const focus = await at!.evaluate((e) => (e.isConnected ? e.contains(document.activeElement) : null))
      if (focus) return
      if (focus === null) at = await on.elementHandle()
      else await key('Tab')
    }
    throw new Error(`not reached by Tab: ${on.toString()}`)
  }
  const keys: Record<string, string> = { Circuit: 'c', Boxes: 'x', Wiring: 'w', Test: 't', Handover: 'h' }
  return {
    press: async (on) => {
      // A choice among several is moved to by arrows.
      const radio = on.locator('input[type=radio]')
      const group = (await radio.count()) ? on.locator('xpath=ancestor::fieldset[1]').locator('input[type=radio]') : null
      if (!group) {
        await reach(on)
        return key((await on.evaluate((e) => (e as HTMLInputElement).type)) === 'checkbox' ? 'Space' : 'Enter')
      }
      const names = await group.evaluateAll((list) => list.map((e) => (e as HTMLInputElement).name))
      await reach(page.locator(`fieldset:has(input[name="${names[0]}"])`))
      if (await radio.evaluate((e) => e === document.activeElement)) return key('Space')
      for (let i = 0; i < names.length && !(await radio.isChecked()); i++) await key('ArrowRight')
    },
    give: async (to, value) => {
      await reach(to)
      steps++
      await page.keyboard.type(value)
      await key('Tab')
    },
    choose: async (from, label) => {
      await reach(from)
      steps++
      // The first letters of a name choose it, as in any list.
      await page.keyboard.type(label)
      await expect(from.locator('option:checked')).toHaveText(label)
    },
    bringUp: async () => undefined,
    putDown: async () => undefined,
    goTo: async (stage) => {
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
      await key('g')
      await key(keys[stage]!)
      await expect(page.locator(`section[aria-label="${stage}: the drawing"]`)).toBeVisible()
    },
    steps: () => steps,
  }
}

const APPLIANCE = 'Pottery wheel (550 W, 230 V)'

/** The first minutes: from the first page to a breaker and a cable. */
async function toBreakerAndCable(page: Page, hand: Hand) {
  const form = page.getByRole('form', { name: 'New job' })
  await hand.press(page.getByRole('button', { name: 'New job' }))
  await hand.press(form.locator('label', { hasText: 'United Kingdom' }))
  await hand.choose(form.getByLabel(/What is to be powered/), APPLIANCE)
  await hand.press(page.getByRole('button', { name: 'Make it' }))
  await expect(page.getByRole('heading', { name: 'Pottery wheel' })).toBeVisible()
  await hand.goTo('Circuit')
  await hand.bringUp(page.getByRole('button', { name: /^Cable: / }))
  await hand.give(page.getByLabel('Length, one way'), '18')
  await hand.press(page.getByRole('button', { name: /^Socket-outlet \?/ }))
  await hand.choose(page.getByLabel('Accessory'), '13 A socket-outlet, single switched')
  const figures = page.getByLabel('Figures; each opens its working')
  await expect(figures).toContainText('1.5 mm²')
  await expect(figures).toContainText(/Breaker\s*6 A/)
}

async function toTheRecord(page: Page, hand: Hand) {
  await saved(page)
  await hand.goTo('Boxes')
  await hand.press(page.getByRole('button', { name: 'Use this box' }).first())
  await hand.bringUp()
  await expect(page.getByText('Fill OK.')).toBeVisible()
  await hand.goTo('Wiring')
  await hand.bringUp()
  const working = page.locator('aside')
  await hand.press(working.getByRole('checkbox').first())
  await hand.press(working.getByRole('button', { name: /remaining steps are done/ }))
  await expect(working.getByRole('checkbox').last()).toBeChecked()
  await hand.goTo('Test')
  const rows = page.locator('section[aria-label="Test: the drawing"]').locator('tbody tr')
  const count = await rows.count()
  expect(count).toBeGreaterThan(10)
  for (let i = 0; i < count; i++) {
    const row = rows.nth(i)
    if ((await row.locator('td').first().getByRole('img').getAttribute('aria-label')) !== 'not measured') continue
    if ((await row.getByRole('button').getAttribute('aria-pressed')) !== 'true') {
      await hand.putDown()
      await hand.press(row.getByRole('button'))
    }
    await hand.bringUp()
    const expected = await row.locator('td').nth(2).textContent()
    if (expected === 'done') await hand.press(working.getByRole('button', { name: 'Pass' }))
    else {
      await hand.give(working.getByLabel('Reading', { exact: true }), soundReading(expected!))
      await hand.press(working.getByRole('button', { name: 'Record' }))
    }
    await expect(row.locator('td').nth(3)).not.toBeEmpty()
  }
  await hand.goTo('Handover')
  const { body } = await fetchPaper(page, 'Record')
  expect(body.subarray(0, 5).toString()).toBe('%PDF-')
}

const sizes = [
  ['a phone', { width: 390, height: 844 }],
  ['a tablet', { width: 820, height: 1180 }],
  ['a desk that is touched', { width: 1280, height: 800 }],
] as const

for (const [name, viewport] of sizes)
  test(`a new job goes from the first page to its record by touch, on ${name}`, async ({ browser }) => {
    const context = await browser.newContext({
      viewport,
      hasTouch: true,
      isMobile: name !== 'a desk that is touched',
      serviceWorkers: 'block',
    })
    const page = await context.newPage()
    await page.goto('/')
    const hand = touching(page)
    const begun = Date.now()
    await toBreakerAndCable(page, hand)
    const first = hand.steps()
    console.log(`to breaker and cable on ${name}: ${first} steps, ${((Date.now() - begun) / 1000).toFixed(0)} s`)
    expect(first).toBeLessThanOrEqual(8)
    await toTheRecord(page, hand)
    console.log(`to the record on ${name}: ${hand.steps()} steps`)
    await context.close()
  })

test('a new job goes from the first page to its record by keys alone', async ({ page }) => {
  await page.goto('/')
  const hand = typing(page)
  await toBreakerAndCable(page, hand)
  await toTheRecord(page, hand)
  console.log(`to the record by keys alone: ${hand.steps()} keys`)
})
