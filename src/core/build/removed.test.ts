import { describe, expect, it } from 'vitest'
import { builtOf } from '../contract/built'
import { inCircuit } from '../demo/kit'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { newWay } from '../job/board'
import { newDay } from '../job/day'
import { applyEdit, type Edit } from '../job/edits'
import { blankPoint } from '../job/point'
import { type Job, newJob } from '../job/schema'
import { regionIds } from '../region/types'
import { isolationCards, shutFor } from '../workday/isolation'
import { materialsOf } from '../workday/materials'
import { tasksOf } from '../workday/tasks'

/* What is taken out is work: tasks, making safe, materials, record. */

const at = '2026-11-20T08:00:00.000Z'
const made = (edits: readonly Edit[], from: Job): Job => edits.reduce((job, e) => applyEdit(job, e).job, from)
const seen = (id: string, of: Extract<Edit, { kind: 'observation.add' }>['items'][number]['seen']): Edit => ({
  kind: 'observation.add',
  items: [{ id, at, instrument: 'contact', withdrawn: false, seen: of }],
})
/** Two outlets on one way, the second fed through the first, both traced. */
const there = (region: (typeof regionIds)[number]) =>
  made(
    [
      { kind: 'way.add', way: newWay('w1', 'Wax room', { position: 3, ratingA: 16, state: 'existing' }) },
      { kind: 'point.add', points: [blankPoint('near', 'Near the door'), blankPoint('far', 'Far wall')] },
      seen('o1', { kind: 'breaker-off', breaker: 'w1', dead: ['near', 'far'] }),
      seen('o2', { kind: 'disconnected', point: 'near', dead: ['far'] }),
      seen('o3', { kind: 'cables', point: 'near', onward: 1 }),
    ],
    newJob(region, 'Honey house', ''),
  )
const gone = (id: string, left?: 'capped' | 'pulled-out' | 'made-good'): readonly Edit[] => [
  { kind: 'point.set', id, patch: { state: 'removed' } },
  ...(left ? [{ kind: 'box.set' as const, boxes: [id], patch: { left } }] : []),
]
const outOf = (job: Job) => {
  const report = evaluate(job, [])
  const tasks = tasksOf(read(job), report)
  const survey = report.stages.find((s) => s.id === 'survey')!
  return { ...builtOf(read(job), report), report, tasks, survey, materials: materialsOf(read(job), report) }
}

describe.each(regionIds)('a point that is taken out in %s', (region) => {
  it('asks what is left there, and buys nothing until that is decided', () => {
    const { survey, materials } = outOf(made(gone('far'), there(region)))
    expect(survey.open.map((o) => o.ask)).toContain('Far wall: what is left where it is taken out?')
    expect(materials.unknown).toContain('Far wall: what is left where it is taken out is not decided.')
    expect(outOf(made(gone('far', 'capped'), there(region))).survey.open.map((o) => o.ask)).toEqual([])
  })
  it('is a task done dead, in a record that keeps it as it was found', () => {
    const job = made(gone('near', 'capped'), there(region))
    const { tasks, removed } = outOf(job)
    expect(tasks[0]).toMatchObject({ id: 'remove near', power: 'off', points: ['near'], skilled: 1 })
    expect(removed).toMatchObject([{ point: 'near', left: 'capped', feeds: ['far'] }])
    expect(removed[0]!.steps[0]).toMatch(/^Prove it dead/)
    expect(removed[0]!.steps.join(' ')).toMatch(/Join what goes on to Far wall/)
    expect(job.points.find((p) => p.id === 'near')!.state).toBe('removed')
    expect(outOf(there(region)).removed).toEqual([])
  })
  it('buys the blank cover and the connectors that it takes, once its cables were counted', () => {
    const at = (job: Job, box: string) => outOf(job).materials.lines.flatMap((l) => (l.at.includes(box) ? [`${l.kind} ${l.what}`] : []))
    expect(at(made(gone('near', 'capped'), there(region)), 'near')).toEqual(
      expect.arrayContaining(['plate Blank plate', expect.stringMatching(/^connector /)]),
    )
    const uncounted = outOf(made(gone('far', 'capped'), there(region))).materials
    expect(uncounted.unknown.join()).toMatch(/Far wall: how many cables end in its box is not known/)
    expect(at(made(gone('far', 'made-good'), there(region)), 'far')).toEqual(['other Filler, or a patch, to make good'])
  })
  it('that others are fed through is not drawn out', () => {
    const rules = (left: 'capped' | 'pulled-out' | 'made-good', id = 'near') =>
      outOf(made(gone(id, left), there(region))).survey.findings.map((f) => f.rule)
    expect(rules('pulled-out')).toContain('feed-drawn-out')
    expect(rules('made-good')).toContain('feed-drawn-out')
    expect(rules('capped')).not.toContain('feed-drawn-out')
    expect(rules('made-good', 'far')).not.toContain('feed-drawn-out')
  })
  it('leaves a label on its blank cover, that says what continues through it', () => {
    const { labels } = outOf(made(gone('near', 'capped'), there(region)))
    expect(labels.find((l) => l.at === 'near')!.lines).toEqual(['Joint, was Near the door: goes on to Far wall', 'Wax room'])
    expect(outOf(made(gone('near', 'pulled-out'), there(region))).labels.some((l) => l.at === 'near')).toBe(false)
  })
  it('is not begun while nothing of this job proves its way dead', () => {
    const job = made(gone('near', 'capped'), there(region))
    const { report, tasks } = outOf(job)
    const cards = isolationCards(read(job), report, newDay(), tasks)
    expect(cards[0]!.places.points).toContain('near')
    expect(cards[0]!.unknown.join()).toMatch(/no circuit of this job is on its way, Wax room/)
    expect(
      shutFor(
        tasks.find((t) => t.id === 'remove near')!,
        cards,
      ),
    ).not.toBeNull()
    const on = made([{ kind: 'circuit.set', circuit: 'c1', patch: { work: 'altered' } }, inCircuit('c1').connect({ way: '3' })], job)
    const after = outOf(on)
    expect(after.tasks.find((t) => t.id === 'remove near')!.circuit).toBe('c1')
    expect(isolationCards(read(on), after.report, newDay(), after.tasks)[0]!.unknown.join()).not.toMatch(/taken out/)
  })
})
