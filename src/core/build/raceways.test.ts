import { describe, expect, it } from 'vitest'
import { newStretch } from '../job/design'
import { newRaceway } from '../job/raceway'
import { made, placed, type Short } from '../../../tests/support/shorthand'
import { racewayReport } from '../rules/raceway'
import { fittingsOf } from '../workday/raceway-fittings'
import { builtRaceways, partsInPipe } from './raceways'

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

describe('the fittings of a raceway', () => {
  const fittings = (region: 'north-america' | 'united-kingdom', ...edits: Short[]) => {
    const job = made(region, ...edits)
    const [built] = builtRaceways(job)
    if (!built?.runsM || !built.piecesM) return null
    const report = racewayReport(job, built.raceway, () => undefined)
    return Object.fromEntries(
      fittingsOf(job, { ...built, runsM: built.runsM, piecesM: built.piecesM }, report).map((f) => [f.key, f.count]),
    )
  }
  const na = (more: Partial<ReturnType<typeof newRaceway>>): Short[] => [row([6]), drawnIn('thwn-2'), pipe({ lengthM: 6, ...more })]
  it('join its lengths and end it at both boxes of each run, each strap with its screw', () => {
    expect(fittings('north-america', ...na({ kind: 'emt' }))).toEqual({ coupling: 1, end: 2, strap: 3, anchor: 3 })
    expect(fittings('united-kingdom', row([11, 3, 9]), drawnIn('singles'), pipe())).toEqual({ coupling: 5, end: 6 })
  })
  it('hold each run by itself, whatever of one of them is marked out', () => {
    const marked = [
      { id: 's', kind: 'straight' as const, lengthMm: 3000 },
      { id: 'u', kind: 'stub-90' as const, heightMm: 500 },
    ]
    const of = (...lengths: number[]) => fittings('north-america', row(lengths), drawnIn('thwn-2'), pipe({ bends: marked }))!.strap!
    expect(of(6, 7, 8)).toBe(3 + 3 + 4)
    expect(of(6)).toBe(3)
  })
  it('are none between the lengths of a flexible one, and cement where it is plastic', () => {
    expect(fittings('north-america', ...na({ kind: 'fmc' }))!.coupling).toBeUndefined()
    expect(fittings('north-america', ...na({ kind: 'pvc-40', minC: 20, maxC: 25 }))).toMatchObject({ cement: 1, coupling: 1 })
    expect(fittings('north-america', ...na({ kind: 'emt' }))!.cement).toBeUndefined()
  })
  it('let it grow where its change of length asks for that', () => {
    expect(fittings('north-america', ...na({ kind: 'pvc-40', minC: -20, maxC: 40 }))).toMatchObject({ expansion: 1 })
    expect(fittings('north-america', ...na({ kind: 'pvc-40', minC: 20, maxC: 25 }))!.expansion).toBeUndefined()
  })
  it('open it at each pull point that its bends ask for', () => {
    const straight = (id: string) => ({ id, kind: 'straight' as const, lengthMm: 1000 })
    const bends = [1, 2, 3, 4].flatMap((n) => [straight(`s${n}`), { id: `o${n}`, kind: 'offset' as const, riseMm: 200, angleDeg: 45 }])
    const more = [...bends, straight('s5'), { id: 'o5', kind: 'offset' as const, riseMm: 200, angleDeg: 30 }, straight('s6')]
    expect(fittings('north-america', ...na({ bends: [...bends, straight('s5')] }))!.access).toBeUndefined()
    expect(fittings('north-america', ...na({ bends: more }))!.access).toBe(1)
  })
  it('lead a sheathed cable out of it where the cable goes on by itself', () => {
    const job = made('united-kingdom')
    const stretch = (id: string, lengthM: number, place: 'conduit' | 'attic') => ({
      ...newStretch(job.circuits[0]!.designs[0]!, id),
      lengthM,
      place,
    })
    const divided = (...stretches: ReturnType<typeof stretch>[]): Short => ({
      kind: 'cable.set',
      id: 'to-p0',
      patch: { lengthM: null, stretches },
    })
    const of = (...stretches: ReturnType<typeof stretch>[]) =>
      fittings('united-kingdom', row([11]), drawnIn('twin-earth'), divided(...stretches), pipe())
    expect(of(stretch('a', 3, 'conduit'), stretch('b', 6, 'attic'))).toMatchObject({ end: 1, changeover: 1 })
    expect(of(stretch('a', 3, 'attic'), stretch('b', 3, 'conduit'), stretch('c', 6, 'attic'))).toEqual({ changeover: 2 })
    expect(of(stretch('a', 3, 'conduit'))).toEqual({ end: 2 })
  })
})

/** A route up a wall on its face, along it, then into the wall. */
const up: [number, number, number][] = [
  [0, 0, 0.3],
  [0, 0, 2.3],
]
const level: [number, number, number][] = [
  [0, 0, 2.3],
  [3, 0, 2.3],
]
const into: [number, number, number][] = [
  [3, 0, 2.3],
  [3, 0.1, 2.3],
]
const part = (kind: 'surface' | 'cavity', lengthM: number, path: [number, number, number][]) => ({
  kind,
  lengthM,
  path,
  room: null,
  side: 'south' as const,
  beyond: null,
  minutes: 5,
  holes: 0,
  openings: 0,
})
const route = (levelM: number) => ({
  cutM: 6,
  at: '2026-12-01T08:00:00.000Z',
  elements: [
    part('surface', 2, up),
    part('surface', levelM, [level[0]!, [levelM, 0, 2.3]]),
    part(
      'cavity',
      0.1,
      into.map(([x, y, z]): [number, number, number] => [x - 3 + levelM, y, z]),
    ),
  ],
})

describe('a raceway along a route', () => {
  const two = made('united-kingdom', row([5, 5]), drawnIn('twin-earth'))
  const [first, second] = two.circuits[0]!.cables.map((k) => k.id) as [string, string]
  const along = (id: string, cable: string): Short => ({
    kind: 'raceway.add',
    item: newRaceway(id, id, { circuits: ['c1'], lengthM: 5, bendCount: 1, along: { cable, piece: 1, lengthM: 5, bends: 1 } }),
  })
  const job = (levelM: number, ...more: Short[]) =>
    made(
      'united-kingdom',
      row([5, 5]),
      drawnIn('twin-earth'),
      along('r1', first),
      along('r2', second),
      { kind: 'route.take', cable: first, route: route(levelM) },
      ...more,
    )
  it('is as long as its piece of the route, and counted once', () => {
    expect(builtRaceways(job(3)).map((b) => b.runsM)).toEqual([[5], [5]])
  })
  it('is drawn as pipe on that piece alone; single conductors lie in pipe all the way', () => {
    const made3 = job(3)
    const [cable] = made3.circuits[0]!.cables
    expect([...partsInPipe(made3, cable!, route(3).elements)]).toEqual([0, 1])
    const bare = made('united-kingdom', row([5, 5]), drawnIn('twin-earth'))
    expect(partsInPipe(bare, bare.circuits[0]!.cables[0]!, route(3).elements).size).toBe(0)
    const singles = made('united-kingdom', row([5, 5]), drawnIn('singles'))
    expect(partsInPipe(singles, singles.circuits[0]!.cables[0]!, route(3).elements).size).toBe(3)
  })
  it('says when its route is another than it was marked out from, or is no longer there', () => {
    const said = (levelM: number, n: number) => {
      const j = job(levelM)
      return racewayReport(j, j.raceways[n]!, () => undefined).findings.map((f) => f.message)
    }
    expect(said(3, 0)).toEqual([])
    expect(said(3.009, 0)).toEqual([])
    expect(said(3.011, 0)).toEqual([expect.stringMatching(/^r1: its route has changed: 5.01 m with one quarter bend now, 5 m with/)])
    expect(said(3, 1)).toEqual([expect.stringMatching(/^r2: it was marked out from a route that is no longer chosen/)])
  })
})
