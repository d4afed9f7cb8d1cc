import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../evaluate/evaluate'
import type { Circuit, Design, Site } from '../installation/installation'
import type { Installation as Job } from '../installation/installation'
import type { Load } from '../job/load'
import type { runPlaces } from '../job/cable'
import type { RegionId } from '../region/types'
import { newResidualDevice, newWay, type Way } from '../job/board'
import { blankPoint } from '../job/point'
import { rules } from './index'
import { pointRules } from './points'
import { computedRules } from './computed'
import { hazards, rulesDocument } from './list'
import { needsTable } from '../documents/needs-table'
import {
  applyShort as applyEdit,
  type DesignPatch,
  newJob,
  type Placed,
  placed,
  type Short as Edit,
} from '../../../tests/support/shorthand'

const c1 = { circuit: 'c1' } as const
const design = (patch: DesignPatch): Edit => ({ kind: 'design.set', ...c1, design: 'a', patch })
const load = (patch: Partial<Load>): Edit => ({ kind: 'load.set', ...c1, patch })
const circuit = (patch: Partial<Pick<Circuit, 'kind' | 'work' | 'way' | keyof Site>>): Edit => ({ kind: 'circuit.set', ...c1, patch })
const supply = (patch: Partial<Job['supply']>): Edit => ({ kind: 'supply.set', patch })
const brief = (patch: Partial<Omit<Job['brief'], 'fitness'>>): Edit => ({ kind: 'brief.set', patch })
const old = (question: string, answer: 'yes' | 'no'): Edit => ({ kind: 'old.answer', ...c1, question, answer })
const guard = (id: string, ratingA = 63): Edit => ({
  kind: 'residual-device.add',
  item: newResidualDevice(id, `RCD ${id}`, { ratingA, tripMa: 30 }),
})
const behind = (id: string): Edit => ({ kind: 'circuit.set', ...c1, patch: { behind: id } })
const way = (position: number): Edit => ({ kind: 'way.add', way: newWay('w', 'Old', { position, ratingA: 20 }) })

/** A wall switch with a point beyond it. */
const switched = (more: Partial<Placed>, accessory = 'na-switch-1p'): Edit => ({
  kind: 'circuit-point.add',
  ...c1,
  points: [
    placed('s0', 'Switch', { lengthM: 5, watts: 0, outlets: 0, accessory }),
    placed('s1', 'Beyond', { lengthM: 5, watts: 10, outlets: 0, from: 's0', ...more }),
  ],
})
/** A way that was found, the circuit lengthened from it, and what was traced on it. */
const foundWay = (more: Partial<Way>): Edit => ({
  kind: 'way.add',
  way: newWay('found', 'Old sockets', { position: 9, residual: 'own', ...more }),
})
const onFound: Edit = { kind: 'circuit.set', ...c1, patch: { work: 'altered', way: '9' } }
const traced = (watts: number | null, instrument: 'contact' | 'told' = 'contact'): Edit[] => [
  { kind: 'point.add', points: [blankPoint('old-1', 'Kettle', { watts })] },
  {
    kind: 'observation.add',
    items: [
      {
        id: 'o1',
        at: '2026-11-14T10:00:00.000Z',
        instrument,
        withdrawn: false,
        seen: { kind: 'breaker-off', breaker: 'found', dead: ['old-1'] },
      },
    ],
  },
]

/** The circuit on a way that was found, behind what it was found to be behind. */
const onOld = (found: string): Edit => ({
  kind: 'circuit.set',
  ...c1,
  patch: { work: 'altered', way: found === 'none' ? '11' : found === 'own' ? '12' : '13' },
})
const oldWays: Edit[] = [
  ['none', 11],
  ['own', 12],
  ['unknown', 13],
].map(([residual, position]) => ({
  kind: 'way.add',
  way: newWay(`old-${residual}`, `Old ${residual}`, { position: position as number, ratingA: 16, residual: residual as string }),
}))

const outlet: Record<RegionId, string> = {
  'north-america': 'na-duplex-20',
  'united-kingdom': 'uk-socket-13',
  'southern-africa': 'za-socket-16',
}
/** The spaces that somebody saw to be free, or null: not looked at. */
const seenFree = (...free: number[] | [null]): Edit => ({
  kind: 'board.set',
  id: 'main',
  patch: { free: free[0] === null ? null : (free as number[]) },
})
const spaces = (count: number): Edit => ({ kind: 'board.set', id: 'main', patch: { spaces: count } })
const spareAt = (position: number): Edit[] => [{ kind: 'way.add', way: newWay('spare', 'Spare', { position, kind: 'spare' }) }]
/** A circuit that every rule is content with, as far as one circuit can be. */
const base = (region: RegionId): Edit[] => [
  ...oldWays,
  seenFree(5, 7),
  brief({ environment: 'dry', premises: 'workshop' }),
  supply({ zeOhm: 0.3, pscKa: 1, upstream: { kind: 'breaker', ratingA: 100 } }),
  circuit({ place: 'workshop', way: '5', nearWater: false }),
  load({ name: 'x', amount: 1200 }),
  design({
    lengthM: 10,
    accessory: outlet[region],
    breakingKa: 6,
    arcFault: 'board',
    residual: { at: 'board', ma: region === 'north-america' ? 5 : 30, type: 'A' },
    wantedBreakerA: region === 'north-america' ? 20 : 16,
  }),
  behind('own'),
]
type Verdict = 'error' | 'warning' | 'note' | 'unknown'
/** Rule, world, what raises it and how gravely, and what it is silent on. */
type Case = readonly [rule: string, region: RegionId, severity: Verdict, raises: readonly Edit[], quiet: readonly Edit[]]
const na = 'north-america'
const uk = 'united-kingdom'
const za = 'southern-africa'
const hp = (patch: Parameters<typeof load>[0]) =>
  load({ nature: 'motor', basis: 'hp', amount: 2, volts: 240, connection: 'fixed', ...patch })
const shaft = (amount: number) =>
  load({ nature: 'motor', basis: 'kw-shaft', amount, powerFactor: 0.8, efficiency: 0.7, connection: 'fixed' })
const altered = circuit({ work: 'altered' })
/** An outlet of the circuit, and then an old one that is taken out of its box. */
const swapped: Edit[] = [
  { kind: 'circuit-point.add', ...c1, points: [{ id: 'new', name: 'New outlet', lengthM: 8, watts: 300 }] } as Edit,
  { kind: 'point.add', points: [{ ...blankPoint('old', 'Old outlet', { state: 'existing' }), box: 'new' }] } as Edit,
  { kind: 'point.set', id: 'old', patch: { state: 'removed' } },
]
const fcu = design({ accessory: 'uk-fcu', cordA: 13, fuseA: null })
const shared = circuit({ kind: 'shared-neutral', way: '5-7' })
const stops = (legs: readonly NonNullable<Placed['leg']>[]): Edit => ({
  kind: 'circuit-point.add',
  ...c1,
  points: legs.map((leg, i) => placed(`s${i}`, `S${i}`, { lengthM: 5, watts: 1000, leg })),
})

/** Two points on the two lines, of so many watts each. */
const loaded = (...watts: readonly number[]): Edit => ({
  kind: 'circuit-point.add',
  ...c1,
  points: watts.map((w, i) => placed(`s${i}`, `S${i}`, { lengthM: 5, watts: w, leg: i ? 'B' : 'A' })),
})

/** A second point, of its own kind, beside one that is as the circuit says. */
const beside = (patch: Partial<Placed>): Edit => ({
  kind: 'circuit-point.add',
  ...c1,
  points: [placed('s0', 'Plain', { lengthM: 5, watts: 500 }), placed('s1', 'Odd', { lengthM: 5, watts: 500, from: 's0', ...patch })],
})
/** An outlet with a device of its own, and one in a garage beyond it, on its load side or not. */
const gfciAhead = (guardsOn: boolean): Edit => ({
  kind: 'circuit-point.add',
  ...c1,
  points: [
    placed('s0', 'Ahead', { lengthM: 5, watts: 500, accessory: 'na-gfci-20', guardsOn }),
    placed('s1', 'Beyond', { lengthM: 5, watts: 500, from: 's0', place: 'garage' }),
  ],
})
const residual = (at: Design['residual']['at'], more: Partial<Design['residual']> = {}) =>
  design({ residual: { at, ma: 30, type: 'A', ...more } })
/** The first outlet is one that has a device of its own. */
const gfciFirst: Edit = { kind: 'circuit-point.set', ...c1, id: 's0', patch: { accessory: 'na-gfci-20' } }
/** The run in one stretch of a kind. */
const through = (place: (typeof runPlaces)[number], method: string | null = null): Edit =>
  design({ stretches: [{ id: 'g', place, lengthM: 10, ambientC: 30, method, loadedConductors: 2, groupedCircuits: 1, insulationMm: 0 }] })
const light: Edit = { kind: 'circuit-point.set', ...c1, id: 's0', patch: { watts: 300 } }
const dwelling = brief({ premises: 'dwelling' })

/** The circuit on the board at the end of a feeder of some length. */
const onFeeder = (lengthM: number | null): Edit[] => [
  { kind: 'circuit.add', id: 'f', name: 'Feeder', of: 'feeder' },
  { kind: 'load.set', circuit: 'f', patch: { basis: 'amps', amount: 30 } },
  { kind: 'design.set', circuit: 'f', design: 'a', patch: { lengthM } },
  { kind: 'circuit.set', circuit: 'c1', patch: { feeder: 'f' } },
]
/** The circuit as a feeder made for some amperes, with one on its board that draws 10 A. */
const overFeeder = (amps: number, watts: number | null = 2300): Edit[] => [
  circuit({ kind: 'feeder' }),
  load({ basis: 'amps', amount: amps, connection: 'fixed' }),
  design({ accessory: null }),
  { kind: 'circuit.add', id: 'k', name: 'Kettle' },
  { kind: 'load.set', circuit: 'k', patch: { amount: watts } },
  { kind: 'circuit.set', circuit: 'k', patch: { feeder: 'c1' } },
]

const ze = (zeOhm: number): Edit => supply({ zeOhm })
const ofType =
  (breakerType: 'B' | 'C') =>
  (wantedBreakerA: number, minSize: string): Edit =>
    design({ breakerType, wantedBreakerA, minSize, lengthM: 1 })
const [behindB, behindC] = [ofType('B'), ofType('C')]

const attic = (more: { hot: boolean; ambientC: number | null }): Edit => ({
  kind: 'building.set',
  patch: { attic: { headM: 1.5, ...more } },
})

const cases: readonly Case[] = [
  // What switches and connects.
  [
    'accessory-below-load',
    na,
    'error',
    [load({ amount: 2640, connection: 'fixed' }), design({ accessory: 'na-switch-1p', wantedBreakerA: 30 })],
    [load({ amount: 2400, connection: 'fixed' }), design({ accessory: 'na-switch-1p', wantedBreakerA: 30 })],
  ],
  [
    'accessory-below-load',
    uk,
    'error',
    [load({ amount: 2800, connection: 'fixed' }), design({ accessory: 'uk-switch-1p' })],
    [load({ amount: 2300, connection: 'fixed' }), design({ accessory: 'uk-switch-1p' })],
  ],
  [
    'accessory-below-load',
    za,
    'error',
    [load({ amount: 5800, connection: 'fixed' }), design({ accessory: 'za-isolator-20', wantedBreakerA: 32 })],
    [load({ amount: 4600, connection: 'fixed' }), design({ accessory: 'za-isolator-20', wantedBreakerA: 32 })],
  ],
  [
    'accessory-below-breaker',
    za,
    'note',
    [load({ amount: 3000, connection: 'fixed' }), design({ accessory: 'za-isolator-20', wantedBreakerA: 25 })],
    [load({ amount: 3000, connection: 'fixed' }), design({ accessory: 'za-isolator-20', wantedBreakerA: 20 })],
  ],
  [
    'industrial-outlet-below-breaker',
    uk,
    'error',
    [design({ accessory: 'uk-socket-16', wantedBreakerA: 20 })],
    [design({ accessory: 'uk-socket-16', wantedBreakerA: 16 })],
  ],
  [
    'poles-not-opened',
    uk,
    'warning',
    [load({ connection: 'fixed', nature: 'heating' }), design({ accessory: 'uk-switch-1p' })],
    [load({ connection: 'fixed', nature: 'heating' }), design({ accessory: 'uk-dp-20' })],
  ],
  ['alarm-on-switched-leg', na, 'error', [switched({ appliance: 'alarm' })], [switched({})]],
  [
    'alarm-on-switched-leg',
    uk,
    'error',
    [switched({ name: 'Smoke alarm, landing' }, 'uk-switch-1p')],
    [switched({ name: 'Smoke alarm, landing', from: null }, 'uk-switch-1p')],
  ],
  ['alarm-on-switched-leg', za, 'error', [switched({ mustHold: true }, 'za-switch-1p')], [switched({ mustHold: true }, 'za-isolator-20')]],
  ['aluminium-on-terminals', na, 'error', [design({ conductor: 'aluminium' })], []],
  [
    'aluminium-on-terminals',
    na,
    'unknown',
    [load({ volts: 240 }), design({ conductor: 'aluminium', accessory: 'na-30-240' })],
    [load({ volts: 240 }), design({ accessory: 'na-30-240' })],
  ],
  // What is there and stays.
  ['existing-breaker', na, 'error', [foundWay({ ratingA: 30 }), onFound], [foundWay({ ratingA: 20 }), onFound]],
  ['existing-breaker', uk, 'unknown', [foundWay({ ratingA: null }), onFound], [foundWay({ ratingA: 16 }), onFound]],
  ['existing-breaker', uk, 'warning', [foundWay({ ratingA: 20 }), onFound], [foundWay({ ratingA: 16 }), onFound]],
  ['existing-breaker', za, 'error', [foundWay({ ratingA: 4 }), onFound], [foundWay({ ratingA: 16 }), onFound]],
  [
    'way-already-loaded',
    uk,
    'error',
    [foundWay({ ratingA: 16 }), onFound, ...traced(2500)],
    [foundWay({ ratingA: 16 }), onFound, ...traced(2400)],
  ],
  [
    'way-already-loaded',
    za,
    'unknown',
    [foundWay({ ratingA: 16 }), onFound, ...traced(null)],
    [foundWay({ ratingA: 16 }), onFound, ...traced(100)],
  ],
  [
    'way-already-loaded',
    uk,
    'unknown',
    [foundWay({ ratingA: 16 }), onFound, ...traced(100, 'told')],
    [foundWay({ ratingA: 16 }), onFound, ...traced(100)],
  ],
  ['way-already-loaded', na, 'unknown', [foundWay({ ratingA: 20 }), onFound], [foundWay({ ratingA: 20 }), onFound, ...traced(100)]],
  ['existing-cable-not-known', uk, 'unknown', [foundWay({ ratingA: 16 }), onFound], []],
  [
    'breaker-over-main',
    uk,
    'error',
    [{ kind: 'board.set', id: 'main', patch: { mainA: 15 } }],
    [{ kind: 'board.set', id: 'main', patch: { mainA: 16 } }],
  ],
  // How and where the cable lies.
  [
    'method-not-for-cable',
    uk,
    'error',
    [design({ cable: 'singles', method: 'clipped-direct' })],
    [design({ cable: 'singles', method: 'conduit-on-wall' })],
  ],
  ['method-not-for-cable', uk, 'warning', [through('insulation', 'clipped-direct')], [through('surface', 'clipped-direct')]],
  // An attic that was found not to be hot is not asked for again.
  [
    'attic-ambient',
    uk,
    'unknown',
    [through('attic', 'C'), attic({ hot: true, ambientC: null })],
    [through('attic', 'C'), attic({ hot: false, ambientC: 30 })],
  ],
  [
    'attic-ambient',
    za,
    'unknown',
    [through('attic', 'C')],
    [
      design({
        stretches: [
          { id: 'g', place: 'attic', lengthM: 10, ambientC: 35, method: 'C', loadedConductors: 2, groupedCircuits: 1, insulationMm: 0 },
        ],
      }),
    ],
  ],
  ['length-not-known', na, 'unknown', [beside({ lengthM: null })], [beside({})]],
  [
    'length-not-known',
    uk,
    'unknown',
    [circuit({ kind: 'ring' }), beside({ from: null })],
    [circuit({ kind: 'ring' }), beside({ from: null }), { kind: 'run.set', ...c1, patch: { closeM: 4 } }],
  ],
  ['ring-not-usual', za, 'error', [circuit({ kind: 'ring' })], []],
  // 3 kA at the board is 0.0767 Ω: up to it 1.5 mm² serves behind 32 A type B of class 3, and 1.0 mm² behind 6 A; not behind type C.
  ['protective-conductor-too-small', uk, 'error', [ze(0.076), behindB(32, '2.5 mm2')], [ze(0.077), behindB(32, '2.5 mm2')]],
  ['protective-conductor-too-small', uk, 'error', [ze(0.076), behindB(6, '1.5 mm2')], [ze(0.077), behindB(6, '1.5 mm2')]],
  ['protective-conductor-too-small', uk, 'error', [ze(0.2), behindC(6, '1.5 mm2')], [ze(0.2), behindB(6, '1.5 mm2')]],
  ['protective-conductor-too-small', za, 'error', [ze(0.03), behindB(20, '2.5 mm2')], [ze(0.04), behindB(20, '2.5 mm2')]],
  // Over 6 kA the published energy of the class decides: 90,000 A²s asks for 2.6 mm².
  ['protective-conductor-too-small', uk, 'error', [ze(0.03), behindB(32, '6 mm2')], [ze(0.03), behindB(32, '10 mm2')]],
  // Beyond the tables only the maker can say.
  ['protective-conductor-too-small', uk, 'unknown', [ze(0.02), behindB(32, '6 mm2')], [ze(0.03), behindB(32, '10 mm2')]],
  ['protective-conductor-too-small', uk, 'unknown', [ze(0.001), behindB(32, '6 mm2')], [ze(0.5), behindB(32, '6 mm2')]],
  [
    'fuse-not-right',
    uk,
    'error',
    [load({ amount: 500 }), design({ cordA: 3, fuseA: 13 })],
    [load({ amount: 500 }), design({ cordA: 3, fuseA: 3 })],
  ],
  [
    'bathroom-residual-protection',
    za,
    'unknown',
    [circuit({ place: null }), residual('none'), load({ connection: 'fixed' }), design({ accessory: 'za-isolator-20' })],
    [residual('none'), load({ connection: 'fixed' }), design({ accessory: 'za-isolator-20' })],
  ],
  ['voltage-mismatch', na, 'error', [load({ volts: 240 })], [load({ volts: 120 })]],
  ['voltage-mismatch', na, 'error', [beside({ accessory: 'na-20-240' })], [beside({ accessory: 'na-duplex-15' })]],
  [
    'voltage-mismatch',
    na,
    'error',
    [shared, stops(['A', 'AB'])],
    [shared, stops(['A', 'AB']), { kind: 'circuit-point.set', ...c1, id: 's1', patch: { accessory: 'na-20-240' } }],
  ],
  [
    'plug-needs-outlet',
    uk,
    'warning',
    [design({ accessory: 'uk-switch-1p' }), beside({})],
    [design({ accessory: 'uk-switch-1p' }), beside({ accessory: 'uk-socket-13' })],
  ],
  [
    'plug-needs-outlet',
    uk,
    'warning',
    [design({ accessory: 'uk-switch-1p' })],
    [load({ connection: 'fixed' }), design({ accessory: 'uk-switch-1p' })],
  ],
  ['terminal-too-small', na, 'error', [design({ minSize: '6 AWG' })], []],
  ['terminal-too-small', uk, 'error', [beside({ accessory: 'uk-switch-1p', size: '4 mm2' })], [beside({ size: '4 mm2' })]],
  ['receptacle-of-point', na, 'error', [beside({ accessory: 'na-30-240' })], [beside({ accessory: 'na-duplex-15' })]],
  ['loop-not-known', uk, 'unknown', [supply({ zeOhm: null })], []],
  [
    'outlet-larger-than-breaker',
    na,
    'note',
    [load({ volts: 240 }), design({ accessory: 'na-30-240', wantedBreakerA: 15 }), circuit({ way: '5-7' })],
    [load({ volts: 240 }), design({ accessory: 'na-30-240', wantedBreakerA: 30 }), circuit({ way: '5-7' })],
  ],
  ['start-trips', uk, 'warning', [load({ nature: 'motor', startFactor: 12 })], [load({ nature: 'motor', startFactor: 6 })]],
  [
    'start-trips',
    uk,
    'error',
    [load({ nature: 'motor', startFactor: 20 })],
    [load({ nature: 'motor', startFactor: 20 }), design({ breakerType: 'D' })],
  ],
  [
    'start-trips',
    uk,
    'error',
    [load({ nature: 'motor', startFactor: 40 }), beside({})],
    [load({ nature: 'motor', startFactor: 6 }), beside({})],
  ],
  // At the lower end of the band of a B 16 A, 48 A, it may trip; at its upper end, 80 A, it does.
  [
    'start-trips',
    uk,
    'warning',
    [load({ basis: 'amps', amount: 6, nature: 'motor', startFactor: 8 })],
    [load({ basis: 'amps', amount: 6, nature: 'motor', startFactor: 7.99 })],
  ],
  [
    'start-trips',
    uk,
    'error',
    [load({ basis: 'amps', amount: 8, nature: 'motor', startFactor: 10 })],
    [load({ basis: 'amps', amount: 8, nature: 'motor', startFactor: 5.9 })],
  ],
  [
    'start-trips',
    uk,
    'warning',
    [load({ basis: 'amps', amount: 8, nature: 'motor', startFactor: 9.99 })],
    [load({ basis: 'amps', amount: 8, nature: 'motor', startFactor: 5.99 })],
  ],
  // Three times 100 A: what may reach the device upstream as well.
  ['selectivity', uk, 'note', [supply({ pscKa: 0.3 })], [supply({ pscKa: 0.299 })]],
  [
    'selectivity',
    uk,
    'warning',
    [supply({ upstream: { kind: 'breaker', ratingA: 16 }, pscKa: 0.04 })],
    [supply({ upstream: { kind: 'breaker', ratingA: 20 }, pscKa: 0.04 })],
  ],
  ['shared-neutral-overloaded', na, 'warning', [shared, loaded(1000, 199)], [shared, loaded(1000, 200)]],
  [
    'socket-residual-protection',
    uk,
    'error',
    [design({ accessory: 'uk-socket-32' }), residual('none')],
    [design({ accessory: 'uk-socket-32' })],
  ],
  [
    'industrial-outlet-below-breaker',
    uk,
    'error',
    [beside({ accessory: 'uk-socket-16' }), design({ wantedBreakerA: 20 })],
    [beside({ accessory: 'uk-socket-16' }), design({ wantedBreakerA: 16 })],
  ],
  ['residual-device-overloaded', uk, 'error', [guard('g', 10), behind('g')], [guard('g', 16), behind('g')]],
  ['motor-current-not-known', uk, 'unknown', [load({ nature: 'motor' })], [load({ nature: 'motor', powerFactor: 0.8 })]],
  ['motor-current-not-known', na, 'unknown', [load({ nature: 'motor' })], [load({ nature: 'motor', basis: 'amps', amount: 9 })]],
  ['motor-overload', na, 'unknown', [hp({})], [hp({ overload: 'built-in' })]],
  ['motor-overload', na, 'unknown', [hp({ overload: 'separate' })], [hp({ overload: 'built-in' })]],
  ['motor-overload', na, 'note', [hp({ overload: 'separate', plateA: 11 })], [hp({ overload: 'built-in', plateA: 11 })]],
  // One horsepower, started by hand, may go without; above that none may.
  ['motor-overload', na, 'warning', [hp({ overload: 'none', amount: 1 })], [hp({ overload: 'built-in', amount: 1 })]],
  ['motor-overload', na, 'error', [hp({ overload: 'none', amount: 1.5 })], [hp({ overload: 'none', amount: 1 })]],
  ['motor-overload', uk, 'unknown', [shaft(0.38)], [shaft(0.37)]],
  ['duty-not-known', na, 'unknown', [load({ nature: 'duty' })], [load({ nature: 'duty', duty: 0.3 })]],
  ['fuse-not-right', uk, 'unknown', [fcu], [fcu, design({ fuseA: 13 })]],
  ['fuse-not-right', uk, 'error', [fcu, design({ fuseA: 3 })], [fcu, load({ amount: 500 }), design({ fuseA: 3 })]],
  ['fuse-not-right', uk, 'note', [fcu, load({ amount: 500 }), design({ fuseA: 13 })], [fcu, design({ fuseA: 13 })]],
  ['fuse-not-right', uk, 'unknown', [beside({ accessory: 'uk-fcu' })], [beside({ accessory: 'uk-fcu', fuseA: 3 })]],
  ['fuse-not-right', uk, 'error', [beside({ fuseA: 3, watts: 1200 })], [beside({ fuseA: 3 })]],
  ['fuse-not-right', uk, 'note', [beside({ accessory: 'uk-fcu', fuseA: 13 })], [beside({ fuseA: 13 })]],
  ['fuse-not-right', za, 'error', [beside({ fuseA: 6, watts: 2000 })], [beside({ fuseA: 10, watts: 2000 })]],
  [
    'cord-not-known',
    na,
    'unknown',
    [load({ kind: 'kiln', connection: 'plug', amount: 5000, volts: 240 }), design({ accessory: 'na-30-240', cordA: null })],
    [load({ kind: 'kiln', connection: 'plug', amount: 5000, volts: 240 }), design({ accessory: 'na-30-240', cordA: 30 })],
  ],
  [
    'cord-not-known',
    na,
    'unknown',
    [load({ kind: 'kiln', connection: 'plug', amount: 1200 }), design({ wantedBreakerA: 25 })],
    [load({ kind: 'kiln', connection: 'plug', amount: 1200 }), design({ wantedBreakerA: 20 })],
  ],
  [
    'extension-as-wiring',
    uk,
    'error',
    [design({ extension: { ratingA: 3, lengthM: 5, size: '1.5 mm2' } })],
    [design({ extension: { ratingA: 13, lengthM: 5, size: '1.5 mm2' } })],
  ],
  [
    'extension-as-wiring',
    na,
    'warning',
    [design({ extension: { ratingA: 13, lengthM: 60, size: '14 AWG' } })],
    [design({ extension: { ratingA: 13, lengthM: 5, size: '14 AWG' } })],
  ],
  ['shared-neutral-tie', na, 'error', [shared, stops(['A', 'B']), circuit({ way: '5-6' })], [shared, stops(['A', 'B'])]],
  ['shared-neutral-overloaded', na, 'warning', [shared, stops(['A', 'A'])], [shared, stops(['A', 'B'])]],
  ['feeder-four-wire', na, 'note', [circuit({ kind: 'feeder' })], []],
  ['total-drop', uk, 'error', [...onFeeder(135), design({ lengthM: 60 })], [...onFeeder(60), design({ lengthM: 30 })]],
  ['total-drop', za, 'unknown', onFeeder(null), onFeeder(10)],
  ['feeder-load', uk, 'warning', overFeeder(9), overFeeder(11)],
  ['feeder-load', uk, 'unknown', overFeeder(11, null), overFeeder(11)],
  [
    'beyond-scope',
    na,
    'unknown',
    [load({ basis: 'amps', amount: 110, connection: 'fixed' }), design({ accessory: null, cable: 'thwn-2', terminalC: 75 })],
    [],
  ],
  [
    'residual-protection-needed',
    na,
    'error',
    [circuit({ place: 'kitchen' }), design({ residual: { at: 'none', ma: 5, type: 'A' } })],
    [design({ residual: { at: 'none', ma: 5, type: 'A' } })],
  ],
  ['residual-protection-needed', na, 'unknown', [circuit({ place: null }), residual('none')], [circuit({ place: null })]],
  [
    'residual-protection-needed',
    na,
    'unknown',
    [circuit({ place: 'bedroom', nearWater: null }), residual('none')],
    [circuit({ place: 'bedroom' }), residual('none')],
  ],
  ['residual-protection-needed', na, 'warning', [residual('none')], [circuit({ place: 'bedroom' }), residual('none')]],
  [
    'residual-protection-needed',
    na,
    'error',
    [circuit({ place: 'bedroom' }), residual('none'), beside({ nearWater: true })],
    [circuit({ place: 'bedroom' }), residual('none'), beside({})],
  ],
  [
    'residual-protection-needed',
    na,
    'error',
    [circuit({ place: 'bedroom' }), residual('none'), beside({ place: 'garage' })],
    [circuit({ place: 'bedroom' }), residual('none'), beside({ place: 'garage', outlets: 0 })],
  ],
  [
    'residual-protection-needed',
    na,
    'error',
    [circuit({ place: 'bedroom' }), residual('first'), beside({ place: 'garage', from: null }), gfciFirst],
    [circuit({ place: 'bedroom' }), residual('first'), beside({ place: 'garage' }), gfciFirst],
  ],
  [
    'residual-protection-needed',
    na,
    'error',
    [circuit({ place: 'bedroom' }), residual('none'), gfciAhead(false)],
    [circuit({ place: 'bedroom' }), residual('none'), gfciAhead(true)],
  ],
  [
    'appliance-residual-protection',
    na,
    'error',
    [residual('none'), beside({ appliance: 'sump-pump' })],
    [residual('none'), beside({ appliance: 'pottery-wheel' })],
  ],
  [
    'appliance-residual-protection',
    na,
    'error',
    [residual('none'), load({ kind: 'dishwasher', connection: 'fixed' })],
    [load({ kind: 'dishwasher', connection: 'fixed' })],
  ],
  ['socket-residual-protection', za, 'error', [design({ residual: { at: 'none', ma: 30, type: 'A' } })], []],
  [
    'lighting-residual-protection',
    uk,
    'error',
    [
      load({ lighting: true }),
      brief({ premises: 'dwelling' }),
      design({ residual: { at: 'none', ma: 30, type: 'A' }, accessory: 'uk-switch-1p' }),
    ],
    [load({ lighting: true }), design({ residual: { at: 'none', ma: 30, type: 'A' }, accessory: 'uk-switch-1p' })],
  ],
  [
    'bathroom-residual-protection',
    uk,
    'error',
    [circuit({ place: 'bathroom' }), residual('none'), design({ accessory: 'uk-fcu', fuseA: 13 })],
    [circuit({ place: 'bathroom' }), design({ accessory: 'uk-fcu', fuseA: 13 })],
  ],
  [
    'bathroom-residual-protection',
    za,
    'error',
    [residual('none'), beside({ place: 'bathroom', outlets: 0 })],
    [residual('none'), beside({ outlets: 0 })],
  ],
  ['residual-type', uk, 'unknown', [residual('board', { type: null })], [residual('board')]],
  [
    'residual-type',
    uk,
    'error',
    [residual('board', { type: 'AC' })],
    [residual('board', { type: 'AC' }), load({ nature: 'heating', connection: 'fixed' }), design({ accessory: 'uk-fcu' })],
  ],
  // Where it is in old work, plain heating draws no direct current; what is put in, and electronics, ask for type A all the same.
  [
    'residual-type',
    uk,
    'note',
    [residual('board', { type: 'AC' }), load({ nature: 'heating' }), circuit({ work: 'altered' })],
    [residual('board', { type: 'AC' }), load({ nature: 'electronic' }), circuit({ work: 'altered' })],
  ],
  [
    'residual-type',
    uk,
    'error',
    [residual('board', { type: 'AC' }), load({ nature: 'heating' })],
    [residual('board', { type: 'AC' }), load({ nature: 'heating' }), circuit({ work: 'altered' })],
  ],
  [
    'residual-type',
    za,
    'warning',
    [beside({ appliance: 'split-unit' })],
    [beside({ appliance: 'split-unit' }), residual('board', { type: 'F' })],
  ],
  [
    'residual-type',
    uk,
    'error',
    [beside({ appliance: 'washing-machine' }), residual('board', { type: 'AC' })],
    [beside({ appliance: 'washing-machine' })],
  ],
  [
    'residual-type',
    uk,
    'warning',
    [beside({ appliance: 'vehicle-charger' })],
    [beside({ appliance: 'vehicle-charger' }), residual('board', { type: 'B' })],
  ],
  ['cable-not-for-place', na, 'error', [through('buried')], [through('attic')]],
  [
    'cable-not-for-place',
    na,
    'error',
    [design({ cable: 'mc-thhn' }), through('outdoors')],
    [design({ cable: 'thwn-2' }), through('outdoors')],
  ],
  [
    'cable-not-for-place',
    na,
    'warning',
    [circuit({ environment: 'damp' })],
    [circuit({ environment: 'damp' }), design({ cable: 'mc-thhn' })],
  ],
  ['cable-not-for-place', na, 'warning', [beside({ environment: 'wet' })], [beside({ environment: 'dry' })]],
  ['cable-not-for-place', uk, 'error', [through('buried')], [through('surface')]],
  ['cable-not-for-place', za, 'warning', [through('outdoors')], [design({ cable: 'singles', method: 'B1' }), through('outdoors', 'B1')]],
  ['concealed-cable', uk, 'warning', [residual('outlet'), through('wall')], [through('wall')]],
  ['concealed-cable', uk, 'warning', [residual('none'), design({ method: 'stud-wall-insulated-touching' })], [residual('none')]],
  [
    'concealed-cable',
    uk,
    'warning',
    [residual('board', { ma: 100 }), through('wall')],
    [residual('board', { ma: 100 }), through('surface')],
  ],
  [
    'room-circuit-rating',
    na,
    'error',
    [dwelling, circuit({ place: 'bathroom' }), design({ accessory: 'na-duplex-15', wantedBreakerA: 15 })],
    [dwelling, circuit({ place: 'bathroom' })],
  ],
  [
    'room-circuit-rating',
    na,
    'warning',
    [dwelling, circuit({ place: 'kitchen', work: 'altered' }), design({ accessory: 'na-duplex-15', wantedBreakerA: 15 })],
    [
      dwelling,
      circuit({ place: 'kitchen', work: 'altered' }),
      load({ kind: 'refrigerator' }),
      design({ accessory: 'na-single-15', wantedBreakerA: 15 }),
    ],
  ],
  ['room-circuit-rating', na, 'unknown', [brief({ premises: null }), circuit({ place: 'laundry' })], [circuit({ place: 'laundry' })]],
  [
    'room-circuit-alone',
    na,
    'warning',
    [dwelling, circuit({ place: 'kitchen' }), beside({ place: 'hall' })],
    [dwelling, circuit({ place: 'kitchen' }), beside({})],
  ],
  [
    'room-circuit-alone',
    na,
    'warning',
    [dwelling, circuit({ place: 'hall' }), beside({ place: 'laundry' })],
    [circuit({ place: 'hall' }), beside({ place: 'laundry' })],
  ],
  [
    'room-circuit-alone',
    na,
    'unknown',
    [brief({ premises: null }), circuit({ place: 'kitchen' }), beside({})],
    [brief({ premises: null }), circuit({ place: 'hall' }), beside({})],
  ],
  ['share-of-circuit', na, 'error', [beside({ watts: 1930 }), light], [beside({ watts: 1910 }), light]],
  ['share-of-circuit', na, 'error', [beside({ outlets: 0, watts: 1210 })], [beside({ outlets: 0, watts: 1190 })]],
  [
    'lampholders-on-breaker',
    uk,
    'error',
    [load({ lighting: true, connection: 'fixed', amount: 400 }), design({ accessory: 'uk-switch-1p', wantedBreakerA: 20 })],
    [load({ lighting: true, connection: 'fixed', amount: 400 }), design({ accessory: 'uk-switch-1p', wantedBreakerA: 16 })],
  ],
  [
    'fixed-load-on-ring',
    uk,
    'warning',
    [circuit({ kind: 'ring' }), beside({ outlets: 0, watts: 2100, from: null })],
    [circuit({ kind: 'ring' }), beside({ watts: 2100, from: null })],
  ],
  [
    'fixed-load-on-ring',
    uk,
    'warning',
    [circuit({ kind: 'ring' }), beside({ appliance: 'water-heater-storage', from: null })],
    [beside({ appliance: 'water-heater-storage', from: null })],
  ],
  [
    'tt-needs-residual-device',
    uk,
    'error',
    [supply({ earthing: 'tt' }), design({ residual: { at: 'outlet', ma: 30, type: 'A' } })],
    [supply({ earthing: 'tt' })],
  ],
  [
    'arc-fault-protection',
    na,
    'error',
    [brief({ premises: 'dwelling' }), circuit({ place: 'bedroom' }), design({ arcFault: 'none' })],
    [design({ arcFault: 'none' })],
  ],
  ['arc-fault-protection', na, 'unknown', [dwelling, circuit({ place: null }), design({ arcFault: 'none' })], [circuit({ place: null })]],
  [
    'arc-fault-protection',
    na,
    'error',
    [dwelling, design({ arcFault: 'outlet', fitted: ['tamper'] }), beside({ place: 'bedroom', from: null })],
    [dwelling, design({ arcFault: 'outlet', fitted: ['tamper'] }), beside({ place: 'bedroom' })],
  ],
  ['tamper-resistant', na, 'error', [brief({ premises: 'dwelling' })], [brief({ premises: 'dwelling' }), design({ fitted: ['tamper'] })]],
  [
    'tamper-resistant',
    na,
    'error',
    [dwelling, design({ fitted: ['tamper'] }), beside({ fitted: [] })],
    [dwelling, design({ fitted: ['tamper'] }), beside({ fitted: [], outOfReach: true })],
  ],
  ['tamper-resistant', na, 'warning', [brief({ premises: 'hall' })], [brief({ premises: 'hall' }), circuit({ outOfReach: true })]],
  ['shuttered-outlet', uk, 'warning', [dwelling, design({ accessory: 'uk-socket-16' })], [dwelling]],
  ['socket-near-bath', uk, 'error', [beside({ place: 'bathroom', nearWater: true })], [beside({ place: 'bathroom', nearWater: false })]],
  ['socket-near-bath', za, 'unknown', [circuit({ place: 'bathroom', nearWater: null })], [circuit({ nearWater: null })]],
  ['weather-resistant', na, 'error', [beside({ environment: 'outdoors' })], [beside({ environment: 'outdoors', fitted: ['weather'] })]],
  [
    'weather-resistant',
    na,
    'warning',
    [beside({ environment: 'damp' })],
    [
      brief({ environment: 'damp' }),
      beside({ environment: 'dry', fitted: [] }),
      { kind: 'circuit-point.set', ...c1, id: 's0', patch: { environment: 'dry' } },
    ],
  ],
  [
    'weather-resistant',
    za,
    'note',
    [circuit({ environment: 'damp' })],
    [circuit({ environment: 'damp' }), design({ fitted: ['weather'] })],
  ],
  ['weather-resistant', za, 'unknown', [brief({ environment: null })], [brief({ environment: null }), circuit({ environment: 'dry' })]],
  [
    'weather-resistant',
    uk,
    'error',
    [brief({ environment: 'outdoors' })],
    [brief({ environment: 'outdoors' }), design({ fitted: ['weather'] })],
  ],
  [
    'surge-protection',
    uk,
    'note',
    [load({ nature: 'electronic', startFactor: 1 })],
    [load({ nature: 'electronic', startFactor: 1 }), design({ fitted: ['surge'] })],
  ],
  ['breaking-capacity', za, 'error', [supply({ pscKa: 8 })], []],
  ['breaking-capacity', za, 'unknown', [supply({ pscKa: null })], []],
  ['selectivity', uk, 'warning', [supply({ upstream: { kind: 'breaker', ratingA: 16 } })], [supply({ pscKa: 0.2 })]],
  ['selectivity', uk, 'unknown', [supply({ upstream: { kind: 'fuse', ratingA: 100 } })], [supply({ pscKa: 0.2 })]],
  [
    'selectivity',
    uk,
    'note',
    [supply({ upstream: { kind: 'fuse', ratingA: 100 } }), design({ selectiveKa: 0.8 })],
    [supply({ upstream: { kind: 'fuse', ratingA: 100 } }), design({ selectiveKa: 1 })],
  ],
  ['neutral-bar', uk, 'note', [guard('g1'), behind('g1')], [residual('none')]],
  ['neutral-bar', za, 'note', [], [guard('g1'), guard('g2'), behind('unknown')]],
  ['residual-device-not-said', uk, 'unknown', [behind('unknown')], []],
  ['residual-device-not-said', za, 'unknown', [guard('g1', 40), behind('unknown')], [guard('g1', 40), behind('g1')]],
  // What was found behind nothing is not protected by what somebody meant.
  ['residual-device-not-said', za, 'error', [onOld('none')], [onOld('own')]],
  ['residual-device-not-said', na, 'unknown', [onOld('unknown')], [behind('unknown')]],
  [
    'residual-device-overloaded',
    uk,
    'unknown',
    [{ kind: 'residual-device.add', item: newResidualDevice('g1', 'RCD', { tripMa: 30 }) }, behind('g1')],
    [guard('g1'), behind('g1')],
  ],
  [
    'socket-residual-protection',
    za,
    'unknown',
    [{ kind: 'residual-device.add', item: newResidualDevice('g1', 'RCD', { ratingA: 63 }) }, behind('g1')],
    [guard('g1'), behind('g1')],
  ],
  [
    'residual-rating-differs',
    uk,
    'error',
    [guard('g1'), behind('g1'), residual('board', { ma: 100 })],
    [guard('g1'), residual('board', { ma: 100 }), behind('g1')],
  ],
  [
    'residual-device-overloaded',
    uk,
    'error',
    [guard('g1', 25), behind('g1'), design({ wantedBreakerA: 32 })],
    [guard('g1', 40), behind('g1'), design({ wantedBreakerA: 32 })],
  ],
  [
    'cooking-ahead-of-residual',
    uk,
    'warning',
    [load({ nature: 'cooking' }), design({ residual: { at: 'none', ma: 30, type: 'A' } })],
    [load({ nature: 'cooking' })],
  ],
  [
    'first-outlet-guards',
    uk,
    'note',
    [design({ residual: { at: 'first', ma: 30, type: 'A' }, accessories: 3 })],
    [design({ accessories: 3 })],
  ],
  ['first-outlet-guards', na, 'note', [gfciAhead(true)], [gfciAhead(false)]],
  ['first-outlet-guards', na, 'warning', [shared, residual('first'), stops(['A', 'B'])], [shared, residual('outlet'), stops(['A', 'B'])]],
  [
    'residual-protection-needed',
    na,
    'error',
    [shared, circuit({ place: 'garage' }), residual('first'), stops(['A', 'B'])],
    [shared, circuit({ place: 'garage' }), residual('outlet'), design({ accessory: 'na-gfci-20' }), stops(['A', 'B'])],
  ],
  [
    'first-outlet-guards',
    uk,
    'warning',
    [circuit({ kind: 'ring' }), residual('first'), beside({ from: null })],
    [residual('first'), beside({})],
  ],
  ['first-outlet-guards', uk, 'warning', [design({ residual: { at: 'first', ma: 30, type: 'A' } })], []],
  [
    'two-pole-space',
    na,
    'error',
    [load({ volts: 240 }), design({ accessory: 'na-20-240' })],
    [load({ volts: 240 }), design({ accessory: 'na-20-240' }), circuit({ way: '5-7' })],
  ],
  ['way-taken', uk, 'error', [way(5)], [way(4)]],
  ['way-taken', na, 'unknown', [seenFree(4, 7)], [seenFree(5)]],
  ['way-taken', na, 'unknown', [circuit({ way: '5-7' }), seenFree(5)], [circuit({ way: '5-7' }), seenFree(5, 7)]],
  ['way-taken', za, 'unknown', [seenFree(null)], [seenFree(null), ...spareAt(5)]],
  ['way-taken', uk, 'error', [seenFree(5), spaces(4)], [seenFree(5), spaces(5)]],
  [
    'old-work-not-known',
    uk,
    'unknown',
    [altered],
    [altered, ...['no-earth', 'rubber', 'aluminium', 'old-colours', 'borrowed'].map((q) => old(q, 'no'))],
  ],
  ['old-no-earth', za, 'error', [altered, old('no-earth', 'yes')], [altered, old('no-earth', 'no')]],
  ['replacement-outlet', na, 'note', swapped, swapped.slice(0, 1)],
  ['old-three-wire', na, 'error', [altered, old('three-wire', 'yes')], [altered, old('three-wire', 'no')]],
  ['old-rubber', uk, 'error', [altered, old('rubber', 'yes')], [altered, old('rubber', 'no')]],
  ['old-aluminium', na, 'error', [altered, old('aluminium', 'yes')], [altered, old('aluminium', 'no')]],
  ['old-colours', uk, 'note', [altered, old('old-colours', 'yes')], [altered, old('old-colours', 'no')]],
  ['old-borrowed-neutral', za, 'error', [altered, old('borrowed', 'yes')], [old('borrowed', 'yes')]],
]

const findingsAfter = (region: RegionId, edits: readonly Edit[]) =>
  evaluate(
    [...base(region), ...edits].reduce((job, e) => applyEdit(job, e).job, newJob(region, 'x', '')),
    [],
  ).circuits[0]!.chosen.findings

describe('each rule', () => {
  it.each(cases.map((c) => [`${c[0]}, ${c[1]}, ${c[2]}`, c] as const))(
    '%s is raised by what raises it and by nothing near it',
    (_, [rule, region, severity, raises, quiet]) => {
      const found = findingsAfter(region, raises).find((f) => f.rule === rule)
      expect(found).toMatchObject({ severity })
      expect(found!.clause.length).toBeGreaterThan(2)
      expect(found!.message).not.toMatch(/NaN|undefined|null/)
      expect(findingsAfter(region, quiet).filter((f) => f.rule === rule && f.severity === severity)).toEqual([])
    },
  )

  it('has such a case', () => {
    expect([...rules, ...pointRules].map((r) => r.id).filter((id) => !cases.some(([rule]) => rule === id))).toEqual([])
  })

  it('is content with a plain circuit of which everything is known', () => {
    for (const region of [na, uk, za] as const) expect(findingsAfter(region, []).filter((f) => f.severity !== 'note')).toEqual([])
  })

  it('says unknown, and never nothing, while a fact it looks at is missing', () => {
    for (const region of [na, uk, za] as const) {
      const bare = evaluate(
        [load({ name: 'x', amount: 600 }), design({ lengthM: 10, accessory: outlet[region] })].reduce(
          (job, e) => applyEdit(job, e).job,
          newJob(region, 'x', ''),
        ),
        [],
      ).circuits[0]!.chosen.findings
      for (const rule of ['breaking-capacity', 'selectivity'])
        expect(bare.find((f) => f.rule === rule)).toMatchObject({ severity: 'unknown' })
    }
  })
})

describe('a rule on points', () => {
  const odd = (region: RegionId, rule: string, ...edits: Edit[]) =>
    findingsAfter(region, edits)
      .filter((f) => f.rule === rule)
      .map((f) => f.message)
  it('names the points it means, and none where it means them all', () => {
    expect(odd(na, 'weather-resistant', beside({ environment: 'wet' }))).toEqual([expect.stringMatching(/^Odd: In a wet place/)])
    expect(odd(na, 'weather-resistant', brief({ environment: 'wet' }), beside({}))).toEqual([expect.stringMatching(/^In a wet place/)])
  })
  it('calls a place by how wet it is, and else by its room', () => {
    const gfci = (patch: Partial<Placed>) => odd(na, 'residual-protection-needed', dwelling, residual('none'), beside(patch)).join()
    expect(gfci({ environment: 'damp', place: 'hall' })).toContain('An outlet in a damp place needs')
    expect(gfci({ environment: 'wet', place: 'hall' })).toContain('An outlet in a wet place needs')
    expect(gfci({ environment: 'dry', place: 'kitchen' })).toContain('An outlet in a kitchen needs')
  })
  it('says two things of two points where they differ', () => {
    expect(odd(na, 'weather-resistant', brief({ environment: 'damp' }), beside({ environment: 'outdoors' })).toSorted()).toEqual([
      expect.stringMatching(/^Odd: In a wet place or outdoors/),
      expect.stringMatching(/^Plain: In a damp place/),
    ])
  })
  it('never asks less of a point for what is said of another', () => {
    const states: Partial<Placed>[] = [
      {},
      { environment: 'wet' },
      { nearWater: true },
      { place: 'kitchen' },
      { outOfReach: true },
      { appliance: 'sump-pump' },
    ]
    for (const a of states)
      for (const b of states) {
        const both = findingsAfter(na, [dwelling, residual('none'), beside(a), { kind: 'circuit-point.set', ...c1, id: 's0', patch: b }])
        const one = findingsAfter(na, [dwelling, residual('none'), beside(a), { kind: 'circuit-point.remove', ...c1, id: 's0' }])
        const asked = (list: typeof both) =>
          new Set(list.filter((f) => pointRules.some((r) => r.id === f.rule)).map((f) => `${f.rule} ${f.severity}`))
        expect([...asked(one)].filter((k) => !asked(both).has(k))).toEqual([])
      }
  })
})

describe('the table of what each point needs', () => {
  const tableOf = (region: RegionId, ...edits: Edit[]) => {
    const job = [...base(region), ...edits].reduce((j, e) => applyEdit(j, e).job, newJob(region, 'x', ''))
    const report = evaluate(job, []).circuits[0]!
    return needsTable(job, report.circuit, report.chosen)
  }
  it('has a line for each point and a column for each type', () => {
    expect(
      tableOf(
        na,
        dwelling,
        residual('first'),
        design({ arcFault: 'none' }),
        beside({ place: 'garage', environment: 'outdoors', from: null }),
        gfciFirst,
      ),
    ).toEqual({
      columns: ['Point', 'GFCI', 'AFCI', 'Tamper', 'Weather'],
      rows: [
        ['Plain', 'in the outlet', 'not asked', 'needed', 'not asked'],
        ['Odd', 'needed', 'not asked', 'needed', 'needed'],
      ],
      clauses: ['GFCI: 210.8(A), (B)', 'AFCI: 210.12(B)', 'Tamper: 406.12', 'Weather: 406.9(A), (B); 406.9(B)(1)'],
    })
  })
  it('names the circuit where it has no points, and says what is not known', () => {
    expect(tableOf(uk, residual('board', { type: null }), load({ name: 'x' })).rows).toEqual([
      [expect.any(String), 'at the board', 'not known', 'at the board', 'by its standard', 'not asked'],
    ])
  })
})

it('docs/rules.md is what the rules say', () => {
  expect(readFileSync('docs/rules.md', 'utf8')).toBe(rulesDocument())
})

describe('kinds of hazard', () => {
  it('each have rules that exist, and are all in the document', () => {
    const known = new Set([...rules.map((r) => r.id), ...pointRules.map((r) => r.id), ...computedRules.map(([id]) => id)])
    expect(hazards.length).toBe(9)
    for (const [kind, ids] of hazards) {
      expect(ids.length, kind).toBeGreaterThan(1)
      expect(ids.filter((id) => !known.has(id))).toEqual([])
    }
    for (const [kind] of hazards) expect(rulesDocument()).toContain(kind)
  })
})
