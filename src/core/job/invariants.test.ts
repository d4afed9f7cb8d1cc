import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dice, editBy } from '../../../tests/support/any-edit'
import { anyJob } from '../../../tests/support/any-job'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { faultIn } from './check'
import { applyEdit, describeEdit, EditError, editSchema, patchJob } from './edits'
import { readJobFile, writeJobFile } from './file'
import { type Job, jobSchema, newJob } from './schema'

/** A document that holds nothing but what is in it, and reads back as it is. */
function whole(job: Job): void {
  expect(jobSchema.safeParse(job).error).toBeUndefined()
  expect(faultIn(job)).toBeNull()
  const file = writeJobFile(job, [])
  expect(JSON.stringify(readJobFile(JSON.parse(JSON.stringify(file))))).toBe(JSON.stringify(file))
}

const demo = (i: number): Job => demoJobs[i]!.edits.reduce((job, e) => applyEdit(job, e).job, newJob(demoJobs[i]!.region, 'x', ''))
const demos = [0, 1, 2].map(demo)
const start = fc.oneof(
  fc.constantFrom(0, 1, 2).map((i) => demos[i]!),
  anyJob,
)

describe('one record', () => {
  it('holds whatever is done to it, in any order: every name in it names something, once, and it is read back to the letter', () => {
    let taken = 0
    let refused = 0
    fc.assert(
      fc.property(start, fc.array(dice, { minLength: 1, maxLength: 14 }), (job, rolls) => {
        let now = job
        for (const roll of rolls) {
          const edit = editBy(now, roll)
          expect(editSchema.safeParse(edit).error).toBeUndefined()
          try {
            expect(describeEdit(now, edit)).toMatch(/\w/)
            const { job: next, patches, inverse } = applyEdit(now, edit)
            expect(patchJob(next, inverse)).toEqual(now)
            expect(patchJob(now, JSON.parse(JSON.stringify(patches)))).toStrictEqual(next)
            now = next
            taken++
          } catch (e) {
            if (!(e instanceof EditError)) throw e
            refused++
          }
        }
        whole(now)
      }),
      { numRuns: 150 },
    )
    expect(taken).toBeGreaterThan(300)
    expect(refused).toBeGreaterThan(50)
  })

  it('is one for each physical thing: a point of a circuit is the point of the survey, a way of a circuit the way of the board', () => {
    fc.assert(
      fc.property(start, fc.array(dice, { maxLength: 10 }), (job, rolls) => {
        const installation = read(rolls.reduce((now, roll) => tryEdit(now, roll), job))
        const points = new Set(installation.points.map((p) => p.id))
        const ways = new Set([...installation.ways, ...installation.newWays].map((w) => w.id))
        const reached: string[] = []
        for (const c of installation.circuits) {
          for (const w of c.ways) expect(ways.has(w.id)).toBe(true)
          for (const p of c.points) {
            expect(points.has(p.id)).toBe(true)
            reached.push(p.id)
          }
          // A circuit always has an end: points of its own, one point, or a board.
          expect(c.points.length > 0 || c.end !== null || c.kind === 'feeder').toBe(true)
        }
        expect(new Set(reached).size).toBe(reached.length)
      }),
      { numRuns: 100 },
    )
  })

  it('says of a free space that it is free only where somebody saw it', () => {
    fc.assert(
      fc.property(start, fc.array(dice, { maxLength: 8 }), (job, rolls) => {
        const now = rolls.reduce((j, roll) => tryEdit(j, roll), job)
        for (const { board, free } of evaluate(now, []).boards) {
          if (board.free === null) expect(free).toBeNull()
          for (const s of free ?? []) expect(board.free).toContain(s)
        }
      }),
      { numRuns: 60 },
    )
  })

  it('reads the same again where an edit left a circuit alone', () => {
    const job = demo(1)
    const before = read(job)
    const after = read(applyEdit(job, { kind: 'run.set', circuit: 'c2', patch: { lengthM: 9 } }).job)
    expect(after.circuits.map((c, i) => c === before.circuits[i])).toEqual([true, false, true, true])
    expect(after.points).toBe(before.points)
    expect(after.ways).toBe(before.ways)
  })
})

function tryEdit(job: Job, roll: readonly number[]): Job {
  try {
    return applyEdit(job, editBy(job, roll)).job
  } catch (e) {
    if (e instanceof EditError) return job
    throw e
  }
}
