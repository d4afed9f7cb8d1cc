import equal from 'fast-deep-equal/es6/index.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyJob } from '../../../tests/support/any-job'
import { dice, editBy } from '../../../tests/support/any-edit'
import { demoJobs } from '../demo/demo'
import { seenBy } from '../design/fed'
import { evaluate, evaluateCircuit } from './evaluate'
import { read } from '../installation/installation'
import { applyEdit, type Edit, EditError } from '../job/edits'
import { newWay } from '../job/board'
import { blankPoint } from '../job/point'
import { type Job, newJob } from '../job/schema'
import { onItsWays } from '../rules/existing'

const tried = (job: Job, edit: Edit): Job => {
  try {
    return applyEdit(job, edit).job
  } catch (e) {
    if (e instanceof EditError) return job
    throw e
  }
}
const demos = demoJobs.map((d) => d.edits.reduce((job, e) => applyEdit(job, e).job, newJob(d.region, d.title, d.place)))
/** A circuit that continues from a way that is there, with what was traced on it, and a cable that was seen. */
const goesOn = [
  { kind: 'way.add', way: newWay('old', 'Old sockets', { position: 9, residual: 'own', ratingA: 20 }) } as const,
  { kind: 'circuit.set', circuit: 'c1', patch: { work: 'altered' } } as const,
  { kind: 'circuit.connect', circuit: 'c1', way: '9' } as const,
  { kind: 'load.set', circuit: 'c1', patch: { amount: 1500, volts: 230, basis: 'watts' } } as const,
  { kind: 'point.add', points: [blankPoint('p', 'Kettle', { watts: 2400 }), blankPoint('q', 'Lamp', { watts: 60 })] } as const,
  {
    kind: 'observation.add',
    items: [
      {
        id: 'o',
        at: '2026-11-20T08:00:00.000Z',
        instrument: 'contact',
        withdrawn: false,
        seen: { kind: 'breaker-off', breaker: 'old', dead: ['p', 'q'] },
      },
    ],
  } as const,
  { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13' } } as const,
  { kind: 'run.set', circuit: 'c1', patch: { lengthM: 8 } } as const,
  { kind: 'cable.find', id: 'k0', way: 'old', point: 'p' } as const,
].reduce((job: Job, e) => applyEdit(job, e as Edit).job, newJob('united-kingdom', 'Goes on', ''))
const all = [...demos, goesOn]

/** Each circuit out of its view against the same circuit worked out with the whole job at hand. */
function differing(record: Job): string[] {
  const job = read(record)
  return evaluate(job, []).circuits.flatMap((c) => {
    const whole = evaluateCircuit(seenBy(job, c), c.circuit, c.upstream, onItsWays(job, c.circuit))
    // Its boxes come after: what it says of itself is what it was worked out to.
    const own = { ...whole, ends: null, findings: null, open: null }
    const said =
      whole.findings.every((f) => c.findings.some((x) => equal(x, f))) && whole.open.every((o) => c.open.some((x) => equal(x, o)))
    return said && Object.entries(own).every(([k, v]) => v === null || equal(c[k as keyof typeof c], v)) ? [] : [c.circuit.name]
  })
}

describe('what a circuit is judged by', () => {
  it('of a circuit that goes on is what hangs there', () => {
    const [c] = evaluate(goesOn, []).circuits
    expect(c!.findings.map((f) => f.rule)).toEqual(expect.arrayContaining(['existing-cable-not-known']))
    const more = applyEdit(goesOn, { kind: 'point.set', id: 'p', patch: { watts: 4321 } }).job
    expect(
      evaluate(more, [])
        .circuits[0]!.findings.filter((f) => f.severity === 'error')
        .map((f) => f.rule),
    ).toContain('way-already-loaded')
  })
  it.each(all.map((d) => [d.title, d] as const))('is all that bears on it: %s', (_, job) => expect(differing(job)).toEqual([]))
  it.each(all.map((d) => [d.title, d] as const))('is all that bears on it, whatever one thing is changed: %s', (_, job) => {
    const edits: Edit[] = [
      ...job.points.map((p): Edit => ({ kind: 'point.set', id: p.id, patch: { watts: 4321 } })),
      ...job.points.map((p): Edit => ({ kind: 'point.set', id: p.id, patch: { watts: null, state: 'existing' } })),
      ...job.ways.map((w): Edit => ({ kind: 'way.set', id: w.id, patch: { ratingA: 7, label: 'Another' } })),
      ...job.ways.flatMap((w) => job.points.slice(0, 3).map((p): Edit => ({ kind: 'cable.find', id: 'k', way: w.id, point: p.id }))),
      ...job.cables.map((k): Edit => ({ kind: 'cable.set', id: k.id, patch: { type: 'uk-t-and-e', size: '2.5 mm2' } })),
      ...job.boards.map((b): Edit => ({ kind: 'board.set', id: b.id, patch: { mainA: 9, spaces: 4, mainSwitch: 'none' } })),
      ...job.residualDevices.map((d): Edit => ({ kind: 'residual-device.remove', id: d.id })),
      ...job.observations.map((o): Edit => ({ kind: 'observation.withdraw', id: o.id, withdrawn: true })),
      ...job.circuits.map((c): Edit => ({ kind: 'circuit.set', circuit: c.id, patch: { name: 'Another', work: 'altered' } })),
      ...job.circuits.map((c): Edit => ({ kind: 'load.set', circuit: c.id, patch: { name: 'Another', amount: 77 } })),
      ...job.circuits.map((c): Edit => ({ kind: 'circuit.remove', circuit: c.id })),
    ]
    for (const edit of edits) {
      evaluate(job, [])
      const next = tried(job, edit)
      expect(differing(next), edit.kind).toEqual([])
      const { circuits } = evaluate(next, [])
      const fresh = evaluate(structuredClone(next), []).circuits
      if (!equal(circuits, fresh)) expect.fail(edit.kind)
    }
  })
  it('is all that bears on it, in any job and after any edits', () => {
    fc.assert(
      fc.property(fc.oneof(anyJob, fc.constantFrom(...all)), fc.array(dice, { maxLength: 12 }), (start, rolls) => {
        const job = rolls.reduce((now, roll) => {
          const next = tried(now, editBy(now, roll))
          // What is remembered from before the edit is there to be used wrongly.
          evaluate(next, [])
          return next
        }, start)
        expect(differing(job)).toEqual([])
        expect(differing(structuredClone(job))).toEqual([])
      }),
      { numRuns: Number(process.env.RUNS ?? 150) },
    )
  })
})
