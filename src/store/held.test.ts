import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import fc from 'fast-check'
import { z } from 'zod'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { dice, editBy } from '../../tests/support/any-edit'
import { evaluate } from '@/core/evaluate/evaluate'
import { type Edit, EditError } from '../core/job/edits'
import type { Reading } from '../core/job/reading'
import { checkChanged, type Job, jobSchema, newJob } from '../core/job/schema'
import { addReading, createJob, editJob, listJobs, loadJob, redoJob, restoreJob, StaleError, undoJob } from './jobs'
import { openStore, type Store } from './open'

/* What is held in memory is what is on the disk, whatever was done and by whom. */

const hand = { by: 'tester', at: '2026-11-20T08:00:00.000Z' }
let folder: string
let store: Store
/** Another server on the same folder. */
let other: Store
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'synthema-held-'))
  store = openStore(folder)
  other = openStore(folder)
})
afterEach(() => {
  store.$client.close()
  other.$client.close()
  rmSync(folder, { recursive: true })
})
const watts = (amount: number): Edit => ({ kind: 'load.set', circuit: 'c1', patch: { amount } })
/** The job as somebody reads it who holds nothing of it. */
function fromDisk(id: string) {
  const fresh = openStore(folder)
  try {
    return loadJob(fresh, id)
  } finally {
    fresh.$client.close()
  }
}
const reading = (id: string): Reading => ({
  id,
  circuit: 'c1',
  point: null,
  test: 'insulation',
  value: 200,
  mark: null,
  unit: 'MΩ',
  ...hand,
  instrument: '',
  note: '',
  corrects: null,
  on: null,
})

describe('a job held in memory', () => {
  it('is what the disk says after any edits, undone and done again, of two servers', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.boolean(), fc.constantFrom('edit', 'edit', 'edit', 'undo', 'redo', 'back', 'reading'), dice), {
          minLength: 60,
          maxLength: 90,
        }),
        (acts) => {
          const id = crypto.randomUUID()
          createJob(store, id, newJob('united-kingdom', 'Held', ''), [], hand)
          acts.forEach(([second, act, roll], i) => {
            const by = second ? other : store
            const { job, revision } = loadJob(by, id)
            try {
              if (act === 'edit') editJob(by, id, revision, editBy(job, roll), hand)
              if (act === 'undo') undoJob(by, id, revision, hand)
              if (act === 'redo') redoJob(by, id, revision, hand)
              if (act === 'back') restoreJob(by, id, revision, 1 + (i % revision), hand)
              if (act === 'reading') addReading(by, id, reading(`r${i}`))
            } catch (e) {
              if (!(e instanceof EditError || e instanceof z.ZodError)) throw e
            }
          })
          const disk = fromDisk(id)
          expect(loadJob(store, id)).toEqual(disk)
          expect(loadJob(other, id)).toEqual(disk)
        },
      ),
      { numRuns: 12 },
    )
  })
  it('keeps what an edit left alone, so that it is judged once', () => {
    createJob(store, 'j', newJob('united-kingdom', 'Held', ''), [], hand)
    editJob(store, 'j', 1, { kind: 'circuit.add', id: 'c2', name: 'Second' }, hand)
    const before = loadJob(store, 'j')
    editJob(store, 'j', 2, watts(900), hand)
    const after = loadJob(store, 'j')
    expect(after.job.circuits[1]).toBe(before.job.circuits[1])
    const [was, is] = [before, after].map((s) => evaluate(s.job, s.readings).byCircuit.get('c2')!)
    expect(is).toBe(was)
    expect(loadJob(store, 'j').readings).toBe(before.readings)
  })
  it('is not what was refused: a change that fails leaves it as it stood', () => {
    createJob(store, 'j', newJob('united-kingdom', 'Held', ''), [], hand)
    expect(() => editJob(store, 'j', 1, watts(-5), hand)).toThrow(z.ZodError)
    expect(() => editJob(store, 'j', 7, watts(5), hand)).toThrow(StaleError)
    expect(loadJob(store, 'j')).toEqual(fromDisk('j'))
    expect(loadJob(store, 'j').revision).toBe(1)
  })
})

describe('going back', () => {
  it('writes the net difference, however far back and however often', () => {
    const many = newJob('united-kingdom', 'Held', '')
    createJob(store, 'j', many, [], hand)
    for (let i = 2; i <= 60; i++)
      editJob(store, 'j', loadJob(store, 'j').revision, { kind: 'circuit.add', id: `c${i}`, name: `C ${i}` }, hand)
    const whole = loadJob(store, 'j').job
    const { revision } = loadJob(store, 'j')
    const written = () =>
      store.$client
        .prepare("SELECT length(patches) + length(inverse) AS n FROM job_changes WHERE kind = 'restore' ORDER BY revision")
        .all()
        .map((r) => (r as { n: number }).n)
    for (let i = 0; i < 12; i++) restoreJob(store, 'j', loadJob(store, 'j').revision, i % 2 ? revision : 5, hand)
    expect(loadJob(store, 'j').job).toEqual(whole)
    expect(fromDisk('j').job).toEqual(whole)
    const weighed = written()
    expect(weighed).toHaveLength(12)
    // Adding up all that lay between, the last would be many times the first.
    expect(Math.max(...weighed)).toBeLessThan(1.2 * weighed[0]!)
    undoJob(store, 'j', loadJob(store, 'j').revision, hand)
    expect(loadJob(store, 'j').job.circuits).toHaveLength(5)
  })
  it('to how it is already changes nothing', () => {
    createJob(store, 'j', newJob('united-kingdom', 'Held', ''), [], hand)
    editJob(store, 'j', 1, watts(5), hand)
    undoJob(store, 'j', 2, hand)
    expect(restoreJob(store, 'j', 3, 1, hand).revision).toBe(3)
  })
})

describe('the index of words', () => {
  it('finds a job by what it says now, and not by what it said', () => {
    createJob(store, 'j', newJob('united-kingdom', 'Larder', ''), [], hand)
    createJob(store, 'k', newJob('united-kingdom', 'Scullery', ''), [], hand)
    const found = (search: string) => listJobs(store, { search }).rows.map((r) => r.id)
    editJob(store, 'j', 1, { kind: 'job.set', patch: { title: 'Pantry' } }, hand)
    expect([found('larder'), found('pantry'), found('scull')]).toEqual([[], ['j'], ['k']])
    undoJob(store, 'j', 2, hand)
    expect([found('larder'), found('pantry')]).toEqual([['j'], []])
    expect(store.$client.prepare('SELECT count(*) AS n FROM jobs_fts').get()).toEqual({ n: 2 })
  })
})

describe('what a change made of a job', () => {
  const anything = fc.oneof(fc.constantFrom(null, -1, 1e9, '', 'x'.repeat(5000), [], {}), fc.anything())
  /** Every place in a document. */
  const places = (x: unknown, at: (string | number)[] = []): (string | number)[][] =>
    typeof x === 'object' && x !== null ? Object.entries(x).flatMap(([k, v]) => [[...at, k], ...places(v, [...at, k])]) : []
  const put = (x: unknown, [first, ...rest]: (string | number)[], value: unknown): unknown => {
    const copy = (Array.isArray(x) ? [...(x as unknown[])] : { ...(x as object) }) as Record<string, unknown>
    copy[first!] = rest.length ? put(copy[first!], rest, value) : value
    return copy
  }
  const valid = (check: () => unknown): boolean => {
    try {
      check()
      return true
    } catch (e) {
      if (e instanceof z.ZodError) return false
      throw e
    }
  }
  it('is refused wherever the whole schema refuses it, and only there', () => {
    let refused = 0
    fc.assert(
      fc.property(fc.nat(), anything, (n, value) => {
        const before = newJob('southern-africa', 'Checked', '')
        const all = places(before)
        const after = put(before, all[n % all.length]!, value) as Job
        const whole = valid(() => jobSchema.parse(after))
        if (!whole) refused++
        expect(valid(() => checkChanged(before, after))).toBe(whole)
      }),
      { numRuns: 400 },
    )
    expect(refused).toBeGreaterThan(50)
  })
  it('names the place where it is wrong, in a list too', () => {
    const before = newJob('southern-africa', 'Checked', '')
    const after = put(before, ['circuits', 0, 'load', 'amount'], -1) as Job
    expect(() => checkChanged(before, after)).toThrow(
      expect.objectContaining({ issues: [expect.objectContaining({ path: ['circuits', 0, 'load', 'amount'] })] }),
    )
    const many = { ...before, circuits: Array.from({ length: 2001 }, () => before.circuits[0]!) }
    expect(valid(() => checkChanged(before, many))).toBe(false)
    expect(valid(() => checkChanged(before, { ...before, circuits: [] }))).toBe(false)
    expect(valid(() => checkChanged(before, { ...before, nonsense: 1 } as Job))).toBe(false)
  })
})
