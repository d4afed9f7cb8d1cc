import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { treeDrawing } from '../drawing/tree'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import type { Installation as Job } from '../installation/installation'
import { newJob } from '../../../tests/support/shorthand'
import { blankPoint } from '../job/point'
import { newWay } from '../job/board'
import type { ObservationRecord } from '../job/observation'
import { answer, makeHouse } from '../trace/house'
import type { Observation } from '../trace/types'
import { cablesTraced, evaluateSurvey, nextTests } from './traced'

const dairy = demoJobs[0]!
const make = (more: Edit[] = []): Job =>
  [...dairy.edits, ...more].reduce((job, edit) => applyEdit(job, edit).job, newJob(dairy.region, dairy.title, dairy.place))
const seen = (id: string, s: ObservationRecord['seen'], instrument: ObservationRecord['instrument'] = 'contact'): Edit => ({
  kind: 'observation.add',
  items: [{ id, at: '2026-11-15T08:00:00.000Z', instrument, withdrawn: false, seen: s }],
})

describe('the survey', () => {
  it('knows what was seen, and no more', () => {
    const { trace, untraced } = evaluateSurvey(make())
    expect(trace.feeds).toMatchObject({ p3: 'w1', p9: 'w1', p1: 'w2', p7: null })
    expect(trace.parents).toMatchObject({ p4: 'w1', p3: 'p4', p9: 'p4', p1: 'w2', p2: null })
    expect(untraced).toBe(10)
  })

  it('puts tests last that may black out what must hold', () => {
    const next = nextTests(make(), null)
    const holds = next.map((n) => n.holds.length)
    expect(holds).toEqual(holds.toSorted((a, b) => a - b))
    expect(next[0]!.holds).toEqual([])
    expect(next.find((n) => n.test.kind === 'breaker-off')!.holds).toEqual(['p7'])
  })

  it('does not count what only a non-contact detector showed', () => {
    const job = make([seen('n', { kind: 'breaker-off', breaker: 'w3', dead: ['p7', 'p8'] }, 'non-contact')])
    expect(evaluateSurvey(job).trace.feeds.p7).toBeNull()
    expect(evaluateSurvey(make([seen('n', { kind: 'breaker-off', breaker: 'w3', dead: ['p7', 'p8'] })])).trace.feeds.p7).toBe('w3')
  })

  it('keeps what a detector pointed to as a hint, which orders equal tests and no more', () => {
    const job = make([seen('n', { kind: 'breaker-off', breaker: 'w4', dead: ['p14', 'p15'] }, 'non-contact')])
    const { suspected, trace } = evaluateSurvey(job)
    const next = nextTests(job, null)
    expect(suspected).toEqual({ p14: ['w4'], p15: ['w4'] })
    expect(trace.feeds.p14).toBeNull()
    expect(next.filter((n) => n.test.kind === 'breaker-off').map((n) => (n.test as { breaker: string }).breaker)[0]).toBe('w4')
  })

  it('takes cables over with what proves them: seen, reported by somebody, or left over on a way that was never off', () => {
    const proofs = (job: Job) => Object.fromEntries(cablesTraced(job).map((k) => [k.point, `${k.from.kind} ${k.from.id} ${k.proof}`]))
    expect(proofs(make())).toMatchObject({ p4: 'way w1 seen', p3: 'point p4 seen', p13: 'way w5 seen' })
    expect(proofs(make())).not.toHaveProperty('p7')
    const told = seen('t', { kind: 'breaker-off', breaker: 'w3', dead: ['p14'] }, 'told')
    expect(proofs(make([told])).p14).toBe('way w3 told')
    expect(proofs(make([told, seen('u', { kind: 'breaker-off', breaker: 'w3', dead: ['p14'] })])).p14).toBe('way w3 seen')
    // A house of two ways: what did not die with the one is on the other, which was not switched off.
    const two = [newWay('x', 'X'), newWay('y', 'Y')].map((w): Edit => ({ kind: 'way.add', way: w }))
    const points: Edit = { kind: 'point.add', points: [blankPoint('a', 'A'), blankPoint('b', 'B')] }
    const house = [...two, points, seen('o', { kind: 'breaker-off', breaker: 'x', dead: ['a'] })]
    const job = house.reduce((j, e) => applyEdit(j, e).job, newJob('united-kingdom'))
    expect(proofs(job)).toEqual({ a: 'way x seen', b: 'way y left-over' })
    const taken = applyEdit(job, { kind: 'trace.take', cables: [...cablesTraced(job)] }).job
    expect(taken.foundCables).toMatchObject([
      { from: { id: 'x' }, to: { id: 'a' }, proof: 'seen' },
      { from: { id: 'y' }, to: { id: 'b' }, proof: 'left-over' },
    ])
    // Taken again after a test it is the same cable, proved better.
    const off = applyEdit(taken, seen('p', { kind: 'breaker-off', breaker: 'y', dead: ['b'] })).job
    const again = applyEdit(off, { kind: 'trace.take', cables: [...cablesTraced(off)] }).job
    expect(again.foundCables.map((k) => k.proof)).toEqual(['seen', 'seen'])
    expect(again.foundCables.map((k) => k.id)).toEqual(taken.foundCables.map((k) => k.id))
  })

  it('asks only what answers the question asked', () => {
    const tests = nextTests(make(), { want: 'feeds', points: ['p14'] })
    expect(tests.every((t) => t.test.kind === 'breaker-off')).toBe(true)
    expect(tests.length).toBeGreaterThan(0)
    expect(nextTests(make(), { want: 'feeds', points: ['p3'] })).toEqual([])
  })

  it('takes nothing from a test about a point that was listed after it, until it is said', () => {
    const late = make([{ kind: 'point.add', points: [blankPoint('late', 'Late')] }])
    const report = evaluateSurvey(late)
    // Every breaker tried and every box parted says nothing of it yet, so none of them counts.
    expect(report.incomplete.map((i) => i.id)).toEqual(['s1', 's2', 's5', 's6', 's3', 's4'])
    expect(report.incomplete.every((i) => i.missing.join() === 'late')).toBe(true)
    expect(report.trace.feeds).toMatchObject({ p3: null, late: null })
    const live = applyEdit(late, { kind: 'observation.complete', ids: report.incomplete.map((i) => i.id), dead: [] }).job
    expect(evaluateSurvey(live).trace.feeds.p3).toBe('w1')
    expect(evaluateSurvey(live).trace.candidates.late).not.toContain('w1')
    const dead = applyEdit(late, { kind: 'observation.complete', ids: ['s1'], dead: ['late', 'p1'] }).job
    const seen1 = dead.observations[0]!.seen
    // What was looked at then is not said again.
    expect(seen1.kind === 'breaker-off' && seen1.dead).toEqual(['p3', 'p4', 'p9', 'late'])
    const again = make([
      { kind: 'point.add', points: [blankPoint('late', 'Late')] },
      seen('z', { kind: 'breaker-off', breaker: 'w1', dead: ['p3', 'p4', 'p9', 'late'] }),
    ])
    expect(evaluateSurvey(again).trace.feeds).toMatchObject({ late: 'w1', p3: 'w1', p1: null })
  })

  it('is never wrong about a building in which points are found one by one', () => {
    for (let seed = 0; seed < 40; seed++) {
      const house = makeHouse(seed, 3, 6)
      let job = newJob('north-america', 'x', '')
      const put = (e: Edit) => (job = applyEdit(job, e).job)
      for (const b of house.breakers) put({ kind: 'way.add', way: newWay(b, b) })
      house.points.forEach((p, i) => {
        put({ kind: 'point.add', points: [blankPoint(p, p)] })
        const listed = new Set(job.points.map((x) => x.id))
        const test =
          i % 2
            ? ({ kind: 'disconnected', point: house.points[i - 1]! } as const)
            : ({ kind: 'breaker-off', breaker: house.breakers[i % 3]! } as const)
        const shown = answer(house, test)[0] as Exclude<Observation, { kind: 'cables' }>
        put(seen(`s${i}`, { ...shown, dead: shown.dead.filter((d) => listed.has(d)) }))
        const { trace } = evaluateSurvey(job)
        const top = (x: string): string => (house.breakers.includes(x) ? x : top(house.parent[x]!))
        for (const q of listed) if (trace.feeds[q] != null) expect(trace.feeds[q]).toBe(top(q))
      })
    }
  })

  it('leaves points that are still to be put in out of the trace', () => {
    const job = make([{ kind: 'point.set', id: 'p14', patch: { state: 'new' } }])
    const report = evaluateSurvey(job)
    expect(report.untraced).toBe(9)
    expect(report.trace.feeds).not.toHaveProperty('p14')
  })

  it('explains a contradiction by the observations that make it, until one is withdrawn', () => {
    const wrong = make([seen('x', { kind: 'breaker-off', breaker: 'w3', dead: ['p1'] })])
    const { clash, findings, trace } = evaluateSurvey(wrong)
    expect(clash!.ids.length).toBe(2)
    expect(clash!.ids).toContain('x')
    expect(findings[0]).toMatchObject({ rule: 'trace-contradiction', severity: 'error' })
    expect(trace.feeds.p3).toBeNull()
    const mended = applyEdit(wrong, { kind: 'observation.withdraw', id: 'x', withdrawn: true }).job
    expect(evaluateSurvey(mended).clash).toBeNull()
  })

  it('adds up what is on each way', () => {
    const { loads, findings } = evaluateSurvey(make([{ kind: 'point.set', id: 'p3', patch: { watts: 2400 } }]))
    expect(loads[0]).toMatchObject({ watts: 2500, unknown: 0 })
    expect(findings.map((f) => f.rule)).toEqual(expect.arrayContaining(['hidden-box', 'way-overloaded']))
  })

  it('keeps a point that is to be taken out, and names what is fed through it', () => {
    const [before, job] = [make([]), make([{ kind: 'point.set', id: 'p4', patch: { state: 'removed' } }])]
    const [was, is] = [evaluateSurvey(before), evaluateSurvey(job)]
    expect(is.trace.parents).toEqual(was.trace.parents)
    expect(is.untraced).toBe(was.untraced)
    expect(is.clash).toBeNull()
    const found = is.findings.find((f) => f.rule === 'fed-through-what-goes')!
    expect(found).toMatchObject({ severity: 'warning' })
    for (const id of ['p4', 'p3']) expect(found.message).toContain(before.points.find((p) => p.id === id)!.name)
    expect(was.findings.map((f) => f.rule)).not.toContain('fed-through-what-goes')
    // It is no longer among what stays; what was seen before still says of it what it said, and so it does once it stays after all.
    expect(job.points.map((p) => p.id)).not.toContain('p4')
    const stays = applyEdit(job.record, { kind: 'point.set', id: 'p4', patch: { state: 'existing' } }).job
    expect(stays.observations).toEqual(before.record.observations)
  })

  it('forgets a point taken away, but not what was seen of others', () => {
    const job = make([{ kind: 'point.remove', id: 'p9' }])
    expect(JSON.stringify(job.observations)).not.toContain('p9')
    expect(evaluateSurvey(job).trace.parents.p3).toBe('p4')
  })

  it('refuses an observation of a place that is gone', () => {
    expect(() => make([seen('x', { kind: 'breaker-off', breaker: 'w9', dead: [] })])).toThrow(/no longer/)
  })

  it('draws the known part as a tree and lists the rest', () => {
    const job = make()
    const report = evaluateSurvey(job)
    const { shapes } = treeDrawing(job, report, 'panel')
    expect(shapes.filter((x) => x.kind === 'path' && x.d.includes('C'))).toHaveLength(6 + 5)
    const drawn = JSON.stringify(shapes)
    expect(drawn).not.toMatch(/NaN|undefined/)
    expect(drawn).toContain('Not known yet')
  })
})
