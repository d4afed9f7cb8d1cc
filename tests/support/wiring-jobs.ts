import { newWay } from '../../src/core/job/board'
import { applyEdit, type Edit } from '../../src/core/job/edits'
import { blankPoint } from '../../src/core/job/point'
import { newRaceway } from '../../src/core/job/raceway'
import { type Job, newJob } from '../../src/core/job/schema'
import type { RegionId } from '../../src/core/region/types'

/*
 * A job in each world with all that a box may hold: two accessories of two circuits in one box, two-way switching, a chain that is guarded,
 * a fused spur after a light or two lines with one neutral, conductors in a raceway, a spare core, a point taken out, a cable for later.
 */

type Placed = Extract<Edit, { kind: 'circuit-point.add' }>['points'][number]
const at = '2026-11-20T08:00:00.000Z'
const points = (circuit: string, ...list: readonly Placed[]): Edit => ({ kind: 'circuit-point.add', circuit, points: [...list] })
const p = (id: string, from: string | null, lengthM: number, accessory: string, more: Partial<Placed> = {}): Placed => ({
  id,
  name: id,
  from,
  lengthM,
  accessory,
  watts: 100,
  ...more,
})
const sw = (id: string, from: string | null, lengthM: number, accessory: string, controls: string[]): Placed =>
  p(id, from, lengthM, accessory, { kind: 'switch', outlets: 0, watts: 0, controls })
const circuit = (id: string, name: string, volts: number, more: Extract<Edit, { kind: 'design.set' }>['patch'] = {}): readonly Edit[] => [
  ...(id === 'c1' ? [] : [{ kind: 'circuit.add' as const, id, name }]),
  { kind: 'load.set', circuit: id, patch: { volts, connection: 'plug' } },
  { kind: 'design.set', circuit: id, design: 'a', patch: more },
]
const way = (circuitId: string, typed: string): Edit => ({ kind: 'circuit.connect', circuit: circuitId, way: typed })
/** Two outlets that are there on a way, traced; the first is taken out and the second fed through it. */
const takenOut: readonly Edit[] = [
  { kind: 'way.add', way: newWay('old', 'Old outlets', { position: 12, ratingA: 16, state: 'existing' }) },
  { kind: 'point.add', points: [blankPoint('gone', 'Old outlet'), blankPoint('stays', 'Outlet beyond')] },
  {
    kind: 'observation.add',
    items: [
      { id: 'o1', at, instrument: 'contact', withdrawn: false, seen: { kind: 'breaker-off', breaker: 'old', dead: ['gone', 'stays'] } },
      { id: 'o2', at, instrument: 'contact', withdrawn: false, seen: { kind: 'disconnected', point: 'gone', dead: ['stays'] } },
      { id: 'o3', at, instrument: 'contact', withdrawn: false, seen: { kind: 'cables', point: 'gone', onward: 1 } },
    ],
  },
  { kind: 'point.set', id: 'gone', patch: { state: 'removed' } },
  { kind: 'box.set', boxes: ['gone'], patch: { left: 'capped' } },
]
const spare = (cable: string): Edit => ({ kind: 'cable.set', id: cable, patch: { cores: 'three' } })
const inPipe = (id: string, more: object): Edit => ({
  kind: 'raceway.add',
  item: newRaceway('pipe', 'Pipe to the fan', { circuits: [id], lengthM: 9, ...more }),
})
const box = (kind: string, ...boxes: string[]): Edit => ({ kind: 'box.set', boxes, patch: { kind } })

const northAmerica: readonly Edit[] = [
  { kind: 'supply.set', patch: { board: 'Panel A' } },
  ...circuit('c1', 'Wheel outlets', 120, { accessory: 'na-duplex-15' }),
  { kind: 'circuit.set', circuit: 'c1', patch: { name: 'Wheel outlets' } },
  points(
    'c1',
    p('guard', null, 6, 'na-gfci-15', { guardsOn: true }),
    p('wheel', 'guard', 4, 'na-duplex-15'),
    p('shelf', 'wheel', 3, 'na-duplex-15'),
  ),
  way('c1', '1'),
  ...circuit('c2', 'Bench lights', 120, { accessory: 'na-light', cable: 'nm-b' }),
  { kind: 'load.set', circuit: 'c2', patch: { lighting: true, connection: 'fixed' } },
  points(
    'c2',
    sw('door', null, 7, 'na-two-way', ['lamp']),
    p('lamp', 'door', 5, 'na-light', { kind: 'light', outlets: 0 }),
    sw('window', 'lamp', 6, 'na-two-way', ['lamp']),
  ),
  way('c2', '3'),
  { kind: 'box.share', point: 'door', box: 'shelf' },
  { kind: 'circuit.add', id: 'c3', name: 'Glaze bench', of: 'shared-neutral' },
  { kind: 'load.set', circuit: 'c3', patch: { volts: 120, connection: 'plug' } },
  { kind: 'design.set', circuit: 'c3', design: 'a', patch: { accessory: 'na-duplex-15' } },
  points('c3', p('left', null, 8, 'na-duplex-15', { leg: 'A' }), p('right', 'left', 2, 'na-duplex-15', { leg: 'B' })),
  ...circuit('c4', 'Kiln fan', 120, { accessory: 'na-single-15', cable: 'thwn-2' }),
  points('c4', p('fan', null, 9, 'na-single-15')),
  inPipe('c4', { kind: 'emt', tradeSize: '1/2' }),
  ...circuit('c5', 'For later', 120),
  points('c5', { id: 'later', name: 'later', kind: 'box', from: null, lengthM: 11, outlets: 0, watts: 0 }),
  spare('to-shelf'),
  box('na-old-2g-34', 'shelf'),
  box('na-old-20', 'guard', 'wheel', 'window', 'left', 'right', 'fan', 'later'),
  box('na-round-15.5', 'lamp'),
  ...takenOut,
]
const unitedKingdom: readonly Edit[] = [
  { kind: 'supply.set', patch: { board: 'Unit A', zeOhm: 0.35 } },
  ...circuit('c1', 'Counter', 230, { accessory: 'uk-socket-13' }),
  { kind: 'circuit.set', circuit: 'c1', patch: { name: 'Counter' } },
  points(
    'c1',
    p('guard', null, 6, 'uk-fcu-rcd', { kind: 'fixed', outlets: 0, fuseA: 13 }),
    p('urn', 'guard', 4, 'uk-socket-13'),
    p('shelf', 'urn', 3, 'uk-socket-13'),
  ),
  way('c1', '1'),
  ...circuit('c2', 'Stage lights', 230, { accessory: 'uk-light' }),
  { kind: 'load.set', circuit: 'c2', patch: { lighting: true, connection: 'fixed' } },
  points(
    'c2',
    p('lamp', null, 7, 'uk-light', { kind: 'light', outlets: 0 }),
    sw('door', 'lamp', 5, 'uk-two-way', ['lamp']),
    sw('wing', 'door', 6, 'uk-two-way', ['lamp']),
    p('heater', 'lamp', 4, 'uk-fcu', { kind: 'fixed', outlets: 0, fuseA: 3 }),
  ),
  way('c2', '2'),
  { kind: 'box.share', point: 'door', box: 'shelf' },
  { kind: 'circuit.add', id: 'c3', name: 'Hall ring', of: 'ring' },
  { kind: 'load.set', circuit: 'c3', patch: { volts: 230, connection: 'plug' } },
  { kind: 'design.set', circuit: 'c3', design: 'a', patch: { accessory: 'uk-socket-13-twin' } },
  points('c3', p('one', null, 8, 'uk-socket-13-twin'), p('two', null, 6, 'uk-socket-13-twin'), p('three', null, 7, 'uk-socket-13-twin')),
  { kind: 'run.set', circuit: 'c3', patch: { closeM: 9 } },
  ...circuit('c4', 'Extract fan', 230, { accessory: 'uk-fcu', cable: 'singles', method: 'conduit-on-wall' }),
  points('c4', p('fan', null, 9, 'uk-fcu', { kind: 'fixed', outlets: 0, fuseA: 3 })),
  inPipe('c4', { conduitMm: 20 }),
  ...circuit('c5', 'For later', 230),
  points('c5', { id: 'later', name: 'later', kind: 'box', from: null, lengthM: 11, outlets: 0, watts: 0 }),
  spare('to-shelf'),
  box('uk-metal-2g-35', 'shelf', 'one', 'two', 'three'),
  box('uk-metal-35', 'guard', 'urn', 'wing', 'heater', 'fan', 'later'),
  box('uk-ceiling-25', 'lamp'),
  ...takenOut,
]
const southernAfrica: readonly Edit[] = [
  { kind: 'supply.set', patch: { board: 'Board A', zeOhm: 0.4 } },
  ...circuit('c1', 'Bench', 230, { accessory: 'za-socket-16' }),
  { kind: 'circuit.set', circuit: 'c1', patch: { name: 'Bench' } },
  points('c1', p('press', null, 6, 'za-socket-16'), p('melter', 'press', 4, 'za-socket-16'), p('shelf', 'melter', 3, 'za-socket-16')),
  way('c1', '1'),
  ...circuit('c2', 'Lights', 230, { accessory: 'za-light' }),
  { kind: 'load.set', circuit: 'c2', patch: { lighting: true, connection: 'fixed' } },
  points(
    'c2',
    sw('door', null, 7, 'za-two-way', ['lamp']),
    p('lamp', 'door', 5, 'za-light', { kind: 'light', outlets: 0 }),
    sw('hatch', 'lamp', 3, 'za-intermediate', ['lamp']),
    sw('yard', 'hatch', 6, 'za-two-way', ['lamp']),
  ),
  way('c2', '2'),
  { kind: 'box.share', point: 'door', box: 'shelf' },
  ...circuit('c3', 'Geyser', 230, { accessory: 'za-isolator-20' }),
  points('c3', p('geyser', null, 12, 'za-isolator-20', { kind: 'fixed', outlets: 0, watts: 3000 })),
  ...circuit('c4', 'Extract fan', 230, { accessory: 'za-isolator-20', cable: 'singles', method: 'B1' }),
  points('c4', p('fan', null, 9, 'za-isolator-20', { kind: 'fixed', outlets: 0 })),
  inPipe('c4', { conduitMm: 20 }),
  ...circuit('c5', 'For later', 230),
  points('c5', { id: 'later', name: 'later', kind: 'box', from: null, lengthM: 11, outlets: 0, watts: 0 }),
  spare('to-shelf'),
  box('za-steel-100', 'shelf'),
  box('za-steel-50', 'press', 'melter', 'hatch', 'yard', 'geyser', 'fan', 'later'),
  box('za-round-50', 'lamp'),
  ...takenOut,
]

export const wiringJobs: Readonly<Record<RegionId, Job>> = {
  'north-america': make('north-america', northAmerica),
  'united-kingdom': make('united-kingdom', unitedKingdom),
  'southern-africa': make('southern-africa', southernAfrica),
}
function make(region: RegionId, edits: readonly Edit[]): Job {
  return edits.reduce((job, e) => applyEdit(job, e).job, newJob(region, 'All that a box may hold', 'Former dairy'))
}
