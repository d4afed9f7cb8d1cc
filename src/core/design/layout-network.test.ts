import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Circuit, CircuitPoint } from '../installation/installation'
import { metricRegions } from '../region/metric'
import { M_PER_KFT, naOhmPerKft } from '../region/north-america/awg'
import type { RegionId } from '../region/types'
import { workLayout } from './layout'
import { laid, newJob } from '../../../tests/support/shorthand'

/*
 * The points of a circuit against a network solved in general: nodes, resistances, currents drawn, Gaussian elimination.
 * It knows nothing of rings, legs or shared neutrals, and so shares no mistake with what it checks.
 */

interface Edge {
  readonly a: string
  readonly b: string
  readonly ohm: number
}

/** Volts below the board at every node, for currents drawn at nodes. */
function drops(edges: readonly Edge[], drawn: ReadonlyMap<string, number>): Map<string, number> {
  // What joins two nodes by nothing makes one of them.
  const same = new Map<string, string>()
  const root = (n: string): string => (same.has(n) ? root(same.get(n)!) : n)
  for (const e of edges) {
    const [a, b] = [root(e.a), root(e.b)]
    if (e.ohm === 0 && a !== b) same.set(b === 'board' ? a : b, b === 'board' ? b : a)
  }
  const nodes = [...new Set(edges.flatMap((e) => [root(e.a), root(e.b)]))].filter((n) => n !== 'board')
  const at = new Map(nodes.map((n, i) => [n, i]))
  const m = nodes.map(() => Array.from({ length: nodes.length + 1 }, () => 0))
  for (const e of edges) {
    const [i, j] = [at.get(root(e.a)), at.get(root(e.b))]
    if (root(e.a) === root(e.b)) continue
    const g = 1 / e.ohm
    for (const [x, y] of [
      [i, j],
      [j, i],
    ] as const) {
      if (x === undefined) continue
      m[x]![x]! += g
      if (y !== undefined) m[x]![y]! -= g
    }
  }
  for (const [n, amps] of drawn) {
    const i = at.get(root(n))
    if (i !== undefined) m[i]![nodes.length]! += amps
  }
  for (let c = 0; c < nodes.length; c++) {
    const pivot = m.slice(c).reduce((best, row, k) => (Math.abs(row[c]!) > Math.abs(m[best]![c]!) ? c + k : best), c)
    ;[m[c], m[pivot]] = [m[pivot]!, m[c]!]
    for (let r = 0; r < nodes.length; r++) {
      if (r === c) continue
      const f = m[r]![c]! / m[c]![c]!
      for (let k = c; k <= nodes.length; k++) m[r]![k]! -= f * m[c]![k]!
    }
  }
  const solved = (n: string) => (root(n) === 'board' ? 0 : m[at.get(root(n))!]![nodes.length]! / m[at.get(root(n))!]![at.get(root(n))!]!)
  return new Map([...edges.flatMap((e) => [e.a, e.b]), 'board'].map((n) => [n, solved(n)]))
}

const sizes: Record<RegionId, readonly string[]> = {
  'north-america': ['12 AWG', '10 AWG', '8 AWG'],
  'united-kingdom': ['2.5 mm2', '4 mm2', '6 mm2'],
  'southern-africa': ['2.5 mm2', '4 mm2', '6 mm2'],
}
const main = (region: RegionId) => sizes[region][0]!
/** Volts for an ampere and a metre, there and back. */
const perAm = (region: RegionId, size: string): number =>
  region === 'north-america'
    ? (2 * naOhmPerKft('copper', size)!) / M_PER_KFT
    : metricRegions[region].usual.milliVoltPerAmpereMetre[size]! / 1000
/** Line and a protective conductor of the same size, hot, ohms a metre. */
const loopPerM = (region: Exclude<RegionId, 'north-america'>, size: string): number =>
  (metricRegions[region].usual.operatingMultiplier * 2 * metricRegions[region].usual.milliOhmPerMetre20C[size]!) / 1000

interface Drawn {
  readonly lengthM: number
  readonly watts: number
  readonly size: number
  readonly fuse: boolean
  readonly from: number
  readonly leg: 'A' | 'B' | 'AB'
}
const drawnPoint = fc.record({
  lengthM: fc.integer({ min: 0, max: 30 }),
  watts: fc.integer({ min: 0, max: 2500 }),
  size: fc.integer({ min: -2, max: 2 }),
  fuse: fc.boolean(),
  from: fc.nat(5),
  leg: fc.constantFrom<Drawn['leg']>('A', 'B', 'AB'),
})
const circuitOf = (region: RegionId, kind: Circuit['kind'], list: readonly Drawn[], closeM: number, inRing: number): Circuit => ({
  ...newJob(region, 'x', '').circuits[0]!,
  kind,
  closeM,
  points: list.map((d, i) =>
    laid(`p${i}`, `P${i}`, {
      lengthM: d.lengthM,
      watts: d.watts,
      leg: d.leg,
      size: d.size < 0 ? null : sizes[region][d.size]!,
      fuseA: d.fuse && region !== 'north-america' ? 3 : null,
      from: i < inRing ? null : i === 0 ? null : `p${d.from % i}`,
    }),
  ),
})

const workOut = (region: RegionId, circuit: Circuit) => {
  const job = newJob(region, 'x', '')
  return workLayout({
    job: { ...job, supply: { ...job.supply, zeOhm: 0.35 } },
    circuit,
    design: circuit.designs[0]!,
    size: main(region),
    breakerA: 32,
    carries: () => 30,
    protective: (s) => s,
  })
}

/** What a point lets through, fuses counted, as the cable before it sees it; and what each point therefore takes itself. */
function takes(points: readonly CircuitPoint[], volts: number): Map<string, number> {
  const through = (p: CircuitPoint): number =>
    Math.min(
      (p.watts ?? 0) / volts + points.filter((c) => c.from === p.id).reduce((s, c) => s + through(c), 0),
      p.fuseA ?? Number.POSITIVE_INFINITY,
    )
  return new Map(points.map((p) => [p.id, through(p) - points.filter((c) => c.from === p.id).reduce((s, c) => s + through(c), 0)]))
}

function edgesOf(region: RegionId, circuit: Circuit, ohm: (size: string) => number): Edge[] {
  const ring = circuit.kind === 'ring'
  const inRing = circuit.points.filter((p) => p.from === null)
  const before = (p: CircuitPoint) => (p.from !== null ? p.from : ring ? (inRing[inRing.indexOf(p) - 1]?.id ?? 'board') : 'board')
  const edges = circuit.points.map((p): Edge => ({ a: before(p), b: p.id, ohm: (p.lengthM ?? 0) * ohm(p.size ?? main(region)) }))
  return [...edges, ...(ring ? [{ a: inRing.at(-1)!.id, b: 'board', ohm: (circuit.closeM ?? 0) * ohm(main(region)) }] : [])]
}

describe('the points of a circuit agree with the network solved in general', () => {
  it('radials of any shape, with fuses, and branches of other sizes', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<RegionId>('north-america', 'united-kingdom', 'southern-africa'),
        fc.array(drawnPoint, { minLength: 1, maxLength: 7 }),
        (region, list) => {
          const circuit = circuitOf(region, 'radial', list, 0, 1)
          const { points } = workOut(region, circuit)
          const expected = drops(
            edgesOf(region, circuit, (s) => perAm(region, s)),
            takes(circuit.points, circuit.load.volts!),
          )
          for (const p of points) expect(p.dropV).toBeCloseTo(expected.get(p.point.id)!, 7)
          if (region === 'north-america') return
          // An ampere sent into a point comes back over its loop.
          for (const p of points)
            expect(p.zsOhm).toBeCloseTo(
              0.35 +
                drops(
                  edgesOf(region, circuit, (s) => loopPerM(region, s)),
                  new Map([[p.point.id, 1]]),
                ).get(p.point.id)!,
              9,
            )
        },
      ),
      { numRuns: 150 },
    )
  })

  it('rings with spurs, and with lengths of another size in them', () => {
    fc.assert(
      fc.property(
        fc.array(drawnPoint, { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 30 }),
        (list, inRing, closeM) => {
          const region = 'united-kingdom' as const
          const circuit = circuitOf(region, 'ring', list, closeM, inRing)
          const { points, legsA } = workOut(region, circuit)
          const taken = takes(circuit.points, 230)
          const edges = edgesOf(region, circuit, (s) => perAm(region, s))
          const expected = drops(edges, taken)
          for (const p of points) expect(p.dropV).toBeCloseTo(expected.get(p.point.id)!, 7)
          const back = edges.at(-1)!
          expect(legsA!.back).toBeCloseTo(expected.get(back.a)! / back.ohm, 7)
          expect(legsA!.out + legsA!.back).toBeCloseTo(
            [...taken.values()].reduce((a, b) => a + b, 0),
            7,
          )
          for (const p of points)
            expect(p.zsOhm).toBeCloseTo(
              0.35 +
                drops(
                  edgesOf(region, circuit, (s) => loopPerM(region, s)),
                  new Map([[p.point.id, 1]]),
                ).get(p.point.id)!,
              9,
            )
        },
      ),
      { numRuns: 200 },
    )
  })

  it('two lines with a shared neutral: three conductors, each with its own current', () => {
    fc.assert(
      fc.property(fc.array(drawnPoint, { minLength: 1, maxLength: 7 }), fc.integer({ min: 1, max: 3 }), (list, roots) => {
        const region = 'north-america' as const
        const circuit = circuitOf(region, 'shared-neutral', list, 0, roots)
        const { points, linesA } = workOut(region, circuit)
        const edges = edgesOf(region, circuit, (s) => perAm(region, s) / 2)
        const on = (leg: 'A' | 'B') =>
          new Map(circuit.points.map((p) => [p.id, p.leg === 'AB' ? p.watts! / 240 : p.leg === leg ? p.watts! / 120 : 0]))
        const [a, b] = [on('A'), on('B')]
        const neutral = drops(edges, new Map(circuit.points.map((p) => [p.id, a.get(p.id)! - b.get(p.id)!])))
        const [lineA, lineB] = [drops(edges, a), drops(edges, b)]
        for (const { point: p, dropV } of points) {
          const [dA, dB] = [lineA.get(p.id)! + neutral.get(p.id)!, lineB.get(p.id)! - neutral.get(p.id)!]
          expect(dropV).toBeCloseTo(p.leg === 'A' ? dA : p.leg === 'B' ? dB : dA + dB, 7)
        }
        const sum = (m: Map<string, number>) => [...m.values()].reduce((x, y) => x + y, 0)
        expect(linesA!.neutral).toBeCloseTo(Math.abs(sum(a) - sum(b)), 7)
      }),
      { numRuns: 150 },
    )
  })
})
