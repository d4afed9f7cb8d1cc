import type { Test } from '../record/tests'
import { worlds } from '../region/worlds'
import { asDesigned, BOARD, type Difference, type State, terminal, type Wiring } from './as-wired'
import { meets, shownBy, solved } from './measure'
import { alteredBy, type Mistake, mistakesOf, roleWords } from './mistakes'

export type Effect = 'dangerous' | 'trips' | 'dead' | 'unseen'
export interface Tried {
  readonly id: string
  readonly kind: Mistake['kind']
  readonly words: string
  readonly place: string
  readonly effect: Effect
  /** What it does, in words. */
  readonly does: string
  /** Tests of the plan that it fails. */
  readonly caughtBy: readonly string[]
  /** The one test more that would catch it, where none of the plan does; null: none here would, or none is needed. */
  readonly extra: string | null
}
export interface Campaign {
  readonly tried: readonly Tried[]
  /** Tests of the plan whose reading is not worked out from the wiring. */
  readonly notTried: readonly string[]
}

/** What nobody should touch, in volts. IEC 60364-4-41. */
const TOUCH_V = 50
/** Watts in a joint that char what is around it. */
const HOT_W = 5
/** A load that is put on every place to see what joints and conductors do, in watts. */
const TEST_W = 1000
const LEAK_A = 0.05

const loaded: State = { closed: true, neutralLifted: false, linked: [], load: TEST_W }
const idle: State = { ...loaded, load: 'none' }

/** What a difference does once the supply is on. */
export function effectOf(w: Wiring, d: Difference, places: readonly string[]): { readonly effect: Effect; readonly does: string } {
  const names = new Map(w.places.map((p) => [p.id, p.name]))
  const volts = (s: State, role: 'pe' | 'neutral' | 'line') =>
    solved(
      w,
      d,
      s,
      places.map((p) => ({ id: p, kind: 'volts' as const, a: terminal(p, role), b: 'PE' })),
    ).probes as Record<string, number>
  const { amps, trips, probes } = solved(w, d, loaded, [
    ...places.map((p) => ({ id: `pe ${p}`, kind: 'volts' as const, a: terminal(p, 'pe'), b: 'PE' })),
    ...places.map((p) => {
      const other = w.roles.includes('neutral') ? ('neutral' as const) : ('line-2' as const)
      return { id: `feed ${p}`, kind: 'volts' as const, a: terminal(p, 'line'), b: terminal(p, other) }
    }),
  ])
  const unloaded = solved(w, d, idle, [])
  const at = (id: string) => names.get(id) ?? id
  if (unloaded.trips.length)
    return { effect: 'trips', does: `the ${unloaded.trips[0]!.id === 'rcd' ? 'residual device' : 'breaker'} trips when it is switched on` }
  const idlePe = volts(idle, 'pe')
  for (const p of places) {
    const v = Math.max(Number(probes[`pe ${p}`]), idlePe[p]!)
    if (v > TOUCH_V) return { effect: 'dangerous', does: `metal at ${at(p)} stands at ${v.toFixed(0)} V` }
  }
  const earth = solved(
    w,
    d,
    { ...idle, closed: false },
    places.map((p) => ({ id: p, kind: 'ohms' as const, a: terminal(p, 'pe'), b: terminal(BOARD, 'pe') })),
  )
  const through = solved(
    w,
    d,
    { ...idle, closed: false, neutralLifted: true },
    places.map((p) => ({ id: p, kind: 'ohms' as const, a: terminal(p, 'pe'), b: terminal(BOARD, 'pe') })),
  )
  for (const p of places) {
    if (earth.probes[p] === 'open')
      return { effect: 'dangerous', does: `${at(p)} has no ${worlds[w.region].words.protectiveVerb}, and nothing shows it` }
    if (through.probes[p] === 'open')
      return {
        effect: 'dangerous',
        does: `${at(p)} has the ${roleWords(w, 'neutral')} in place of its ${roleWords(w, 'pe')}: a break makes its metal live`,
      }
  }
  if (w.roles.includes('neutral')) {
    const neutral = volts(idle, 'neutral')
    const p = places.find((x) => neutral[x]! > TOUCH_V)
    if (p)
      return {
        effect: 'dangerous',
        does: `the ${roleWords(w, 'neutral')} of ${at(p)} is live: switches and fuses break the wrong conductor`,
      }
  }
  for (const [id, ohm] of Object.entries(d.ends)) {
    const amp = amps[`joint ${id}`] ?? 0
    if (ohm.ohm > 0 && amp * amp * ohm.ohm > HOT_W)
      return { effect: 'dangerous', does: `the joint takes ${(amp * amp * ohm.ohm).toFixed(0)} W under a load of ${TEST_W} W, and chars` }
  }
  const leak = w.cores.find((k) => (amps[`wire ${k.id} pe`] ?? 0) > LEAK_A)
  if (leak && !trips.some((t) => t.id === 'rcd'))
    return { effect: 'dangerous', does: `the ${worlds[w.region].words.protectiveVerb} carries the current of the load` }
  if (brokenRing(w, amps)) return { effect: 'dangerous', does: 'the ring is broken: one leg carries what two should' }
  if (trips.length) return { effect: 'trips', does: `the ${trips[0]!.id === 'rcd' ? 'residual device' : 'breaker'} trips under load` }
  const starved = places.find((p) => Number(probes[`feed ${p}`]) < 0.5 * w.volts)
  if (starved) return { effect: 'dead', does: `${at(starved)} is dead` }
  return { effect: 'unseen', does: 'nothing shows, while nothing else fails' }
}

/** Whether one of the two legs that leave the board for a ring carries nothing of a conductor. */
function brokenRing(w: Wiring, amps: Readonly<Record<string, number>>): boolean {
  if (!w.ring) return false
  const legs = w.cores.filter((k) => k.from === BOARD || k.to === BOARD)
  return w.roles.some((role) => {
    if (role === 'pe') return false
    const each = legs.map((k) => amps[`wire ${k.id} ${role}`] ?? 0)
    return Math.min(...each) < 0.05 * Math.max(...each)
  })
}

/** Tests besides those of the plan, that may catch what it lets by. */
const extras: readonly { readonly words: string; readonly catches: (w: Wiring, d: Difference, places: readonly string[]) => boolean }[] = [
  {
    words: 'Continuity of the protective conductor once more, the neutral lifted from its bar',
    catches: (w, d, places) => {
      const s: State = { closed: false, neutralLifted: true, linked: [['line', 'pe']], load: 'none' }
      const of = (x: Difference) =>
        solved(
          w,
          x,
          s,
          places.map((p) => ({ id: p, kind: 'ohms' as const, a: terminal(p, 'line'), b: terminal(p, 'pe') })),
        ).probes
      const [now, sound] = [of(d), of(asDesigned)]
      return places.some((p) => now[p] === 'open' || Math.abs(Number(now[p]) - Number(sound[p])) > 0.05 + 0.2 * Number(sound[p]))
    },
  },
  {
    words: `The voltage at the point with ${TEST_W} W plugged in, against the drop that is expected`,
    catches: (w, d, places) => {
      const role = w.roles.includes('neutral') ? ('neutral' as const) : ('line-2' as const)
      const of = (x: Difference) =>
        solved(
          w,
          x,
          loaded,
          places.map((p) => ({ id: p, kind: 'volts' as const, a: terminal(p, 'line'), b: terminal(p, role) })),
        ).probes
      const [now, sound] = [of(d), of(asDesigned)]
      return places.some((p) => Math.abs(Number(now[p]) - Number(sound[p])) > 3)
    },
  },
  {
    words: 'A clamp round all live conductors together, under load: more than nothing goes another way',
    catches: (w, d) => {
      const { amps } = solved(w, d, loaded, [])
      return w.cores.some((k) => (amps[`wire ${k.id} pe`] ?? 0) > LEAK_A)
    },
  },
]

/** Every single mistake of a circuit tried: what it does, and which tests of the plan it fails. */
export function campaign(w: Wiring, tests: readonly Test[]): Campaign {
  const all = w.places.map((p) => p.id)
  const possible = tests.filter((t) => shownBy(w, asDesigned, t, all) !== null)
  const tried = mistakesOf(w).map((m): Tried => {
    const places = alteredBy(w, m)
    const { effect, does } = effectOf(w, m.difference, places)
    const caughtBy = possible.flatMap((t) => {
      const shown = shownBy(w, m.difference, t, places)
      return shown !== null && !meets(t, shown) ? [t.id] : []
    })
    const extra = caughtBy.length || effect === 'unseen' ? null : (extras.find((x) => x.catches(w, m.difference, places))?.words ?? null)
    return { id: m.id, kind: m.kind, words: m.words, place: m.place, effect, does, caughtBy, extra }
  })
  return { tried, notTried: tests.filter((t) => !possible.includes(t) && t.phase !== 'isolation' && !t.optional).map((t) => t.id) }
}
