import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { magnitude, subtract } from './complex'
import { network, solution } from './network'
import { sequence } from './sequence'
import { spiceOf } from './spice'
import type { Element, NetworkInput } from './types'

const supply = { system: 'single-phase', volts: 230, frequencyHz: 50, sourceOhm: 0.1, earthing: 'tn' } as const
const of = (elements: readonly Element[], more: Partial<NetworkInput> = {}): NetworkInput => ({
  supply,
  elements: [...elements],
  probes: [],
  ...more,
})
const wire = (id: string, a: string, b: string, ohm: number): Element => ({ id, kind: 'wire', a, b, ohm })
const breaker = (id: string, line: string, load: string, ratingA: number): Element => ({
  id,
  kind: 'breaker',
  poles: [{ line, load }],
  ratingA,
  type: 'B',
})
const rcd = (tripMa: number): Element => ({
  id: 'rcd',
  kind: 'rcd',
  poles: [
    { line: 'L', load: 'l' },
    { line: 'N', load: 'n' },
  ],
  tripMa,
})

describe('what opens by itself', () => {
  it('opens the soonest first, and solves again without it', () => {
    const all = [rcd(30), breaker('b', 'l', 'c', 16), wire('w', 'c', 'p', 0.2), wire('fault', 'p', 'PE', 0.01)]
    const { trips, open, end } = sequence(of(all))
    // Both would open on a fault to earth; the residual device is the sooner, and then nothing flows in the breaker.
    expect(trips.map((t) => [t.id, t.cause])).toEqual([['rcd', 'residual']])
    expect(open).toEqual(['rcd'])
    expect(magnitude(end.live.voltsAt('p'))).toBe(0)
    const short = sequence(of([rcd(30), breaker('b', 'l', 'c', 16), wire('w', 'c', 'p', 0.2), wire('fault', 'p', 'n', 0.01)]))
    expect(short.trips).toMatchObject([{ id: 'b', cause: 'magnetic', fromS: 0, toS: 0.1 }])
  })
  it('knows the bands: sure within an hour from 1.45 times, within a minute from 2.55 times, the hundredth of a second above', () => {
    const at = (times: number) => {
      // So many times 16 A through a resistance, with the source reckoned in.
      const ohm = 230 / (16 * times) - 0.2
      return sequence(of([breaker('b', 'L', 'c', 16), wire('w', 'c', 'N', ohm)])).trips[0]
    }
    expect(at(1.12)).toBeUndefined()
    expect(at(1.3)).toMatchObject({ cause: 'overload', toS: Number.POSITIVE_INFINITY })
    expect(at(1.46)).toMatchObject({ cause: 'overload', toS: 3600 })
    expect(at(2.6)).toMatchObject({ cause: 'overload', fromS: 1, toS: 60 })
    expect(at(5.1)).toMatchObject({ cause: 'magnetic', toS: 0.1 })
  })
  it('times a residual device by how far it is above its rating', () => {
    const leaking = (ma: number) =>
      sequence(of([rcd(30), { id: 'leak', kind: 'impedance', a: 'l', b: 'PE', ohm: (230 * 1000) / ma, reactanceOhm: 0 }])).trips[0]
    expect(leaking(29)).toBeUndefined()
    expect(leaking(31)).toMatchObject({ toS: 0.3 })
    expect(leaking(61)).toMatchObject({ toS: 0.15 })
    expect(leaking(151)).toMatchObject({ toS: 0.04 })
  })
})

const names = ['L', 'N', 'PE', 'a', 'b', 'c', 'd', 'e'] as const
const node = fc.constantFrom(...names)
const anyElements = fc.array(
  fc.oneof(
    fc.record({ kind: fc.constant('wire' as const), a: node, b: node, ohm: fc.double({ min: 0.01, max: 500, noNaN: true }) }),
    fc.record({
      kind: fc.constant('impedance' as const),
      a: node,
      b: node,
      ohm: fc.double({ min: 0.1, max: 90, noNaN: true }),
      reactanceOhm: fc.double({ min: -90, max: 90, noNaN: true }),
    }),
    fc.record({ kind: fc.constant('switch' as const), poles: fc.array(fc.record({ a: node, b: node }), { minLength: 1, maxLength: 2 }) }),
  ),
  { minLength: 1, maxLength: 12 },
)
const numbered = (list: readonly object[]): Element[] => list.map((e, i) => ({ ...e, id: `e${i}` }) as Element)

describe('one branch more', () => {
  it('by an update of rank one is what a fresh solution says, potentials and currents in poles alike', () => {
    let updated = 0
    fc.assert(
      fc.property(anyElements, node, node, fc.double({ min: 0.05, max: 900, noNaN: true }), (list, a, b, ohm) => {
        const elements = numbered(list)
        const before = solution(of(elements))
        const poles = before.polesWith(a, b, ohm)
        const more = before.live.withBranch({ a, b, ohms: { re: ohm, im: 0 } })
        if (!more || !poles) return
        updated++
        const fresh = solution(of([...elements, { id: 'more', kind: 'impedance', a, b, ohm, reactanceOhm: 0 }]))
        for (const n of names) expect(magnitude(subtract(more.voltsAt(n), fresh.live.voltsAt(n)))).toBeLessThan(1e-8)
        for (const e of elements)
          for (const [k, amps] of fresh.polesOf(e.id).entries()) expect(magnitude(subtract(poles(e.id)[k]!, amps))).toBeLessThan(1e-6)
      }),
      { numRuns: 300 },
    )
    expect(updated).toBeGreaterThan(50)
  })
})

interface Num {
  re: number
  im: number
}
/** Reads a netlist as any simulator does and solves it as a dense complex matrix of nodes and sources. */
function simulated(netlist: string): ReadonlyMap<string, number> {
  const lines = netlist.split('\n').map((l) => l.split(';')[0]!.trim())
  const called = new Map(
    lines.flatMap((l) => (l.match(/^\* (\S+) = (.+)$/) ? [[l.match(/^\* (\S+) = (.+)$/)![2]!, l.match(/^\* (\S+) = /)![1]!]] : [])),
  )
  const w = 2 * Math.PI * Number(netlist.match(/\.AC LIN 1 (\S+)/)![1])
  const parts = lines.filter((l) => /^[RLCV]/.test(l)).map((l) => l.split(/\s+/))
  const nodes = [...new Set(parts.flatMap((p) => [p[1]!, p[2]!]))].filter((n) => n !== '0')
  const sources = parts.filter((p) => p[0]!.startsWith('V'))
  const size = nodes.length + sources.length
  const m: Num[][] = Array.from({ length: size }, () => Array.from({ length: size + 1 }, () => ({ re: 0, im: 0 })))
  const put = (r: number, c: number, re: number, im = 0) => {
    if (r < 0 || c < 0) return
    m[r]![c]!.re += re
    m[r]![c]!.im += im
  }
  for (const [name, a, b, value] of parts) {
    const [x, y] = [nodes.indexOf(a!), nodes.indexOf(b!)]
    if (name!.startsWith('V')) continue
    const v = Number(value)
    const [re, im] = name!.startsWith('R') ? [1 / v, 0] : name!.startsWith('L') ? [0, -1 / (w * v)] : [0, w * v]
    put(x, x, re, im)
    put(y, y, re, im)
    put(x, y, -re, -im)
    put(y, x, -re, -im)
  }
  sources.forEach(([, a, b, , volts, phase], i) => {
    const k = nodes.length + i
    for (const [n, sign] of [
      [nodes.indexOf(a!), 1],
      [nodes.indexOf(b!), -1],
    ] as const) {
      put(n, k, sign)
      put(k, n, sign)
    }
    put(k, size, Number(volts) * Math.cos((Number(phase) * Math.PI) / 180))
  })
  for (let c = 0; c < size; c++) {
    let best = c
    for (let r = c; r < size; r++) if (Math.hypot(m[r]![c]!.re, m[r]![c]!.im) > Math.hypot(m[best]![c]!.re, m[best]![c]!.im)) best = r
    ;[m[c], m[best]] = [m[best]!, m[c]!]
    const p = m[c]![c]!
    const d = p.re * p.re + p.im * p.im
    for (let r = 0; r < size; r++) {
      if (r === c) continue
      const q = m[r]![c]!
      const f = { re: (q.re * p.re + q.im * p.im) / d, im: (q.im * p.re - q.re * p.im) / d }
      if (f.re === 0 && f.im === 0) continue
      for (let k = c; k <= size; k++) {
        const s = m[c]![k]!
        const t = m[r]![k]!
        t.re -= f.re * s.re - f.im * s.im
        t.im -= f.re * s.im + f.im * s.re
      }
    }
  }
  const at = (n: string): number => {
    const i = nodes.indexOf(n)
    const [p, q] = [m[i]![i]!, m[i]![size]!]
    return Math.hypot(q.re, q.im) / Math.hypot(p.re, p.im)
  }
  return new Map([...called].map(([name, n]) => [name, at(n)]))
}

describe('the netlist', () => {
  it('solved elsewhere gives what the network gives, in both systems and with a device open', () => {
    for (const system of ['single-phase', 'split-phase'] as const)
      for (const earthing of ['tn', 'tt'] as const) {
        const l = system === 'split-phase' ? 'L2' : 'L'
        const input: NetworkInput = of(
          [
            wire('w1', l, 'a', 0.4),
            { id: 'm', kind: 'load', a: 'a', b: 'n', watts: 900, volts: 230, powerFactor: 0.8 },
            wire('w2', 'n', 'N', 0.3),
            { id: 'x', kind: 'impedance', a: 'a', b: 'PE', ohm: 2000, reactanceOhm: -300 },
            { id: 's', kind: 'switch', poles: [{ a: 'a', b: 'off' }] },
            wire('w3', 'off', 'N', 5),
          ],
          { supply: { ...supply, system, earthing, ...(earthing === 'tt' ? { electrodeOhm: 40 } : {}) }, state: { open: ['s'] } },
        )
        const ours = network(input).nodes
        const netlist = spiceOf(input, 'Teeküche – Bühne')
        expect(netlist).toMatch(/^\* Teek\?che/)
        expect(netlist.trimEnd().endsWith('.END')).toBe(true)
        for (const [name, volts] of simulated(netlist)) expect(Math.abs(volts - ours[name]!), name).toBeLessThan(1e-3)
      }
  })
})
