import { describe, expect, it } from 'vitest'
import { newStretch } from '../job/design'
import { newRaceway } from '../job/raceway'
import { made, placed, type Short } from '../../../tests/support/shorthand'
import { builtRaceways } from './raceways'

const row = (lengths: readonly (number | null)[]): Short => ({
  kind: 'circuit-point.add',
  circuit: 'c1',
  points: lengths.map((lengthM, i) => placed(`p${i}`, `P${i}`, { from: i === 0 ? null : `p${i - 1}`, lengthM, watts: 50 })),
})
const drawnIn = (cable: string): Short => ({ kind: 'design.set', circuit: 'c1', design: 'a', patch: { cable } })
const pipe = (more: Partial<ReturnType<typeof newRaceway>> = {}): Short => ({
  kind: 'raceway.add',
  item: newRaceway('r', 'Conduit', { circuits: ['c1'], ...more }),
})
const runs = (...edits: Short[]) => builtRaceways(made('united-kingdom', ...edits))[0]!

describe('the pipe of a raceway', () => {
  it('is as long as the single conductors that lie in it, run by run, in the lengths it is sold in', () => {
    const built = runs(row([11, 3, 9]), drawnIn('singles'), pipe({ lengthM: 8 }))
    expect(built.runsM).toEqual([11, 3, 9])
    expect(built.piecesM).toEqual([3, 3, 3, 2, 3, 3, 3, 3])
  })
  it('is unknown while a length of them is, and never shorter than was measured', () => {
    expect(runs(row([11, null]), drawnIn('singles'), pipe({ lengthM: 8 })).runsM).toBeNull()
    expect(runs(row([2, 3]), drawnIn('singles'), pipe({ lengthM: 8 })).runsM).toEqual([8])
    expect(runs(row([11]), drawnIn('singles'), pipe({ lengthM: 8, stockM: 4 })).piecesM).toEqual([4, 4])
    expect(runs(row([11]), drawnIn('singles'), pipe()).runsM).toEqual([11])
  })
  it('is of a sheathed cable only what was said to lie in it', () => {
    expect(runs(row([11, 3]), drawnIn('twin-earth'), pipe()).runsM).toBeNull()
    expect(runs(row([11, 3]), drawnIn('twin-earth'), pipe({ lengthM: 2 })).runsM).toEqual([2])
    const job = made('united-kingdom')
    const stretch = (id: string, lengthM: number, place: 'conduit' | 'attic') => ({
      ...newStretch(job.circuits[0]!.designs[0]!, id),
      lengthM,
      place,
    })
    const divided: Short = {
      kind: 'cable.set',
      id: 'to-p1',
      patch: { lengthM: null, stretches: [stretch('s1', 4, 'conduit'), stretch('s2', 6, 'attic')] },
    }
    expect(runs(row([11, 10]), drawnIn('twin-earth'), divided, pipe()).runsM).toEqual([4])
  })
  it('is shared by the circuits drawn into it together', () => {
    const second: Short[] = [
      { kind: 'circuit.add', id: 'c2', name: 'Second', of: 'radial' },
      { kind: 'design.set', circuit: 'c2', design: 'a', patch: { cable: 'singles', lengthM: 25 } },
    ]
    expect(runs(row([11, 3]), drawnIn('singles'), ...second, pipe({ circuits: ['c1', 'c2'] })).runsM).toEqual([25])
  })
})
