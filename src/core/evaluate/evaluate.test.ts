import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from './evaluate'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import { EditError } from '../job/edits'
import type { Installation as Job } from '../installation/installation'
import { newJob } from '../../../tests/support/shorthand'
import { newRaceway } from '../job/raceway'
import { blankPoint } from '../job/point'
import { newResidualDevice, newWay } from '../job/board'

const begin = (i: number): Job => newJob(demoJobs[i]!.region, demoJobs[i]!.title, demoJobs[i]!.place)
const plain = (job: Job): string => JSON.stringify({ ...evaluate(job, []), byCircuit: null, survey: null })
/** The same job, sharing nothing, so that nothing remembered can be used. */
const fresh = (job: Job): Job => structuredClone(job)

function tryEdit(job: Job, edit: Edit): Job {
  try {
    return applyEdit(job, edit).job
  } catch (e) {
    if (e instanceof EditError) return job
    throw e
  }
}

const circuitId = fc.constantFrom('c1', 'c2', 'c3', 'c4')
const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({
    kind: fc.constant('load.set' as const),
    circuit: circuitId,
    patch: fc.record({
      amount: fc.integer({ min: 0, max: 9000 }),
      nature: fc.constantFrom('general' as const, 'motor' as const, 'cooking' as const),
    }),
  }),
  fc.record({
    kind: fc.constant('circuit.set' as const),
    circuit: circuitId,
    patch: fc.record({
      way: fc.constantFrom('', '3', '5', '6', '7-9', '14-16'),
      work: fc.constantFrom('new' as const, 'altered' as const),
      place: fc.constantFrom(null, 'kitchen' as const, 'hall' as const),
    }),
  }),
  fc.record({
    kind: fc.constant('brief.set' as const),
    patch: fc.record({
      environment: fc.constantFrom(null, 'dry' as const, 'outdoors' as const),
      premises: fc.constantFrom(null, 'dwelling' as const),
    }),
  }),
  fc.record({
    kind: fc.constant('supply.set' as const),
    patch: fc.record({ zeOhm: fc.constantFrom(null, 0.2, 1.5), pscKa: fc.constantFrom(null, 1, 20) }),
  }),
  fc.record({
    kind: fc.constant('board.set' as const),
    id: fc.constant('main'),
    patch: fc.record({ spaces: fc.constantFrom(null, 6, 20), mainA: fc.constantFrom(null, 60, 100) }),
  }),
  fc
    .integer({ min: 1, max: 12 })
    .map((position): Edit => ({ kind: 'way.add', way: newWay(`n${position}`, `N${position}`, { position, ratingA: 16 }) })),
  fc
    .integer({ min: 1, max: 5 })
    .map((n): Edit => ({ kind: 'point.add', points: [blankPoint(`np${n}`, `NP${n}`, { watts: 500 * n, kind: 'fixed' })] })),
  fc.subarray(['c1', 'c2', 'c3', 'c4']).map((circuits): Edit => ({ kind: 'raceway.set', id: 'rw1', patch: { circuits } })),
  fc.subarray(['c1', 'c2']).map((circuits): Edit => ({ kind: 'raceway.add', item: newRaceway('rx', 'X', { circuits }) })),
  fc.record({
    kind: fc.constant('design.set' as const),
    circuit: circuitId,
    design: fc.constant('a'),
    patch: fc.record({ lengthM: fc.integer({ min: 1, max: 60 }), ambientC: fc.constantFrom(25, 40) }),
  }),
  fc.constantFrom(30, 100).map((tripMa): Edit => ({
    kind: 'residual-device.add',
    item: newResidualDevice(`u${tripMa}`, `Device ${tripMa}`, { ratingA: 40, tripMa }),
  })),
  fc.constantFrom('g1', 'el', 'u30', 'u100').map((id): Edit => ({ kind: 'residual-device.remove', id })),
  fc
    .tuple(circuitId, fc.constantFrom(null, 'own', 'g1', 'el', 'u30', 'u100'))
    .map(([circuit, behind]): Edit => ({ kind: 'circuit.set', circuit, patch: { behind } })),
  fc
    .tuple(
      circuitId,
      fc.constantFrom('m1', 'k2', 'b1', 'b2', 'x2'),
      fc.constantFrom(null, 'uk-fcu', 'uk-socket-13', 'na-gfci-20', 'na-duplex-15', 'za-isolator-20'),
      fc.boolean(),
    )
    .map(([circuit, id, accessory, guardsOn]): Edit => ({
      kind: 'circuit-point.set',
      circuit,
      id,
      patch: { accessory, guardsOn, fuseA: guardsOn ? 3 : null },
    })),
  fc
    .tuple(circuitId, fc.constantFrom('uk-fcu', 'na-gfci-20', 'za-isolator-20'), fc.integer({ min: 1, max: 4 }))
    .map(([circuit, end, cables]): Edit => ({ kind: 'box.set', circuit, end, patch: { cables } })),
  fc
    .constantFrom('new', 'old')
    .map((colours): Edit => ({ kind: 'circuit.set', circuit: 'c3', patch: { colours: colours as 'new' | 'old' } })),
  fc.constantFrom(null, 40, 90).map((recordedA): Edit => ({
    kind: 'survey.set',
    patch: { demand: { floorAreaM2: 100, smallApplianceCircuits: 2, laundryCircuits: 1, hvacKind: null, hvacVa: 0, recordedA } },
  })),
  circuitId.map((circuit): Edit => ({ kind: 'circuit.remove', circuit })),
  fc
    .tuple(circuitId, fc.constantFrom(null, 'c4', 'c5'))
    .map(([circuit, feeder]): Edit => ({ kind: 'circuit.set', circuit, patch: { feeder } })),
  fc
    .integer({ min: 5, max: 60 })
    .map((lengthM): Edit => ({ kind: 'design.set', circuit: 'c5', design: 'a', patch: { stretches: [], lengthM } })),
  fc.record({
    kind: fc.constant('circuit.set' as const),
    circuit: circuitId,
    patch: fc.record({
      name: fc.constantFrom('A', 'B'),
      kind: fc.constantFrom('radial' as const, 'ring' as const, 'shared-neutral' as const, 'feeder' as const),
    }),
  }),
)

describe('what is remembered', () => {
  it.each([0, 1, 2])('never differs from what is worked out from scratch, edit by edit (%i)', (i) => {
    let job = begin(i)
    for (const [n, edit] of demoJobs[i]!.edits.entries()) {
      job = applyEdit(job, edit).job
      evaluate(job, [])
      if (n % 9 === 0) expect(plain(job)).toBe(plain(fresh(job)))
    }
    expect(plain(job)).toBe(plain(fresh(job)))
  })

  it('nor after edits of any kind, in any order', () => {
    const starts = demoJobs.map((d, i) => d.edits.reduce((job, e) => applyEdit(job, e).job, begin(i)))
    fc.assert(
      fc.property(fc.constantFrom(0, 1, 2), fc.array(anyEdit, { minLength: 1, maxLength: 8 }), (i, edits) => {
        let job = starts[i]!
        evaluate(job, [])
        for (const e of edits) {
          job = tryEdit(job, e)
          evaluate(job, [])
        }
        expect(plain(job)).toBe(plain(fresh(job)))
      }),
      { numRuns: 100 },
    )
  })

  it('is shared: a circuit no edit touched keeps the very report it had', () => {
    // One of its own, of which nothing else is remembered.
    const job = demoJobs[1]!.edits.reduce((j, e) => applyEdit(j, e).job, newJob(demoJobs[1]!.region, 'Of its own'))
    const before = evaluate(job, [])
    const after = evaluate(applyEdit(job, { kind: 'load.set', circuit: 'c2', patch: { amount: 900 } }).job, [])
    expect(after.circuits[0]).toBe(before.circuits[0])
    expect(after.circuits[1]).not.toBe(before.circuits[1])
    const moved = evaluate(applyEdit(job, { kind: 'brief.set', patch: { environment: 'wet' } }).job, [])
    expect(moved.circuits[0]).not.toBe(before.circuits[0])
  })

  it('is undone with the edit: the same patches back give the same report', () => {
    const start = demoJobs[0]!.edits.reduce((j, e) => applyEdit(j, e).job, begin(0))
    fc.assert(
      fc.property(anyEdit, (edit) => {
        const next = tryEdit(start, edit)
        if (next === start) return
        expect(plain(next)).toBe(plain(fresh(next)))
      }),
      { numRuns: 30 },
    )
  })
})

describe('a report', () => {
  const job = demoJobs[1]!.edits.reduce((j, e) => applyEdit(j, e).job, begin(1))
  it('places each finding and each open thing at its stage, and counts what it placed', () => {
    const report = evaluate(job, [])
    for (const s of report.stages) {
      for (const f of s.findings) expect(f.stage).toBe(s.id)
      for (const o of s.open) expect(o.stage).toBe(s.id)
    }
    const all = report.stages.flatMap((s) => s.findings)
    for (const severity of ['error', 'warning', 'unknown', 'note'] as const)
      expect(report.counts[severity]).toBe(all.filter((f) => f.severity === severity).length)
    expect(report.byCircuit.size).toBe(job.circuits.length)
  })
  it('asks nothing of a box or of wiring where a circuit ends in a board', () => {
    const feeder = applyEdit(job, { kind: 'circuit.add', id: 'f', name: 'Feeder', of: 'feeder' }).job
    const open = evaluate(feeder, []).byCircuit.get('f')!.open
    expect(open.map((o) => o.stage)).not.toContain('boxes')
    expect(open.map((o) => o.stage)).not.toContain('wiring')
    expect(feeder.circuits.at(-1)).toMatchObject({ kind: 'feeder', load: { connection: 'fixed' } })
  })
})
