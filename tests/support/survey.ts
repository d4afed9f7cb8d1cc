import type { Page } from '@playwright/test'
import { expect } from './expect'
import { goTo, saved, tabNamed } from './walk'

/** Goes to a sheet of the survey. */
export async function sheet(page: Page, name: string) {
  if (!new URL(page.url()).pathname.endsWith('/survey')) await goTo(page, 'Survey')
  const tab = page.locator('nav[aria-label="Sheets of the survey"]').getByRole('button', { name: tabNamed(name), exact: true })
  await tab.click()
  await expect(tab).toHaveAttribute('aria-current', 'page')
  await expect(page.locator('section[aria-label="Survey: the drawing"]')).toBeVisible()
}

export const working = (page: Page) => page.locator('aside')

/** What the test that is asked for says. */
export const askedTest = (page: Page): Promise<string> =>
  working(page)
    .getByLabel('Test to make')
    .evaluate((s) => (s as HTMLSelectElement).selectedOptions[0]!.text)

/** Makes the test that is asked for, taps what dies in it, and records; gives what was asked. */
export async function makeTest(page: Page, deadIn: (place: string) => readonly string[]): Promise<string> {
  await expect(page.getByRole('heading', { name: 'Working out the next test…' })).toBeHidden()
  const asked = await askedTest(page)
  const place = asked
    .replace(/^(Switch off|Disconnect the outgoing cables at) /, '')
    .replace(/ \((known already|told, not seen|not done yet|not needed for this)\)$/, '')
  for (const p of deadIn(place)) {
    const tile = working(page).getByRole('button', { name: new RegExp(`^${p} (live|dead)`) })
    if ((await tile.getAttribute('aria-pressed')) === 'false') await tile.click()
  }
  await working(page)
    .getByRole('button', { name: /^Record:/ })
    .click()
  await saved(page)
  return asked
}

/** Makes the tests asked for until every point is traced; gives what was asked. */
export async function traceAll(page: Page, deadIn: (place: string) => readonly string[], most: number): Promise<string[]> {
  const asked: string[] = []
  while (!(await page.getByRole('heading', { name: 'Every point is traced' }).isVisible())) {
    asked.push(await makeTest(page, deadIn))
    expect(asked.length).toBeLessThanOrEqual(most)
  }
  return asked
}

/** Every point that is fed beyond a place, from each point's parent. */
export const beyondIn =
  (parents: Readonly<Record<string, string>>) =>
  (place: string): string[] => {
    const hangs = (point: string): boolean => {
      const up = parents[point]
      return up !== undefined && (up === place || hangs(up))
    }
    return Object.keys(parents).filter(hangs)
  }

export const pointRow = (page: Page, point: string) => page.getByRole('row', { name: new RegExp(`^${point} `) })
