import type { Edit } from './job/edits'
import type { Reading } from './job/schema'
import type { RegionId } from './region/types'
import { newPoint, newWay, type SurveyPoint, type Way } from './survey/schema'

interface DemoJob {
  readonly id: string
  readonly region: RegionId
  readonly title: string
  readonly place: string
  readonly by: string
  readonly start: string
  readonly edits: readonly Edit[]
  readonly readings: readonly (Pick<Reading, 'circuit' | 'test' | 'value' | 'mark' | 'unit'> & Partial<Reading>)[]
}

const way = (id: string, label: string, ratingA: number, more: Partial<Way> = {}): Edit => ({ kind: 'way.add', way: newWay(id, label, { ratingA, ...more }) })
const point = (id: string, name: string, room: string, kind: SurveyPoint['kind'], watts: number | null, more: Partial<SurveyPoint> = {}) => newPoint(id, name, { room, kind, watts, ...more })
const off = (id: string, breaker: string, dead: string[], at: string): Edit => ({ kind: 'sighting.add', sightings: [{ id, at, instrument: 'contact', withdrawn: false, seen: { kind: 'breaker-off', breaker, dead } }] })
const parted = (id: string, at: string, where: string, dead: string[], onward: number): Edit => ({
  kind: 'sighting.add',
  sightings: [
    { id, at, instrument: 'contact', withdrawn: false, seen: { kind: 'disconnected', point: where, dead } },
    { id: `${id}-c`, at, instrument: 'contact', withdrawn: false, seen: { kind: 'cables', point: where, onward } },
  ],
})
const c1 = { circuit: 'c1' } as const
const design = (patch: Extract<Edit, { kind: 'design.set' }>['patch'], id = 'a'): Edit => ({ kind: 'design.set', ...c1, design: id, patch })
const fitness = (answers: Record<string, 'yes' | 'no' | 'unknown'>): Edit[] => Object.entries(answers).map(([question, answer]) => ({ kind: 'fitness.answer', question, answer }))
const fit = { permitted: 'yes', isolation: 'yes', board: 'yes', earth: 'yes', aluminium: 'no', service: 'no', unexplained: 'no' } as const

/** A kiln for a pottery: two designs laid side by side, an outlet rated below its breaker. Stands at the circuit. */
const dairy: DemoJob = {
  id: 'former-dairy',
  region: 'north-america',
  title: 'Kiln and wheel room',
  place: 'The former dairy, cold side',
  by: 'Apprentice',
  start: '2026-11-16T13:00:00.000Z',
  edits: [
    { kind: 'brief.set', patch: { request: 'Power for the new kiln where the milk tank stood, and somewhere to plug the wheel in.', askedBy: 'The potter', through: 'the farm manager' } },
    { kind: 'brief.set', patch: { existing: 'One 120 V lighting circuit, surface raceway, labels not trusted.', finish: 'Surface raceway, neat, nothing on the tiled wall.', later: 'A second kiln. Leave room in the panel and in the raceway.', environment: 'damp' } },
    ...fitness({ ...fit, unexplained: 'unknown' }),
    { kind: 'supply.set', patch: { board: 'Barn panel' } },
    way('w1', '1 Yard', 15),
    way('w2', '3 Milk room', 20),
    way('w3', '5 Loft?', 15),
    way('w4', '7 unmarked', 20),
    {
      kind: 'point.add',
      points: [
        point('p1', 'By the yard door', 'Wheel room', 'outlet', 600),
        point('p2', 'Under the window', 'Wheel room', 'outlet', null),
        point('p3', 'Ceiling, middle', 'Wheel room', 'light', 300),
        point('p4', 'Door switch', 'Wheel room', 'switch', 0),
        point('p5', 'Back wall', 'Kiln room', 'outlet', 1400),
        point('p6', 'Above the tank stand', 'Kiln room', 'box', 0, { hidden: true }),
        point('p7', 'Freezer', 'Store', 'outlet', 500, { mustHold: true }),
        point('p8', 'Store light', 'Store', 'light', 100),
        point('p9', 'Yard light', 'Yard', 'light', 100),
      ],
    },
    off('s1', 'w1', ['p3', 'p4', 'p9'], '2026-11-14T10:05:00.000Z'),
    off('s2', 'w2', ['p1', 'p2', 'p5', 'p6'], '2026-11-14T10:12:00.000Z'),
    parted('s3', '2026-11-14T10:40:00.000Z', 'p4', ['p3', 'p9'], 2),
    parted('s4', '2026-11-14T11:02:00.000Z', 'p1', ['p2', 'p5', 'p6'], 1),
    { kind: 'circuit.set', ...c1, patch: { name: 'Kiln', way: '14-16' } },
    { kind: 'load.set', ...c1, patch: { kind: 'kiln-medium', name: 'Kiln, medium top-loading', volts: 240, basis: 'watts', amount: 5760, connection: 'plug', continuous: true, lighting: false } },
    design({ cable: 'mc-thhn', lengthM: 21.336, ambientC: 30 }),
    design({ accessory: 'na-20-240', cordA: 30, residual: { at: 'board', ma: 5 } }),
    { kind: 'design.copy', ...c1, design: 'a', id: 'b', name: 'B' },
    design({ accessory: 'na-50-240', minSize: '6 AWG' }, 'b'),
    { kind: 'circuit.add', id: 'c2', name: 'Wheel outlets' },
    { kind: 'circuit.set', circuit: 'c2', patch: { way: '18' } },
    { kind: 'load.set', circuit: 'c2', patch: { kind: 'pottery-wheel', name: 'Pottery wheel', volts: 120, basis: 'watts', amount: 600, connection: 'plug', continuous: false, lighting: false } },
    { kind: 'design.set', circuit: 'c2', design: 'a', patch: { lengthM: 24.384, accessory: 'na-gfci-20', wantedBreakerA: 20 } },
    { kind: 'box.set', circuit: 'c2', patch: { kind: 'na-device-12.5', cables: 2 } },
    { kind: 'circuit.add', id: 'c3', name: 'Light over the wheel' },
    { kind: 'load.set', circuit: 'c3', patch: { kind: 'room-lights', name: 'Light over the wheel', volts: 120, basis: 'watts', amount: 300, connection: 'fixed', continuous: true, lighting: true } },
  ],
  readings: [],
}

const urn = 'c1'
/** A tea urn on a connection unit: a box too shallow, a long run with a loop only its RCD clears. Stands at the boxes. */
const hall: DemoJob = {
  id: 'village-hall',
  region: 'united-kingdom',
  title: 'Tea kitchen and stage',
  place: 'Village hall',
  by: 'Caretaker’s electrician',
  start: '2026-11-18T09:00:00.000Z',
  edits: [
    { kind: 'brief.set', patch: { request: 'The urn trips the lights. Give it something of its own, and the stage too.', askedBy: 'The hall committee', through: 'the caretaker' } },
    { kind: 'brief.set', patch: { existing: 'A ring with a break-in and an old spur; consumer unit by the front door.', finish: 'Flush, white, level with the tiles.', later: 'A second urn for fêtes.', environment: 'dry' } },
    ...fitness(fit),
    { kind: 'supply.set', patch: { board: 'Hall consumer unit', earthing: 'tn-s', zeOhm: 0.72 } },
    { kind: 'circuit.set', circuit: urn, patch: { name: 'Tea urn', way: '6' } },
    { kind: 'load.set', circuit: urn, patch: { kind: 'tea-urn', name: 'Tea urn', volts: 230, basis: 'watts', amount: 2800, connection: 'fixed', continuous: false, lighting: false } },
    design({ lengthM: 38, method: 'clipped-direct', groupedCircuits: 2, accessory: 'uk-fcu', cordA: 13 }),
    design({ breakerType: 'C', residual: { at: 'board', ma: 30 } }),
    { kind: 'box.set', circuit: urn, patch: { kind: 'uk-metal-25', cables: 1 } },
    { kind: 'circuit.add', id: 'c2', name: 'Stage floods' },
    { kind: 'circuit.set', circuit: 'c2', patch: { way: '7' } },
    { kind: 'load.set', circuit: 'c2', patch: { kind: 'stage-flood', name: 'Stage flood lights', volts: 230, basis: 'watts', amount: 1000, connection: 'plug', continuous: true, lighting: true } },
    { kind: 'design.set', circuit: 'c2', design: 'a', patch: { lengthM: 26, method: 'clipped-direct', accessory: 'uk-socket-13-twin' } },
    { kind: 'box.set', circuit: 'c2', patch: { kind: 'uk-metal-2g-35' } },
  ],
  readings: [],
}

const done = (test: string): DemoJob['readings'][number] => ({ circuit: 'c1', test, value: null, mark: 'yes', unit: '' })
const read = (test: string, value: number, unit: string, instrument = 'Two-pole tester'): DemoJob['readings'][number] => ({ circuit: 'c1', test, value, mark: null, unit, instrument })
const insulation = (pair: string): DemoJob['readings'][number] => ({ circuit: 'c1', test: `insulation-${pair}`, value: 200, mark: 'over', unit: 'MΩ', instrument: 'Insulation tester' })

/** A warming cabinet in a honey house: isolated and tested dead, its cord the weak link. Stands at the live tests. */
const honey: DemoJob = {
  id: 'honey-house',
  region: 'southern-africa',
  title: 'Honey warming cabinet',
  place: 'Honey house on the farm',
  by: 'Farm electrician',
  start: '2026-11-20T07:00:00.000Z',
  edits: [
    { kind: 'brief.set', patch: { request: 'A plug for the warming cabinet, away from the wash trough.', askedBy: 'The beekeeper', existing: 'Board with earth leakage unit, two neutral bars.', later: 'An extractor on the same wall.', environment: 'damp' } },
    ...fitness(fit),
    { kind: 'supply.set', patch: { board: 'Honey house DB', earthing: 'tn-s', zeOhm: 0.41 } },
    { kind: 'circuit.set', ...c1, patch: { name: 'Warming cabinet', way: '3' } },
    { kind: 'load.set', ...c1, patch: { kind: 'honey-warmer', name: 'Honey warming cabinet', volts: 230, basis: 'watts', amount: 1500, connection: 'plug', continuous: true, lighting: false } },
    design({ lengthM: 17, method: 'B2', accessory: 'za-socket-16', cordA: 6, wantedBreakerA: 20 }),
    { kind: 'box.set', ...c1, patch: { kind: 'za-surface-50' } },
    { kind: 'wiring.set', ...c1, patch: { colours: 'old' } },
    ...['dead', 'enter', 'remark', 'strip', 'terminal-2', 'terminal-1', 'terminal-0', 'torque', 'picture'].map((step): Edit => ({ kind: 'wiring.step', ...c1, step, done: true })),
  ],
  readings: [
    done('iso-off'),
    done('iso-lock'),
    read('iso-prove', 229, 'V'),
    read('iso-dead-l-n', 0, 'V'),
    read('iso-dead-l-e', 0, 'V'),
    read('iso-dead-n-e', 0, 'V'),
    read('iso-reprove', 230, 'V'),
    read('continuity-protective', 0.27, 'Ω', 'Low-ohm meter'),
    insulation('l-n'),
    insulation('l-e'),
    insulation('n-e'),
    done('polarity'),
  ],
}

/** The demo jobs: three worlds, three characters, three stages, each with an honest finding to resolve. */
export const demoJobs: readonly DemoJob[] = [dairy, hall, honey]
