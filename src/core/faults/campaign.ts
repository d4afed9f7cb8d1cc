import { EXTRA_LOAD_W, type Test } from '../verify/tests'
import { worlds } from '../region/worlds'
import type { Told } from '../base/told'
import {
  acrossAt,
  asDesigned,
  BOARD,
  deviceIn,
  type Difference,
  faceOf,
  isResidual,
  lineAt,
  ofEnd,
  type Role,
  type State,
  terminal,
  voltsAcross,
  type Wiring,
  wireOf,
} from '../meters/as-wired'
import type { Standing } from '../network/network'
import { meets, shownBy, standingOf } from '../meters/measure'
import { alteredBy, loadedAt, type Mistake, mistakesOf, ofEach, roleWords } from './mistakes'

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
  /** Tests besides the plan that would catch it, where none of the plan does and it does something. */
  readonly moreBy: readonly string[]
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
const TEST_W = EXTRA_LOAD_W
const LEAK_A = 0.05

const loaded: State = { closed: true, neutralLifted: false, linked: [], load: TEST_W }
const idle: State = { ...loaded, load: 'none' }

/** What a difference does once the supply is on, and a load is put on one place. */
export function effectOf(
  w: Wiring,
  d: Difference,
  places: readonly string[],
  loadAt: string,
): { readonly effect: Effect; readonly does: string } {
  const names = new Map(w.places.map((p) => [p.id, p.name]))
  const [under, unloaded] = [standingOf(w, d, { ...loaded, loadAt }), standingOf(w, d, idle)]
  const at = (id: string) => names.get(id) ?? id
  const early = unloaded.trips()
  if (early.length)
    return { effect: 'trips', does: `the ${isResidual(early[0]!.id) ? 'residual device' : 'breaker'} trips when it is switched on` }
  const over = overdriven(w, d)
  if (over) return { effect: 'dangerous', does: `${at(over.place)} gets ${over.volts.toFixed(0)} V when all loads are on` }
  const bare = unguarded(w, d)
  if (bare)
    return {
      effect: 'dangerous',
      does: `${at(bare.place)} is not guarded by the ${worlds[w.region].words.rcd} in ${at(bare.device)}, or it does not reset`,
    }
  const earthed = places.flatMap((p) => {
    const pe = faceOf(w, d, p, 'pe')
    return pe === null ? [] : [[p, pe] as const]
  })
  for (const [p, pe] of earthed) {
    const v = Math.max(under.volts(pe, 'PE'), unloaded.volts(pe, 'PE'))
    if (v > TOUCH_V) return { effect: 'dangerous', does: `metal at ${at(p)} is at ${v.toFixed(0)} V` }
  }
  const earth = standingOf(w, d, { ...idle, closed: false })
  const through = standingOf(w, d, { ...idle, closed: false, neutralLifted: true })
  const { words } = worlds[w.region]
  if (!earth.leads(terminal(BOARD, 'pe'), 'PE'))
    return { effect: 'dangerous', does: `no metal of the circuit has its ${words.protectiveVerb}, and nothing shows it` }
  for (const [p, a] of earthed) {
    const b = terminal(BOARD, 'pe')
    if (!earth.leads(a, b)) return { effect: 'dangerous', does: `${at(p)} has no ${words.protectiveVerb}, and nothing shows it` }
    if (!through.leads(a, b))
      return {
        effect: 'dangerous',
        does: `${at(p)} has the ${roleWords(w, 'neutral')} in place of its ${roleWords(w, 'pe')}: a break makes its metal live`,
      }
  }
  if (w.roles.includes('neutral')) {
    const p = places.find((x) => voltsToEarth(w, d, unloaded, x, 'neutral') > TOUCH_V)
    if (p)
      return {
        effect: 'dangerous',
        does: `the ${roleWords(w, 'neutral')} of ${at(p)} is live: switches and fuses break the wrong conductor`,
      }
  }
  const hot = heatOf(d, under)
  if (hot > HOT_W) return { effect: 'dangerous', does: `the joint takes ${hot.toFixed(0)} W under a load of ${TEST_W} W, and chars` }
  const trips = under.trips()
  const leak = w.cores.find((k) => k.conductors.some((c) => c.role === 'pe' && under.amps(wireOf(k, c)) > LEAK_A))
  if (leak && !trips.some((t) => isResidual(t.id)))
    return { effect: 'dangerous', does: `the ${words.protectiveVerb} carries the current of the load` }
  if (brokenRing(w, under)) return { effect: 'dangerous', does: 'the ring is broken: one leg carries what two should' }
  if (trips.length) return { effect: 'trips', does: `the ${isResidual(trips[0]!.id) ? 'residual device' : 'breaker'} trips under load` }
  if (w.roles.includes('neutral') && through.leads(terminal(BOARD, 'neutral'), 'N'))
    return { effect: 'dangerous', does: `its ${words.neutral} stays in use when the circuit is off, and may be live when it is parted` }
  const starved = places.find((p) => isDead(w, d, under, p))
  if (starved) return { effect: 'dead', does: `${at(starved)} is dead` }
  return { effect: 'unseen', does: 'nothing shows, while nothing else fails' }
}

/** Volts from a conductor of a place to the earth of the supply; none where it does not come there. */
const voltsToEarth = (w: Wiring, d: Difference, { volts }: Standing, place: string, role: Role): number => {
  const at = faceOf(w, d, place, role)
  return at === null ? 0 : volts(at, 'PE')
}
/** Watts in the joint that is not tight. */
const heatOf = (d: Difference, { amps }: Standing): number =>
  Math.max(
    0,
    ...Object.entries(d.ends).map(([end, { ohm }]) => (ohm > 0 ? amps(wireAt(end)) ** 2 * ohm : 0)),
    ...Object.entries(d.terminals).map(([name, { at, ohm }]) => (at !== null && ohm > 0 ? amps(`made ${name}`) ** 2 * ohm : 0)),
  )

/** What each load of a place gets of what it is for, the least first. */
const partsOfLoads = (w: Wiring, d: Difference, { volts }: Standing, place: string): readonly number[] =>
  acrossAt(w, place)
    .flatMap((pair) => {
      const [a, b] = pair.map((role) => faceOf(w, d, place, role))
      return a == null || b == null ? [] : [volts(a, b) / voltsAcross(w, pair)]
    })
    .toSorted((a, b) => a - b)
const isDead = (w: Wiring, d: Difference, standing: Standing, place: string): boolean => (partsOfLoads(w, d, standing, place)[0] ?? 1) < 0.5

/** More than this part of what a load is for burns it. */
const TOO_MUCH = 1.15
/** Two lines without their neutral share their volts by their loads: a place that gets too much with all loads on. */
function overdriven(w: Wiring, d: Difference): { readonly place: string; readonly volts: number } | null {
  if (!w.roles.includes('neutral') || !w.roles.includes('line-2')) return null
  const own = standingOf(w, d, { ...loaded, load: 'own' })
  for (const { id } of w.places) {
    const most = partsOfLoads(w, d, own, id).at(-1) ?? 0
    if (most > TOO_MUCH) return { place: id, volts: most * worlds[w.region].lineV }
  }
  return null
}

/** A place that stays live while the device that is to guard it is open. */
function unguarded(w: Wiring, d: Difference): { readonly place: string; readonly device: string } | null {
  for (const { place: device, guards } of w.outletDevices) {
    const opened = standingOf(w, d, { ...idle, opened: [deviceIn(device)] })
    const place = guards.find((p) => voltsToEarth(w, d, opened, p, lineAt(w, p)) > TOUCH_V)
    if (place !== undefined) return { place, device }
  }
  return null
}

/** The wire whose end this is. */
const wireAt = (end: string): string => {
  const { cable, key } = ofEnd(end)
  return `wire ${cable} ${key}`
}
/** What somebody complains of, who has no instrument. */
export const signs = ['dead', 'trips-at-once', 'trips-loaded', 'shock', 'warm', 'uneven'] as const
export type Sign = (typeof signs)[number]
/** What of a difference is felt without an instrument: each sign it gives, however grave another is. */
export function signsOf(w: Wiring, d: Difference, places: readonly string[], loadAt: string): readonly Sign[] {
  const [under, unloaded] = [standingOf(w, d, { ...loaded, loadAt }), standingOf(w, d, idle)]
  const given: Readonly<Record<Sign, boolean>> = {
    'trips-at-once': unloaded.trips().length > 0,
    'trips-loaded': unloaded.trips().length === 0 && under.trips().length > 0,
    shock: places.some((p) => [under, unloaded].some((s) => voltsToEarth(w, d, s, p, 'pe') > TOUCH_V)),
    warm: heatOf(d, under) > HOT_W,
    dead: places.some((p) => isDead(w, d, under, p)),
    uneven: overdriven(w, d) !== null,
  }
  return signs.filter((s) => given[s])
}

/** Whether one of the two legs that leave the board for a ring carries nothing of a conductor. */
function brokenRing(w: Wiring, { amps }: Standing): boolean {
  if (!w.ring) return false
  const legs = w.cores.filter((k) => k.from === BOARD || k.to === BOARD)
  return w.roles.some((role) => {
    if (role === 'pe') return false
    const each = legs.map((k) => amps(`wire ${k.id} ${role}`))
    return Math.min(...each) < 0.05 * Math.max(...each)
  })
}

/**
 * Every single mistake of a circuit tried: what it does, which tests of the plan it fails, and which of those besides the plan. A test
 * that sound wiring itself would fail catches nothing.
 */
export function campaign(w: Wiring, tests: readonly Test[], besides: readonly Test[] = [], told?: Told): Campaign {
  const all = w.places.map((p) => p.id)
  const possible = tests.filter((t) => shownBy(w, asDesigned, t, all) !== null)
  const more = besides.filter((t) => {
    const sound = shownBy(w, asDesigned, t, all)
    return sound !== null && meets(t, sound)
  })
  const one = (m: Mistake): Tried => {
    const places = alteredBy(w, m)
    const { effect, does } = effectOf(w, m.difference, places, loadedAt(w, m))
    const failed = (list: readonly Test[]) =>
      list.flatMap((t) => {
        const shown = shownBy(w, m.difference, t, places)
        return shown !== null && !meets(t, shown) ? [t.id] : []
      })
    const caughtBy = failed(possible)
    const moreBy = caughtBy.length || effect === 'unseen' ? [] : failed(more)
    return { id: m.id, kind: m.kind, words: m.words, place: m.place, effect, does, caughtBy, moreBy }
  }
  const tried = ofEach(mistakesOf(w), one, told)
  return { tried, notTried: tests.filter((t) => !possible.includes(t) && t.phase !== 'isolation' && !t.optional).map((t) => t.id) }
}

/**
 * The fewest tests besides the plan that catch everything dangerous which any of them catches; of equally few those that catch more of
 * the rest. Exact: every choice of them is looked at.
 */
export function fewestMore({ tried }: Campaign): readonly string[] {
  const passed = tried.filter((t) => t.moreBy.length > 0)
  const ids = [...new Set(passed.flatMap((t) => t.moreBy))]
  const dangerous = passed.filter((t) => t.effect === 'dangerous')
  const choices = Array.from({ length: 2 ** ids.length }, (_, bits) => ids.filter((_, i) => bits & (1 << i)))
  const caught = (choice: readonly string[], of: readonly Tried[]) => of.filter((t) => t.moreBy.some((id) => choice.includes(id))).length
  const enough = choices.filter((c) => caught(c, dangerous) === dangerous.length)
  return enough.toSorted((a, b) => a.length - b.length || caught(b, passed) - caught(a, passed))[0] ?? []
}
