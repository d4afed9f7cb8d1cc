import { describe, expect, it } from 'vitest'
import { after, newJob } from '../../../tests/support/shorthand'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { type Edit } from '../job/edits'
import { estimateTime, timeQuestions } from './estimate'
import type { Learnt } from './log'
import { tasksOf } from './tasks'

const demo = (i: number, ...edits: Edit[]) => after(newJob(demoJobs[i]!.region, demoJobs[i]!.title, ''), ...demoJobs[i]!.edits, ...edits)
const estimated = (job: ReturnType<typeof demo>, log: readonly Learnt[] = []) => estimateTime(job, tasksOf(job, evaluate(job, [])), log)
const learnt = (kind: Learnt['kind'], more: Partial<Learnt> = {}): Learnt => ({
  kind,
  factor: 1.2,
  low: 1.1,
  high: 1.3,
  times: 9,
  jobs: 3,
  leftOut: 0,
  enough: true,
  ...more,
})

describe('how long it takes', () => {
  it('spans every answer until it is given, and narrows with each', () => {
    const open = estimated(demo(0))
    expect(open.bestH).toBeLessThan(open.likelyH)
    expect(open.likelyH).toBeLessThan(open.worstH)
    expect(open.wideners).toHaveLength(2)
    for (const q of timeQuestions)
      for (const c of q.choices) {
        const told = estimated(demo(0, { kind: 'survey.set', patch: { answers: { [q.id]: c.id } } }))
        expect(told.worstH - told.bestH).toBeLessThanOrEqual(open.worstH - open.bestH + 1e-9)
        expect(told.bestH).toBeGreaterThanOrEqual(open.bestH - 1e-9)
      }
  })
  it('expects the mean of the three, the likely four times', () => {
    const e = estimated(demo(1))
    expect(e.expectedH).toBeCloseTo((e.bestH + 4 * e.likelyH + e.worstH) / 6, 12)
  })
  it('is the tasks of the day and what is asked: a minute more of a task is a minute more of it', () => {
    const before = estimated(demo(2))
    const said = (minutes: number) => estimated(demo(2, { kind: 'task.minutes', task: 'board c1', minutes }))
    expect((said(91).likelyH - said(31).likelyH) * 60).toBeCloseTo(60, 6)
    // Said for this job it no longer spreads.
    expect(said(30).worstH - said(30).bestH).toBeLessThan(before.worstH - before.bestH)
  })
  it('takes its spread from the log once that says enough, and says from how many jobs', () => {
    const ours = estimated(demo(2))
    const theirs = estimated(demo(2), [learnt('run'), learnt('board'), learnt('fit', { enough: false })])
    expect(theirs.worstH - theirs.bestH).toBeLessThan(ours.worstH - ours.bestH)
    expect(theirs.likelyH).toBeGreaterThan(ours.likelyH)
    expect(theirs.basis).toContain('what 3 jobs of the firm took')
    expect(estimated(demo(2), [learnt('fit', { enough: false })])).toEqual(ours)
  })
  it('spans more where a length is not known', () => {
    const run = estimated(demo(2, { kind: 'run.set', circuit: 'c1', patch: { lengthM: 15 } }))
    const unknown = estimated(demo(2, { kind: 'run.set', circuit: 'c1', patch: { lengthM: null } }))
    expect(unknown.worstH - unknown.bestH).toBeGreaterThan(run.worstH - run.bestH)
    expect(unknown.basis[0]).toContain('on a presumption')
  })
})
