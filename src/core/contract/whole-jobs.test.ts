import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { JobFileError, readJobFile, writeJobFile } from '../job/file'
import { type JudgedJob, judgeJob } from './judge-job'

/*
 * Whole jobs as versions 2 and 3 wrote them, and what a careful inspector says of each: sound ones carry no error; each of the others is a
 * sound one with one hazard put in, which must be spoken of: by a finding, by a question, or by a refusal that names it.
 */
interface Expected {
  readonly file: string
  readonly about: string
  readonly sound?: true
  readonly never?: string
  readonly base?: string
  readonly match?: string
  readonly shut?: 'isolation' | 'dead' | 'live'
  readonly circuit?: string
}
const folder = 'tests/jobs/'
const load = (file: string): unknown => JSON.parse(readFileSync(folder + file, 'utf8'))
const expected = load('expect.json') as Expected[]
const files = readdirSync(folder).filter((f) => f.endsWith('.json') && f !== 'expect.json')
interface Refused {
  readonly refused: string
}
const known = new Map<string, JudgedJob | Refused>()
function judgedOrRefused(file: string): JudgedJob | Refused {
  const before = known.get(file)
  if (before) return before
  const now = ((): JudgedJob | Refused => {
    try {
      readJobFile(load(file))
    } catch (e) {
      if (e instanceof JobFileError) return { refused: `${e.path} ${e.message}` }
      throw e
    }
    // Whatever is read is judged: nothing in a record that was taken may stop the judgement.
    return judgeJob(load(file))
  })()
  known.set(file, now)
  return now
}
function judged(file: string): JudgedJob {
  const job = judgedOrRefused(file)
  if ('refused' in job) throw new Error(job.refused)
  return job
}
const ofVersion3 = (file: string): boolean => /^(na3|uk3|za3|sound3|base3)-/.test(file)
const findings = (job: JudgedJob) => job.stages.flatMap((s) => s.findings)
const asks = (job: JudgedJob): readonly string[] =>
  job.stages.flatMap((s) => (['wiring', 'test', 'handover'].includes(s.id) ? [] : s.open.map((o) => `${s.id} ${o.circuit} ${o.ask}`)))
const key = (f: { circuit: string | null; rule: string; severity: string; message: string }) =>
  JSON.stringify([f.circuit, f.rule, f.severity, f.message])
const words = (f: { rule: string; clause: string; message: string }): string => `${f.rule} ${f.clause} ${f.message}`

/** All that is newly said of a job against the sound one it was made of. */
function saidOf(file: string, base: string): readonly string[] {
  const job = judgedOrRefused(file)
  if ('refused' in job) return ofVersion3(file) ? [job.refused] : []
  const before = new Set(findings(judged(base)).map(key))
  const asked = new Set(asks(judged(base)))
  return [
    ...findings(job)
      .filter((f) => f.severity !== 'note' && !before.has(key(f)))
      .map(words),
    ...(ofVersion3(file) ? asks(job).filter((a) => !asked.has(a)) : []),
  ]
}

describe('whole jobs', () => {
  it.each(expected.filter((e) => e.sound).map((e) => [e.file, e] as const))('%s is sound: no error is in it', (file, { never }) => {
    const found = findings(judged(file))
    expect(found.filter((f) => f.severity === 'error').map((f) => `${f.rule}: ${f.message}`)).toEqual([])
    if (never) expect(found.filter((f) => f.severity !== 'note' && new RegExp(never, 'i').test(words(f))).map(words)).toEqual([])
  })

  it.each(expected.filter((e) => e.match).map((e) => [e.file, e] as const))('%s is spoken of', (file, { base, match, about }) => {
    expect(
      saidOf(file, base!).some((said) => new RegExp(match!, 'i').test(said)),
      about,
    ).toBe(true)
  })

  it.each(expected.filter((e) => e.shut).map((e) => [e.file, e] as const))('%s keeps a phase shut', (file, { shut, circuit, about }) => {
    expect(judged(file).tests.find((t) => t.circuit === circuit && t.phase === shut)?.open, about).toBe(false)
  })

  it.each(files)('%s is brought up to a file that is read back to the letter, and judged the same; or refused with its path', (file) => {
    const first = judgedOrRefused(file)
    if ('refused' in first) return expect(first.refused).toMatch(/^[a-z][\w.]+ /i)
    const { job, readings } = readJobFile(load(file))
    const written = JSON.parse(JSON.stringify(writeJobFile(job, readings)))
    const again = readJobFile(written)
    expect(JSON.stringify(writeJobFile(again.job, again.readings))).toBe(JSON.stringify(written))
    expect(judgeJob(written)).toEqual(first)
  })
})
