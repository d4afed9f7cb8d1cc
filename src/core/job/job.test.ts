import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { read } from '../installation/installation'
import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { met, whole } from '../../../tests/support/signed-job'
import { regionIds } from '../region/types'
import { applyEdit, describeEdit, type Edit, EditError, editSchema, patchJob } from './edits'
import { JobFileError, readJobFile, writeJobFile } from './file'
import { type Job, JOB_VERSION, jobSchema, newJob } from './schema'

const make = (demo: (typeof demoJobs)[number]) =>
  demo.edits.reduce((job, edit) => applyEdit(job, edit).job, newJob(demo.region, demo.title, demo.place))

describe('edits', () => {
  it.each(demoJobs.map((d) => [d.title, d] as const))('every step of %s can be taken back and done again', (_, demo) => {
    let job = newJob(demo.region, demo.title, demo.place)
    for (const edit of demo.edits) {
      const { job: next, patches, inverse } = applyEdit(job, edit)
      expect(patchJob(next, inverse)).toEqual(job)
      expect(patchJob(job, patches)).toEqual(next)
      expect(jobSchema.safeParse(next).error).toBeUndefined()
      expect(editSchema.safeParse(edit).error).toBeUndefined()
      expect(describeEdit(job, edit)).not.toMatch(/undefined|object Object/)
      job = next
    }
  })

  it('leaves the given job as it was', () => {
    const job = newJob('united-kingdom', 'A', '')
    const before = structuredClone(job)
    applyEdit(job, { kind: 'load.set', circuit: 'c1', patch: { amount: 12 } })
    expect(job).toEqual(before)
  })

  const refused: [string, Edit, string][] = [
    ['a circuit that is not there', { kind: 'load.set', circuit: 'x', patch: {} }, 'circuit'],
    ['a design that is not there', { kind: 'design.choose', circuit: 'c1', design: 'x' }, 'design'],
    ['the last circuit removed', { kind: 'circuit.remove', circuit: 'c1' }, 'circuit'],
    ['the last design removed', { kind: 'design.remove', circuit: 'c1', design: 'a' }, 'design'],
    [
      'an accessory of another world',
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-duplex-15' } },
      'patch.accessory',
    ],
    ['a box of another world', { kind: 'box.set', boxes: ['end-c1'], patch: { kind: 'na-old-14' } }, 'patch.kind'],
    ['a question nobody asks', { kind: 'fitness.answer', question: 'x', answer: 'yes' }, 'question'],
  ]
  it.each(refused)('refuses %s', (_, edit, path) => {
    const error = (() => {
      try {
        applyEdit(newJob('united-kingdom', 'A', ''), edit)
        return null
      } catch (e) {
        return e
      }
    })()
    expect(error).toBeInstanceOf(EditError)
    expect((error as EditError).path).toBe(path)
  })

  it('keeps three alternatives at most', () => {
    const copy = (id: string): Edit => ({ kind: 'design.copy', circuit: 'c1', design: 'a', id, name: id.toUpperCase() })
    const three = [copy('b'), copy('c')].reduce((job, e) => applyEdit(job, e).job, newJob('north-america', 'A', ''))
    expect(() => applyEdit(three, copy('d'))).toThrow(EditError)
  })
})

describe('a Job file', () => {
  it.each(demoJobs.map((d) => [d.title, d] as const))('of %s comes back to the letter', (_, demo) => {
    const text = JSON.stringify(writeJobFile(make(demo), []))
    expect(JSON.stringify(readJobFile(JSON.parse(text)))).toBe(text)
  })

  const broken: [
    string,
    (
      file: Record<string, never> & {
        job: Record<string, never> & { circuits: { id: string; designs: { ambientC: unknown }[]; chosen: string }[] }
      },
    ) => unknown,
    string,
  ][] = [
    ['another format', (f) => ({ ...f, format: 'x' }), 'format'],
    ['a later version', (f) => ({ ...f, version: 99 }), 'version'],
    ['a length that is a word', (f) => ((f.job.circuits[0]!.designs[0]!.ambientC = 'hot'), f), 'job.circuits.0.designs.0.ambientC'],
    ['a key nobody knows', (f) => ({ ...f, job: { ...f.job, colour: 1 } }), 'job.colour'],
    ['a chosen design that is not there', (f) => ((f.job.circuits[0]!.chosen = 'z'), f), 'job.circuits.0.chosen'],
    [
      'a circuit that stands twice',
      (f) => (f.job.circuits.push(f.job.circuits[0]!), f),
      `job.circuits.${make(demoJobs[0]!).circuits.length}.id`,
    ],
  ]
  it.each<[string, (job: Job) => void, string]>([
    [
      'a point that hangs from itself',
      (j) => void (j.cables.find((k) => k.to.id === 'b1')!.from = { kind: 'point', id: 'b3' }),
      'job.cables.3.from',
    ],
    [
      'a point that hangs from nothing known',
      (j) => void (j.cables.find((k) => k.to.id === 'b1')!.from = { kind: 'point', id: 'nobody' }),
      'job.cables.3.from.id',
    ],
    ['a raceway with a circuit that is gone', (j) => void j.raceways[0]!.circuits.push('c9'), 'job.raceways.0.circuits.3'],
    ['a main board fed from somewhere', (j) => void (j.boards[0]!.fedFrom = 'w1'), 'job.boards.0'],
    ['a way of no board', (j) => void (j.ways[2]!.board = 'x'), 'job.ways.2.board'],
    ['an observation of a breaker that is gone', (j) => void (j.ways = j.ways.slice(1)), 'job.observations.0.seen.breaker'],
    ['a way called as a point', (j) => void (j.ways[0]!.id = j.points[2]!.id), 'job.points.2.id'],
    ['two points of one id', (j) => void j.points.push(j.points[0]!), `job.points.${make(demoJobs[0]!).points.length}.id`],
  ])('names the path of %s', (_, spoil, path) => {
    const file = structuredClone(writeJobFile(make(demoJobs[0]!), []))
    spoil(file.job)
    expect(() => readJobFile(file)).toThrow(expect.objectContaining({ path }))
  })

  it.each(broken)('names the path of %s', (_, spoil, path) => {
    const file = JSON.parse(JSON.stringify(writeJobFile(make(demoJobs[0]!), [])))
    expect(() => readJobFile(spoil(file))).toThrow(JobFileError)
    try {
      readJobFile(spoil(JSON.parse(JSON.stringify(writeJobFile(make(demoJobs[0]!), [])))))
    } catch (e) {
      expect((e as JobFileError).path).toBe(path)
    }
  })

  it('of an older version is brought up to date, and nothing it says is lost', () => {
    const older = JSON.parse(readFileSync('tests/support/job-file-1.json', 'utf8'))
    const now = readJobFile(older)
    expect(now.version).toBe(JOB_VERSION)
    expect(now.job.brief).toMatchObject(older.job.brief)
    expect(now.job.supply).toMatchObject(older.job.supply)
    expect(read(now.job).circuits.map((c) => [c.name, c.load.amount])).toEqual(
      older.job.circuits.map((c: { name: string; load: { amount: number } }) => [c.name, c.load.amount]),
    )
    expect(now.readings).toMatchObject(older.readings)
    expect(JSON.parse(readFileSync('tests/support/job-file.json', 'utf8'))).toEqual(writeJobFile(now.job, now.readings))
  })

  it('of version 3 is brought up with a box for each point, in which all that stood of it is kept', () => {
    const file = (n: string) => JSON.parse(readFileSync(`tests/support/job-file${n}.json`, 'utf8'))
    const older = file('-3')
    const now = readJobFile(older)
    expect(writeJobFile(now.job, now.readings)).toEqual(file(''))
    for (const { room, wall, heightMm, hidden, box, done, ...point } of older.job.points) {
      expect(now.job.points.find((p) => p.id === point.id)).toMatchObject({ ...point, box: point.id })
      expect(now.job.boxes.find((b) => b.id === point.id)).toMatchObject({ room, wall, heightMm, hidden, ...box, done })
    }
    delete older.job.points[0].box.others
    expect(() => readJobFile(older)).toThrow(expect.objectContaining({ path: 'job.points.0.box.others' }))
  })

  it('refuses anything that is not one, without throwing anything else', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (json) => {
        expect(() => readJobFile(json)).toThrow(JobFileError)
      }),
    )
  })
})

describe('evaluate', () => {
  it('gives each demo job that is not finished an honest finding, and the three half way are at three stages', () => {
    const reports = demoJobs.map((d) =>
      evaluate(
        make(d),
        d.readings.map((r, i) => ({
          instrument: '',
          note: '',
          corrects: null,
          point: null,
          on: null,
          ...r,
          id: `r${i}`,
          at: d.start,
          by: d.by,
        })),
      ),
    )
    for (const [i, r] of reports.entries()) if (!demoJobs[i]!.finish) expect(r.counts.error).toBeGreaterThan(0)
    expect(new Set(reports.slice(0, 3).map((r) => r.reached)).size).toBe(3)
    const rules = reports.flatMap((r) => r.stages.flatMap((s) => s.findings.map((f) => f.rule)))
    expect(rules).toEqual(
      expect.arrayContaining(['outlet-below-breaker', 'box-overfilled', 'box-too-shallow', 'cord-below-load', 'zs-too-high']),
    )
  })

  it.each(regionIds)('says nothing of an empty job in %s but what is open', (region) => {
    const report = evaluate(newJob(region, 'A', ''), [])
    expect(report.reached).toBe('brief')
    expect(report.counts.error).toBe(0)
    expect(report.stages.find((s) => s.id === 'circuit')!.open.length).toBeGreaterThan(0)
  })

  it('stops the job with a plain reason', () => {
    const job = applyEdit(make(demoJobs[2]!), { kind: 'fitness.answer', question: 'isolation', answer: 'no' }).job
    const report = evaluate(job, [])
    expect(report.stop).toMatch(/no means of isolation/)
    expect(report.circuits[0]!.testReport.phase.isolation.open).toBe(false)
  })

  it('works out again only what an edit touched', () => {
    const job = make(demoJobs[0]!)
    const before = evaluate(job, [])
    const after = evaluate(applyEdit(job, { kind: 'load.set', circuit: 'c2', patch: { amount: 700 } }).job, [])
    expect(after.circuits[0]!.chosen).toBe(before.circuits[0]!.chosen)
    expect(after.circuits[1]!.chosen).not.toBe(before.circuits[1]!.chosen)
  })

  it('shows a value outside the tables as unknown, not as passed', () => {
    const job = applyEdit(make(demoJobs[0]!), { kind: 'design.set', circuit: 'c1', design: 'a', patch: { ambientC: 95 } }).job
    const { chosen } = evaluate(job, []).circuits[0]!
    expect(chosen.invalid?.path).toBe('run.ambientC')
    expect(chosen.findings[0]).toMatchObject({ rule: 'outside-the-tables', severity: 'unknown' })
  })
})

describe('a file that names what there is not', () => {
  /** A sound file with one value put in another's place. */
  const changed = (path: string, value: unknown): unknown => {
    const file = JSON.parse(JSON.stringify(writeJobFile(whole(), met(whole())))) as Record<string, unknown>
    const keys = path.split('.')
    const last = keys.pop()!
    const part = keys.reduce((at, key) => at[key] as Record<string, unknown>, file)
    part[last] = value
    return file
  }
  it.each([
    ['an accessory of the design', 'job.circuits.0.designs.0.accessory', 'na-duplex-20'],
    ['a kind of cable', 'job.circuits.0.designs.0.cable', 'nm-b'],
    ['the kind of one cable', 'job.cables.0.type', 'nm-b'],
    ['a size', 'job.cables.0.size', '12 AWG'],
    ['a reading that is corrected', 'readings.0.corrects', 'nobody'],
  ])('is refused at its path: %s', (_, path, value) => {
    expect(() => readJobFile(changed(path, value))).toThrow(expect.objectContaining({ path }) as Error)
  })
  it('is refused where a price is called as an object of the language is', () => {
    const prices = JSON.parse('{"__proto__": 3}') as unknown
    expect(() => readJobFile(changed('job.prices', prices))).toThrow(expect.objectContaining({ path: 'job.prices.__proto__' }) as Error)
  })
  it('keeps what was found as it was found, of whatever size', () => {
    const file = changed('job.cables.0.size', '7/.029') as { job: { cables: { state: string }[] } }
    file.job.cables[0]!.state = 'existing'
    expect(readJobFile(file).job.cables[0]).toMatchObject({ size: '7/.029' })
  })
})
