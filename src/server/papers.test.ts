import { describe, expect, it } from 'vitest'
import { accessories } from '../core/catalogue/accessories'
import { readJobFile } from '../core/job/file'
import { after, placed } from '../../tests/support/shorthand'
import { newJob } from '../core/job/schema'
import type { Reading } from '../core/job/reading'
import { makePaper } from './papers'

const rude = '=HYPERLINK("x")'
const reading: Reading = {
  id: 'r',
  circuit: 'c1',
  point: null,
  test: 'zs',
  value: 0.7,
  mark: null,
  unit: 'Ω',
  at: '2026-11-20T08:00:00.000Z',
  by: '+x',
  instrument: '@meter',
  note: rude,
  corrects: null,
  on: null,
}
const stored = {
  id: 'j',
  revision: 3,
  job: newJob('united-kingdom', 'Tea <b>kitchen</b>', ''),
  readings: [reading],
  undo: null,
  redo: null,
  updatedAt: reading.at,
}
const paper = async (name: string) => (await makePaper(name, { stored, units: 'metric', circuit: null }))!

describe('papers', () => {
  it('CSV cells that a spreadsheet would run are text', async () => {
    const csv = String((await paper('readings.csv')).body)
    expect(csv.split('\r\n')[0]).toBe('circuit,point,test,value,mark,unit,at,by,instrument,note,id,corrects')
    expect(csv).toContain("'=HYPERLINK")
    expect(csv).toContain("'+x")
    expect(csv).toContain("'@meter")
    expect(csv).toContain(',0.7,')
  })
  it('the Job file reads back to the same', async () => {
    const file = readJobFile(JSON.parse(String((await paper('file.json')).body)))
    expect(file).toMatchObject({ job: stored.job, readings: [reading] })
  })
  it('the calendar keeps the hours of the wall on a day on which the clocks change', async () => {
    const own = {
      id: 'o',
      name: 'Meter',
      kind: 'work',
      minutes: 180,
      people: 1,
      power: 'any',
      after: [],
      earliestMin: null,
      latestMin: null,
    }
    const { record: job } = after(
      stored.job,
      { kind: 'day.set', patch: { date: '2026-03-29' } },
      { kind: 'task.add', item: own as never },
      { kind: 'day.plan', planned: { at: reading.at, tasks: [{ id: 'o', startMin: 30, endMin: 210 }], outages: [], optimal: true } },
    )
    const { body } = (await makePaper('day.ics', { stored: { ...stored, job }, units: 'metric', circuit: null }))!
    expect(String(body)).toContain('DTSTART:20260329T003000')
    expect(String(body)).toContain('DTEND:20260329T033000')
  })
  it.each(['record.pdf', 'wiring.pdf', 'boxes.pdf', 'template.pdf', 'trace.pdf', 'labels.pdf'])(
    '%s is a PDF even of an empty job',
    async (name) => {
      expect(
        Buffer.from((await paper(name)).body)
          .subarray(0, 5)
          .toString(),
      ).toBe('%PDF-')
    },
  )
  it.each(accessories.map((a) => [a.name, a.region, a.id] as const))('the sheet to stick up is one page: %s, %s', async (_, region, id) => {
    const { record: job } = after(
      newJob(region, 'A job with a title that is longer than most titles are', 'The old dairy, cold side, upper floor'),
      { kind: 'load.set', circuit: 'c1', patch: { amount: 2, basis: 'amps', name: 'A machine with a rather long name' } },
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: id, lengthM: 10 } },
    )
    const { body } = (await makePaper('wiring.pdf', {
      stored: { ...stored, job },
      units: region === 'north-america' ? 'imperial' : 'metric',
      circuit: null,
    }))!
    expect(
      Buffer.from(body)
        .toString('latin1')
        .match(/\/Type \/Page\b/g)!.length,
    ).toBe(1)
  })
  it('a design sheet of many points runs on over the pages, and squeezes none of its tables into one', async () => {
    const pagesOf = async (n: number) => {
      const { record: job } = after(
        newJob('united-kingdom', 'x', ''),
        { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13', wantedBreakerA: 20 } },
        {
          kind: 'circuit-point.add',
          circuit: 'c1',
          points: Array.from({ length: n }, (_, i) =>
            placed(`p${i}`, `Point ${i}`, { from: i ? `p${i - 1}` : null, lengthM: 1, watts: 40 }),
          ),
        },
      )
      const { body } = (await makePaper('design.pdf', { stored: { ...stored, job }, units: 'metric', circuit: null }))!
      return Buffer.from(body)
        .toString('latin1')
        .match(/\/Type \/Page\b/g)!.length
    }
    // Each table of 84 rows takes two pages at least, and the workings of the points, sixteen or so to a page, five more.
    const [few, many] = [await pagesOf(4), await pagesOf(84)]
    expect(many - few).toBeGreaterThanOrEqual(8)
  })
  it('knows no others', () => expect(makePaper('../secret', { stored, units: 'metric', circuit: null })).toBeNull())
})
