import type { Told } from '../base/told'
import { terminals as nodesOf } from '../network/network'
import { worlds } from '../region/worlds'
import {
  asDesigned,
  BOARD,
  conductorOf,
  type Core,
  type CoreConductor,
  coreEnd,
  deviceIn,
  type Difference,
  type Made,
  type Role,
  type Wiring,
} from '../meters/as-wired'

export const mistakeKinds = [
  'swapped',
  'misplaced',
  'open',
  'loose',
  'touching',
  'reversed',
  'tab-out',
  'joined-neutral',
  'line-load',
  'wrong-bar',
  'no-bond',
] as const
/** One plausible wrong connection of a circuit. */
export interface Mistake {
  readonly id: string
  readonly kind: (typeof mistakeKinds)[number]
  readonly words: string
  /** The cable, and the place where it is; beyond it is what it can have altered. */
  readonly cable: string | null
  readonly place: string
  readonly difference: Difference
}

/** Ohms of a joint that was not tightened. */
export const LOOSE_OHM = 1.5

export const roleWords = (w: Pick<Wiring, 'region' | 'roles'>, role: Role): string => {
  const { words } = worlds[w.region]
  const two = w.roles.includes('line-2')
  if (role === 'line') return two ? `${words.line} 1` : words.line
  if (role === 'line-2') return `${words.line} 2`
  return role === 'neutral' ? words.neutral : words.protectiveVerb
}

const pairsOf = <T>(list: readonly T[]): readonly (readonly [T, T])[] =>
  list.flatMap((a, i) => list.slice(i + 1).map((b) => [a, b] as const))

interface Telling {
  readonly w: Wiring
  readonly say: (role: Role) => string
  readonly sayCore: (c: CoreConductor) => string
  readonly name: (place: string) => string
}

/** What a conductor of a cable is called: by its role, or as one that a switch feeds. */
export function coreWords(w: Pick<Wiring, 'region' | 'roles'>, { role, key }: CoreConductor): string {
  const number = /-(\d)$/.exec(key)?.[1]
  if (role === 'switched-line') return `switched ${worlds[w.region].words.line}${number ? ` ${number}` : ''}`
  if (role === 'traveller') return `traveller ${number ?? 1}`
  return role === 'spare' ? 'spare conductor' : roleWords(w, role)
}

/** Two lines of one circuit may change places, and so may two travellers of one cable. */
const interchangeable = (p: string, q: string): boolean =>
  (p === 'line' && q === 'line-2') || (p.startsWith('traveller') && q.startsWith('traveller'))

const exchangedAt = (k: Core, end: 'a' | 'b', p: CoreConductor, q: CoreConductor): Difference['ends'] => ({
  [coreEnd(k.id, end, p.key)]: { at: q[end], ohm: 0 },
  [coreEnd(k.id, end, q.key)]: { at: p[end], ohm: 0 },
})
/** The conductors of a cable that are made off at an end. */
const madeAt = (k: Core, end: 'a' | 'b'): readonly CoreConductor[] => k.conductors.filter((c) => c[end] !== null)

/** Mistakes at one end of a cable. */
function atEnd({ sayCore, name }: Telling, k: Core, end: 'a' | 'b'): readonly Mistake[] {
  const [place, there] = end === 'a' ? [k.from, k.to] : [k.to, k.from]
  const where = `at ${name(place)}, in the cable ${end === 'a' ? 'to' : 'from'} ${name(there)}`
  const of = (kind: Mistake['kind'], cores: readonly CoreConductor[], words: string, ends: Difference['ends']): Mistake => ({
    id: `${kind} ${k.id} ${end} ${cores.map((c) => c.key).join(' ')}`,
    kind,
    words: `${words} ${where}`,
    cable: k.id,
    place,
    difference: { ...asDesigned, ends },
  })
  const cores = madeAt(k, end)
  const made = (c: CoreConductor, at: string | null, ohm: number) => ({ [coreEnd(k.id, end, c.key)]: { at, ohm } })
  return [
    ...pairsOf(cores).flatMap(([p, q]) =>
      interchangeable(p.key, q.key) ? [] : [of('swapped', [p, q], `${sayCore(p)} and ${sayCore(q)} exchanged`, exchangedAt(k, end, p, q))],
    ),
    ...cores.flatMap((p) =>
      cores.flatMap((q) =>
        p === q ? [] : [of('misplaced', [p, q], `${sayCore(p)} in the terminal of the ${sayCore(q)}`, made(p, q[end], 0))],
      ),
    ),
    ...cores.flatMap((c) => [
      of('open', [c], `${sayCore(c)} not connected`, made(c, null, 0)),
      of('loose', [c], `${sayCore(c)} loose`, made(c, c[end], LOOSE_OHM)),
    ]),
  ]
}

/** Conductors that touch along a cable. */
const along = ({ sayCore, name }: Telling, k: Core): readonly Mistake[] =>
  pairsOf(k.conductors).map(([p, q]) => ({
    id: `touching ${k.id} ${p.key} ${q.key}`,
    kind: 'touching',
    words: `${sayCore(p)} and ${sayCore(q)} touch in the cable from ${name(k.from)} to ${name(k.to)}`,
    cable: k.id,
    place: k.to,
    difference: { ...asDesigned, touching: [{ cable: k.id, keys: [p.key, q.key] }] },
  }))

/** Its accessory reversed between cables that go on as they should. With one cable that is an exchange at its end. */
function reversedAt({ w, say, name }: Telling, place: Wiring['places'][number]): readonly Mistake[] {
  const ends = w.cores.flatMap((k) => [
    ...(k.from === place.id ? [[k, 'a'] as const] : []),
    ...(k.to === place.id ? [[k, 'b'] as const] : []),
  ])
  const shared = w.places.some((p) => p !== place && p.box !== null && p.box === place.box)
  if (place.across.length === 0 || place.joint || (ends.length < 2 && !shared)) return []
  const pairs = pairsOf(w.roles.filter((r) => place.face[r] !== undefined)).filter(([p, q]) => !interchangeable(p, q))
  return pairs.flatMap(([p, q]): Mistake[] => {
    const difference = shared ? reversedTerminals(w, place, p, q) : reversedEnds(ends, p, q)
    if (difference === null) return []
    return [
      {
        cable: null,
        place: place.id,
        id: `reversed ${place.id} ${p} ${q}`,
        kind: 'reversed',
        words: `${say(p)} and ${say(q)} exchanged on ${name(place.id)} itself, and right beyond it`,
        difference,
      },
    ]
  })
}
function reversedEnds(ends: readonly (readonly [Core, 'a' | 'b'])[], p: Role, q: Role): Difference | null {
  const exchanged = ends.map(([k, end]) => {
    const [x, y] = [p, q].map((role) => conductorOf(k, role))
    return x && y && x[end] !== null && y[end] !== null ? exchangedAt(k, end, x, y) : null
  })
  return exchanged.includes(null) ? null : { ...asDesigned, ends: Object.assign({}, ...exchanged) as Difference['ends'] }
}
/** In a box of several, the terminals of its own device change joints. */
function reversedTerminals(w: Wiring, { sides }: Wiring['places'][number], p: Role, q: Role): Difference | null {
  const [first, second] = [sides[p] ?? [], sides[q] ?? []]
  if (first.length === 0 || first.length !== second.length) return null
  const at = (name: string): Made => ({ at: w.terminals[name]!, ohm: 0 })
  const terminals = Object.fromEntries(
    first.flatMap((name, i) => [
      [name, at(second[i]!)],
      [second[i]!, at(name)],
    ]),
  )
  return { ...asDesigned, terminals }
}

/** In a box of several accessories what joins one to the next by a short tail: left off at it, or loose. */
function tailsAt({ w, say, name }: Telling, place: Wiring['places'][number]): readonly Mistake[] {
  if (!w.within.some(([, to]) => to === place.id)) return []
  return w.roles.flatMap((role): Mistake[] => {
    const [feed] = place.sides[role] ?? []
    if (feed === undefined) return []
    const of = (kind: 'open' | 'loose', words: string, made: Made): Mistake => ({
      id: `${kind} ${place.id} tail ${role}`,
      kind,
      words: `${say(role)} ${words} at ${name(place.id)}, in the tail to it`,
      cable: null,
      place: place.id,
      difference: { ...asDesigned, terminals: { [feed]: made } },
    })
    return [of('open', 'not connected', { at: null, ohm: 0 }), of('loose', 'loose', { at: w.terminals[feed]!, ohm: LOOSE_OHM })]
  })
}

/** Line and load sides of a residual device in an outlet exchanged; none where it has no load side of its own. */
function exchangedDevice(w: Wiring, place: string): Difference | null {
  const rcd = w.devices.find((e) => e.id === deviceIn(place))
  if (rcd?.kind !== 'rcd' || rcd.poles.some((p) => w.terminals[p.line] === undefined || w.terminals[p.load] === undefined)) return null
  const at = (name: string): Made => ({ at: w.terminals[name]!, ohm: 0 })
  return {
    ...asDesigned,
    terminals: Object.fromEntries(
      rcd.poles.flatMap((p) => [
        [p.line, at(p.load)],
        [p.load, at(p.line)],
      ]),
    ),
  }
}

/** Mistakes of a place itself. */
function atPlace(telling: Telling, at: Wiring['places'][number]): readonly Mistake[] {
  const { w, say, name } = telling
  const { id: place, tabs, face } = at
  const own = { cable: null, place }
  const exchanged = exchangedDevice(w, place)
  return [
    ...reversedAt(telling, at),
    ...tailsAt(telling, at),
    ...tabs.map(({ element, role }): Mistake => ({
      ...own,
      id: `tab-out ${place} ${role}`,
      kind: 'tab-out',
      words: `the tab of the ${say(role)} side broken out at ${name(place)}`,
      difference: { ...asDesigned, tabsOut: [element] },
    })),
    ...(exchanged
      ? [
          {
            ...own,
            id: `line-load ${place}`,
            kind: 'line-load' as const,
            words: `line and load sides of the ${worlds[w.region].words.rcd} in ${name(place)} exchanged`,
            difference: exchanged,
          },
        ]
      : []),
    ...(w.roles.includes('neutral') && face.neutral !== undefined
      ? [
          {
            ...own,
            id: `joined-neutral ${place}`,
            kind: 'joined-neutral' as const,
            words: `${say('neutral')} joined with that of another circuit at ${name(place)}`,
            difference: { ...asDesigned, joinedNeutral: place },
          },
        ]
      : []),
  ]
}

function atBoard({ w, say, name }: Telling): readonly Mistake[] {
  const { words } = worlds[w.region]
  const own = { cable: null, place: BOARD }
  const bar: Mistake = {
    ...own,
    id: 'wrong-bar',
    kind: 'wrong-bar',
    words: `${say('neutral')} on the bar ahead of the ${words.rcd}`,
    difference: { ...asDesigned, wrongBar: true },
  }
  const bond: Mistake = {
    ...own,
    id: 'no-bond',
    kind: 'no-bond',
    words: `the ${say('pe')} bar at ${name(BOARD)} joined to nothing`,
    difference: { ...asDesigned, noBond: true },
  }
  return [...(w.rcdMa !== null && w.roles.includes('neutral') ? [bar] : []), bond]
}

/** Every single mistake at the ends of every cable, along it, at its places and at its board. */
export function mistakesOf(w: Wiring): readonly Mistake[] {
  const names = new Map([[BOARD, worlds[w.region].words.board], ...w.places.map((p) => [p.id, p.name] as const)])
  const telling: Telling = {
    w,
    say: (role) => roleWords(w, role),
    sayCore: (c) => coreWords(w, c),
    name: (place) => names.get(place) ?? place,
  }
  return [
    ...w.cores.flatMap((k) => [...atEnd(telling, k, 'a'), ...atEnd(telling, k, 'b'), ...along(telling, k)]),
    ...w.places.flatMap((p) => atPlace(telling, p)),
    ...atBoard(telling),
  ]
}

/** Something worked out of each of many mistakes, those at one place after each other: what they share is then worked out once. */
export function ofEach<T>(mistakes: readonly Mistake[], work: (m: Mistake) => T, told?: Told): readonly T[] {
  const order = [...mistakes.keys()].toSorted((a, b) =>
    mistakes[a]!.place < mistakes[b]!.place ? -1 : mistakes[a]!.place > mistakes[b]!.place ? 1 : a - b,
  )
  const found: T[] = []
  for (const [n, i] of order.entries()) {
    found[i] = work(mistakes[i]!)
    told?.((n + 1) / order.length)
  }
  return found
}

/** Where a load shows what a mistake does: at the far end of its cable, or at its own place. */
export function loadedAt(w: Wiring, { cable, place }: Mistake): string {
  const k = w.cores.find((c) => c.id === cable)
  const at = k ? (k.to === BOARD ? k.from : k.to) : place
  return at === BOARD ? w.places[0]!.id : at
}

/** A place with all that is fed through it, along the cables and within its boxes. */
function beyond(w: Wiring, first: string): ReadonlySet<string> {
  const found = new Set([first])
  const links = [...w.cores.map((k) => [k.from, k.to] as const), ...w.within]
  for (let grown = true; grown;) {
    grown = false
    for (const [from, to] of links)
      if (found.has(from) && !found.has(to)) {
        found.add(to)
        grown = true
      }
  }
  return found
}

/** The places that a mistake can alter: the one it is at and all beyond it; in a ring, or at the board, all; of an accessory its own. */
export function alteredBy(w: Wiring, m: Mistake): readonly string[] {
  const all = w.places.map((p) => p.id)
  // What passes through a contact, a fuse or a residual device is reversed with it.
  const through = w.devices.some((e) => e.kind !== 'switch' && Object.keys(m.difference.terminals).some((t) => nodesOf(e).includes(t)))
  if (m.kind === 'reversed' && !through) return [m.place]
  if (w.ring || (m.cable === null && Object.keys(m.difference.terminals).length === 0)) return all
  const k = w.cores.find((c) => c.id === m.cable)
  const found = beyond(w, k?.to ?? m.place)
  // Where it leaves a point, that point too, with what shares its box.
  const from = k && k.from !== BOARD ? [k.from, ...w.places.flatMap((p) => (sameBox(w, p.id, k.from) ? [p.id] : []))] : []
  return all.filter((p) => found.has(p) || from.includes(p))
}
const sameBox = (w: Wiring, p: string, q: string): boolean => {
  const [a, b] = [p, q].map((id) => w.places.find((x) => x.id === id)?.box)
  return a != null && a === b
}
