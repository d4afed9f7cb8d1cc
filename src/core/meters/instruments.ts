import type { Element } from '../network/types'
import type { Standing } from '../network/network'
import { worlds } from '../region/worlds'
import {
  asDesigned,
  BOARD,
  cableTo,
  conductorOf,
  coreEnd,
  couplings,
  type Difference,
  faceOf,
  isResidual,
  lineAt,
  type Role,
  type State,
  terminal,
  type Wiring,
  wireOf,
} from './as-wired'
import { loopAt, standingAfresh } from './measure'

/* Instruments as they behave in the hand: what they take of what they measure, and what they are known to get wrong. */

export interface Probe {
  readonly place: string
  readonly role: Role
}
export type Stands = Pick<State, 'closed' | 'neutralLifted' | 'linked' | 'load'>
/** What an instrument shows, and what one should know of it then. */
export interface Seen {
  readonly shown: string
  /** The figure of it, in its unit; null where it shows none. */
  readonly value: number | 'open' | null
  readonly unit: 'V' | 'Ω' | 'MΩ' | 'A' | 'mA' | 'ms' | ''
  readonly note: string | null
  /** What it made trip. */
  readonly trips: readonly string[]
}

/** What instruments put between their probes, in ohms: a tester, one whose button is pressed, a meter. IEC 61243-3 for testers. */
const TESTER_OHM = 200e3
const PRESSED_OHM = 7e3
const METER_OHM = 10e6
const LAMP_W = 15
/** What a detector takes for live, in volts; what a buzzer takes for a path, in ohms. */
const DETECTED_V = 45
const BUZZ_OHM = 30
/** Less than this is none. */
const NO_V = 2
/** A loop tester draws so much through its load, or of the gentle kind so much, in ohms and amperes. */
const LOOP_OHM = 10
const GENTLE_A = 0.015
/** A usual residual device acts at this part of its rating, after so long, in milliseconds. */
const ACTS_AT = 0.7
const ACTS_MS = 28
const RAMP_MA = 2

interface At {
  readonly w: Wiring
  readonly d: Difference
  readonly a: Probe
  readonly b: Probe
  readonly s: State
}
const seen = (shown: string, more: Partial<Seen> = {}): Seen => ({ shown, value: null, unit: '', note: null, trips: [], ...more })
/** Where a probe is; a conductor that does not come there is touched nowhere. */
const node = ({ w, d }: Pick<At, 'w' | 'd'>, { place, role }: Probe): string => faceOf(w, d, place, role) ?? `${terminal(place, role)} none`
const volts = (v: number): string => `${v < 10 ? v.toFixed(1) : v.toFixed(0)} V`

/** The wiring live, its conductors coupled, with something put between the probes; null: nothing is. */
function alive({ w, d, a, b, s }: At, ohm: number | null): Standing {
  const [p, q] = [node({ w, d }, a), node({ w, d }, b)]
  const between: Element[] = ohm === null || p === q ? [] : [{ id: 'instrument', kind: 'impedance', a: p, b: q, ohm, reactanceOhm: 0 }]
  return standingAfresh(w, d, { ...s, extra: [...couplings(w, d, s), ...between] })
}
/** What trips with it that stood before: no instrument draws its current for so long that an overload would tell. */
function trippedBy(at: At, standing: Standing): readonly string[] {
  const before = new Set(
    alive(at, null)
      .trips()
      .map((t) => t.id),
  )
  return standing.trips().flatMap((t) => (t.cause === 'overload' || before.has(t.id) ? [] : [deviceWords(at.w, t.id)]))
}
function deviceWords(w: Wiring, element: string): string {
  const { rcd, board } = worlds[w.region].words
  if (!isResidual(element)) return 'the breaker'
  if (element === 'rcd') return `the ${rcd} at the ${board}`
  return `the ${rcd} in ${w.places.find((p) => `rcd ${p.id}` === element)?.name ?? 'an outlet'}`
}
const tripWords = (trips: readonly string[]): string | null => (trips.length ? `It makes ${trips.join(' and ')} trip.` : null)

/** A voltage as one of several instruments shows it. */
function voltage(at: At, ohm: number): { readonly v: number; readonly trips: readonly string[] } {
  const standing = alive(at, ohm)
  return { v: standing.volts(node(at, at.a), node(at, at.b)), trips: trippedBy(at, standing) }
}

function lamp(at: At): Seen {
  const { v, trips } = voltage(at, worlds[at.w.region].lineV ** 2 / LAMP_W)
  const part = v / worlds[at.w.region].lineV
  const shown = part > 0.8 ? 'lit' : part > 0.3 ? 'dim' : 'dark'
  const dark = 'A dark lamp may be a broken one, or be connected between a live conductor and an open return: it proves nothing.'
  return seen(shown, { note: tripWords(trips) ?? (shown === 'dark' ? dark : null), trips })
}

function tester(at: At, ohm: number): Seen {
  const { v, trips } = voltage(at, ohm)
  return seen(volts(v), { value: v, unit: 'V', note: tripWords(trips), trips })
}

function multimeter(at: At): Seen {
  const { v } = voltage(at, METER_OHM)
  const pressed = voltage(at, PRESSED_OHM).v
  const ghost = v > NO_V && pressed < 0.5 * v
  return seen(volts(v), {
    value: v,
    unit: 'V',
    note: ghost
      ? `A tester of low impedance shows ${volts(pressed)} there: one of the two floats, and picks the rest up ` +
        'from the conductors next to it.'
      : null,
  })
}

const liveNow = seen('live: not used', {
  note: 'This is done dead: on a live circuit it harms the instrument, and the one who holds it.',
})
function ohms({ w, d, a, b, s }: At): number | 'open' {
  return standingAfresh(w, d, s).ohms(node({ w, d }, a), node({ w, d }, b))
}
const ohmWords = (ohm: number | 'open'): string => (ohm === 'open' ? 'open circuit' : `${ohm < 100 ? ohm.toFixed(2) : ohm.toFixed(0)} Ω`)

function ohmmeter(at: At): Seen {
  const value = ohms(at)
  return seen(ohmWords(value), { value, unit: 'Ω', note: leadsElsewhere(at, value) })
}
function continuity(at: At): Seen {
  const value = ohms(at)
  const buzzes = value !== 'open' && value < BUZZ_OHM
  return seen(buzzes ? 'buzzes' : 'silent', {
    value,
    unit: 'Ω',
    note: leadsElsewhere(at, value) ?? (buzzes ? `It buzzes below ${BUZZ_OHM} Ω: a poor joint is a path to it too.` : null),
  })
}
/** A path that is there only through what is plugged in, or through the joined bars of the board. */
function leadsElsewhere(at: At, value: number | 'open'): string | null {
  if (value === 'open') return null
  if (at.s.load !== 'none' && ohms({ ...at, s: { ...at.s, load: 'none' } }) === 'open')
    return 'The path is what is plugged in: unplug it and measure again.'
  if (!at.s.neutralLifted && ohms({ ...at, s: { ...at.s, neutralLifted: true } }) === 'open')
    return 'The path leads over the bars of the board: lift the neutral and measure again.'
  return null
}

const MOST_MOHM = 200
function insulation(at: At): Seen {
  const ohm = ohms(at)
  const mohm = ohm === 'open' ? Number.POSITIVE_INFINITY : ohm / 1e6
  return seen(mohm > MOST_MOHM ? `>${MOST_MOHM} MΩ` : `${mohm.toFixed(2)} MΩ`, {
    value: Math.min(mohm, MOST_MOHM),
    unit: 'MΩ',
    note: leadsElsewhere(at, ohm) ?? (at.s.load === 'none' ? null : 'What is plugged in gets the test voltage too: unplug it.'),
  })
}

function detector({ w, ...at }: At): Seen {
  const standing = alive({ w, ...at }, null)
  const high = (role: Role) => standing.volts(node({ w, d: at.d }, { place: at.a.place, role }), 'PE') > DETECTED_V
  if (high(at.a.role))
    return seen('alarms', { note: 'Something near it is live. That it is this one, and at what voltage, it does not say.' })
  if (w.roles.some(high))
    return seen('alarms', { note: 'It also alarms at the conductor next to it: it cannot tell which of the two is live.' })
  return seen('silent', { note: 'Silent is no proof: in metal, behind a screen, or with a flat battery it is silent too.' })
}

function clamp({ w, d, a, s }: At, pair: boolean): Seen {
  const k = cableTo(w, a.place)
  if (!k) return seen('no cable there')
  const standing = standingAfresh(w, d, s)
  const one = conductorOf(k, a.role)
  const around = pair ? k.conductors.filter((c) => c.role !== 'pe') : one ? [one] : []
  const amp = standing.together(around.map((c) => wireOf(k, c)))
  const shown = amp < 1 ? `${(amp * 1000).toFixed(0)} mA` : `${amp.toFixed(1)} A`
  const note = pair
    ? 'Around all that carry current it shows what does not come back this way.'
    : 'Around one conductor alone: around a cable it shows next to nothing, whatever flows.'
  return seen(shown, { value: amp, unit: 'A', note })
}

/** Put to the line and the earth of a place, as a tester is that knows the conductors itself. */
const lineToEarth = (at: At): At => ({ ...at, a: { ...at.a, role: lineAt(at.w, at.a.place) }, b: { ...at.a, role: 'pe' } })
const UNREAD = 'The rating of the residual device upstream was not read: whether it trips is not known.'

function loop(at: At, gentle: boolean): Seen {
  const { w, d } = at
  const probes = lineToEarth(at)
  if (alive(probes, null).volts(node(probes, probes.a), node(probes, probes.b)) < DETECTED_V)
    return seen('no supply', { note: 'There is no voltage from line to earth here: polarity and continuity come first.' })
  const trips = trippedBy(probes, alive(probes, gentle ? worlds[w.region].lineV / GENTLE_A : LOOP_OHM))
  if (trips.length) return seen('tripped', { note: `${tripWords(trips)} It has read nothing.`, trips })
  if (w.residualUnread && !gentle) return seen('not known', { note: UNREAD })
  const ohm = loopAt(w, d, probes.a.place, probes.a.role)
  if (ohm > 1000) return seen('open circuit', { value: 'open', unit: 'Ω' })
  const value = gentle ? Math.round(ohm * 10) / 10 : ohm
  return seen(`${value.toFixed(gentle ? 1 : 2)} Ω`, {
    value,
    unit: 'Ω',
    note: gentle ? 'With so small a current it reads to a tenth or two: a small loop is measured only roughly.' : null,
  })
}

/** The devices that act on a leak of so much at a place. */
function actsOn(at: At, ma: number): readonly string[] {
  const { w, d, s, a, b } = at
  const leak: Element = {
    id: 'instrument',
    kind: 'impedance',
    a: node(at, a),
    b: node(at, b),
    ohm: worlds[w.region].lineV / (ma / 1000),
    reactanceOhm: 0,
  }
  const standing = standingAfresh(w, d, { ...s, extra: [leak] })
  const ratings = [
    ...(w.rcdMa === null ? [] : [['rcd', w.rcdMa] as const]),
    ...w.outletDevices.map((x) => [`rcd ${x.place}`, x.ma] as const),
  ]
  return ratings.flatMap(([id, rating]) => (standing.residual(id) >= ACTS_AT * rating ? [deviceWords(w, id)] : []))
}
const NOTHING_ACTS = 'Nothing guards this place, or its earth leads nowhere: find which before power stays on.'
function residual(put: At, ramp: boolean): Seen {
  const at = lineToEarth(put)
  const { w } = at
  if (alive(at, null).volts(node(at, at.a), node(at, at.b)) < DETECTED_V)
    return seen('no supply', { note: 'There is no voltage from line to earth here.' })
  if (w.residualUnread) return seen('not known', { note: UNREAD })
  const rating = Math.max(w.rcdMa ?? 0, ...w.outletDevices.map((x) => x.ma), 0) || worlds[w.region].personMa
  if (!ramp) {
    const trips = actsOn(at, rating)
    return trips.length
      ? seen(`${ACTS_MS} ms`, { value: ACTS_MS, unit: 'ms', note: tripWords(trips), trips })
      : seen('does not trip', { note: NOTHING_ACTS })
  }
  for (let ma = RAMP_MA; ma <= 2 * rating; ma += RAMP_MA) {
    const trips = actsOn(at, ma)
    if (trips.length)
      return seen(`${ma} mA`, { value: ma, unit: 'mA', note: `${tripWords(trips)} More than one may go: note which.`, trips })
  }
  return seen('does not trip', { note: NOTHING_ACTS })
}

function torque({ w, d, a }: At): Seen {
  const made = w.cores.flatMap((k) =>
    (['a', 'b'] as const).flatMap((end) => {
      const c = (end === 'a' ? k.from : k.to) === a.place ? conductorOf(k, a.role) : undefined
      if (!c || c[end] === null) return []
      const { at, ohm } = d.ends[coreEnd(k.id, end, c.key)] ?? { at: c[end], ohm: 0 }
      return [{ there: at === c[end], ohm }]
    }),
  )
  if (made.every((m) => !m.there)) return seen('no conductor in it', { note: 'The screw turns on nothing.' })
  if (made.some((m) => m.ohm > 0)) return seen('half a turn, then clicks', { note: 'It was loose: draw the others of this box as well.' })
  return seen('clicks at once', { note: null })
}

interface Kind {
  readonly name: string
  /** Put to two places; the others to one, of which those that read line to earth know the conductors themselves. */
  readonly probes: 'two' | 'one' | 'place'
  /** On a live circuit it is not used. */
  readonly dead: boolean
  readonly show: (at: At) => Seen
}
const kind = (name: string, probes: Kind['probes'], dead: boolean, show: Kind['show']): Kind => ({ name, probes, dead, show })
export const instruments = {
  lamp: kind('Lamp tester', 'two', false, lamp),
  'two-pole': kind('Two-pole tester', 'two', false, (at) => tester(at, TESTER_OHM)),
  'two-pole-loaded': kind('Two-pole tester, button pressed', 'two', false, (at) => tester(at, PRESSED_OHM)),
  multimeter: kind('Multimeter, volts', 'two', false, multimeter),
  ohmmeter: kind('Multimeter, ohms', 'two', true, ohmmeter),
  continuity: kind('Multimeter, buzzer', 'two', true, continuity),
  'insulation-tester': kind('Insulation tester', 'two', true, insulation),
  'non-contact': kind('Non-contact detector', 'one', false, detector),
  clamp: kind('Clamp, around one conductor', 'one', false, (at) => clamp(at, false)),
  'clamp-pair': kind('Clamp, around all that carry current', 'place', false, (at) => clamp(at, true)),
  loop: kind('Loop tester', 'place', false, (at) => loop(at, false)),
  'loop-low': kind('Loop tester, small current', 'place', false, (at) => loop(at, true)),
  'residual-ramp': kind('Residual device tester, rising current', 'place', false, (at) => residual(at, true)),
  'residual-time': kind('Residual device tester, time', 'place', false, (at) => residual(at, false)),
  'torque-driver': kind('Torque driver', 'one', true, torque),
} as const satisfies Readonly<Record<string, Kind>>
export type Instrument = keyof typeof instruments
export const instrumentIds = Object.keys(instruments) as [Instrument, ...Instrument[]]

/** What an instrument shows between two places, or at the first of them. */
export function shownOn(w: Wiring, d: Difference, instrument: Instrument, a: Probe, b: Probe, s: Stands): Seen {
  const { dead, show } = instruments[instrument]
  const at: At = { w, d, a, b, s }
  if (!s.closed) return show(at)
  if (dead) return liveNow
  const trips = alive(at, null)
    .trips()
    .flatMap((t) => (t.cause === 'overload' ? [] : [deviceWords(w, t.id)]))
  return trips.length
    ? seen('it does not stay on', { note: `Switched on, ${trips.join(' and ')} trips at once: find it dead.`, trips })
    : show(at)
}
/** Where probes may be put: the board, and each place of the circuit. */
export const probePlaces = (w: Wiring): readonly { readonly id: string; readonly name: string }[] => [
  { id: BOARD, name: worlds[w.region].words.board },
  ...w.places.map(({ id, name }) => ({ id, name })),
]
/** The conductors that a probe may be put to at a place: those that come there. */
export const conductorsAt = (w: Wiring, place: string): readonly Role[] => w.roles.filter((r) => faceOf(w, asDesigned, place, r) !== null)
