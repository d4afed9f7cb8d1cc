import { accessory } from '../catalogue/accessories'
import { newResidualDevice } from '../job/board'
import { wiringStepIds } from '../wiring/plan'
import { type DemoJob, fit, fitness, inCircuit, off, parted, point, rooms, wall, way } from './kit'

const cabinet = inCircuit('c1')
const extractor = inCircuit('c2')
const plugs = inCircuit('c3')
const heater = inCircuit('c4')
const steps = (fitted: string) => wiringStepIds('southern-africa', accessory(fitted)!, 'new')
const done = (test: string): DemoJob['readings'][number] => ({ circuit: 'c1', test, value: null, mark: 'yes', unit: '' })
const read = (test: string, value: number, unit: string, instrument = 'Two-pole tester'): DemoJob['readings'][number] => ({ circuit: 'c1', test, value, mark: null, unit, instrument })
const insulation = (pair: string): DemoJob['readings'][number] => ({ circuit: 'c1', test: `insulation-${pair}`, value: 200, mark: 'over', unit: 'MΩ', instrument: 'Insulation tester' })

/** A warming cabinet in a honey house: isolated and tested dead, its cord the weak link. Stands at the live tests. */
export const honey: DemoJob = {
  id: 'honey-house',
  region: 'southern-africa',
  title: 'Honey warming cabinet',
  place: 'Honey house on the farm',
  by: 'Farm electrician',
  start: '2026-11-20T07:00:00.000Z',
  edits: [
    { kind: 'brief.set', patch: { request: 'A plug for the warming cabinet, away from the wash trough.', askedBy: 'The beekeeper', existing: 'Board with earth leakage unit, two neutral bars.', later: 'An extractor on the same wall.', environment: 'damp', premises: 'farm' } },
    ...fitness(fit),
    { kind: 'supply.set', patch: { board: 'Honey house DB', earthing: 'tn-s', zeOhm: 0.41, pscKa: 1.2, upstream: { kind: 'breaker', ratingA: 60 } } },
    { kind: 'board.set', id: 'main', patch: { spaces: 12, free: [3, 6, 7, 8, 9, 10, 11, 12], mainA: 60, mainSwitch: 'double-pole' } },
    { kind: 'residual-device.add', item: newResidualDevice('el', 'Earth leakage', { ratingA: 63, tripMa: 30, type: 'A', delayed: false }) },
    way('z1', 'Plugs, extraction', 20, { position: 1, curve: 'C', shape: 'radial', residual: 'el', bar: 'el' }),
    way('z2', 'Plugs, store', 20, { position: 2, curve: 'C', shape: 'radial', residual: 'el', bar: 'main' }),
    way('z4', 'Lights', 10, { position: 4, curve: 'C', shape: 'radial', residual: 'none', bar: 'main' }),
    way('z5', 'Water heater', 20, { position: 5, curve: 'C', shape: 'radial', residual: 'none', bar: 'main' }),
    {
      kind: 'point.add',
      points: [
        point('e1', 'Extractor', 'Extraction room', 'outlet', 750, { heightMm: 1200, cable: '2.5 mm², red and black' }),
        point('e2', 'By the wash trough', 'Extraction room', 'outlet', 1500, { heightMm: 1200, condition: 'worn' }),
        point('e3', 'Extraction light', 'Extraction room', 'light', 80),
        point('s1', 'Store, left', 'Store', 'outlet', 200, { heightMm: 300 }),
        point('s2', 'Store, right', 'Store', 'outlet', 300, { heightMm: 300 }),
        point('s3', 'Store light', 'Store', 'light', 60),
        point('s4', 'Light switch', 'Store', 'switch', 0, { heightMm: 1400 }),
        point('g1', 'Water heater', 'Store', 'fixed', 3000, { appliance: 'water-heater-storage' }),
      ],
    },
    ...rooms({ 'Extraction room': [0, 6, 3, true], Store: [0, 2, 2, true] }),
    ...wall('r1', 'Extraction room', 'Trough wall', [['wall', 1.4], ['basin', 1.6], ['wall', 2.2]], { e1: 1.2, e2: 4.4 }),
    off('o1', 'z1', ['e1', 'e2'], '2026-11-19T08:05:00.000Z'),
    off('o2', 'z2', ['s1', 's2'], '2026-11-19T08:12:00.000Z'),
    off('o3', 'z4', ['e3', 's3', 's4'], '2026-11-19T08:20:00.000Z'),
    off('o4', 'z5', ['g1'], '2026-11-19T08:24:00.000Z'),
    parted('o5', '2026-11-19T08:45:00.000Z', 'e1', ['e2'], 1),
    parted('o6', '2026-11-19T08:58:00.000Z', 's1', ['s2'], 1),
    parted('o7', '2026-11-19T09:15:00.000Z', 's4', ['e3', 's3'], 1),
    parted('o8', '2026-11-19T09:31:00.000Z', 's3', ['e3'], 1),
    cabinet.set({ name: 'Warming cabinet', place: 'workshop', colours: 'old' }),
    cabinet.connect({ way: '3' }),
    cabinet.run({ lengthM: 17 }),
    cabinet.load({ kind: 'honey-warmer', name: 'Honey warming cabinet', volts: 230, basis: 'watts', amount: 1500, connection: 'plug', continuous: true, lighting: false, nature: 'heating' }),
    cabinet.design({ breakingKa: 6, method: 'B2', accessory: 'za-socket-16', cordA: 6, wantedBreakerA: 20 }),
    cabinet.box({ kind: 'za-surface-50' }),
    ...cabinet.wire(['dead', 'enter', 'remark', 'strip', 'terminal-2', 'terminal-1', 'terminal-0', 'torque', 'picture']),
    extractor.add('Extractor'),
    extractor.set({ place: 'workshop' }),
    extractor.connect({ way: '6' }),
    extractor.run({ lengthM: 14 }),
    extractor.load({ kind: 'honey-extractor', name: 'Honey extractor', volts: 230, basis: 'watts', amount: 750, connection: 'plug', continuous: false, nature: 'motor', startFactor: 7 }),
    extractor.design({ method: 'B2', accessory: 'za-socket-16', cordA: 10, breakerType: 'B', breakingKa: 6 }),
    plugs.add('Store plugs, lengthened'),
    plugs.set({ work: 'altered', place: 'other' }),
    plugs.connect({ way: '2' }),
    plugs.load({ name: 'Store plugs', volts: 230, amount: 0, connection: 'plug' }),
    plugs.take(['s1', null, 9], ['s2', 's1', 5]),
    plugs.points({ id: 'x3', name: 'New, by the shelves', from: 's2', lengthM: 11, watts: 1500, outlets: 2, accessory: 'za-socket-16-double' }),
    plugs.design({ method: 'B2', accessory: 'za-socket-16', wantedBreakerA: 20, breakerType: 'C', breakingKa: 6, residual: { at: 'board', ma: 30, type: 'A' } }),
    { kind: 'old.answer', circuit: 'c3', question: 'no-earth', answer: 'no' },
    heater.add('Rinse heater'),
    heater.set({ place: 'workshop' }),
    heater.connect({ way: '7' }),
    heater.run({ lengthM: 16 }),
    heater.load({ kind: 'water-heater-instant', name: 'Rinse heater at the trough', volts: 230, basis: 'watts', amount: 3000, connection: 'fixed', nature: 'heating' }),
    heater.design({ method: 'C', accessory: 'za-isolator-20', breakingKa: 6, residual: { at: 'none', ma: 30, type: 'A' } }),
    extractor.box({ kind: 'za-surface-50' }),
    heater.box({ kind: 'za-surface-50' }),
    plugs.box({ kind: 'za-surface-50' }, 's1', 's2'),
    plugs.box({ kind: 'za-surface-100' }, 'x3'),
    ...extractor.wire(steps('za-socket-16')),
    ...plugs.wire(steps('za-socket-16'), 's1', 's2'),
    ...plugs.wire(steps('za-socket-16-double'), 'x3'),
    ...heater.wire(steps('za-isolator-20')),
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
