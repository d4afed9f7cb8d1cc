import type { Accessory } from '../catalogue/accessories'
import { fittedAt } from '../design/endings'
import { voltsAt } from '../design/load'
import { listed } from '../base/finding'
import type { CircuitPoint } from '../installation/installation'
import { formatA } from '../base/format'
import { atLeast, atMost } from '../base/tolerance'
import { inRegion } from '../region/spelling'
import { type CircuitFacts, type Rule, aboutPoint } from './engine'
import { worlds } from '../region/worlds'

/** Something a circuit ends on or passes, and the current that goes through it. */
interface Carried {
  readonly fitted: Accessory
  readonly name: string
  readonly amps: number
  readonly point: CircuitPoint | null
}

/** Watts of a point and of all that is on it. */
const beyondW = (points: readonly CircuitPoint[], p: CircuitPoint): number =>
  points.reduce((sum, c) => (c.from === p.id ? sum + beyondW(points, c) : sum), p.watts ?? 0)
/** Watts that go through the contacts of a switch: of what it controls where that was said, else of all that is fed beyond it. */
const throughW = (points: readonly CircuitPoint[], p: CircuitPoint): number =>
  p.controls?.length
    ? points.reduce((sum, c) => (p.controls!.includes(c.id) ? sum + (c.watts ?? 0) : sum), p.watts ?? 0)
    : beyondW(points, p)
const switches = ({ kind, poles }: Accessory): boolean => kind === 'connection-unit' || (kind !== 'outlet' && poles > 0)

/** What goes through each accessory: of a switch all that is fed beyond it. */
function carried(f: CircuitFacts): Carried[] {
  const { circuit, design } = f
  if (circuit.points.length === 0) {
    const fitted = fittedAt(design, null)
    return fitted && f.worked.load ? [{ fitted, name: fitted.name, amps: f.worked.load.nameplateA, point: null }] : []
  }
  if (circuit.load.volts === null) return []
  return circuit.points.flatMap((p) => {
    const fitted = fittedAt(design, p)
    if (!fitted) return []
    const watts = switches(fitted) ? throughW(circuit.points, p) : (p.watts ?? 0) / Math.max(1, p.outlets)
    return [{ fitted, name: p.name, amps: watts / voltsAt(circuit, p), point: p }]
  })
}

/** What a nominal load draws over its rating is within the tolerance of both: 3 kW at 230 V on 13 A. */
export const withinNominal = (ratingA: number, amps: number): boolean => atLeast(ratingA * NOMINAL, amps)
const NOMINAL = 1.01

const alarmClause = {
  'north-america': 'NFPA 72, power supplies; local fire code',
  'united-kingdom': 'BS 5839-6; building regulations',
  'southern-africa': 'local fire code',
}

/** Points upstream of one, nearest first. */
function upstreamOf(points: readonly CircuitPoint[], p: CircuitPoint): CircuitPoint[] {
  const list: CircuitPoint[] = []
  for (let at = p.from; at !== null;) {
    const next = points.find((x) => x.id === at)
    if (!next || list.includes(next)) return list
    list.push(next)
    at = next.from
  }
  return list
}
const isAlarm = (p: CircuitPoint): boolean =>
  p.appliance === 'alarm' || p.mustHold || /\b(smoke|fire|heat|co)\b.*\b(alarm|detector)/i.test(p.name)
const wallSwitch = (f: CircuitFacts, p: CircuitPoint): boolean => {
  const fitted = fittedAt(f.design, p)
  return fitted !== undefined && (fitted.kind === 'switch' || fitted.kind === 'thermostat')
}

/** Rules on what switches, connects and is plugged into. */
export const switchingRules: readonly Rule[] = [
  {
    id: 'accessory-below-load',
    about: 'Switches, pull cords, isolators, thermostats and connection units against what goes through them.',
    clause: {
      'north-america': '404.14; 110.3(B)',
      'united-kingdom': '512.1.2; 536.4.202',
      'southern-africa': 'SANS 10142-1 switching devices, rated current',
    },
    severity: 'error',
    looksAt: [],
    applies: (f) => f.endings.some((e) => switches(e.fitted)),
    raised: (f) => {
      const over = carried(f).filter((c) => switches(c.fitted) && !withinNominal(c.fitted.ratingA, c.amps))
      return over.length
        ? aboutPoint(
            over[0]!.point,
            over
              .map(
                (c) =>
                  `${c.point ? `${c.name}: the` : 'The'} ${c.fitted.name} is rated ${formatA(c.fitted.ratingA)} and ` +
                  `${formatA(c.amps)} go through it. Fit one rated for the ` +
                  `load${c.fitted.kind === 'connection-unit' ? ', or connect it without a fuse through a switch of its rating' : ''}.`,
              )
              .join(' '),
          )
        : null
    },
  },
  {
    id: 'accessory-below-breaker',
    about: 'Switching devices against the breaker upstream of them, where nothing else limits their current.',
    clause: { 'united-kingdom': '536.4.202', 'southern-africa': 'SANS 10142-1 switching devices, protection against overload' },
    severity: 'note',
    looksAt: ['breaker'],
    applies: (f) =>
      f.circuit.kind !== 'ring' &&
      f.endings.some((e) => e.fitted.kind === 'isolator' || e.fitted.kind === 'switch' || e.fitted.kind === 'thermostat'),
    raised: (f) => {
      const over = f.endings.filter(
        (e) => ['isolator', 'switch', 'thermostat'].includes(e.fitted.kind) && !atMost(f.result!.breakerA!, e.fitted.ratingA),
      )
      return over.length
        ? `The ${listed(over.map((e) => e.fitted.name))} ${over.length === 1 ? 'is' : 'are'} rated below the ${f.result!.breakerA} ` +
            'A breaker: only what is connected keeps the current within it. Nothing more may be added beyond it.'
        : null
    },
  },
  {
    id: 'industrial-outlet-below-breaker',
    about: 'Socket-outlets whose plugs have no fuse against their breaker.',
    clause: { 'united-kingdom': '433.1.1; 512.1.2' },
    severity: 'error',
    looksAt: ['breaker'],
    applies: (f) => f.endings.some((e) => e.fitted.outlets > 0 && !e.fitted.shutters),
    raised: (f) => {
      const below = f.endings.filter((e) => e.fitted.outlets > 0 && !e.fitted.shutters && !atLeast(e.fitted.ratingA, f.result!.breakerA!))
      return below.length
        ? `The ${listed(below.map((e) => e.fitted.name))} is on a ${f.result!.breakerA} A breaker, and its plug has no ` +
            `fuse: nothing keeps it within its rating. Fit a breaker of ${below[0]!.fitted.ratingA} A, or the larger socket-outlet.`
        : null
    },
  },
  {
    id: 'poles-not-opened',
    about: 'What isolates fixed equipment opens all the conductors that must be opened.',
    clause: {
      'north-america': '404.20(B); 422.31; 424.20',
      'united-kingdom': '462.2; 537.2',
      'southern-africa': 'SANS 10142-1 disconnecting devices',
    },
    severity: 'warning',
    looksAt: [],
    applies: (f) =>
      f.circuit.load.connection === 'fixed' && f.circuit.load.volts !== null && !f.circuit.load.lighting && f.circuit.kind !== 'feeder',
    raised: (f) => {
      const both = worlds[f.job.region].splitPhase
        ? (f.circuit.load.volts ?? 0) > 150
        : ['heating', 'cooking'].includes(f.circuit.load.nature)
      const one = f.endings.filter((e) => e.fitted.poles === 1)
      if (!both || one.length === 0) return null
      return (
        `The ${listed(one.map((e) => e.fitted.name))} opens one pole, and ` +
        `${worlds[f.job.region].says.leftLive} in what it feeds. Fit one ` +
        'of two poles, or an isolator that opens both ahead of it.'
      )
    },
  },
  {
    id: 'alarm-on-switched-leg',
    about: 'An alarm, or what must not lose power, on the far side of a wall switch.',
    clause: alarmClause,
    severity: 'error',
    looksAt: [],
    applies: (f) => f.circuit.points.some(isAlarm),
    raised: (f) => {
      const cut = f.circuit.points.flatMap((p) => {
        const by = isAlarm(p)
          ? upstreamOf(f.circuit.points, p).find((u) => wallSwitch(f, u) && (!u.controls?.length || u.controls.includes(p.id)))
          : undefined
        return by ? [{ p, by }] : []
      })
      return cut.length
        ? aboutPoint(
            cut[0]!.p,
            cut
              .map(
                ({ p, by }) =>
                  `${p.name} is downstream of ${by.name}, which switches it off. Feed it from the permanent line, before any switch, ` +
                  'and label it so.',
              )
              .join(' '),
          )
        : null
    },
  },
  {
    id: 'aluminium-on-terminals',
    about: 'Aluminium conductors on terminals that are not marked for them.',
    clause: { 'north-america': '110.14; 404.14(C); 406.3(C)' },
    severity: 'error',
    looksAt: [],
    applies: (f) => f.design.conductor === 'aluminium' && f.endings.length > 0,
    raised: (f) => {
      const small = f.endings.filter((e) => e.fitted.ratingA <= 20)
      if (small.length)
        return inRegion(
          f.job.region,
          `The ${listed(small.map((e) => e.fitted.name))} of 20 A or less takes aluminium only where it is marked CO/ALR, and ` +
            'the listed ones here are for copper. Run copper, or fit devices marked for it and say so.',
        )
      return {
        severity: 'unknown',
        message: inRegion(
          f.job.region,
          `Whether the terminals of the ${listed(f.endings.map((e) => e.fitted.name))} are marked for aluminium (AL, AL-CU) is ` +
            'not known. Read the mark on the device before it is connected.',
        ),
      }
    },
  },
]
