import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { test } from './support/test'
import { inRegion } from '../src/core/region/spelling'
import type { RegionId } from '../src/core/region/types'
import { sheetsOf, stages } from '../src/core/report/stages'
import { expect } from './support/expect'
import { alive, goToSheet } from './support/walk'

/*
 * In the hand: what is touched is large enough for a thumb, what is read is large enough to read, and nothing lies on anything; on
 * every sheet of jobs that were made by other means than the demos.
 */

/** Sizes that are held in the hand. */
const sizes = [
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
]
const jobs = ['na-shared-neutral-one-gfci.json', 'sound-uk-ring.json', 'za-plugs-100ma.json']

interface Seen {
  readonly small: readonly string[]
  readonly low: readonly string[]
  readonly over: readonly string[]
  readonly sideways: boolean
}

/** Looks at what is on the screen now: texts under 11.5 px, targets under 43 px, texts that lie on each other. */
const look = (page: Page): Promise<Seen> =>
  page.evaluate(() => {
    /** What of a rectangle is seen, past all that cuts it off; null where nothing is. */
    const seen = (el: Element, whole: DOMRect): DOMRect | null => {
      let [left, top, right, bottom] = [Math.max(0, whole.left), Math.max(0, whole.top), whole.right, whole.bottom]
      ;[right, bottom] = [Math.min(innerWidth, right), Math.min(innerHeight, bottom)]
      for (let p: Element | null = el; p; p = p.parentElement) {
        if ((p instanceof SVGElement && p.ownerSVGElement) || !/auto|scroll|hidden|clip/.test(getComputedStyle(p).overflow)) continue
        const box = p.getBoundingClientRect()
        ;[left, top] = [Math.max(left, box.left), Math.max(top, box.top)]
        ;[right, bottom] = [Math.min(right, box.right), Math.min(bottom, box.bottom)]
      }
      return right - left < 2 || bottom - top < 2 ? null : new DOMRect(left, top, right - left, bottom - top)
    }
    const layerOf = (el: Element): Element | null => {
      for (let p: Element | null = el; p; p = p.parentElement) if (/fixed|sticky/.test(getComputedStyle(p).position)) return p
      return null
    }
    const texts: { el: Element; words: string; r: DOMRect; px: number; layer: Element | null }[] = []
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
    while (walker.nextNode()) {
      const el = walker.currentNode.parentElement
      const words = walker.currentNode.textContent!.trim()
      if (!el || !words || el.closest('option, script, style, .sr-only, [aria-hidden=true]')) continue
      if (getComputedStyle(el).visibility === 'hidden') continue
      const range = document.createRange()
      range.selectNodeContents(walker.currentNode)
      const scale = el instanceof SVGElement ? (el.ownerSVGElement?.getScreenCTM()?.a ?? 1) : 1
      for (const whole of range.getClientRects()) {
        const r = seen(el, whole)
        if (r) texts.push({ el, words, r, px: parseFloat(getComputedStyle(el).fontSize) * scale, layer: layerOf(el) })
      }
    }
    const over = texts.flatMap((a, i) =>
      texts.slice(i + 1).flatMap((b) => {
        const wide = Math.min(a.r.right, b.r.right) - Math.max(a.r.left, b.r.left)
        const high = Math.min(a.r.bottom, b.r.bottom) - Math.max(a.r.top, b.r.top)
        return a.el !== b.el && a.layer === b.layer && wide > 3 && high > 4 ? [`${a.words} on ${b.words}`] : []
      }),
    )
    const low = [...document.querySelectorAll('a, button, select, input, textarea, [role=button], summary')].flatMap((el) => {
      const box = (el.matches('[type=checkbox], [type=radio]') && el.closest('label')) || el
      const r = box.getBoundingClientRect()
      const small = seen(box, r) !== null && r.height < 43 && getComputedStyle(el).visibility !== 'hidden'
      return small ? [`${el.tagName} ${Math.round(r.height)}: ${el.getAttribute('aria-label') ?? el.textContent}`] : []
    })
    const small = texts.filter((t) => t.px < 11.5).map((t) => `${t.px.toFixed(1)}: ${t.words}`)
    return { small, low, over, sideways: document.documentElement.scrollWidth > innerWidth + 1 }
  })

/** Stages that hold nothing in these jobs and look alike in all: one job stands for them. */
const EMPTY_ALIKE: readonly string[] = ['route', 'day']

for (const file of jobs)
  test(`${file}: in the hand all of it can be read and touched`, async ({ browser, request }) => {
    const data = JSON.parse(readFileSync(`tests/jobs/${file}`, 'utf8')) as { job: { region: RegionId } }
    const { region } = data.job
    const made = await request.post('/api/jobs/import', { data })
    const { id } = (await made.json()) as { id: string }
    const context = await browser.newContext({ viewport: sizes[0]!, hasTouch: true, isMobile: true, serviceWorkers: 'block' })
    const page = await context.newPage()
    let looked = 0
    const tabs = page.locator('nav[aria-label^="Sheets of"]').getByRole('button')
    for (const stage of stages.filter((x) => file === jobs[0] || !EMPTY_ALIKE.includes(x.id))) {
      await page.setViewportSize(sizes[0]!)
      await goToSheet(page, id, stage.id)
      // A sheet is there only where there is something to do on it.
      const sheets = sheetsOf(stage.id).length ? await tabs.allInnerTexts() : ['']
      expect(sheetsOf(stage.id).map((s) => inRegion(region, s.name))).toEqual(expect.arrayContaining(sheets.filter(Boolean)))
      looked += sheets.length
      for (const sheet of sheets) {
        await page.setViewportSize(sizes[0]!)
        if (sheet) await tabs.filter({ hasText: sheet }).first().click()
        for (const viewport of sizes) {
          await page.setViewportSize(viewport)
          await expect(page.locator(`section[aria-label="${stage.name}: the drawing"]`)).toBeVisible()
          await alive(page)
          const where = `${stage.id} ${sheet} at ${viewport.width}`
          expect(await look(page), where).toEqual({ small: [], low: [], over: [], sideways: false })
        }
      }
    }
    expect(looked).toBeGreaterThanOrEqual(20)
    await context.close()
    await request.delete(`/api/jobs/${id}`)
  })
