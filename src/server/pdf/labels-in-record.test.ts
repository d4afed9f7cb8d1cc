import { describe, expect, it } from 'vitest'
import { textOf } from '../../../tests/support/pdf'
import { finished } from '../../core/demo/finished'
import { applyEdit } from '../../core/job/edits'
import { type Job, newJob } from '../../core/job/schema'
import { makePaper } from '../papers'

const recordOf = async (job: Job): Promise<string> => {
  const stored = { id: 'j', revision: 1, job, readings: [], undo: null, redo: null, updatedAt: '2026-11-20T08:00:00.000Z' }
  const { boxes } = await textOf((await makePaper('record.pdf', { stored, units: 'metric', circuit: null }))!.body)
  return boxes.map((b) => b.text).join(' ')
}

describe('labels in the record', () => {
  it('are named where what was stuck is no longer so, and only then', async () => {
    const designed = finished.edits.reduce((j, e) => applyEdit(j, e).job, newJob(finished.region, finished.title, finished.place))
    const done = finished.finish!(designed).flatMap((a) => ('edit' in a ? [a.edit] : []))
    const whole = done.reduce((j, e) => applyEdit(j, e).job, designed)
    const renamed = applyEdit(whole, { kind: 'point.set', id: 'b2', patch: { name: 'Bench, far end' } }).job
    expect(await recordOf(whole)).not.toContain('Labels in place')
    expect(await recordOf(renamed)).toMatch(/Labels in place.*no longer say/)
  })
})
