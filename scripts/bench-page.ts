// Pages of the built application under a hand, for npm run bench: what typing and saving make the page's thread do at once.
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { writeJobFile } from '../src/core/job/file'
import { bigJob } from './big-job'
import { startBuilt } from './built-server'
import places from './chromium.json' with { type: 'json' }

type Line = (name: string, value: string, aim?: string) => void

const PORT = 3309
const ROUNDS = 8
/** A stage and a field that is typed in there. */
const fields = [
  { stage: 'brief', label: 'Power' },
  { stage: 'circuit', label: 'Length, one way' },
] as const

declare global {
  var longTasks: number[]
}

/** Milliseconds of each task over 50 ms, from the first letter until what was typed is saved and drawn. */
async function typed(page: Page, label: string, text: string): Promise<readonly number[]> {
  const field = page.getByLabel(label, { exact: true }).first()
  await field.click()
  await page.evaluate(() => (globalThis.longTasks = []))
  await field.fill('')
  await field.pressSequentially(text, { delay: 60 })
  await field.press('Tab')
  await page.waitForTimeout(700)
  return page.evaluate(() => globalThis.longTasks)
}

/** Typing at 6, 30 and 100 circuits, in turn. */
export async function benchPages(line: Line): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-bench-'))
  const server = await startBuilt(folder, PORT)
  const browser = await chromium.launch({ executablePath: places.find(existsSync), args: ['--no-sandbox', '--disable-gpu'] })
  try {
    const page = await browser.newPage({ serviceWorkers: 'block' })
    await page.addInitScript(() => {
      globalThis.longTasks = []
      const watch = new PerformanceObserver((list) => globalThis.longTasks.push(...list.getEntries().map((e) => e.duration)))
      watch.observe({ type: 'longtask', buffered: true })
    })
    for (const circuits of [6, 30, 100]) {
      const made = await page.request.post(`${server.base}/api/jobs/import`, { data: writeJobFile(bigJob(circuits), []) })
      const { id } = (await made.json()) as { id: string }
      for (const { stage, label } of fields) {
        await page.goto(`${server.base}/jobs/${id}/${stage}`)
        await page.getByText(/^Saved$/).waitFor({ state: 'attached' })
        await page.waitForTimeout(1000)
        const long: number[] = []
        for (let i = 0; i < ROUNDS; i++) {
          const tasks = await typed(page, label, String(20 + i))
          // The first time the code itself is compiled.
          if (i > 0) long.push(...tasks)
        }
        const said = long.length ? `${long.length}, the longest ${Math.max(...long).toFixed(0)} ms` : 'none'
        line(`  typing and saving in ${stage} at ${circuits} circuits, tasks over 50 ms`, said, `of ${ROUNDS - 1} times; aim: none`)
      }
    }
  } finally {
    await browser.close()
    await server.kill()
    rmSync(folder, { recursive: true, force: true })
  }
}
