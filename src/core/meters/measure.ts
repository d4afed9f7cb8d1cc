import { standing, type Standing, standingWith } from '../network/network'
import type { Element } from '../network/types'
import { EXTRA_LOAD_W, type Test } from '../verify/tests'
import {
  acrossAt,
  asDesigned,
  BOARD,
  cableElements,
  cablesAltered,
  type Core,
  coreEnd,
  deviceIn,
  type Difference,
  elementsOf,
  faceOf,
  lineAt,
  loadsOf,
  mayEndAt,
  openWhere,
  type Parted,
  parted,
  type Role,
  type State,
  terminal,
  voltsAcross,
  type Wiring,
  wireOf,
} from './as-wired'

/** What an instrument shows: a value in the unit of its test, no circuit, or a step that holds or does not. */
export type Shown = number | 'open' | 'yes' | 'no'

const dead: State = { closed: false, neutralLifted: false, linked: [], load: 'none' }
const live: State = { closed: true, neutralLifted: false, linked: [], load: 'none' }
const loaded: State = { ...live, load: EXTRA_LOAD_W }

/** What was asked of a wiring last: mistakes are tried one after another, and cable by cable. */
interface Asked {
  readonly difference: Difference
  /** The cables that differ: one, or a few. */
  readonly cables: readonly Core[]
  readonly standings: Map<string, Standing>
  /** Those cables as they differ, whatever is done at the board; and with their ends out of it. */
  readonly elements: Map<boolean, readonly Element[]>
  /** The wiring with those out, by the state. */
  readonly opened: Map<string, ReturnType<typeof standingWith>>
  /** The wiring as designed, by the state. */
  readonly sound: Map<string, Parted>
}
const known = new WeakMap<Wiring, Asked>()

/**
 * The wiring as it differs, in one state: solved once, however much is measured on it. Where few cables differ, all besides them is taken
 * apart once for every mistake there may be in them.
 */
export function standingOf(w: Wiring, d: Difference, s: State): Standing {
  let asked = known.get(w)
  if (asked?.difference !== d) {
    const cables = cablesAltered(w, d)
    const before = asked?.cables
    const same = before?.length === cables.length && cables.every((k, i) => k === before[i])
    known.set(
      w,
      (asked = {
        difference: d,
        cables,
        standings: new Map(),
        elements: new Map(),
        opened: asked && same ? asked.opened : new Map(),
        sound: asked?.sound ?? new Map(),
      }),
    )
  }
  const key = JSON.stringify(s)
  const made = asked.standings.get(key) ?? (asked.cables.length > 0 ? standingIn(w, asked, s, key) : standingAfresh(w, d, s))
  asked.standings.set(key, made)
  return made
}

/** The wiring with cables put in that were left out before. */
function standingIn(w: Wiring, asked: Asked, s: State, key: string, loads: readonly Element[] = []): Standing {
  const { difference, cables, elements } = asked
  // A load at one of their ends is put in with them, so that the rest is as without it.
  if (s.loadAt !== undefined && cables.some((k) => k.from === s.loadAt || k.to === s.loadAt)) {
    const without: State = { ...s, load: 'none', loadAt: undefined }
    return standingIn(w, asked, without, JSON.stringify(without), loadsOf(w, difference, s))
  }
  let put = asked.opened.get(key)
  if (!put) asked.opened.set(key, (put = openedAt(w, asked, s, key)))
  const out = s.ringOut === true
  const those = elements.get(out) ?? cables.flatMap((k) => cableElements(w, k, difference, s))
  elements.set(out, those)
  return put([...those, ...loads])
}
function openedAt(w: Wiring, { cables, sound }: Asked, s: State, key: string): ReturnType<typeof standingWith> {
  let designed = sound.get(key)
  if (!designed) sound.set(key, (designed = parted(w, s)))
  const elements = [...designed.besides, ...designed.cables.flatMap(([k, own]) => (cables.includes(k) ? [] : own))]
  const waiting = [...new Set(cables.flatMap((k) => mayEndAt(w, k, s)))]
  return standingWith({ supply: w.supply, elements, state: { open: openWhere(s) }, probes: [] }, waiting)
}

/** The same, taken apart whole. */
export const standingAfresh = (w: Wiring, d: Difference, s: State): Standing =>
  standing({ supply: w.supply, elements: elementsOf(w, d, s), state: { open: openWhere(s) }, probes: [] })

/** Ohms above which an insulation tester shows more than it can count. */
const OVER_MOHM = 200
/** A path of so many ohms at the most is one. */
const PATH_OHM = 10

const roleOf: Readonly<Record<string, Role>> = { l: 'line', l1: 'line', l2: 'line-2', n: 'neutral', e: 'pe' }
const pairOf = (id: string): readonly [Role, Role] | null => {
  const [a, b] = id
    .split('-')
    .slice(-2)
    .map((x) => roleOf[x])
  return a && b ? [a, b] : null
}

/** Where a meter is put to two conductors of a place; null where one of them does not come there. */
function between(w: Wiring, d: Difference, place: string, p: Role, q: Role): readonly [string, string] | null {
  const [a, b] = [faceOf(w, d, place, p), faceOf(w, d, place, q)]
  return a === null || b === null ? null : [a, b]
}
/** Whether a test is made at every point, each with its own reading. */
export const madeAtEach = (id: string): boolean =>
  ['continuity-protective', 'polarity', 'zs', 'extra-neutral-lifted', 'extra-loaded-fall'].includes(id) || id.startsWith('live-')

/** What a test that is made at every point shows at one of them; null where its conductors do not come there. */
export function shownAt(w: Wiring, d: Difference, { id, expect }: Pick<Test, 'id' | 'expect'>, place: string): Shown | null {
  const line = lineAt(w, place)
  if (id === 'continuity-protective' || id === 'extra-neutral-lifted') {
    const at = between(w, d, place, line, 'pe')
    const lifted = id === 'extra-neutral-lifted'
    return at && standingOf(w, d, { ...dead, neutralLifted: lifted, linked: [[line, 'pe']] }).ohms(...at)
  }
  if (id === 'polarity') {
    const { ohms } = standingOf(w, d, { ...dead, neutralLifted: true })
    const here = w.roles.filter((r) => (r === 'line' || r === 'line-2') && faceOf(w, asDesigned, place, r) !== null)
    const led = (r: Role) => {
      const ohm = ohms(terminal(BOARD, r), faceOf(w, d, place, r)!)
      return ohm !== 'open' && ohm < PATH_OHM
    }
    return here.length === 0 ? null : here.every(led) ? 'yes' : 'no'
  }
  if (id.startsWith('live-')) {
    const pair = pairOf(id)
    const at = pair && expect.kind === 'range' ? between(w, d, place, ...pair) : null
    return at && afterTrips(w, d, live).volts(...at)
  }
  if (id === 'zs') return w.loopKnown && between(w, d, place, line, 'pe') ? loopAt(w, d, place, line) : null
  const falls = acrossAt(w, place).flatMap((pair) => {
    const at = between(w, d, place, ...pair)
    if (!at) return []
    const { volts, voltsWith } = standingOf(w, d, live)
    return [volts(...at) - (voltsWith(...at, voltsAcross(w, pair) ** 2 / EXTRA_LOAD_W) ?? 0)]
  })
  return falls.length ? Math.max(...falls) : null
}

/** What stands for a test that is made at every point: what is farthest from what is expected. */
export function gravestOf({ id, expect }: Pick<Test, 'id' | 'expect'>, shown: readonly Shown[]): Shown | null {
  if (shown.length === 0) return null
  for (const mark of ['open', 'no'] as const) if (shown.includes(mark)) return mark
  const values = shown.filter((x) => typeof x === 'number')
  if (values.length === 0) return shown[0]!
  const nominal = id.startsWith('live-') && expect.kind === 'range' ? (expect.nominal ?? 0) : null
  if (nominal === null) return Math.max(...values)
  return values.reduce((far, v) => (Math.abs(v - nominal) > Math.abs(far - nominal) ? v : far))
}

/** What a test of the plan shows on wiring that differs so, at the places it is made; null where this test is not worked out here. */
export function shownBy(w: Wiring, d: Difference, test: Pick<Test, 'id' | 'expect'>, places: readonly string[]): Shown | null {
  const { id } = test
  if (madeAtEach(id)) {
    return gravestOf(
      test,
      places.flatMap((p) => shownAt(w, d, test, p) ?? []),
    )
  }
  if (id.startsWith('insulation-')) {
    const pair = pairOf(id)
    if (!pair) return null
    const x = standingOf(w, d, { ...dead, neutralLifted: true }).ohms(terminal(BOARD, pair[0]), terminal(BOARD, pair[1]))
    return x === 'open' ? OVER_MOHM : x / 1e6
  }
  if (id === 'extra-clamp-all') {
    const { amps } = standingOf(w, d, loaded)
    return Math.max(...w.cores.flatMap((k) => k.conductors.flatMap((c) => (c.role === 'pe' ? [amps(wireOf(k, c))] : []))))
  }
  if (id.startsWith('residual-button')) return buttonShows(w, d, id, places)
  return ringShows(w, d, id, places)
}

/** Devices that open one after another before nothing more does. */
const MOST_TRIPS = 3
/** The wiring after what trips at once has opened: no instrument reads on a circuit that its breaker has left. */
function afterTrips(w: Wiring, d: Difference, s: State): Standing {
  let opened: readonly string[] = s.opened ?? []
  for (let n = 0; n < MOST_TRIPS; n++) {
    const now = standingOf(w, d, opened.length ? { ...s, opened } : s)
    const more = now.trips().flatMap((t) => (opened.includes(t.id) ? [] : [t.id]))
    if (more.length === 0) return now
    opened = [...opened, ...more]
  }
  return standingOf(w, d, { ...s, opened })
}

/** Whether what a residual device guards goes dead with it, and nothing else; null of one that is not in the wiring. */
function buttonShows(w: Wiring, d: Difference, id: string, places: readonly string[]): Shown | null {
  const own = w.outletDevices.find((x) => x.test === id)
  const board = w.rcdMa !== null && !own && id === 'residual-button'
  if (!own && !board) return null
  const [closed, opened] = [afterTrips(w, d, live), afterTrips(w, d, { ...live, opened: [own ? deviceIn(own.place) : 'rcd'] })]
  // The board’s own guards all of the circuit.
  const guards = own?.guards ?? w.places.map((p) => p.id)
  const alive = ({ volts }: Standing, p: string) => {
    const at = faceOf(w, d, p, lineAt(w, p))
    return at !== null && volts(at, 'PE') > LIVE_V
  }
  const right = places.every((p) => alive(opened, p) === (alive(closed, p) && !guards.includes(p)))
  return right ? 'yes' : 'no'
}
/** What a tester calls alive, in volts. */
const LIVE_V = 50

/** What a loop tester works out: how far the voltage falls under a load of its own between line and earth. */
const TESTER_OHM = 10
export function loopAt(w: Wiring, d: Difference, place: string, line: Role = 'line'): number {
  const at = between(w, d, place, line, 'pe')
  if (!at) return 1999
  const [a, b] = at
  const { volts, voltsWith } = afterTrips(w, d, live)
  const open = volts(a, b)
  const current = (voltsWith(a, b, TESTER_OHM) ?? 0) / TESTER_OHM
  return current < 1e-3 ? 1999 : Math.max(0, open / current - TESTER_OHM)
}

function ringShows(w: Wiring, d: Difference, id: string, places: readonly string[]): Shown | null {
  if (!w.ring) return null
  const ends = w.cores.flatMap((k) => [
    ...(k.from === BOARD ? [{ cable: k.id, end: 'a' as const }] : []),
    ...(k.to === BOARD ? [{ cable: k.id, end: 'b' as const }] : []),
  ])
  const [first, last] = [ends[0], ends.at(-1)]
  if (!first || !last || ends.length !== 2) return null
  const at = (e: typeof first, role: Role) => coreEnd(e.cable, e.end, role)
  const out: State = { ...dead, ringOut: true }
  const round: Readonly<Record<string, Role>> = { 'ring-line': 'line', 'ring-neutral': 'neutral', 'ring-protective': 'pe' }
  if (id in round) return standingOf(w, d, out).ohms(at(first, round[id]!), at(last, round[id]!))
  const crossed = /^ring-crossed-(neutral|protective)-(.+)$/.exec(id)
  if (!crossed) return null
  const other: Role = crossed[1] === 'neutral' ? 'neutral' : 'pe'
  if (!places.includes(crossed[2]!)) return null
  const join = (n: string, a: string, b: string) => ({ id: n, kind: 'switch' as const, poles: [{ a, b }] })
  const extra = [join('cross 1', at(first, 'line'), at(last, other)), join('cross 2', at(last, 'line'), at(first, other))]
  const pair = between(w, d, crossed[2]!, 'line', other)
  return pair ? standingOf(w, d, { ...out, extra }).ohms(...pair) : null
}

/** Whether a test is met by what it shows. */
export function meets(test: Pick<Test, 'expect'>, shown: Shown): boolean {
  const { expect } = test
  if (shown === 'yes' || shown === 'no') return shown === 'yes'
  if (expect.kind !== 'range') return true
  if (shown === 'open') return false
  return (expect.min === null || shown >= expect.min - 1e-9) && (expect.max === null || shown <= expect.max + 1e-9)
}
