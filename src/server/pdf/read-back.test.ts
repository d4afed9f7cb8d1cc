import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { bigJob } from '../../../scripts/big-job'
import { wholeJobs } from '../../../tests/support/whole-jobs'
import { wiringJobs } from '../../../tests/support/wiring-jobs'
import { linesOf, type PaperText, textOf } from '../../../tests/support/pdf'
import { readJobFile } from '../../core/job/file'
import type { Reading } from '../../core/job/reading'
import type { Job } from '../../core/job/schema'
import type { StoredJob } from '../../store/jobs'
import { makePaper } from '../papers'

/*
 * Papers as a reader gets them: their text is read back from the PDF, with its places.
 */
const folder = 'tests/jobs/'
const files = wholeJobs(readJobFile)
/** Every so many of the whole jobs; `EVERY=1` reads all of them back. */
const every = Number(process.env.EVERY ?? 20)
const chosen = files.filter((_, i) => i % every === 0)

const storedOf = (job: Job, readings: readonly Reading[] = []): StoredJob => ({
  id: 'j',
  revision: 3,
  job,
  readings,
  undo: null,
  redo: null,
  updatedAt: '2026-11-20T08:00:00.000Z',
})
const paper = async (name: string, stored: StoredJob) => textOf((await makePaper(name, { stored, units: 'metric', circuit: null }))!.body)
function load(file: string) {
  const { job, readings } = readJobFile(JSON.parse(readFileSync(folder + file, 'utf8')))
  return storedOf(job, readings)
}

/** Pieces that lie on each other. */
const lying = ({ boxes, pages }: PaperText): string[] =>
  pages.flatMap((_, i) => {
    const here = boxes.filter((b) => b.page === i + 1)
    return here.flatMap((p, n) =>
      here.slice(n + 1).flatMap((q) => {
        const wide = Math.min(p.x + p.width, q.x + q.width) - Math.max(p.x, q.x)
        const high = Math.min(p.y + p.size * 0.2, q.y + q.size * 0.2) - Math.max(p.y - p.size * 0.7, q.y - q.size * 0.7)
        return wide > 1.5 && high > 1.5 ? [`page ${i + 1}: "${p.text}" on "${q.text}"`] : []
      }),
    )
  })
/** Pieces that are over the edge of their page. */
const cut = ({ boxes, pages }: PaperText): string[] =>
  boxes
    .filter((b) => {
      const { width, height } = pages[b.page - 1]!
      return b.x < 20 || b.x + b.width > width - 20 || b.y - b.size < 10 || b.y > height - 10
    })
    .map((b) => `page ${b.page}: "${b.text}"`)
const HEADING = 14
const MARGIN = 44
/** Headings with nothing under them on their page but its foot. */
const alone = ({ boxes, pages }: PaperText): string[] =>
  boxes
    .filter((b) => Math.abs(b.size - HEADING) < 0.1 && Math.abs(b.x - MARGIN) < 1)
    .filter((h) => {
      const { height } = pages[h.page - 1]!
      return !boxes.some((b) => b.page === h.page && b.y > h.y + 4 && b.y < height - 40)
    })
    .map((h) => `page ${h.page}: "${h.text}"`)

const papers = ['record.pdf', 'design.pdf', 'wiring.pdf', 'boxes.pdf', 'labels.pdf', 'trace.pdf', 'door.pdf', 'reply.pdf']
describe.each(papers.map((name, nth) => [name, nth] as const))('%s, read back', (name, nth) => {
  // Of one job every second paper, of the next the others: all jobs and all papers are read.
  const sources: (readonly [string, () => StoredJob])[] = [
    ...chosen.filter((_, i) => process.env.EVERY || (i + nth) % 2 === 0).map((f) => [f, () => load(f)] as const),
    ['a job of 12 circuits', () => storedOf(bigJob(12))],
  ]
  it.each(sources)(
    '%s: no text lies on another or over the edge, no heading stands alone',
    async (_, source) => {
      const made = await makePaper(name, { stored: source(), units: 'metric', circuit: null })
      const text = await textOf(made!.body)
      expect(lying(text)).toEqual([])
      expect(cut(text)).toEqual([])
      expect(alone(text)).toEqual([])
    },
    60_000,
  )
})

describe('papers of a job with all that a box may hold', () => {
  it.each(Object.values(wiringJobs).map((job) => [job.region, job] as const))(
    '%s: tell of one box once, and of what is taken out',
    async (_, job) => {
      const text = async (name: string) => linesOf(await paper(name, storedOf(job))).join('\n')
      const record = await text('record.pdf')
      expect(record).toMatch(/Taken out/)
      expect(record).toMatch(/Old outlet.*was on Old outlets; conductors joined or capped/s)
      const wiring = await text('wiring.pdf')
      expect(wiring.match(/At shelf and door\./g)).toHaveLength(1)
      expect(wiring).toMatch(/Take out: Old outlet/)
      expect((await text('labels.pdf')).match(/Inside of the cover, shelf and door/g)).toHaveLength(1)
    },
  )
})

describe('the pack', () => {
  it.each([
    ['sound-uk-ring.json', 'en-GB'],
    ['sound-na-kiln.json', 'en-US'],
  ])('%s has a title, its language, and a bookmark for each part, in the order of its pages', async (file, language) => {
    const text = await paper('pack.pdf', load(file))
    expect(text.language).toBe(language)
    expect(text.title).toContain(load(file).job.title)
    expect(text.outline.length).toBeGreaterThan(5)
    const heads = text.boxes.filter((b) => b.size > 19).map((b) => b.text.trim())
    const places = text.outline.map((o) => heads.findIndex((h) => o.startsWith(h)))
    expect(places, text.outline.join(' | ')).toEqual(places.toSorted((a, b) => a - b))
    expect(places).not.toContain(-1)
  })
})

describe('the record', () => {
  it('says the findings on every circuit once, and draws once what is wired alike', async () => {
    const text = await paper('record.pdf', storedOf(bigJob(4)))
    const pages = linesOf(text)
    const said = pages.flatMap((lines, i) => lines.flatMap((l) => (l.includes('Findings on every circuit') ? [i + 1] : [])))
    expect(said).toHaveLength(1)
    const pointing = pages.flat().filter((l) => l.includes('on every circuit, page'))
    expect(pointing).toHaveLength(4)
    for (const l of pointing) expect(l.trim()).toMatch(new RegExp(`page ${said[0]}$`))
    const same = pages.flat().flatMap((l) => [...l.matchAll(/The same as on page (\d+)/g)].map((m) => Number(m[1])))
    expect(same.length).toBeGreaterThan(0)
    for (const n of same) expect(pages[n - 1]!.some((l) => /^(Box|Wiring)/.test(l.trim()))).toBe(true)
  })
  it('says under a test what was read at each of its points, and where nothing was', async () => {
    const sound = load('sound-uk-ring.json')
    const [circuit] = sound.job.circuits
    const [first, second] = sound.job.points
    const taken: Reading = {
      id: 'r1',
      circuit: circuit!.id,
      point: first!.id,
      test: 'zs',
      value: 9,
      mark: null,
      unit: 'Ω',
      at: sound.updatedAt,
      by: 'A tester',
      instrument: '',
      note: '',
      corrects: null,
      on: null,
    }
    const lines = linesOf(await paper('record.pdf', storedOf(sound.job, [taken]))).flat()
    const at = lines.findIndex((l) => l.startsWith('Earth fault loop impedance'))
    expect(lines[at]).toContain('9 Ω')
    const under = lines.slice(at).filter((l) => l.startsWith('at '))
    expect(under.find((l) => l.startsWith(`at ${first!.name}`))).toMatch(/9 Ω.*OFF.*A tester/)
    expect(under.find((l) => l.startsWith(`at ${second!.name}`))).toContain('not measured')
  })
  it('of one circuit says all of it there', async () => {
    const lines = linesOf(await paper('record.pdf', storedOf(bigJob(1)))).flat()
    expect(lines.some((l) => l.includes('every circuit'))).toBe(false)
    expect(lines.some((l) => l.trim() === 'Findings')).toBe(true)
  })
})
