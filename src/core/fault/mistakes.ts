import { worlds } from '../region/worlds'
import { asDesigned, BOARD, type Core, coreEnd, type Difference, type Role, type Wiring } from './as-wired'

export const mistakeKinds = ['swapped', 'open', 'loose', 'touching', 'wrong-bar'] as const
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

/** Every single mistake at the ends of every cable, along it, and at its board. */
export function mistakesOf(w: Wiring): readonly Mistake[] {
  const names = new Map([[BOARD, worlds[w.region].words.board], ...w.places.map((p) => [p.id, p.name] as const)])
  const say = (r: Role) => roleWords(w, r)
  const towards = (k: Core, end: 'a' | 'b') => {
    const [here, there] = end === 'a' ? [k.from, k.to] : [k.to, k.from]
    return `at ${names.get(here)}, in the cable ${end === 'a' ? 'to' : 'from'} ${names.get(there)}`
  }
  const list: Mistake[] = []
  const two = w.roles.includes('line-2')
  for (const k of w.cores) {
    for (const end of ['a', 'b'] as const) {
      const place = end === 'a' ? k.from : k.to
      const where = towards(k, end)
      for (const [p, q] of pairsOf(w.roles)) {
        // Two lines of one circuit may change places.
        if (two && p !== 'neutral' && q === 'line-2') continue
        list.push({
          id: `swapped ${k.id} ${end} ${p} ${q}`,
          kind: 'swapped',
          words: `${say(p)} and ${say(q)} exchanged ${where}`,
          cable: k.id,
          place,
          difference: { ...asDesigned, ends: { [coreEnd(k.id, end, p)]: { at: q, ohm: 0 }, [coreEnd(k.id, end, q)]: { at: p, ohm: 0 } } },
        })
      }
      for (const role of w.roles) {
        const made = (at: Role | null, ohm: number): Difference => ({ ...asDesigned, ends: { [coreEnd(k.id, end, role)]: { at, ohm } } })
        const open = { kind: 'open' as const, words: `${say(role)} not connected ${where}`, difference: made(null, 0) }
        const loose = { kind: 'loose' as const, words: `${say(role)} loose ${where}`, difference: made(role, LOOSE_OHM) }
        for (const m of [open, loose]) list.push({ id: `${m.kind} ${k.id} ${end} ${role}`, cable: k.id, place, ...m })
      }
    }
    for (const roles of pairsOf(w.roles))
      list.push({
        id: `touching ${k.id} ${roles.join(' ')}`,
        kind: 'touching',
        words: `${say(roles[0])} and ${say(roles[1])} touch in the cable from ${names.get(k.from)} to ${names.get(k.to)}`,
        cable: k.id,
        place: k.to,
        difference: { ...asDesigned, touching: [{ cable: k.id, roles }] },
      })
  }
  if (w.rcdMa !== null && w.roles.includes('neutral'))
    list.push({
      id: 'wrong-bar',
      kind: 'wrong-bar',
      words: `${say('neutral')} on the bar ahead of the ${worlds[w.region].words.rcd}`,
      cable: null,
      place: BOARD,
      difference: { ...asDesigned, wrongBar: true },
    })
  return list
}

/** The places that a mistake can alter: the one it is at and all beyond it; in a ring, or at the board, all. */
export function alteredBy(w: Wiring, m: Mistake): readonly string[] {
  const all = w.places.map((p) => p.id)
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
