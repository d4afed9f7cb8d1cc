import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { InputError } from '../base/input-error'
import { network, standing, standingWith } from './network'
import { type Element, elementSchema, type NetworkInput } from './types'

const supply = { system: 'single-phase', volts: 230, frequencyHz: 50, sourceOhm: 0.1, earthing: 'tn' } as const
const split = { ...supply, system: 'split-phase', volts: 120 } as const
const names = ['L', 'N', 'PE', 'a', 'b', 'c', 'd', 'e', 'f', 'g'] as const
const node = fc.constantFrom(...names)
const ohm = fc.double({ min: 0.01, max: 500, noNaN: true })
const anyElement = fc.oneof(
  fc.record({ kind: fc.constant('wire' as const), a: node, b: node, ohm }),
  fc.record({
    kind: fc.constant('load' as const),
    a: node,
    b: node,
    watts: fc.double({ min: 1, max: 9000, noNaN: true }),
    volts: fc.constant(230),
    powerFactor: fc.double({ min: 0.3, max: 1, noNaN: true }),
  }),
  fc.record({ kind: fc.constant('impedance' as const), a: node, b: node, ohm, reactanceOhm: fc.double({ min: 0, max: 90, noNaN: true }) }),
  fc.record({ kind: fc.constant('switch' as const), poles: fc.array(fc.record({ a: node, b: node }), { minLength: 1, maxLength: 2 }) }),
)
const anyElements = fc
  .array(anyElement, { minLength: 1, maxLength: 14 })
  .map((list) => list.map((e, i): Element => elementSchema.parse({ ...e, id: `e${i}` })))
const of = (elements: readonly Element[], more: Partial<NetworkInput> = {}): NetworkInput => ({
  supply,
  elements: [...elements],
  probes: [],
  ...more,
})
const volts = (a: string, b: string) => ({ id: `${a} ${b}`, kind: 'volts' as const, a, b })
const ohms = (a: string, b: string) => ({ id: `${a} ${b}`, kind: 'ohms' as const, a, b })
const close = (a: number, b: number) => {
  if (!(Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b)))) expect.fail(`${a}, not ${b}`)
}

describe('a network', () => {
  it('is the same whatever the order of its elements and the way round they are', () => {
    fc.assert(
      fc.property(anyElements, fc.nat(), (elements, turn) => {
        const turned = elements
          .map((e): Element => ('a' in e && turn % 2 ? { ...e, a: e.b, b: e.a } : e))
          .toSorted((x, y) => ((Number(x.id.slice(1)) * 7 + turn) % 11) - ((Number(y.id.slice(1)) * 7 + turn) % 11))
        const [one, other] = [network(of(elements)), network(of(turned))]
        for (const n of Object.keys(one.nodes)) close(one.nodes[n]!, other.nodes[n]!)
        for (const e of elements) if (e.kind !== 'switch') close(one.amps[e.id]!, other.amps[e.id]!)
      }),
      { numRuns: 500 },
    )
  })

  it('keeps to Ohm and Kirchhoff: each current is what its voltage drives, and what flows in flows out', () => {
    fc.assert(
      fc.property(anyElements, (elements) => {
        // In a network of resistances alone, magnitudes can be held against each other one by one.
        const plain = elements.map((e): Element =>
          e.kind === 'load' ? { ...e, powerFactor: 1 } : e.kind === 'impedance' ? { ...e, reactanceOhm: 0 } : e,
        )
        const ends = plain.flatMap((e) => ('a' in e ? [volts(e.a, e.b)] : []))
        const probes = [...new Map(ends.map((p) => [p.id, p])).values()]
        const out = network(of(plain, { probes }))
        for (const e of plain) {
          if (!('a' in e)) continue
          const resistance = e.kind === 'load' ? (e.volts * e.volts) / e.watts : e.ohm!
          close(out.amps[e.id]!, (out.probes[`${e.a} ${e.b}`] as number) / resistance)
        }
        // All that leaves the line passes the source, and every watt that it gives is turned into heat somewhere.
        const source = (230 - out.nodes.L!) / 0.1
        const given = 230 * source
        const heat =
          plain.reduce(
            (sum, e) => sum + ('a' in e ? out.amps[e.id]! ** 2 * (e.kind === 'load' ? (e.volts * e.volts) / e.watts : e.ohm!) : 0),
            0,
          ) +
          0.1 * source ** 2 +
          out.nodes.N! ** 2 / 0.1
        expect(Math.abs(given - heat)).toBeLessThanOrEqual(1e-7 * Math.max(1, given))
      }),
      { numRuns: 500 },
    )
  })

  it('is the same with some of it put in later as it is taken apart whole', () => {
    const nodesIn = (list: readonly Element[]) => list.flatMap((e) => ('a' in e ? [e.a, e.b] : []))
    fc.assert(
      fc.property(anyElements, fc.integer({ min: 1, max: 4 }), fc.constantFrom('tn', 'tt'), (elements, some, earthing) => {
        // What has resistance may wait; a place that nothing else leads to comes with what is put in.
        const later = elements.filter((e) => e.kind === 'wire' || e.kind === 'load').slice(0, some)
        const rest = elements.filter((e) => !later.some((l) => l.id === e.id))
        const input = of(rest, { supply: { ...supply, earthing, electrodeOhm: 40 } })
        const there = new Set([
          'L',
          'N',
          'PE',
          ...rest.flatMap((e) => ('poles' in e ? e.poles.flatMap((p) => Object.values(p)) : nodesIn([e]))),
        ])
        const put = standingWith(
          input,
          [...new Set(nodesIn(later))].filter((n) => there.has(n)),
        )
        const ask = put(later)
        const whole = standing({ ...input, elements })
        for (const e of elements) close(ask.amps(e.id), whole.amps(e.id))
        for (const a of names)
          for (const b of names) {
            close(ask.volts(a, b), whole.volts(a, b))
            const [one, other] = [ask.ohms(a, b), whole.ohms(a, b)]
            if (typeof one === 'number' && typeof other === 'number') close(one, other)
            else expect(one).toBe(other)
            const [with10, whole10] = [ask.voltsWith(a, b, 10), whole.voltsWith(a, b, 10)]
            if (with10 === null || whole10 === null) expect(with10).toBe(whole10)
            else close(with10, whole10)
          }
        // What is put in next finds nothing of what was put in before.
        const without = put([])
        const bare = standing(input)
        for (const e of rest) close(without.amps(e.id), bare.amps(e.id))
      }),
      { numRuns: 300 },
    )
  })
  it('refuses to put in a closed pole, and anything at a place that does not wait', () => {
    const wire = (id: string, a: string, b: string): Element => ({ id, kind: 'wire', a, b, ohm: 1 })
    const put = standingWith(of([wire('x', 'L', 'a'), wire('y', 'a', 'N')]), ['L'])
    expect(put([wire('z', 'L', 'new')]).volts('new', 'N')).toBeGreaterThan(200)
    expect(() => put([wire('z', 'L', 'a')]).volts('a', 'N')).toThrow(RangeError)
    expect(() => put([{ id: 's', kind: 'switch', poles: [{ a: 'L', b: 'new' }] }]).volts('a', 'N')).toThrow(RangeError)
  })

  it('shares between parallel poles equally, and follows them in a chain', () => {
    const heater = { id: 'h', kind: 'load', a: 'z', b: 'N', watts: 2300, volts: 230, powerFactor: 1 } as const
    const pole = (id: string, a: string, b: string): Element => ({ id, kind: 'switch', poles: [{ a, b }] })
    const out = network(of([pole('s1', 'L', 'y'), pole('s2', 'L', 'y'), pole('s3', 'y', 'z'), heater]))
    close(out.amps.s1!, out.amps.h! / 2)
    close(out.amps.s2!, out.amps.h! / 2)
    close(out.amps.s3!, out.amps.h!)
  })

  it('reads ohms as two-terminal resistance: alike both ways, never more with a way added', () => {
    fc.assert(
      fc.property(anyElements, node, node, ohm, (elements, a, b, more) => {
        const read = (list: readonly Element[], x: string, y: string) => {
          const known = new Set([
            'L',
            'N',
            'PE',
            ...list.flatMap((e) => ('a' in e ? [e.a, e.b] : 'poles' in e ? e.poles.flatMap((p) => Object.values(p) as string[]) : [])),
          ])
          return known.has(x) && known.has(y) ? network(of(list, { probes: [ohms(x, y)] })).probes[`${x} ${y}`]! : 'open'
        }
        const here = read(elements, a, b)
        const back = read(elements, b, a)
        if (here === 'open') expect(back).toBe('open')
        else {
          close(here, back as number)
          const beside = read([...elements, { id: 'x', kind: 'wire', a, b, ohm: more }], a, b) as number
          close(beside, a === b ? 0 : (here * more) / (here + more))
        }
      }),
      { numRuns: 400 },
    )
  })

  it.each([
    [29.99, false],
    [30, true],
    [30.01, true],
  ])('a 30 mA device with %s mA of leakage trips: %s', (ma, trips) => {
    const rcd: Element = {
      id: 'r',
      kind: 'rcd',
      poles: [
        { line: 'L', load: 'x' },
        { line: 'N', load: 'n' },
      ],
      tripMa: 30,
    }
    const leak: Element = { id: 'k', kind: 'impedance', a: 'x', b: 'PE', ohm: 1, reactanceOhm: 0 }
    // The source and what leaks are one divider: all of 230 V over the resistance that lets just so much through.
    const resistance = 230 / (ma / 1000) - 0.2
    const out = network(of([rcd, { ...leak, ohm: resistance }]))
    close(out.residualMa.r!, ma)
    expect(out.trips).toEqual(trips ? [{ id: 'r', cause: 'residual' }] : [])
  })

  it.each([
    [undefined, 16, null],
    [undefined, 16.001, 'overload'],
    ['B', 16 * 1.13, null],
    ['B', 18.081, 'overload'],
    ['B', 79.9, 'overload'],
    ['B', 80, 'magnetic'],
    ['C', 159.9, 'overload'],
    ['C', 160, 'magnetic'],
    ['D', 320, 'magnetic'],
    [undefined, 159.9, 'overload'],
    [undefined, 160, 'magnetic'],
  ] as const)('a 16 A breaker of type %s at %s A: %s', (type, amps, cause) => {
    const breaker: Element = { id: 'b', kind: 'breaker', poles: [{ line: 'L', load: 'x' }], ratingA: 16, ...(type ? { type } : {}) }
    const out = network(of([breaker, { id: 'w', kind: 'wire', a: 'x', b: 'N', ohm: 230 / amps - 0.2 }]))
    close(out.amps.b!, amps)
    expect(out.trips).toEqual(cause ? [{ id: 'b', cause }] : [])
  })

  it('opens what is open, breakers and wires alike, and leaves the rest', () => {
    const kettle: Element = { id: 'k', kind: 'load', a: 'x', b: 'N', watts: 2300, volts: 230, powerFactor: 1 }
    const wire: Element = { id: 'w', kind: 'wire', a: 'L', b: 'x', ohm: 0.2 }
    const out = network(of([wire, kettle], { state: { open: ['w'] }, probes: [volts('L', 'x'), volts('x', 'N')] }))
    expect(out.amps).toEqual({ w: 0, k: 0 })
    // The far end is on the kettle to the neutral: it is joined there, and is at zero.
    expect(out.probes).toEqual({ 'L x': 230, 'x N': 0 })
  })

  it('of two legs has 240 V between them', () => {
    const out = network({ supply: split, elements: [], probes: [volts('L1', 'L2'), volts('L1', 'PE')] })
    expect(out.probes).toEqual({ 'L1 L2': 240, 'L1 PE': 120 })
  })

  const kettle: Element = { id: 'k', kind: 'load', a: 'L', b: 'N', watts: 1, volts: 230, powerFactor: 1 }
  it.each<[string, NetworkInput]>([
    ['supply.electrodeOhm', { supply: { ...supply, earthing: 'tt' }, elements: [], probes: [] }],
    ['elements.1.id', of([kettle, kettle])],
    ['state.open.0', of([kettle], { state: { open: ['nobody'] } })],
    ['probes.0.b', of([kettle], { probes: [volts('L', 'nowhere')] })],
    ['probes.0.a', of([kettle], { probes: [{ id: 'p', kind: 'amps', a: 'nobody' }] })],
    ['probes.1.id', of([kettle], { probes: [volts('L', 'N'), volts('L', 'N')] })],
    ['elements.0.ohm', of([{ id: 'w', kind: 'wire', a: 'L', b: 'x' }])],
    ['elements.0.size', of([{ id: 'w', kind: 'wire', a: 'L', b: 'x', region: 'united-kingdom', size: '3 mm2', lengthM: 1 }])],
    ['elements.0.lengthM', of([{ id: 'w', kind: 'wire', a: 'L', b: 'x', region: 'united-kingdom', size: '4 mm2' }])],
    ['elements.0.size', of([{ id: 'w', kind: 'wire', a: 'L', b: 'x', ohm: 1, size: '4 mm2' }])],
  ])('that cannot be is refused at %s', (path, input) => {
    try {
      network(input)
      expect.unreachable()
    } catch (e) {
      expect(e).toBeInstanceOf(InputError)
      expect((e as InputError).path).toBe(path)
    }
  })
})
