import { evaluate } from '../../src/core/evaluate/evaluate'
import type { Reading } from '../../src/core/job/reading'
import type { Job } from '../../src/core/job/schema'
import { takenOn } from '../../src/core/verify/taken-on'
import { after, newJob } from './shorthand'

/** A small circuit in which everything asked for is entered. */
export const whole = (): Job =>
  after(
    newJob('united-kingdom', 'Urn', 'Village hall'),
    { kind: 'supply.set', patch: { earthing: 'tn-s', zeOhm: 0.3, pscKa: 1.2 } },
    { kind: 'load.set', circuit: 'c1', patch: { name: 'Urn', volts: 230, basis: 'watts', amount: 2000, connection: 'plug' } },
    { kind: 'circuit-point.add', circuit: 'c1', points: [{ id: 'p', name: 'Counter', lengthM: 8, from: null, watts: 2000 }] },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13', residual: { at: 'board', ma: 30, type: 'A' } } },
  ).record
/** A reading that meets each test of a job. */
export function met(job: Job): Reading[] {
  return evaluate(job, []).circuits.flatMap((c) =>
    c.tests.map((t, i): Reading => {
      const e = t.expect
      const value = e.kind === 'range' ? (e.nominal ?? (e.max === null ? (e.min ?? 0) * 200 : ((e.min ?? 0) + e.max) / 2)) : null
      return {
        id: `r${i}`,
        circuit: c.circuit.id,
        point: null,
        test: t.id,
        value,
        mark: e.kind === 'range' ? null : 'yes',
        unit: t.unit,
        by: 'Ada',
        at: '2026-11-20T08:10:00.000Z',
        instrument: 'Tester 7',
        note: '',
        corrects: null,
        on: takenOn(c.circuit),
      }
    }),
  )
}
