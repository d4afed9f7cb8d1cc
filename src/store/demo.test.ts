import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { demoJobs } from '../core/demo/demo'
import { whyNotSigned } from '../core/documents/signing'
import { evaluate } from '../core/evaluate/evaluate'
import { copyOf } from '../core/job/copy'
import { jobSchema } from '../core/job/schema'
import { photographsOf } from '../core/verify/photograph'
import { standingIssue } from './chain'
import { makeDemo } from './demo'
import { editJob, loadJob, restoreJob, undoJob } from './jobs'
import { openStore, type Store } from './open'
import { photographFile, photographRows } from './photographs'
import { workLog } from './work-log'

let folder: string
let store: Store
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'synthema-demo-'))
  store = openStore(folder)
  for (const demo of demoJobs) makeDemo(store, demo)
})
afterAll(() => {
  store.$client.close()
  rmSync(folder, { recursive: true, force: true })
})

describe('the demo job that is finished', () => {
  const loaded = () => loadJob(store, 'bottling-bench')

  it('is open in nothing, has no finding graver than a note, and every reading is as expected', () => {
    const { job, readings } = loaded()
    const report = evaluate(job, readings)
    expect(report.stages.flatMap((s) => s.open)).toEqual([])
    expect(report.stages.flatMap((s) => s.findings).filter((f) => f.severity !== 'note')).toEqual([])
    expect(report.circuits[0]!.testReport.judged.filter((j) => j.verdict !== 'met')).toEqual([])
    expect(whyNotSigned(report)).toEqual([])
  })

  it('is routed, planned, logged to its end, labelled and signed as it stands', () => {
    const { job, readings } = loaded()
    expect(job.cables.filter((k) => !k.route)).toEqual([])
    expect(job.day!.log.map((r) => r.task)).toEqual(job.day!.planned!.tasks.map((t) => t.id))
    expect(job.day!.log.every((r) => r.endedAt !== null)).toBe(true)
    expect(job.labels!.stuck.length).toBeGreaterThan(5)
    expect(standingIssue(job, readings)!.signatures.map((s) => s.for)).toEqual(['design', 'work', 'tests'])
  })

  it('keeps its signatures, whatever is undone or gone back to', () => {
    const id = 'bottling-bench'
    const hand = { by: 'Ann', at: '2026-11-20T08:00:00.000Z' }
    const names = () => loaded().job.issues!.flatMap((i) => i.signatures.map((s) => s.name))
    const before = loaded()
    expect(before.undo).toBeNull()
    expect(undoJob(store, id, before.revision, hand).revision).toBe(before.revision)
    expect(names()).toHaveLength(3)
    // What was done since can be undone, down to the signature.
    editJob(store, id, before.revision, { kind: 'brief.set', patch: { later: 'Shelves' } }, hand)
    expect(loaded().undo?.label).toContain('later')
    undoJob(store, id, loaded().revision, hand)
    expect(loaded().job.brief.later).toBe(before.job.brief.later)
    expect(loaded().undo).toBeNull()
    restoreJob(store, id, loaded().revision, 3, hand)
    expect(names()).toHaveLength(3)
    expect(loaded().job.day!.signatures).toHaveLength(1)
    expect(loaded().job.circuits[0]!.name).not.toBe('Bottling bench')
    undoJob(store, id, loaded().revision, hand)
    expect(loaded().job).toEqual(before.job)
  })

  it('is copied without what was done there', () => {
    const copy = copyOf(loaded().job)
    expect(jobSchema.safeParse(copy).success).toBe(true)
    expect(copy.cables).toEqual(loaded().job.cables)
    expect([copy.issues, copy.labels, copy.due]).toEqual([undefined, undefined, undefined])
    expect(copy.day).toMatchObject({ people: loaded().job.day!.people, planned: null, log: [], signatures: [] })
    expect(copy.boxes.flatMap((b) => b.done)).toEqual([])
    const { stages } = evaluate(copy, [])
    expect(stages.find((s) => s.id === 'test')!.open.length).toBeGreaterThan(0)
  })

  it('teaches the firm nothing about how long its own work takes', () => {
    expect(workLog(store)).toEqual([])
  })

  it('is photographed before and after, with a mark', () => {
    const list = photographsOf(photographRows(store, 'bottling-bench'))
    expect(list.map((p) => p.moment)).toEqual(['before', 'after', null])
    expect(list.flatMap((p) => p.marks.map((m) => m.kind))).toEqual(['ring'])
    for (const p of list) expect(photographFile(store, 'bottling-bench', p.photograph).length).toBeGreaterThan(5000)
  })
})
