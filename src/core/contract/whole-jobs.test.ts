import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readJobFile, writeJobFile } from '../job/file'
import { type JudgedJob, judgeJob } from './judge-job'

/*
 * Whole jobs as version 2 wrote them, and what a careful inspector says of each: sound ones carry no error; each of the
 * others is a sound one with one hazard put in, which must be spoken of.
 */
interface Expected {
  readonly file: string
  readonly about: string
  readonly sound?: true
  readonly base?: string
  readonly match?: string
  readonly shut?: 'isolation' | 'dead' | 'live'
  readonly circuit?: string
}
const folder = 'tests/jobs/'
const load = (file: string): unknown => JSON.parse(readFileSync(folder + file, 'utf8'))
const expected = load('expect.json') as Expected[]
const files = readdirSync(folder).filter((f) => f.endsWith('.json') && f !== 'expect.json')
const known = new Map<string, JudgedJob>()
function judged(file: string): JudgedJob {
  const before = known.get(file)
  if (before) return before
  const now = judgeJob(load(file))
  known.set(file, now)
  return now
}
const findings = (job: JudgedJob) => job.stages.flatMap((s) => s.findings)
const key = (f: { circuit: string | null; rule: string; severity: string; message: string }) =>
  JSON.stringify([f.circuit, f.rule, f.severity, f.message])

describe('whole jobs', () => {
  it.each(expected.filter((e) => e.sound).map((e) => [e.file, e] as const))('%s is sound: no error stands in it', (file) => {
    expect(
      findings(judged(file))
        .filter((f) => f.severity === 'error')
        .map((f) => `${f.rule}: ${f.message}`),
    ).toEqual([])
  })

  it.each(expected.filter((e) => e.match).map((e) => [e.file, e] as const))('%s is spoken of', (file, { base, match, about }) => {
    const before = new Set(findings(judged(base!)).map(key))
    const fresh = findings(judged(file)).filter((f) => f.severity !== 'note' && !before.has(key(f)))
    expect(
      fresh.some((f) => new RegExp(match!, 'i').test(`${f.rule} ${f.clause} ${f.message}`)),
      about,
    ).toBe(true)
  })

  it.each(expected.filter((e) => e.shut).map((e) => [e.file, e] as const))('%s keeps a phase shut', (file, { shut, circuit, about }) => {
    expect(judged(file).tests.find((t) => t.circuit === circuit && t.phase === shut)?.open, about).toBe(false)
  })

  it.each(files)('%s is brought up to a file that is read back to the letter, and judged the same', (file) => {
    const { job, readings } = readJobFile(load(file))
    const written = JSON.parse(JSON.stringify(writeJobFile(job, readings)))
    const again = readJobFile(written)
    expect(JSON.stringify(writeJobFile(again.job, again.readings))).toBe(JSON.stringify(written))
    expect(judgeJob(written)).toEqual(judged(file))
  })
})
