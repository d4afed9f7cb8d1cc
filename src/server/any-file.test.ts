import { readdirSync, readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judgeJob } from '../core/contract/judge-job'
import { evaluate } from '../core/evaluate/evaluate'
import { read } from '../core/installation/installation'
import { JobFileError, readJobFile } from '../core/job/file'
import type { JobFile } from '../core/job/schema'
import { makePaper } from './papers'

/* Every file that is accepted is judged and opens on every paper, however odd what is in it. */

type Path = readonly (string | number)[]
interface Leaf {
  readonly path: Path
  readonly value: unknown
}
function leavesOf(of: unknown, path: Path = []): Leaf[] {
  if (Array.isArray(of)) return of.flatMap((v, i) => leavesOf(v, [...path, i]))
  if (of !== null && typeof of === 'object') return Object.entries(of).flatMap(([k, v]) => leavesOf(v, [...path, k]))
  return [{ path, value: of }]
}
function put(of: unknown, path: Path, value: unknown): unknown {
  const whole = structuredClone(of) as Record<string | number, unknown>
  let at = whole
  for (const p of path.slice(0, -1)) at = at[p] as typeof whole
  at[path.at(-1)!] = value
  return whole
}
const files = readdirSync('tests/jobs')
  .filter((f) => f.endsWith('.json') && f !== 'expect.json')
  .flatMap((f) => {
    try {
      return [readJobFile(JSON.parse(readFileSync(`tests/jobs/${f}`, 'utf8')))]
    } catch (e) {
      if (e instanceof JobFileError) return []
      throw e
    }
  })
/** What is under a key in any of the files: a value of the right kind in a wrong place. */
const seen = new Map<string, Set<unknown>>()
const keyOf = (path: Path): string =>
  path
    .filter((p) => typeof p === 'string')
    .slice(-2)
    .join('.')
for (const { job } of files)
  for (const { path, value } of leavesOf(job)) seen.set(keyOf(path), (seen.get(keyOf(path)) ?? new Set()).add(value))
const odd = (value: unknown): readonly unknown[] =>
  typeof value === 'string'
    ? ['constructor', '__proto__', 'removed', 'new', 'altered', '']
    : typeof value === 'number'
      ? [0, 1, 84, 0.001, 1e6]
      : [true, false]

const papers =
  'record.pdf wiring.pdf boxes.pdf template.pdf bending.pdf netlist.cir route.pdf building.dxf trace.pdf design.pdf door.pdf ' +
  'reply.pdf trace.svg day.pdf offer.pdf day.ics needed.csv labels.pdf labels.svg readings.csv file.json'
const change = fc.record({ file: fc.nat(), leaf: fc.nat(), value: fc.nat(), leaf2: fc.nat(), value2: fc.nat(), paper: fc.nat() })

function changed(of: JobFile, leaf: number, value: number): unknown {
  const all = leavesOf(of.job)
  const { path, value: now } = all[leaf % all.length]!
  const pool = [...(seen.get(keyOf(path)) ?? []), null, ...odd(now)]
  return put(of.job, path, pool[value % pool.length])
}

describe('a file that is accepted', () => {
  it('is judged and opens on every paper, whatever two of its values are', async () => {
    let accepted = 0
    await fc.assert(
      fc.asyncProperty(change, async (c) => {
        const from = files[c.file % files.length]!
        const once = changed(from, c.leaf, c.value)
        let file: JobFile
        try {
          file = readJobFile({ ...from, job: changed({ ...from, job: once as JobFile['job'] }, c.leaf2, c.value2) })
        } catch (e) {
          // Refused, with a path that leads into the file.
          if (!(e instanceof JobFileError)) throw e
          expect(e.path).not.toBe('')
          return
        }
        accepted++
        evaluate(read(file.job), file.readings)
        judgeJob(file)
        const stored = { id: 'j', revision: 3, undo: null, redo: null, updatedAt: '2026-11-20T08:00:00.000Z', ...file }
        const names = papers.split(' ')
        await makePaper(names[c.paper % names.length]!, { stored, units: c.paper % 2 ? 'metric' : 'imperial', circuit: null })
      }),
      { numRuns: Number(process.env.FILES ?? 250) },
    )
    console.log(`${accepted} odd files accepted, judged and printed`)
  }, 240_000)

  it.each([
    ['boards.0.state', ['boards', 0, 'state'], 'new'],
    ['circuits.0.designs.0.cable', ['circuits', 0, 'designs', 0, 'cable'], '__proto__'],
    ['circuits.0.designs.0.cable', ['circuits', 0, 'designs', 0, 'cable'], 'constructor'],
    ['circuits.0.designs.0.minSize', ['circuits', 0, 'designs', 0, 'minSize'], 'toString'],
  ])('is refused with %s where it says %s', (path, at, value) => {
    const file = files.find((f) => f.job.circuits.length > 0)!
    expect(() => readJobFile({ ...file, job: put(file.job, at, value) })).toThrow(expect.objectContaining({ path: `job.${path}` }))
  })
})
