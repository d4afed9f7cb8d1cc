import { blankPoint } from '../job/point'
import { describe, expect, it } from 'vitest'
import { racewayDrawing } from '../drawing/raceway'
import { evaluate } from '../evaluate/evaluate'
import { demoJobs } from '../demo/demo'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import type { Installation as Job } from '../installation/installation'
import { newJob } from '../../../tests/support/shorthand'
import { placed } from '../../../tests/support/shorthand'
import { newRaceway, type Raceway } from '../job/raceway'
import { conduitFill } from '../calculate/conduit-fill'
import { racewayFill } from '../calculate/raceway-fill'
import { rebalance } from '../survey/rebalance'
import { legOf } from '../survey/board'
import { newWay } from '../job/board'

const demo = (i: number, ...more: Edit[]): Job =>
  [...demoJobs[i]!.edits, ...more].reduce((job, e) => applyEdit(job, e).job, newJob(demoJobs[i]!.region, 'x', ''))
const set = (patch: Partial<Omit<Raceway, 'id'>>, id = 'rw1'): Edit => ({ kind: 'raceway.set', id, patch })
const first = (job: Job) => evaluate(job, []).raceways[0]!

describe('a raceway with its circuits', () => {
  it('is filled by every single conductor in it and one protective conductor for the largest breaker', () => {
    const { conductors, protectiveSize, fill } = first(demo(0))
    // Wheel outlets 2, glaze bench 3, feeder 3, and a ground for 60 A.
    expect(conductors).toEqual([
      { insulation: 'thwn-2', size: '12 AWG', count: 5 },
      { insulation: 'thwn-2', size: '6 AWG', count: 3 },
      { insulation: 'thwn-2', size: '10 AWG', count: 1 },
    ])
    expect(protectiveSize).toBe('10 AWG')
    expect(fill).toEqual(racewayFill({ raceway: 'emt', tradeSize: '3/4', nipple: false, conductors: [...conductors] }))
  })

  it('says what is too much, and which size holds it', () => {
    expect(first(demo(0)).findings.map((f) => f.rule)).toEqual(['raceway-overfilled'])
    expect(first(demo(0, set({ tradeSize: '1' }))).findings).toEqual([])
    expect(first(demo(0, set({ nipple: true, lengthM: 0.6 }))).findings).toEqual([])
  })

  it('derates what runs in it, which may ask for a larger cable', () => {
    const alone = demo(0, set({ circuits: ['c5'] }))
    const carries = (job: Job) => evaluate(job, []).circuits[4]!.chosen.stretches[0]!.ampacityA
    expect(carries(alone)).toBeGreaterThan(carries(demo(0)))
    // Two of each: neither the neutral that two lines share nor that of a feeder is loaded (310.15(E)).
    expect(first(demo(0)).loadedConductors).toBe(6)
  })

  it('does not count sheathed cable, and says so', () => {
    const findings = first(demo(0, set({ circuits: ['c1'] }))).findings
    expect(findings.map((f) => f.rule)).toEqual(['raceway-sheathed-cable'])
  })

  it('is not judged while a circuit in it is not worked out, nor where no table is published', () => {
    const open = demo(0, { kind: 'design.set', circuit: 'c3', design: 'a', patch: { cable: 'thwn-2' } }, set({ circuits: ['c3'] }))
    expect(first(open).findings).toMatchObject([{ rule: 'raceway-fill-not-known', severity: 'unknown' }])
    const hall = demo(
      1,
      { kind: 'raceway.add', item: newRaceway('r', 'Conduit', { circuits: ['c1'] }) },
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { cable: 'singles', method: 'conduit-on-wall' } },
    )
    expect(first(hall).findings.map((f) => f.rule)).toContain('raceway-fill-not-known')
  })

  const conduit = (patch: Partial<Raceway> = {}) =>
    first(
      demo(
        1,
        ...['c1', 'c2'].map((circuit): Edit => ({
          kind: 'design.set',
          circuit,
          design: 'a',
          patch: { cable: 'singles', method: 'conduit-on-wall', insulationMm: 0 },
        })),
        { kind: 'raceway.add', item: newRaceway('r', 'Stage conduit', { circuits: ['c1', 'c2'], lengthM: 8, bendCount: 2, ...patch }) },
      ),
    )
  it('goes by factors in the United Kingdom: every single and one protective conductor for all', () => {
    const r = conduit()
    expect(r.singles.reduce((n, c) => n + c.count, 0)).toBe(5)
    expect(r.protectiveSize).toBe(r.singles.toSorted((a, b) => Number.parseFloat(b.size) - Number.parseFloat(a.size))[0]!.size)
    expect(r.conduit).toEqual(conduitFill({ sizeMm: '20', lengthM: 8, bends: 2, conductors: [...r.singles] }))
    expect(r.findings).toEqual([])
    const tight = conduit({ conduitMm: '16', bendCount: 2, lengthM: 10 })
    expect(tight.findings).toMatchObject([{ rule: 'raceway-overfilled', severity: 'warning', clause: '522.8; OSG Appendix E' }])
    expect(tight.findings[0]!.message).toContain('20 mm holds them')
  })

  it('counts there both legs of a ring, and of a feeder its two', () => {
    const drawn = (kind: 'ring' | 'feeder') =>
      first(
        demo(
          1,
          { kind: 'circuit.set', circuit: 'c1', patch: { kind, ...(kind === 'ring' ? { closeM: 5 } : {}) } },
          ...(kind === 'ring'
            ? [{ kind: 'circuit-point.add', circuit: 'c1', points: [placed('z', 'Z', { lengthM: 5, watts: 900 })] } as Edit]
            : []),
          {
            kind: 'design.set',
            circuit: 'c1',
            design: 'a',
            patch: { cable: 'singles', method: 'conduit-on-wall', insulationMm: 0, cordA: null },
          },
          { kind: 'raceway.add', item: newRaceway('r', 'Conduit', { circuits: ['c1'], lengthM: 5 }) },
        ),
      ).singles.reduce((n, c) => n + c.count, 0)
    expect(drawn('ring')).toBe(5)
    expect(drawn('feeder')).toBe(3)
  })

  it('says there what no factor is listed for', () => {
    expect(conduit({ lengthM: null }).findings).toMatchObject([{ rule: 'raceway-fill-not-known', severity: 'unknown' }])
    expect(conduit({ bendCount: 7 }).findings[0]!.message).toContain('Put a box between')
    expect(conduit({ lengthM: 14 }).findings[0]!.message).toContain('draw-in box')
  })

  it('grows in the sun in every world, where it is plastic', () => {
    expect(conduit({ kind: 'pvc-40', minC: -5, maxC: 45 }).findings.map((f) => f.rule)).toEqual(['raceway-expansion'])
    expect(conduit({ minC: -5, maxC: 45 }).expansion).toBeNull()
  })

  it('tells too much bend, a bend that cannot be made, and growth in the sun', () => {
    const bends = (list: Raceway['bends']) => first(demo(0, set({ tradeSize: '1', bends: list }))).findings.map((f) => f.rule)
    const stub = (id: string) => ({ id, kind: 'stub-90' as const, heightMm: 400 })
    expect(bends(['a', 'b', 'c', 'd'].map(stub))).toEqual([])
    expect(bends(['a', 'b', 'c', 'd', 'e'].map(stub))).toEqual(['raceway-bends'])
    expect(bends([{ id: 'a', kind: 'stub-90', heightMm: 10 }])).toEqual(['raceway-bends'])
    const sunny = (maxC: number) => evaluate(demo(0, set({ maxC }, 'rw2')), []).raceways[1]!.findings.map((f) => f.rule)
    expect(sunny(45)).toEqual(['raceway-expansion'])
    expect(sunny(-14)).toEqual([])
  })

  it('loses a circuit that is removed from the job', () => {
    expect(demo(0, { kind: 'circuit.remove', circuit: 'c4' }).raceways[0]!.circuits).toEqual(['c2', 'c5'])
    expect(() => demo(0, set({ circuits: ['nobody'] }))).toThrow(/no longer/)
  })

  it('is drawn to scale: no conductor outside while it fits, none over another', () => {
    const { shapes } = racewayDrawing('emt', '1', first(demo(0)).conductors)
    const circles = shapes.filter((s) => s.kind === 'circle')
    const [rim, ...inside] = circles
    expect(inside).toHaveLength(9)
    for (const c of inside) expect(Math.hypot(c.x - rim!.x, c.y - rim!.y) + c.r).toBeLessThanOrEqual(rim!.r + 1e-6)
    for (const [i, a] of inside.entries())
      for (const b of inside.slice(i + 1)) expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThanOrEqual(a.r + b.r - 1e-6)
  })
})

describe('the legs of a panel', () => {
  const panel = (list: readonly (readonly [position: number, watts: number])[], spaces = 12): Job =>
    [
      {
        kind: 'board.set',
        id: 'main',
        patch: { spaces, free: Array.from({ length: spaces }, (_, i) => i + 1), mainA: 100, mainSwitch: 'double-pole' },
      } as Edit,
      ...list.flatMap(([position, watts], i): Edit[] => [
        { kind: 'way.add', way: newWay(`w${i}`, `W${i}`, { position, ratingA: 20, residual: 'none' }) },
        { kind: 'point.add', points: [blankPoint(`p${i}`, `P${i}`, { watts })] },
      ]),
      // Everything is listed before it is tested: a test says nothing of points listed later.
      ...list.map((_, i): Edit => ({
        kind: 'observation.add',
        items: [
          {
            id: `s${i}`,
            at: '2026-11-14T10:00:00.000Z',
            instrument: 'contact',
            withdrawn: false,
            seen: { kind: 'breaker-off', breaker: `w${i}`, dead: [`p${i}`] },
          },
        ],
      })),
    ].reduce((job, e) => applyEdit(job, e).job, newJob('north-america', 'x', ''))
  const balance = (job: Job) => {
    const { boards, survey } = evaluate(job, [])
    return rebalance(boards[0]!, survey.loads)
  }

  it('are brought together by the fewest moves, and the moves do what is said', () => {
    const job = panel([
      [1, 1200],
      [2, 1200],
      [5, 1200],
      [6, 1200],
    ])
    const found = balance(job)!
    expect(found.before).toBeCloseTo(40, 9)
    expect(found.after).toBeCloseTo(0, 9)
    expect(found.moves).toHaveLength(2)
    const moved = applyEdit(job, { kind: 'ways.move', moves: found.moves.map((m) => ({ id: m.way.id, position: m.to })) }).job
    const { legs } = evaluate(moved, []).boards[0]!
    expect(legs!.A).toBeCloseTo(legs!.B, 9)
    expect(evaluate(moved, []).boards[0]!.findings).toEqual([])
  })

  it('change places where no space is free', () => {
    const job = panel(
      [
        [1, 2000],
        [2, 1500],
        [3, 300],
        [4, 100],
      ],
      4,
    )
    const found = balance(job)!
    expect(found.after).toBeLessThan(found.before)
    expect(new Set(found.moves.map((m) => m.to)).size).toBe(found.moves.length)
    for (const m of found.moves) expect(legOf(m.to)).not.toBe(legOf(m.way.position!))
  })

  it('are left alone where nothing is won, or the spaces are not known', () => {
    expect(
      balance(
        panel([
          [1, 1200],
          [3, 1200],
        ]),
      ),
    ).toBeNull()
    expect(balance(applyEdit(panel([[1, 1200]]), { kind: 'board.set', id: 'main', patch: { free: null } }).job)).toBeNull()
    expect(balance(newJob('united-kingdom', 'x', ''))).toBeNull()
  })
})
