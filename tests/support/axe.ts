import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'
import type { AxeResults, RunOptions } from 'axe-core'

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

interface Colour {
  r: number
  g: number
  b: number
  alpha: number
  parseString: (text: string) => Colour
}
interface Checker {
  run: (of: Document, options: RunOptions) => Promise<AxeResults>
  commons: { color: { Color: { prototype: Colour } } }
}

/** Has the checker read each colour once: it read the few there are thousands of times, a third of what it took. */
function readOnce() {
  const { prototype } = (globalThis as unknown as { axe: Checker }).axe.commons.color.Color
  const read = prototype.parseString
  const known = new Map<string, Omit<Colour, 'parseString'>>()
  prototype.parseString = function (text) {
    const before = known.get(text)
    if (before) return Object.assign(this, before)
    const { r, g, b, alpha } = read.call(this, text)
    known.set(text, { r, g, b, alpha })
    return this
  }
}

/** What axe finds wrong on a page as it stands, by rule and place; of all its rules, or of some. The checker is put into a page once. */
export async function violationsOf(page: Page, only: readonly string[] | null): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in globalThis))) {
    await page.evaluate(source)
    await page.evaluate(readOnce)
  }
  return page.evaluate(
    async (options) => {
      const { axe } = globalThis as unknown as { axe: Checker }
      const { violations } = await axe.run(document, options)
      return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`)
    },
    { resultTypes: ['violations'], ...(only ? { runOnly: [...only] } : {}) } satisfies RunOptions,
  )
}
