/*
 * A circuit of outlets worked out by itself: a list of resistors between named places, solved by nodal analysis with Gaussian elimination.
 * It shares nothing with the code that looks for faults, so that a diagnosis can be tried on readings from elsewhere.
 */

export type Core = 'line' | 'neutral' | 'pe'
const cores: readonly Core[] = ['line', 'neutral', 'pe']
export interface PlainCable {
  readonly id: string
  /** `board` or a point. */
  readonly from: string
  readonly to: string
  readonly ohm: Readonly<Record<Core, number>>
}
export interface PlainCircuit {
  readonly points: readonly string[]
  readonly cables: readonly PlainCable[]
  readonly volts: number
  readonly zeOhm: number
  readonly rcd: boolean
  readonly breakerA: number
}
export type PlainFault =
  | { readonly kind: 'open' | 'loose'; readonly cable: string; readonly end: 'a' | 'b'; readonly core: Core }
  | { readonly kind: 'swapped'; readonly cable: string; readonly end: 'a' | 'b'; readonly p: Core; readonly q: Core }
  | { readonly kind: 'touching'; readonly cable: string; readonly p: Core; readonly q: Core }

type Resistor = readonly [a: string, b: string, ohm: number]
const pairs: readonly (readonly [Core, Core])[] = [
  ['line', 'neutral'],
  ['line', 'pe'],
  ['neutral', 'pe'],
]

/** Every single fault of these kinds, with the name the diagnosis has for it. */
export const faultsOf = ({ cables }: PlainCircuit): readonly (readonly [string, PlainFault])[] =>
  cables.flatMap((k) => [
    ...(['a', 'b'] as const).flatMap((end) => [
      ...cores.flatMap((core) =>
        (['open', 'loose'] as const).map(
          (kind) => [`${kind} ${k.id} ${end} ${core}`, { kind, cable: k.id, end, core }] as [string, PlainFault],
        ),
      ),
      ...pairs.map(([p, q]) => [`swapped ${k.id} ${end} ${p} ${q}`, { kind: 'swapped', cable: k.id, end, p, q }] as [string, PlainFault]),
    ]),
    ...pairs.map(([p, q]) => [`touching ${k.id} ${p} ${q}`, { kind: 'touching', cable: k.id, p, q }] as [string, PlainFault]),
  ])

/** Where an end of a core is, with the fault; its own name where it is joined to nothing. */
function endAt(k: PlainCable, end: 'a' | 'b', core: Core, fault: PlainFault, ringOut: boolean): readonly [string, number] {
  const place = end === 'a' ? k.from : k.to
  const own = `${k.id}.${end}.${core}`
  if (ringOut && place === 'board') return [own, 0]
  const here = 'end' in fault && fault.cable === k.id && fault.end === end ? fault : null
  if (here?.kind === 'open' && here.core === core) return [own, 0]
  if (here?.kind === 'swapped' && (here.p === core || here.q === core)) return [`${place}.${here.p === core ? here.q : here.p}`, 0]
  return [`${place}.${core}`, here?.kind === 'loose' && here.core === core ? 1.5 : 0]
}
function resistors(c: PlainCircuit, fault: PlainFault, ringOut = false): Resistor[] {
  return c.cables.flatMap((k) => {
    const wires = cores.map((core): Resistor => {
      const [[a, x], [b, y]] = [endAt(k, 'a', core, fault, ringOut), endAt(k, 'b', core, fault, ringOut)]
      return [a, b, Math.max(1e-6, k.ohm[core]) + x + y]
    })
    if (fault.kind !== 'touching' || fault.cable !== k.id) return wires
    return [...wires, [endAt(k, 'b', fault.p, fault, ringOut)[0], endAt(k, 'b', fault.q, fault, ringOut)[0], 0.01] as const]
  })
}

/** Volts of every node over `ground`, with a current of one ampere put in at some nodes. Leaks of 1e-10 S hold what floats. */
function solve(list: readonly Resistor[], into: Readonly<Record<string, number>>, ground: string): (node: string) => number {
  const names = [...new Set([...list.flatMap(([a, b]) => [a, b]), ...Object.keys(into), ground])]
  const at = new Map(names.map((n, i) => [n, i]))
  const n = names.length
  const m: number[][] = Array.from({ length: n }, (_, i) => Array.from({ length: n + 1 }, (__, j) => (i === j ? 1e-10 : 0)))
  for (const [a, b, ohm] of list) {
    const [i, j, g] = [at.get(a)!, at.get(b)!, 1 / Math.max(ohm, 1e-6)]
    if (i === j) continue
    m[i]![i]! += g
    m[j]![j]! += g
    m[i]![j]! -= g
    m[j]![i]! -= g
  }
  for (const [node, amps] of Object.entries(into)) m[at.get(node)!]![n]! += amps
  const g0 = at.get(ground)!
  m[g0] = Array.from({ length: n + 1 }, (_, j) => (j === g0 ? 1 : 0))
  for (let col = 0; col < n; col++) {
    let pivot = col
    for (let row = col + 1; row < n; row++) if (Math.abs(m[row]![col]!) > Math.abs(m[pivot]![col]!)) pivot = row
    ;[m[col], m[pivot]] = [m[pivot]!, m[col]!]
    for (let row = 0; row < n; row++) {
      const f = row === col ? 0 : m[row]![col]! / m[col]![col]!
      if (f !== 0) for (let j = col; j <= n; j++) m[row]![j]! -= f * m[col]![j]!
    }
  }
  return (node) => (at.has(node) ? m[at.get(node)!]![n]! / m[at.get(node)!]![at.get(node)!]! : 0)
}
function ohms(list: readonly Resistor[], a: string, b: string): number | 'open' {
  const v = solve([...list, [a, `${a}!`, 1]], { [a]: 1 }, b)(a)
  return v > 1e6 ? 'open' : v
}

/** The circuit with its supply on: volts between two nodes after what trips has tripped. */
function alive(c: PlainCircuit, fault: PlainFault, more: readonly Resistor[] = []): (a: string, b: string) => number {
  const half = c.zeOhm / 2
  const supply: Resistor[] = [
    ['source', 'board.line', half],
    ['star', 'board.neutral', half],
    ['star', 'board.pe', 1e-4],
  ]
  const list = [...resistors(c, fault), ...supply, ...more]
  // A source of voltage behind its impedance, as a current source beside it.
  const injected: Resistor[] = [...list, ['source', 'star', 1e-5]]
  const v = solve(injected, { source: c.volts / 1e-5 }, 'star')
  const lineA = (v('source') - v('board.line')) / half
  const neutralA = (v('board.neutral') - v('star')) / half
  const leak = c.rcd && Math.abs(lineA - neutralA) > 0.03
  return Math.abs(lineA) > 4 * c.breakerA || leak ? () => 0 : (a, b) => Math.abs(v(a) - v(b))
}

/** What a test of the plan reads, at a point or as a whole; null of a test that this does not know. */
export function plainReading(
  c: PlainCircuit,
  fault: PlainFault,
  test: string,
  point: string | null,
): number | 'open' | 'yes' | 'no' | null {
  const at = point === null ? c.points : [point]
  const bonded: Resistor[] = [['board.neutral', 'board.pe', c.zeOhm / 2]]
  const worst = (read: (p: string) => number | 'open'): number | 'open' => {
    const all = at.map(read)
    return all.includes('open') ? 'open' : Math.max(...(all as number[]))
  }
  if (test === 'continuity-protective' || test === 'extra-neutral-lifted') {
    const list = [...resistors(c, fault), ['board.line', 'board.pe', 1e-6] as const, ...(test === 'continuity-protective' ? bonded : [])]
    return worst((p) => ohms(list, `${p}.line`, `${p}.pe`))
  }
  if (test === 'polarity') {
    const list = resistors(c, fault)
    return at.every((p) => {
      const r = ohms(list, 'board.line', `${p}.line`)
      return r !== 'open' && r < 10
    })
      ? 'yes'
      : 'no'
  }
  const letters: Readonly<Record<string, Core>> = { l: 'line', n: 'neutral', e: 'pe' }
  const pair = test
    .split('-')
    .slice(1)
    .map((x) => letters[x]!)
  if (test.startsWith('insulation-')) {
    const r = ohms(resistors(c, fault), `board.${pair[0]}`, `board.${pair[1]}`)
    return r === 'open' || r / 1e6 > 200 ? 200 : r / 1e6
  }
  if (test.startsWith('live-')) {
    const volts = alive(c, fault)
    const nominal = test === 'live-n-e' ? 0 : c.volts
    return at
      .map((p) => volts(`${p}.${pair[0]}`, `${p}.${pair[1]}`))
      .reduce((x, y) => (Math.abs(y - nominal) > Math.abs(x - nominal) ? y : x))
  }
  if (test === 'zs')
    return Math.max(
      ...at.map((p) => {
        const open = alive({ ...c, rcd: false }, fault)(`${p}.line`, `${p}.pe`)
        const loaded = alive({ ...c, rcd: false }, fault, [[`${p}.line`, `${p}.pe`, 10]])(`${p}.line`, `${p}.pe`)
        return loaded / 10 < 1e-3 ? 1999 : Math.max(0, (open * 10) / loaded - 10)
      }),
    )
  return ringReading(c, fault, test)
}

function ringReading(c: PlainCircuit, fault: PlainFault, test: string): number | 'open' | null {
  const ends = c.cables.flatMap((k) => [...(k.from === 'board' ? [`${k.id}.a`] : []), ...(k.to === 'board' ? [`${k.id}.b`] : [])])
  if (ends.length !== 2) return null
  const list = resistors(c, fault, true)
  const round: Readonly<Record<string, Core>> = { 'ring-line': 'line', 'ring-neutral': 'neutral', 'ring-protective': 'pe' }
  if (test in round) return ohms(list, `${ends[0]}.${round[test]}`, `${ends[1]}.${round[test]}`)
  const crossed = /^ring-crossed-(neutral|protective)-(.+)$/.exec(test)
  if (!crossed) return null
  const other: Core = crossed[1] === 'neutral' ? 'neutral' : 'pe'
  const links: Resistor[] = [
    [`${ends[0]}.line`, `${ends[1]}.${other}`, 1e-6],
    [`${ends[1]}.line`, `${ends[0]}.${other}`, 1e-6],
  ]
  return ohms([...list, ...links], `${crossed[2]}.line`, `${crossed[2]}.${other}`)
}
