import type { Told } from '../base/told'
import { worlds } from '../region/worlds'
import { asDesigned, BOARD, type Core, coreEnd, type Difference, type Role, type Wiring } from '../meters/as-wired'

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

const pairsOf = (roles: readonly Role[]): readonly (readonly [Role, Role])[] =>
  roles.flatMap((a, i) => roles.slice(i + 1).map((b) => [a, b] as const))

interface Telling {
  readonly w: Wiring
  readonly say: (role: Role) => string
  readonly name: (place: string) => string
}

/** Two lines of one circuit may change places. */
const interchangeable = (w: Wiring, p: Role, q: Role): boolean => w.roles.includes('line-2') && p !== 'neutral' && q === 'line-2'
const exchangedAt = (k: Core, end: 'a' | 'b', p: Role, q: Role): Difference['ends'] => ({
  [coreEnd(k.id, end, p)]: { at: q, ohm: 0 },
  [coreEnd(k.id, end, q)]: { at: p, ohm: 0 },
})

/** Mistakes at one end of a cable. */
function atEnd({ w, say, name }: Telling, k: Core, end: 'a' | 'b'): readonly Mistake[] {
  const [place, there] = end === 'a' ? [k.from, k.to] : [k.to, k.from]
  const where = `at ${name(place)}, in the ${k.joint ? 'joint' : 'cable'} ${end === 'a' ? 'to' : 'from'} ${name(there)}`
  const of = (kind: Mistake['kind'], roles: readonly Role[], words: string, ends: Difference['ends']): Mistake => ({
    id: `${kind} ${k.id} ${end} ${roles.join(' ')}`,
    kind,
    words: `${words} ${where}`,
    cable: k.id,
    place,
    difference: { ...asDesigned, ends },
  })
  const made = (role: Role, at: Role | null, ohm: number) => ({ [coreEnd(k.id, end, role)]: { at, ohm } })
  return [
    ...pairsOf(w.roles).flatMap(([p, q]) =>
      interchangeable(w, p, q) ? [] : [of('swapped', [p, q], `${say(p)} and ${say(q)} exchanged`, exchangedAt(k, end, p, q))],
    ),
    ...w.roles.flatMap((p) =>
      w.roles.flatMap((q) => (p === q ? [] : [of('misplaced', [p, q], `${say(p)} in the terminal of the ${say(q)}`, made(p, q, 0))])),
    ),
    ...w.roles.flatMap((role) => [
      of('open', [role], `${say(role)} not connected`, made(role, null, 0)),
      of('loose', [role], `${say(role)} loose`, made(role, role, LOOSE_OHM)),
    ]),
  ]
}

/** Conductors that touch along a cable. */
const along = ({ w, say, name }: Telling, k: Core): readonly Mistake[] =>
  pairsOf(w.roles).map((roles) => ({
    id: `touching ${k.id} ${roles.join(' ')}`,
    kind: 'touching',
    words: `${say(roles[0])} and ${say(roles[1])} touch in the cable from ${name(k.from)} to ${name(k.to)}`,
    cable: k.id,
    place: k.to,
    difference: { ...asDesigned, touching: [{ cable: k.id, roles }] },
  }))

/** Mistakes of a place itself: its accessory reversed between cables that go on as they should, its neutral joined with another's. */
function atPlace({ w, say, name }: Telling, { id: place, joint, tabs }: Wiring['places'][number]): readonly Mistake[] {
  const own = { cable: null, place }
  const ends = w.cores.flatMap((k) => [...(k.from === place ? [[k, 'a'] as const] : []), ...(k.to === place ? [[k, 'b'] as const] : [])])
  // With one cable that is an exchange at its end.
  const reversed = joint || ends.length < 2 ? [] : pairsOf(w.roles).filter(([p, q]) => !interchangeable(w, p, q))
  const mistakes = reversed.map(([p, q]): Mistake => ({
    ...own,
    id: `reversed ${place} ${p} ${q}`,
    kind: 'reversed',
    words: `${say(p)} and ${say(q)} exchanged on ${name(place)} itself, and right beyond it`,
    difference: { ...asDesigned, ends: Object.assign({}, ...ends.map(([k, end]) => exchangedAt(k, end, p, q))) as Difference['ends'] },
  }))
  // The cable that goes on ends on the other half.
  const onward = ends.filter(([, end]) => end === 'a').map(([k]) => k)
  if (tabs && onward.length)
    for (const role of w.roles.filter((r) => r === 'line' || r === 'neutral'))
      mistakes.push({
        ...own,
        id: `tab-out ${place} ${role}`,
        kind: 'tab-out',
        words: `the tab of the ${say(role)} side broken out at ${name(place)}`,
        difference: { ...asDesigned, ends: Object.fromEntries(onward.map((k) => [coreEnd(k.id, 'a', role), { at: null, ohm: 0 }])) },
      })
  if (w.outletDevices.some((d) => d.place === place))
    mistakes.push({
      ...own,
      id: `line-load ${place}`,
      kind: 'line-load',
      words: `line and load sides of the ${worlds[w.region].words.rcd} in ${name(place)} exchanged`,
      difference: { ...asDesigned, exchanged: place },
    })
  if (!w.roles.includes('neutral')) return mistakes
  return [
    ...mistakes,
    {
      ...own,
      id: `joined-neutral ${place}`,
      kind: 'joined-neutral',
      words: `${say('neutral')} joined with that of another circuit at ${name(place)}`,
      difference: { ...asDesigned, joinedNeutral: place },
    },
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
  const telling: Telling = { w, say: (role) => roleWords(w, role), name: (place) => names.get(place) ?? place }
  return [
    ...w.cores.flatMap((k) => [...atEnd(telling, k, 'a'), ...atEnd(telling, k, 'b'), ...(k.joint ? [] : along(telling, k))]),
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

/** The places that a mistake can alter: the one it is at and all beyond it; in a ring, or at the board, all; of an accessory its own. */
export function alteredBy(w: Wiring, m: Mistake): readonly string[] {
  const all = w.places.map((p) => p.id)
  if (m.kind === 'reversed') return [m.place]
  if (w.ring || m.cable === null) return all
  const k = w.cores.find((c) => c.id === m.cable)!
  const found = new Set([k.to])
  for (let grown = true; grown;) {
    grown = false
    for (const c of w.cores)
      if (found.has(c.from) && !found.has(c.to)) {
        found.add(c.to)
        grown = true
      }
  }
  // Where it leaves a point, that point too.
  if (k.from !== BOARD) found.add(k.from)
  return all.filter((p) => found.has(p))
}
