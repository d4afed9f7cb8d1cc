import { describe, expect, it } from 'vitest'
import { practiceBuilding } from '../practice/practice'
import { evaluate } from '../evaluate/evaluate'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import { describeEdit } from '../job/edits'
import { type Installation as Job, pointsThere } from '../installation/installation'
import { newJob } from '../../../tests/support/shorthand'
import { jobSchema } from '../job/schema'
import { evaluateSurvey } from '../survey/traced'
import { demoJobs } from './demo'

const make = (i: number, ...more: Edit[]): Job =>
  [...demoJobs[i]!.edits, ...more].reduce(
    (job, e) => applyEdit(job, e).job,
    newJob(demoJobs[i]!.region, demoJobs[i]!.title, demoJobs[i]!.place),
  )
const circuitErrors = (job: Job): string[] =>
  evaluate(job, [])
    .stages.find((s) => s.id === 'circuit')!
    .findings.filter((f) => f.severity === 'error')
    .map((f) => f.rule)

describe('the demo jobs', () => {
  it.each([0, 1, 2, 3, 4])('are valid to the last key, and every step of them can be given in words (%i)', (i) => {
    expect(jobSchema.safeParse(make(i).record).success).toBe(true)
    let job = newJob(demoJobs[i]!.region, 'x', '')
    for (const e of demoJobs[i]!.edits) {
      expect(describeEdit(job.record, e)).toMatch(/\w{2,}/)
      job = applyEdit(job, e).job
    }
  })

  it('hold at least four circuits, of different kinds', () => {
    for (const i of [0, 1, 2]) expect(make(i).circuits.length).toBeGreaterThanOrEqual(4)
    const kinds = [0, 1, 2].flatMap((i) => make(i).circuits.map((c) => `${c.kind} ${c.work} ${c.points.length > 0}`))
    expect(new Set(kinds).size).toBeGreaterThanOrEqual(6)
  })

  it('the dairy has fifteen points, labels that lie, one hidden box and a freezer', () => {
    const job = make(0)
    expect(pointsThere(job.points)).toHaveLength(15)
    expect(job.points.filter((p) => p.hidden)).toHaveLength(1)
    expect(job.points.filter((p) => p.mustHold)).toHaveLength(1)
    // “Yard” feeds the wheel room’s light and switch besides the yard.
    const { trace } = evaluateSurvey(job)
    expect(job.points.filter((p) => trace.feeds[p.id] === 'w1').map((p) => p.room)).toContain('Wheel room')
  })

  it('the hall has a ring with an old spur, traced to its end, and six findings of which some are answered', () => {
    const job = make(1)
    const { trace, untraced } = evaluateSurvey(job)
    expect(untraced).toBe(0)
    expect(trace.parents).toMatchObject({ m2: 'h1', m3: 'm2' })
    expect(job.defects).toHaveLength(6)
    expect(new Set(job.defects.map((d) => d.state))).toEqual(new Set(['open', 'work', 'declined']))
  })

  it('the honey house has the neutral of one circuit on the wrong bar', () => {
    const wrong = evaluate(make(2), []).boards[0]!.findings
    expect(wrong.map((f) => f.rule)).toEqual(['wrong-neutral-bar'])
    expect(evaluate(make(2, { kind: 'way.set', id: 'z2', patch: { bar: 'el' } }), []).boards[0]!.findings).toEqual([])
  })

  it('hold one at its survey, half traced, with two things wrong at the board', () => {
    const job = make(4)
    const { findings, stages } = { findings: evaluate(job, []).boards[0]!.findings, stages: evaluate(job, []).stages }
    expect(findings.map((f) => f.rule)).toContain('wrong-neutral-bar')
    expect(stages.find((s) => s.id === 'survey')!.open.length).toBeGreaterThan(0)
    // An outlet that goes off with the lights.
    expect(evaluateSurvey(job).trace.feeds.q3).toBe('v3')
  })

  it.each<[number, string[], Edit[]]>([
    [
      0,
      ['raceway-overfilled', 'outlet-below-breaker'],
      [
        { kind: 'raceway.set', id: 'rw1', patch: { tradeSize: '1' } },
        { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-30-240' } },
      ],
    ],
    [1, ['spur-too-many'], [{ kind: 'circuit-point.set', circuit: 'c3', id: 'm3', patch: { fuseA: 13 } }]],
    [2, ['cord-below-load'], [{ kind: 'design.set', circuit: 'c1', design: 'a', patch: { cordA: 16 } }]],
  ])('have errors in their circuits that an edit or two puts right (%i)', (i, rules, remedy) => {
    expect(circuitErrors(make(i))).toEqual(rules)
    expect(circuitErrors(make(i, ...remedy))).toEqual([])
  })

  it('name nothing that a demo is not to show', () => {
    const words = JSON.stringify(demoJobs.map((_, i) => make(i).record)).toLowerCase()
    for (const kind of ['microwave', 'welder', 'baseboard', 'vehicle-charger', '"range"', 'refrigerator']) expect(words).not.toContain(kind)
    expect(JSON.stringify(practiceBuilding(1)).toLowerCase()).not.toContain('microwave')
  })
})
