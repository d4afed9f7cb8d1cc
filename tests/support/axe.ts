import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'
import type { AxeResults, RunOptions } from 'axe-core'

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** What axe finds wrong on a page as it stands, by rule and place; of all its rules, or of some. The checker is put into a page once. */
export async function violationsOf(page: Page, only: readonly string[] | null): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in globalThis))) await page.evaluate(source)
  return page.evaluate(
    async (options) => {
      const { axe } = globalThis as unknown as { axe: { run: (of: Document, options: RunOptions) => Promise<AxeResults> } }
      const { violations } = await axe.run(document, options)
      return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`)
    },
    { resultTypes: ['violations'], ...(only ? { runOnly: [...only] } : {}) } satisfies RunOptions,
  )
}
