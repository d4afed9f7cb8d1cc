import type { Locator, Page } from '@playwright/test'
import { layOutOptions } from '../../src/core/choose/options'
import { seenBy } from '../../src/core/design/fed'
import { boardDrawing } from '../../src/core/drawing/board'
import { boxDrawing } from '../../src/core/drawing/box'
import { chainDrawing } from '../../src/core/drawing/chain'
import { labelDrawing } from '../../src/core/drawing/label'
import { profileDrawing } from '../../src/core/drawing/profile'
import type { Drawing } from '../../src/core/drawing/shape'
import { treeDrawing } from '../../src/core/drawing/tree'
import { wallDrawing } from '../../src/core/drawing/wall'
import { benchDrawing } from '../../src/core/drawing/bench'
import { circuitLabels } from '../../src/core/documents/labels'
import { needsTable } from '../../src/core/documents/needs-table'
import { type CircuitReport, evaluate, type Report } from '../../src/core/evaluate/evaluate'
import { read } from '../../src/core/installation/installation'
import { readJobFile } from '../../src/core/job/file'
import type { Job } from '../../src/core/job/schema'
import { formatA, formatLength, formatOhm, formatPercent, formatSize, trim } from '../../src/core/base/format'
import { formatMoney } from '../../src/core/region/money'
import { expectedWords } from '../../src/core/verify/words'
import { worlds } from '../../src/core/region/worlds'
import { unitsFor } from '../../src/core/workday/settings'
import { inRegion } from '../../src/core/region/spelling'
import { plannedIn } from '../../src/core/survey/board'
import { estimateTime } from '../../src/core/workday/estimate'
import { tasksOf } from '../../src/core/workday/tasks'
import { serviceDemand } from '../../src/core/survey/service'
import { sourceCandidates, wantedBy, whereItStands } from '../../src/core/survey/sources'
import { runReport } from '../../src/core/survey/walls'
import { formatDate } from '../../src/ui/when'
import { expect } from './expect'
import { goToSheet } from './walk'

/*
 * Every figure shown is the figure used: each sheet of whole jobs is opened, and what stands on it is held against the core's own
 * answer, worked out here from the same job file.
 */

async function fileOf(page: Page, id: string): Promise<{ job: Job; report: Report }> {
  const response = await page.request.get(`/api/jobs/${id}/file.json`)
  const { job, readings } = readJobFile(await response.json())
  return { job, report: evaluate(job, readings) }
}

/** Until it holds; asked again soon, as a page takes some hundredths of a second. */
const settles = (check: () => Promise<void>) => expect(check).toPass({ timeout: 25_000, intervals: [20, 50, 100, 250, 500, 1000] })
const plain = (text: string) => text.replaceAll(/\s+/g, ' ').trim()
/** What is in each cell of each row, all read at once. */
const cellsOf = async (rows: Locator): Promise<string[][]> =>
  (await rows.evaluateAll((list) => list.map((r) => [...r.querySelectorAll('td, th')].map((c) => c.textContent)))).map((r) => r.map(plain))

const drawing = (page: Page, stage: string) => page.locator(`section[aria-label="${stage}: the drawing"]`)
async function allCircuits(page: Page, id: string, { job, report }: { job: Job; report: Report }) {
  await goToSheet(page, id, 'circuit', 'all')
  const rows = drawing(page, 'Circuit').locator('table').first().locator('tbody tr')
  await expect(rows).toHaveCount(report.circuits.length)
  await settles(async () => {
    const said = await cellsOf(rows)
    for (const { circuit, chosen } of report.circuits) {
      const row = said.find((cells) => cells.some((c) => c.startsWith(plain(circuit.name))))?.join(' ')
      const { result, load } = chosen
      expect(row, circuit.name).toContain(result?.size ? `${result.breakerA} A, ${plain(formatSize(result.size))}` : '?')
      if (load) expect(row, circuit.name).toContain(plain(formatA(load.amps)))
      if (result?.dropPercent != null) expect(row, circuit.name).toContain(plain(formatPercent(result.dropPercent)))
    }
  })
  const { result } = serviceDemand(read(job))
  if (!result) return
  const table = drawing(page, 'Circuit').getByRole('table').last()
  await expect(table.getByRole('row', { name: /^Demand/ })).toContainText(formatA(result.demandA))
  await expect(table.getByRole('row', { name: /a service of/ })).toContainText(formatA(Math.abs(result.spareA)))
}

async function board(page: Page, id: string, { job, report }: { job: Job; report: Report }) {
  await goToSheet(page, id, 'survey', 'board')
  const facts = page.getByLabel('Summary', { exact: true })
  const { free } = report.boards[0]!
  if (free !== null) await expect(facts).toContainText(free.length ? `${free.length}: ${free.join(', ')}` : 'none')
  const { result } = serviceDemand(read(job))
  // The same spare capacity as among the circuits.
  if (result) await expect(facts).toContainText(`${formatA(result.spareA)} of `)
}

async function oneCircuit(page: Page, { circuit, chosen }: CircuitReport) {
  await page.getByLabel('Current circuit').selectOption(circuit.id)
  const { result } = chosen
  const wanted: readonly (readonly [figure: string, words: string | null])[] = [
    ['Breaker', result?.breakerA == null ? null : `${result.breakerA} A`],
    ['Size', result?.size ? formatSize(result.size) : null],
    ['Protective', result?.protectiveSize ? formatSize(result.protectiveSize) : null],
    ['Carries', result?.ampacityA == null ? null : formatA(result.ampacityA)],
    ['Zs', result?.zsOhm == null ? null : formatOhm(result.zsOhm)],
  ]
  const figures = page.getByLabel('Figures; each opens its working').getByRole('button')
  const along = (chosen.layout?.points ?? []).filter((p) => circuit.points.some((x) => x.id === p.point.id))
  const rows = drawing(page, 'Circuit').getByRole('row')
  await settles(async () => {
    const said = (await figures.allTextContents()).map(plain)
    for (const [figure, words] of wanted)
      if (words !== null)
        expect(
          said.find((t) => t.startsWith(figure)),
          figure,
        ).toContain(plain(words))
    if (along.length === 0) return
    const table = (await cellsOf(rows)).map((r) => r.join(' '))
    for (const p of along) {
      const row = table.find((t) => t.toLowerCase().includes(plain(p.point.name).toLowerCase()))
      expect(row, p.point.name).toContain(plain(formatA(p.throughA!)))
      expect(row, p.point.name).toContain(plain(formatPercent(p.dropPercent!)))
    }
  })
}

async function tests(page: Page, { circuit, tests: planned }: CircuitReport) {
  await page.getByLabel('Current circuit').selectOption(circuit.id)
  const text = (await drawing(page, 'Test').locator('tbody tr').allInnerTexts()).map((t) => t.replaceAll(/\s+/g, ' '))
  expect(text).toHaveLength(planned.length)
  planned.forEach((t, i) => expect(text[i], t.id).toContain(expectedWords(t).replaceAll(/\s+/g, ' ')))
}

async function raceways(page: Page, id: string, report: Report) {
  if (report.raceways.length === 0) return
  await goToSheet(page, id, 'circuit', 'raceways')
  for (const r of report.raceways) {
    await page.locator('button[aria-pressed]').filter({ hasText: r.raceway.name }).first().click()
    const main = page.locator('main')
    if (r.fill)
      await expect(main).toContainText(`${formatPercent(100 * r.fill.fillFraction)} of ${formatPercent(100 * r.fill.limitFraction)}`)
    if (r.conduit) await expect(main).toContainText(`${r.conduit.cableFactor} of ${r.conduit.conduitFactor}`)
    if (r.protectiveSize) await expect(main).toContainText(formatSize(r.protectiveSize))
  }
}

/** What a drawing of the core says, word for word, is in the drawing on the page. */
async function drawn(where: Locator, { shapes, title }: Drawing) {
  const wanted = shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))
  await settles(async () => {
    const said = new Set((await where.locator('svg text').allTextContents()).map((t) => t.trim()))
    expect(
      // A drawing is put into the words of its world where it is shown.
      wanted.filter((t) => !said.has(t.trim()) && !said.has(inRegion('north-america', t.trim()))),
      title,
    ).toEqual([])
  })
}

async function choices(page: Page, { job }: { job: Job }, { circuit, chosen }: CircuitReport) {
  if (!chosen.result?.size) return
  await page.getByLabel('Current circuit').selectOption(circuit.id)
  const tab = page.locator('nav[aria-label="Sheets of the circuit"]').getByRole('button', { name: 'Options' })
  await tab.click()
  const options = layOutOptions(seenBy(read(job), { upstream: aheadFor(job, circuit.id) }), circuit, chosen.design, chosen.fed)
  const good = options?.filter((o) => o.refused.length === 0 && o.beatenBy === null) ?? []
  const rows = drawing(page, 'Circuit').locator('tbody tr')
  if (options) await expect(rows).toHaveCount(good.length)
  const words = good.map((o) => [
    formatMoney(o.cost, job.region),
    formatPercent(o.dropPercent),
    formatA(o.marginA),
    `${trim(o.kwhAYear, 1)} kWh`,
    `${o.laterA} A`,
  ])
  await settles(async () => {
    const said = await cellsOf(rows)
    for (const [i, row] of words.entries()) for (const w of row) expect(said[i]!.join(' ')).toContain(plain(w))
  })
}
const aheadFor = (job: Job, circuit: string) => evaluate(job, []).byCircuit.get(circuit)!.upstream

async function sources(page: Page, { job, report }: { job: Job; report: Report }, { circuit }: CircuitReport) {
  await page.getByLabel('Current circuit').selectOption(circuit.id)
  // The place of what is in the building is known; that of the rest was not recorded.
  const wanted = wantedBy(read(job), circuit, whereItStands(read(job), circuit)?.room ?? null)
  const list = wanted ? sourceCandidates(read(job), report.survey, wanted) : []
  const rows = drawing(page, 'Survey').locator('tbody tr')
  await expect(rows).toHaveCount(list.length)
  const said = await rows.allInnerTexts()
  const units = unitsFor('world', job.region)
  list.forEach((c, i) => {
    expect(said[i]).toContain(c.words)
    expect(said[i]).toContain(c.spareA === null ? 'not known' : formatA(c.spareA))
    expect(said[i]).toContain(c.lengthM === null ? '?' : formatLength(c.lengthM, units))
  })
}

/** Sheets that are a drawing: what is in it is what the core draws. */
async function drawings(page: Page, id: string, { job, report }: { job: Job; report: Report }) {
  const read1 = read(job)
  const units = unitsFor('world', job.region)
  await goToSheet(page, id, 'survey', 'board')
  const { loads, proved } = report.survey
  const first = report.boards[0]!
  await drawn(
    drawing(page, 'Survey'),
    boardDrawing({ job: read1, report: first, loads, proved, planned: plannedIn(read1, first.board.id) }),
  )
  await goToSheet(page, id, 'circuit', 'this')
  for (const one of report.circuits) {
    await page.getByLabel('Current circuit').selectOption(one.circuit.id)
    await drawn(drawing(page, 'Circuit'), chainDrawing(seenBy(read1, one), one.circuit, one.chosen, units))
    const { layout } = one.chosen
    const limit = worlds[job.region].drop.percent(one.circuit.load.lighting)
    if (layout?.points.length && one.circuit.points.length)
      await drawn(drawing(page, 'Circuit'), profileDrawing(one.circuit, layout, limit, units))
  }
  await goToSheet(page, id, 'boxes')
  for (const { circuit, ends } of report.circuits) {
    await page.getByLabel('Current circuit').selectOption(circuit.id)
    await drawn(drawing(page, 'Boxes'), boxDrawing(ends[0]!.boxReport, units))
  }
  await goToSheet(page, id, 'wiring')
  for (const { circuit, ends } of report.circuits) {
    const { fitted, built } = ends[0]!
    if (!fitted || !built) continue
    await page.getByLabel('Current circuit').selectOption(circuit.id)
    await drawn(drawing(page, 'Wiring'), benchDrawing(built, null))
  }
}

/** What each point needs, row by row. */
async function needs(page: Page, { job }: { job: Job }, one: CircuitReport) {
  await page.getByLabel('Current circuit').selectOption(one.circuit.id)
  const { rows, columns } = needsTable(seenBy(read(job), one), one.circuit, one.chosen)
  if (columns.length < 2) return
  const shown = page.getByRole('table', { name: 'What each point needs' }).locator('tbody tr')
  await settles(async () => {
    const said = await cellsOf(shown)
    expect(said).toHaveLength(rows.length)
    for (const [i, cells] of rows.entries())
      for (const [k, words] of cells.entries()) if (k > 0) expect(said[i]![k]).toContain(plain(inRegion(job.region, words)))
  })
}

/** What the survey says in figures: loads of the points, what feeds each, the walls, the hours. */
async function surveyed(page: Page, id: string, { job, report }: { job: Job; report: Report }) {
  const one = read(job)
  const units = unitsFor('world', job.region)
  await goToSheet(page, id, 'survey', 'points')
  for (const p of one.points) {
    const field = page.getByLabel(`Load at ${p.name}`, { exact: true }).first()
    if (one.points.filter((q) => q.name === p.name).length === 1)
      await expect(field).toHaveValue(p.watts === null ? '' : String(Number(p.watts.toFixed(3))))
    const feed = report.survey.trace.feeds[p.id]
    const way = feed == null ? undefined : one.ways.find((w) => w.id === feed)
    if (way) await expect(field.locator('xpath=ancestor::tr')).toContainText(way.label)
  }
  if (one.walls[0]) {
    await goToSheet(page, id, 'survey', 'walls')
    await drawn(drawing(page, 'Survey'), wallDrawing(one.walls[0], runReport(job.region, one.walls[0], units), units))
  }
  await goToSheet(page, id, 'survey', 'time')
  const { bestH, likelyH, worstH, expectedH } = estimateTime(one, tasksOf(one, report))
  for (const h of [bestH, likelyH, worstH, expectedH]) await expect(drawing(page, 'Survey')).toContainText(`${trim(h, h < 10 ? 1 : 0)} h`)
}

/** The tree as far as it is traced, and how much of somebody's report is answered. */
async function traced(page: Page, id: string, { job, report }: { job: Job; report: Report }) {
  const one = read(job)
  if (one.ways.length && one.points.length) {
    await goToSheet(page, id, 'survey', 'trace')
    await drawn(drawing(page, 'Survey'), treeDrawing(one, report.survey, one.supply.board || worlds[job.region].words.board))
  }
  if (job.defects.length === 0) return
  await goToSheet(page, id, 'survey', 'report')
  const [answered, done] = [job.defects.filter((d) => d.state !== 'open').length, job.defects.filter((d) => d.state === 'done').length]
  await expect(drawing(page, 'Survey')).toContainText(`${answered} of ${job.defects.length} answered, ${done} put right`)
}

/** Labels as they are printed. */
async function labels(page: Page, id: string, { job, report }: { job: Job; report: Report }) {
  const { updatedAt } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as { updatedAt: string }
  await goToSheet(page, id, 'handover')
  for (const one of report.circuits) {
    await page.getByLabel('Current circuit').selectOption(one.circuit.id)
    const made = circuitLabels(seenBy(read(job), one), one, formatDate(updatedAt), unitsFor('world', job.region))
    for (const l of made) await drawn(drawing(page, 'Handover'), labelDrawing(l))
  }
}

/** Holds every figure on every sheet of a job, which is open, against the core's own. */
export async function everyFigure(page: Page, id: string) {
  const both = await fileOf(page, id)
  await allCircuits(page, id, both)
  await board(page, id, both)
  await raceways(page, id, both.report)
  await goToSheet(page, id, 'circuit', 'this')
  for (const c of both.report.circuits) await oneCircuit(page, c)
  await goToSheet(page, id, 'test')
  for (const c of both.report.circuits) await tests(page, c)
  await drawings(page, id, both)
  await goToSheet(page, id, 'survey', 'source')
  for (const c of both.report.circuits) await sources(page, both, c)
  await goToSheet(page, id, 'circuit', 'this')
  for (const c of both.report.circuits) await choices(page, both, c)
  await goToSheet(page, id, 'circuit', 'protection')
  for (const c of both.report.circuits) await needs(page, both, c)
  await surveyed(page, id, both)
  await traced(page, id, both)
  await labels(page, id, both)
}
