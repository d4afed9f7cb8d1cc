import { describe, expect, it } from 'vitest'
import { evaluate } from '../evaluate/evaluate'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import { placed } from '../../../tests/support/shorthand'
import { newJob } from '../../../tests/support/shorthand'
import { plannedBoard, plannedLegs } from './planned-board'

const on = (id: string, way: string, watts: number | null, volts: 120 | 240 = 120): Edit[] => [
  { kind: 'circuit.add', id, name: id },
  { kind: 'load.set', circuit: id, patch: { amount: watts, volts } },
  { kind: 'circuit.set', circuit: id, patch: { feeder: 'f', way } },
]
const feeder: Edit[] = [
  { kind: 'circuit.add', id: 'f', name: 'Feeder', of: 'feeder' },
  { kind: 'load.set', circuit: 'f', patch: { basis: 'amps', amount: 20 } },
  { kind: 'design.set', circuit: 'f', design: 'a', patch: { lengthM: 20 } },
]
const made = (...edits: Edit[]) => [...feeder, ...edits].reduce((job, e) => applyEdit(job, e).job, newJob('north-america', 'x', ''))
const boardOf = (...edits: Edit[]) => {
  const job = made(...edits)
  return plannedBoard(
    job,
    job.circuits.find((c) => c.id === 'f')!,
  )
}

describe('a board that is still to be bought', () => {
  it('has eight ways or more, and two free beyond the last', () => {
    expect(boardOf().board.spaces).toBe(8)
    expect(boardOf(...on('k', '7', 1200)).board.spaces).toBe(10)
    expect(boardOf(...on('k', '9-11', 1200, 240)).board.spaces).toBe(14)
  })
  it('counts as free what none of its own circuits takes; those of other boards take nothing there', () => {
    expect(boardOf(...on('k', '3', 1200), { kind: 'circuit.set', circuit: 'c1', patch: { way: '5' } }).free).toEqual([1, 2, 4, 5, 6, 7, 8])
  })
})

describe('its legs', () => {
  it('carry what is on them, and both what is across two', () => {
    expect(plannedLegs(made(...on('a', '1', 1200), ...on('b', '4', 600), ...on('c', '5-7', 2400, 240)), { id: 'f' })).toEqual({
      A: 20,
      B: 15,
      unread: 0,
      unlooked: 0,
    })
  })
  it('carry two lines with a shared neutral each its own', () => {
    const shared: Edit[] = [
      ...on('s', '3-5', 0),
      { kind: 'circuit.set', circuit: 's', patch: { kind: 'shared-neutral' } },
      {
        kind: 'circuit-point.add',
        circuit: 's',
        points: [
          placed('p', 'P', { watts: 1200, leg: 'A' }),
          placed('q', 'Q', { watts: 600, leg: 'B' }),
          placed('r', 'R', { watts: 480, leg: 'AB' }),
        ],
      },
    ]
    // Space 3 is on leg B, so that its first line does.
    expect(plannedLegs(made(...shared), { id: 'f' })).toEqual({ A: 7, B: 12, unread: 0, unlooked: 0 })
  })
  it('are not known while one of its circuits has no way or no load', () => {
    expect(plannedLegs(made(...on('a', '', 1200)), { id: 'f' })).toBeNull()
    expect(plannedLegs(made(...on('a', '1', null)), { id: 'f' })).toBeNull()
  })
  it('decide whether the feeder carries it: the heavier, not the mean', () => {
    const said = (...edits: Edit[]) =>
      evaluate(made(...edits), [])
        .byCircuit.get('f')!
        .chosen.findings.find((f) => f.rule === 'feeder-load')
    expect(said(...on('a', '1', 1440), ...on('b', '2', 1440))).toMatchObject({
      severity: 'warning',
      message: expect.stringContaining('24 A on leg A if all runs at once, and 0 A on the other'),
    })
    expect(said(...on('a', '1', 1440), ...on('b', '3', 1440))).toBeUndefined()
  })
})
