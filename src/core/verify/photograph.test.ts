import { describe, expect, it } from 'vitest'
import { finished } from '../demo/finished'
import { evaluate } from '../evaluate/evaluate'
import { idField } from '../job/fields'
import { applyEdit } from '../job/edits'
import { read } from '../installation/installation'
import { newJob } from '../job/schema'
import { tasksOf } from '../workday/tasks'
import { subjectWords, testSubject } from './photograph'

const job = () => {
  const designed = finished.edits.reduce((j, e) => applyEdit(j, e).job, newJob(finished.region, finished.title, finished.place))
  return applyEdit(designed, {
    kind: 'task.add',
    item: {
      id: 't1',
      name: 'Plaster dries',
      kind: 'wait',
      minutes: 60,
      people: 0,
      power: 'any',
      after: [],
      earliestMin: null,
      latestMin: null,
    },
  }).job
}

describe('what a photograph shows', () => {
  it('is named for every test and task of a job, none of which is called gone', () => {
    const installation = read(job())
    const report = evaluate(job(), [])
    const tests = report.circuits.flatMap((c) => c.tests.map((t) => testSubject(c.circuit.id, t.id)))
    const tasks = tasksOf(installation, report).map((t) => t.id)
    expect(tests.length).toBeGreaterThan(10)
    expect(tasks.length).toBeGreaterThan(5)
    for (const id of [...tests, ...tasks]) expect(idField.safeParse(id).success).toBe(true)
    const words = [
      ...tests.map((id) => subjectWords(installation, { kind: 'test', id })),
      ...tasks.map((id) => subjectWords(installation, { kind: 'task', id })),
    ]
    expect(words.filter((w) => w.includes('no longer'))).toEqual([])
    expect(new Set(words).size).toBe(words.length)
    expect(words).toContain('Test of Bottling bench: insulation l n')
    expect(words).toContain('Task: running the cable, Bottling bench')
    expect(words).toContain('Task: Plaster dries')
  })

  it('is said to be gone where it is', () => {
    const installation = read(job())
    expect(subjectWords(installation, { kind: 'test', id: 'c9 zs' })).toBe('Test that is no longer in the job')
    expect(subjectWords(installation, { kind: 'task', id: 'fit c9' })).toBe('Task that is no longer in the job')
    expect(subjectWords(installation, { kind: 'task', id: 't9' })).toBe('Task that is no longer in the job')
  })
})
