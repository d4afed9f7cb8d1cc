import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { boardSchema, newBoard, newResidualDevice, newWay, residualDeviceSchema, waySchema } from './board'
import { defectSchema, newDefect } from './report'
import { boxSchema } from './box'
import { blankPoint, pointSchema } from './point'
import { newWall, wallSchema } from './room'
import { applyEdit, describeEdit, type Edit, EditError, editSchema, patchJob } from './edits'
import { fieldWords } from './words'
import { briefSchema, supplySchema } from './brief'
import type { BenchRecord } from './bench'
import type { Coil } from './coil'
import type { OwnTask } from './day'
import { type CableRoute, cableSchema, feederBoardId } from './cable'
import { circuitSchema } from './circuit'
import { designSchema, newDesign, newStretch } from './design'
import { type Job, jobSchema, newJob } from './schema'
import { loadSchema } from './load'
import { placed } from '../../../tests/support/shorthand'
import { newRaceway, racewaySchema } from './raceway'
import { newSignalCable } from './signal-cable'
import { read } from '../installation/installation'
import { upgradeJob } from './older/version-2-complete'
import { jobSchema as oldJobSchema, newCircuitPoint, newDesign as oldDesign } from './older/version-2'
import { fromVersion2 } from './older/bring-up'
import { snapshot } from '../survey/kept'

const demoOf = (i: number): Job =>
  demoJobs[i]!.edits.reduce((job, e) => applyEdit(job, e).job, newJob(demoJobs[i]!.region, demoJobs[i]!.title, demoJobs[i]!.place))
const [dairy, hall] = [demoOf(0), demoOf(1)]
const after = (job: Job, edit: Edit): Job => applyEdit(job, edit).job
const c = (job: Job, id: string) => read(job).circuits.find((x) => x.id === id)!
const p = (job: Job, id: string) => job.points.find((x) => x.id === id)!
const room = (job: Job, name: string) => job.rooms.find((r) => r.name === name)!
const at = '2026-11-20T08:00:00.000Z'
const feeder = after(dairy, { kind: 'board.add', item: newBoard('shed', { name: 'Shed', fedFrom: 'w4' }) })
const guarded = after(hall, { kind: 'residual-device.add', item: newResidualDevice('g9', 'Stage RCD', { ratingA: 63, tripMa: 30 }) })
const kept = after(dairy, { kind: 'trace.keep', trace: snapshot(read(dairy), 't1', at, 'Before'), restart: false })
const three = ['b', 'd'].reduce((job, id) => after(job, { kind: 'design.copy', circuit: 'c2', design: 'a', id, name: id }), dairy)

const lunch: OwnTask = {
  id: 'o1',
  name: 'Lunch',
  kind: 'break',
  minutes: 30,
  people: 1,
  power: 'on',
  after: [],
  earliestMin: 720,
  latestMin: 780,
}
const withLunch = after(dairy, { kind: 'task.add', item: lunch })
const begun = after(dairy, { kind: 'task.start', row: { task: 'box c1', expectedMin: 15, startedAt: at, endedAt: null, note: '' } })
const accepted = after(dairy, { kind: 'quotation.accept', accepted: { at, by: 'The potter', total: 1250 } })
const bench: BenchRecord = {
  devices: [],
  connectors: [{ id: 'j1', kind: 'lever-3' }],
  tails: [],
  ends: [{ end: 'to-end-c2 pe', to: 'j1' }],
  marked: [],
}

const box = (j: Job, id: string) => j.boxes.find((b) => b.id === id)!
const signal = newSignalCable('sc1', 'Office data', { shares: ['rw1'] })
const due = { id: 'du1', what: 'Inspection', on: '2027-05-01', doneOn: null }
const coil: Coil = { id: 'v1', cable: 'nm-b', size: '10 AWG', lengthM: 12, price: null, onHand: true }
const part = { room: null, side: null, beyond: null, minutes: 5, holes: 1, openings: 0 }
const way: CableRoute = {
  cutM: 12,
  at,
  elements: [
    {
      ...part,
      kind: 'cavity',
      room: 'room-store',
      side: 'north',
      lengthM: 1,
      path: [
        [0, 0, 1.5],
        [0, 0, 2.5],
      ],
    },
    {
      ...part,
      kind: 'attic',
      lengthM: 2,
      path: [
        [0, 0, 2.5],
        [2, 0, 2.5],
      ],
    },
  ],
}

/** The job it is made on, the edit, what the history says of it, and what is then so. */
type Case = readonly [job: Job, edit: Edit, words: RegExp, holds: (job: Job) => unknown]
const cases: readonly Case[] = [
  [dairy, { kind: 'job.set', patch: { title: 'Kiln room' } }, /^Title Kiln room$/, (j) => j.title === 'Kiln room'],
  [
    dairy,
    { kind: 'brief.set', patch: { askedBy: 'The tenant', environment: null } },
    /^Asked by The tenant, environment none$/,
    (j) => j.brief.environment === null,
  ],
  [dairy, { kind: 'fitness.answer', question: 'earth', answer: 'no' }, /no$/, (j) => j.brief.fitness.earth === 'no'],
  [dairy, { kind: 'fitness.answer', question: 'earth', answer: null }, /left open$/, (j) => j.brief.fitness.earth === undefined],
  [
    dairy,
    { kind: 'supply.set', patch: { pscKa: 5, upstream: { kind: 'fuse', ratingA: 60 } } },
    /^Fault current 5, upstream fuse 60$/,
    (j) => j.supply.upstream!.ratingA === 60,
  ],
  [
    dairy,
    { kind: 'circuit.add', id: 'n', name: 'New', of: 'feeder' },
    /^New added$/,
    (j) => c(j, 'n')?.load.volts === 240 && c(j, 'n').load.connection === 'fixed',
  ],
  [
    dairy,
    { kind: 'circuit.remove', circuit: 'c4' },
    /^Glaze bench, two lines removed$/,
    (j) => c(j, 'c4') === undefined && !j.raceways.some((r) => r.circuits.includes('c4')),
  ],
  [
    dairy,
    { kind: 'circuit.set', circuit: 'c1', patch: { nearWater: true, outOfReach: false } },
    /^Near water yes, out of reach no \(Kiln\)$/,
    (j) => c(j, 'c1').nearWater === true,
  ],
  [
    dairy,
    { kind: 'circuit-point.add', circuit: 'c4', points: [placed('b9', 'Shelf', { from: 'b2' })] },
    /^Point Shelf put on the circuit/,
    (j) => c(j, 'c4').points.length === 4,
  ],
  [
    dairy,
    { kind: 'circuit-point.set', circuit: 'c4', id: 'b1', patch: { watts: 700, lengthM: 3 } },
    /^Bench, left: load 700, length 3/,
    (j) => c(j, 'c4').points[0]!.watts === 700,
  ],
  // What the removed one fed is fed from where that was fed.
  [
    dairy,
    { kind: 'circuit-point.remove', circuit: 'c4', id: 'b2' },
    /^Bench, middle taken off/,
    (j) => c(j, 'c4').points.find((p) => p.id === 'b3')!.from === 'b1',
  ],
  [hall, { kind: 'circuit-point.move', circuit: 'c3', id: 'k1', to: 0 }, /^Counter, left moved/, (j) => c(j, 'c3').points[0]!.id === 'k1'],
  [dairy, { kind: 'old.answer', circuit: 'c3', question: 'rubber', answer: 'yes' }, /rubber: yes/, (j) => c(j, 'c3').old.rubber === 'yes'],
  [dairy, { kind: 'old.answer', circuit: 'c3', question: 'rubber', answer: null }, /left open/, (j) => c(j, 'c3').old.rubber === undefined],
  [
    dairy,
    { kind: 'load.set', circuit: 'c1', patch: { name: 'Small kiln', amount: 1800 } },
    /^Appliance Small kiln/,
    (j) => c(j, 'c1').load.amount === 1800,
  ],
  [
    dairy,
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-30-240', residual: { at: 'board', ma: 5, type: null } } },
    /^Accessory 30 A 240 V receptacle, three-wire, residual protection board 5, alternative A/,
    (j) => c(j, 'c1').designs[0]!.accessory === 'na-30-240',
  ],
  [
    dairy,
    { kind: 'design.copy', circuit: 'c2', design: 'a', id: 'n', name: 'N' },
    /^Alternative N laid beside A/,
    (j) => c(j, 'c2').designs[1]?.lengthM === c(j, 'c2').designs[0]!.lengthM,
  ],
  [dairy, { kind: 'design.remove', circuit: 'c1', design: 'a' }, /^Alternative A removed/, (j) => c(j, 'c1').chosen === 'b'],
  [
    dairy,
    { kind: 'design.swap', what: 'accessory', from: 'na-gfci-20', to: 'na-duplex-20' },
    /replaced by/,
    (j) => j.circuits.some((x) => x.designs.some((d) => d.accessory === 'na-duplex-20')),
  ],
  [dairy, { kind: 'design.choose', circuit: 'c1', design: 'b' }, /^Alternative B chosen/, (j) => c(j, 'c1').chosen === 'b'],
  [
    three,
    { kind: 'design.take', circuit: 'c2', design: 'a', id: 'n', name: 'N', patch: { minSize: '10 AWG' }, reason: 'cheaper to run' },
    /^Alternative N taken/,
    (j) => c(j, 'c2').chosen === 'n' && c(j, 'c2').designs.length === 3 && c(j, 'c2').designs.some((d) => d.id === 'a'),
  ],
  [dairy, { kind: 'raceway.add', item: newRaceway('r9', 'Attic raceway') }, /^Attic raceway added$/, (j) => j.raceways.length === 3],
  [
    dairy,
    { kind: 'raceway.set', id: 'rw1', patch: { tradeSize: '1', minC: -5 } },
    /^Cold wall raceway: trade size, lowest temperature$/,
    (j) => j.raceways[0]!.tradeSize === '1',
  ],
  [dairy, { kind: 'raceway.remove', id: 'rw1' }, /^Cold wall raceway removed$/, (j) => j.raceways.length === 1],
  [dairy, { kind: 'price.set', name: 'breaker', amount: 9 }, /^Price of breaker: 9$/, (j) => j.prices.breaker === 9],
  [
    after(dairy, { kind: 'price.set', name: 'breaker', amount: 9 }),
    { kind: 'price.set', name: 'breaker', amount: null },
    /usual/,
    (j) => !('breaker' in j.prices),
  ],
  [
    dairy,
    {
      kind: 'ways.move',
      moves: [
        { id: 'w1', position: 9 },
        { id: 'w2', position: 11 },
      ],
    },
    /^2 breakers moved$/,
    (j) => j.ways.find((w) => w.id === 'w2')!.position === 11,
  ],
  [dairy, { kind: 'way.add', way: newWay('w9', 'Spare', { position: 12 }) }, /^Way Spare added$/, (j) => j.ways.some((w) => w.id === 'w9')],
  [
    dairy,
    { kind: 'way.set', id: 'w3', patch: { label: 'Loft', ratingA: 20 } },
    /^Way Loft\?: label Loft, rating 20$/,
    (j) => j.ways.find((w) => w.id === 'w3')!.label === 'Loft',
  ],
  // What was seen of a way goes with it.
  [
    dairy,
    { kind: 'way.remove', id: 'w1' },
    /^Way Yard removed$/,
    (j) => !j.observations.some((s) => s.seen.kind === 'breaker-off' && s.seen.breaker === 'w1'),
  ],
  [dairy, { kind: 'point.add', points: [blankPoint('n', 'By the flue')] }, /^Point By the flue added$/, (j) => j.points.at(-1)!.id === 'n'],
  [
    dairy,
    { kind: 'point.set', id: 'p1', patch: { mustHold: true, heightMm: 300 } },
    /^By the yard door: must stay on yes, height 300$/,
    (j) => p(j, 'p1').mustHold,
  ],
  [dairy, { kind: 'point.remove', id: 'p3' }, /^Point Ceiling, middle removed$/, (j) => !JSON.stringify(j.observations).includes('"p3"')],
  [
    after(dairy, { kind: 'point.add', points: [blankPoint('n', 'Late one')] }),
    { kind: 'observation.complete', ids: ['s1'], dead: ['n', 'p1'] },
    /^An observation completed: Late one, By the yard door dead/,
    (j) =>
      (j.observations[0]!.seen as { dead: string[] }).dead.includes('n') &&
      !(j.observations[0]!.seen as { dead: string[] }).dead.includes('p1'),
  ],
  [dairy, { kind: 'observation.withdraw', id: 's1', withdrawn: true }, /^Observation withdrawn$/, (j) => j.observations[0]!.withdrawn],
  [
    dairy,
    { kind: 'survey.set', patch: { reportBy: 'The inspector' } },
    /^Survey: who wrote the report changed$/,
    (j) => j.reportBy === 'The inspector',
  ],
  [dairy, { kind: 'board.set', id: 'main', patch: { mainA: 125 } }, /main rating 125$/, (j) => j.boards[0]!.mainA === 125],
  [feeder, { kind: 'board.remove', id: 'shed' }, /^Shed removed$/, (j) => !j.boards.some((b) => b.id === 'shed')],
  [
    hall,
    { kind: 'circuit-point.set', circuit: 'c3', id: 'k3', patch: { accessory: 'uk-fcu', guardsOn: true } },
    /^Fridge: accessory 13 A switched fused/,
    (j) => p(j, 'k3').accessory === 'uk-fcu',
  ],
  [
    after(guarded, { kind: 'way.set', id: hall.ways[0]!.id, patch: { residual: 'g9', bar: 'g9' } }),
    { kind: 'residual-device.remove', id: 'g9' },
    /^Stage RCD removed$/,
    (j) => j.ways[0]!.residual === 'unknown' && j.ways[0]!.bar === null,
  ],
  [kept, { kind: 'trace.forget', id: 't1' }, /^Kept trace “Before” forgotten$/, (j) => j.traces.length === 0],
  [
    hall,
    { kind: 'defect.add', items: [newDefect('n', 'A cover is missing')] },
    /^Finding added: A cover is missing$/,
    (j) => j.defects.at(-1)!.id === 'n',
  ],
  [
    hall,
    { kind: 'defect.set', id: 'd2', patch: { state: 'declined', reason: 'It was put right in spring' } },
    /state declined/,
    (j) => j.defects.find((d) => d.id === 'd2')!.state === 'declined',
  ],
  [hall, { kind: 'defect.work', id: 'd4', work: 'n' }, /added to this job$/, (j) => j.defects.find((d) => d.id === 'd4')!.state === 'work'],
  [hall, { kind: 'defect.remove', id: 'd2' }, /removed$/, (j) => !j.defects.some((d) => d.id === 'd2')],
  [dairy, { kind: 'circuit.set', circuit: 'c1', patch: { colours: 'old' } }, /^Colours old/, (j) => c(j, 'c1').colours === 'old'],
  [
    dairy,
    { kind: 'box.set', boxes: ['end-c2'], patch: { internalClamps: true } },
    /^Box of .*: internal clamps yes/,
    (j) => box(j, 'end-c2').internalClamps === true,
  ],
  [
    dairy,
    {
      kind: 'observation.add',
      items: [{ id: 'n', at, instrument: 'contact', withdrawn: false, seen: { kind: 'breaker-off', breaker: 'w3', dead: ['p14'] } }],
    },
    /^Seen: /,
    (j) => j.observations.find((o) => o.id === 'n')?.later.length === 0,
  ],
  [
    dairy,
    { kind: 'board.add', item: newBoard('shed', { name: 'Shed', fedFrom: 'w4' }) },
    /^Board Shed added$/,
    (j) => j.ways.find((w) => w.id === 'w4')!.kind === 'feeder',
  ],
  [
    hall,
    { kind: 'residual-device.add', item: newResidualDevice('g9', 'Stage RCD', { ratingA: 63, tripMa: 30 }) },
    /^Stage RCD added$/,
    (j) => j.residualDevices.some((d) => d.id === 'g9'),
  ],
  [
    guarded,
    { kind: 'residual-device.set', id: 'g9', patch: { tripMa: 100 } },
    /^Stage RCD: trips at 100$/,
    (j) => j.residualDevices.find((d) => d.id === 'g9')!.tripMa === 100,
  ],
  [
    after(guarded, { kind: 'residual-device.set', id: 'g9', patch: { tripMa: 100 } }),
    { kind: 'circuit.connect', circuit: 'c1', residual: 'g9' },
    /^Behind Stage RCD/,
    (j) => c(j, 'c1').behind === 'g9' && c(j, 'c1').designs.every((d) => d.residual.ma === (d.residual.at === 'board' ? 100 : 30)),
  ],
  [
    hall,
    { kind: 'circuit.connect', circuit: 'c1', residual: 'own' },
    /^Behind a device of its own/,
    (j) => c(j, 'c1').behind === 'own' && c(j, 'c1').designs[0]!.residual.ma === 30,
  ],
  [
    hall,
    { kind: 'circuit.connect', circuit: 'c2', way: '9' },
    /^Way 9/,
    (j) => c(j, 'c2').way === '9' && j.ways.filter((w) => w.state === 'new').length === 3,
  ],
  [
    dairy,
    { kind: 'circuit.connect', circuit: 'c2', board: feederBoardId('c5'), way: '3' },
    /^Fed from/,
    (j) => c(j, 'c2').feeder === 'c5' && j.cables.find((k) => k.to.id === 'end-c2')!.from.id === 'way-c2',
  ],
  [hall, { kind: 'run.set', circuit: 'c3', patch: { closeM: 9 } }, /^Length back to the board 9/, (j) => c(j, 'c3').closeM === 9],
  [dairy, { kind: 'run.set', circuit: 'c1', patch: { lengthM: 9 } }, /^Length 9/, (j) => c(j, 'c1').designs.every((d) => d.lengthM === 9)],
  [
    dairy,
    { kind: 'cable.set', id: 'to-b2', patch: { size: '10 AWG' } },
    /^Cable: size 10 AWG/,
    (j) => c(j, 'c4').points[1]!.size === '10 AWG',
  ],
  [
    dairy,
    { kind: 'cable.find', id: 'k-seen', way: 'w5', point: 'p13' },
    /^Cable to .+, as found$/,
    (j) => j.cables.some((k) => k.id === 'k-seen' && k.state === 'existing' && k.circuit === null && k.size === null),
  ],
  [
    hall,
    { kind: 'school.choose', school: 'cooking', option: 'ahead' },
    /^Cooker-type loads stand: ahead of it$/,
    (j) => j.brief.schools?.cooking === 'ahead',
  ],
  // What is there becomes a point of the circuit, and no copy of it.
  [
    dairy,
    { kind: 'circuit-point.take', circuit: 'c3', points: [{ id: 'p3', from: null, lengthM: null }] },
    /^Ceiling, middle put on the circuit/,
    (j) =>
      c(j, 'c3').points[0]?.id === 'p3' &&
      j.points.filter((x) => x.name === 'Ceiling, middle').length === 1 &&
      p(j, 'end-c3') === undefined,
  ],
  [
    after(guarded, { kind: 'circuit.connect', circuit: 'c1', residual: 'g9' }),
    { kind: 'residual-device.remove', id: 'g9' },
    /^Stage RCD removed$/,
    (j) => c(j, 'c1').behind === null,
  ],
  [
    hall,
    { kind: 'box.set', boxes: ['m1', 'q7'], patch: { others: 2 } },
    /^Box of 2 boxes: other cables in it 2/,
    (j) => box(j, 'q7').others === 2 && box(j, 'q7').kind === 'uk-metal-35',
  ],
  [
    hall,
    { kind: 'wiring.step', boxes: ['q7'], step: 'dead', done: true },
    /^Wiring step dead at Extract fan done/,
    (j) => box(j, 'q7').done.join() === 'dead' && box(j, 'm1').done.length === 0,
  ],
  [
    hall,
    { kind: 'wiring.done', boxes: ['q7', 'm1'], steps: ['dead', 'strip'] },
    /^Wiring at 2 boxes: 2 steps done/,
    (j) => box(j, 'q7').done.join() === 'dead,strip' && box(j, 'm1').done.join() === 'dead,strip',
  ],
  [dairy, { kind: 'room.set', name: 'Store', patch: { floor: 1 } }, /^Store: where it lies$/, (j) => room(j, 'Store').floor === 1],
  [
    dairy,
    { kind: 'wall.add', item: { ...newWall('r9', 'North wall'), room: 'Store' } },
    /^North wall added$/,
    (j) => j.walls.find((w) => w.id === 'r9')?.room === room(j, 'Store').id,
  ],
  [dairy, { kind: 'wall.set', id: 'r1', patch: { name: 'South wall' } }, /^Window wall: name$/, (j) => j.walls[0]!.name === 'South wall'],
  [
    dairy,
    { kind: 'wall.remove', id: 'r1' },
    /^Window wall removed$/,
    (j) => j.walls.every((w) => w.id !== 'r1') && box(j, 'p1').wall === null,
  ],
  [
    dairy,
    { kind: 'trace.keep', trace: snapshot(read(dairy), 't2', at, 'Now'), restart: true },
    /^Trace kept as “Now”, and started again$/,
    (j) => j.traces.length === 1 && j.observations.length === 0,
  ],
  [
    dairy,
    { kind: 'trace.take', cables: [{ point: 'p13', from: { kind: 'way', id: 'w5' }, proof: 'seen' }] },
    /^A cable taken from the trace$/,
    (j) => j.cables.some((k) => k.id === 'found-p13' && k.state === 'existing' && k.proof === 'seen' && k.lengthM === null),
  ],
  [
    dairy,
    { kind: 'source.choose', circuit: 'c1', source: null, lengthM: 9, design: {} },
    /left open/,
    (j) => c(j, 'c1').designs.every((d) => d.lengthM === 9),
  ],
  [
    dairy,
    { kind: 'room.measure', name: 'Yard', measured: { lengthM: 4, widthM: 3, heightM: 2.4, beside: null } },
    /^Yard: measured$/,
    (j) => room(j, 'Yard').measured?.lengthM === 4,
  ],
  [
    dairy,
    { kind: 'room.measure', name: 'Kiln room', measured: null },
    /^Kiln room: measures taken away$/,
    (j) => !('measured' in room(j, 'Kiln room')),
  ],
  [
    dairy,
    { kind: 'room.remove', id: 'room-wheel-room' },
    /^Room Wheel room removed$/,
    (j) => box(j, 'p1').room === null && room(j, 'Store').measured!.beside === null && j.walls.every((w) => w.room !== 'room-wheel-room'),
  ],
  [
    dairy,
    {
      kind: 'wall.open',
      room: 'room-store',
      side: 'north',
      wall: 'new',
      piece: { id: 'hatch', what: 'window', lengthM: 0.6, sillM: 1, headM: 1.6 },
      atM: 2,
    },
    /^Store, north wall: window added$/,
    (j) =>
      j.walls
        .find((w) => w.id === 'room-store-north')!
        .pieces.map((x) => x.what)
        .join() === 'wall,window,wall',
  ],
  [
    dairy,
    { kind: 'circuit-point.chain', circuit: 'c4', order: ['b3', 'b1', 'b2'] },
    /^Chained Bench, right, Bench, left, Bench, middle/,
    (j) =>
      j.cables
        .filter((k) => k.circuit === 'c4')
        .every((k) => (k.to.id === 'b2' ? k.from.id === 'b1' : k.to.id === 'b1' ? k.from.id === 'b3' : k.from.kind === 'way')),
  ],
  [
    dairy,
    {
      kind: 'room.draw',
      rooms: [
        { id: 'd1', name: 'Gallery', floor: 1, measured: { lengthM: 4, widthM: 3, heightM: 2, beside: null } },
        {
          id: 'd2',
          name: 'Gallery, back',
          floor: 1,
          measured: { lengthM: 2, widthM: 3, heightM: 2, beside: { room: 'd1', side: 'east', shiftM: 0, northM: 0, open: true } },
        },
      ],
    },
    /^2 rooms from a drawing$/,
    (j) => j.rooms.find((r) => r.id === 'd2')?.measured?.beside?.open === true,
  ],
  [
    dairy,
    {
      kind: 'wall.inside',
      room: 'room-store',
      side: 'north',
      wall: 'new',
      patch: { studAtM: 0.7, closed: true, hidden: [{ id: 'h', what: 'pipe', atM: 1, widthM: 0.1, sillM: 0 }] },
    },
    /^Store, north wall: /,
    (j) => j.walls.find((w) => w.id === 'room-store-north')!.hidden?.[0]?.what === 'pipe',
  ],
  [dairy, { kind: 'building.set', patch: { attic: 'none' } }, /^Building: attic$/, (j) => j.building!.attic === 'none'],
  [
    dairy,
    { kind: 'place.put', what: 'point', id: 'p7', room: 'room-store', spot: { eastM: 1, northM: 2 } },
    /^Freezer: placed in Store$/,
    (j) => box(j, 'p7').overhead?.northM === 2 && box(j, 'p7').wall === null,
  ],
  [
    dairy,
    { kind: 'route.take', cable: 'to-end-c1', route: way },
    /^Route chosen: 12.00 m, 2 holes$/,
    (j) => {
      const { stretches, lengthM } = c(j, 'c1').designs[0]!
      return lengthM === null && stretches.map((s) => `${s.place} ${s.lengthM}`).join() === 'wall 4,attic 8'
    },
  ],
  [
    dairy,
    {
      kind: 'route.break',
      cable: 'to-b2',
      branch: 'to-b3',
      joint: { id: 'joint', name: 'Joint at the bench' },
      room: 'room-store',
      spot: { eastM: 1, northM: 2 },
      toJoint: way,
      onward: way,
      way,
    },
    /^Joint at the bench: a joint box put into a cable$/,
    (j) => j.cables.find((k) => k.to.id === 'b2')?.from.id === 'joint' && j.cables.find((k) => k.to.id === 'joint')?.from.id === 'b1',
  ],
  [
    after(dairy, { kind: 'route.take', cable: 'to-end-c1', route: way }),
    { kind: 'route.drop', cable: 'to-end-c1' },
    /^Route withdrawn/,
    (j) => j.cables.every((k) => !k.route) && c(j, 'c1').designs[0]!.stretches.length === 2,
  ],
  [
    dairy,
    { kind: 'bench.take', box: 'end-c2', bench },
    /^Box of .+ wired: 1 end terminated$/,
    (j) => box(j, 'end-c2').bench?.ends.length === 1,
  ],
  [
    after(dairy, { kind: 'bench.take', box: 'end-c2', bench }),
    { kind: 'bench.connect', box: 'end-c2', end: 'to-end-c2 line', to: 'j1' },
    /: a conductor terminated$/,
    (j) => box(j, 'end-c2').bench?.ends.length === 2,
  ],
  [
    after(dairy, { kind: 'bench.take', box: 'end-c2', bench }),
    { kind: 'bench.drop', box: 'end-c2' },
    /: standard wiring$/,
    (j) => !('bench' in box(j, 'end-c2')),
  ],
  [
    dairy,
    { kind: 'box.share', point: 'b3', box: 'b1' },
    /^Bench, right: in the box of Bench, left$/,
    (j) => p(j, 'b3').box === 'b1' && j.boxes.every((b) => b.id !== 'b3'),
  ],
  [
    after(dairy, { kind: 'box.share', point: 'b3', box: 'b1' }),
    { kind: 'box.share', point: 'b3', box: null },
    /^Bench, right: in a box of its own$/,
    (j) => p(j, 'b3').box === 'b3' && box(j, 'b3').room === box(j, 'b1').room,
  ],
  [
    dairy,
    { kind: 'mount.set', boxes: ['end-c2'], patch: { behind: 'finished', layers: [{ what: 'board', mm: 12.5 }] } },
    /: how the box is held, /,
    (j) => box(j, 'end-c2').mount?.layers[0]?.mm === 12.5 && box(j, 'end-c2').mount?.studMm === null,
  ],
  [dairy, { kind: 'signal-cable.add', item: signal }, /^Office data added$/, (j) => j.signalCables?.[0]?.shares?.[0] === 'rw1'],
  [
    after(dairy, { kind: 'signal-cable.add', item: signal }),
    { kind: 'signal-cable.set', id: 'sc1', patch: { shares: [], apartMm: 80 } },
    /^Office data: what it shares, distance to power cables$/,
    (j) => j.signalCables![0]!.apartMm === 80,
  ],
  [
    after(dairy, { kind: 'signal-cable.add', item: signal }),
    { kind: 'signal-cable.remove', id: 'sc1' },
    /^Office data removed$/,
    (j) => j.signalCables!.length === 0,
  ],
  [
    after(dairy, { kind: 'signal-cable.add', item: signal }),
    { kind: 'raceway.remove', id: 'rw1' },
    /^Cold wall raceway removed$/,
    (j) => j.signalCables![0]!.shares === null,
  ],
  [dairy, { kind: 'due.add', item: due }, /^Due on 2027-05-01: Inspection$/, (j) => j.due?.length === 1],
  [
    after(dairy, { kind: 'due.add', item: due }),
    { kind: 'due.set', id: 'du1', patch: { doneOn: '2027-04-30' } },
    /^Inspection: done on 2027-04-30$/,
    (j) => j.due![0]!.doneOn === '2027-04-30',
  ],
  [
    after(dairy, { kind: 'due.add', item: due }),
    { kind: 'due.remove', id: 'du1' },
    /^Inspection: no longer due$/,
    (j) => j.due!.length === 0,
  ],
  [dairy, { kind: 'coil.add', item: coil }, /^In the van: 12 m of 10 AWG$/, (j) => j.coils?.[0]?.lengthM === 12],
  [
    after(dairy, { kind: 'coil.add', item: coil }),
    { kind: 'coil.set', id: 'v1', patch: { price: 30, onHand: false } },
    /^Coil: price 30, on hand no$/,
    (j) => j.coils![0]!.price === 30,
  ],
  [after(dairy, { kind: 'coil.add', item: coil }), { kind: 'coil.remove', id: 'v1' }, /^Coil removed$/, (j) => j.coils!.length === 0],
  [
    dairy,
    { kind: 'day.set', patch: { date: '2026-11-30', mostOffMin: 20, people: [{ id: 'a', name: 'Ann' }] } },
    /^Day: date, most off, people$/,
    (j) => j.day?.mostOffMin === 20,
  ],
  [dairy, { kind: 'task.add', item: lunch }, /^On the day: Lunch$/, (j) => j.day?.own.length === 1],
  [withLunch, { kind: 'task.set', id: 'o1', patch: { minutes: 45 } }, /^Lunch: minutes$/, (j) => j.day!.own[0]!.minutes === 45],
  [withLunch, { kind: 'task.remove', id: 'o1' }, /^Lunch taken off the day$/, (j) => j.day!.own.length === 0],
  [
    dairy,
    { kind: 'task.hold', task: 'box c1', earliestMin: 605 },
    /^A task begins not before 10:05$/,
    (j) => j.day?.notBefore?.['box c1'] === 605,
  ],
  [
    after(dairy, { kind: 'task.hold', task: 'box c1', earliestMin: 605 }),
    { kind: 'task.hold', task: 'box c1', earliestMin: null },
    /^A task begins as it comes$/,
    (j) => j.day?.notBefore?.['box c1'] === undefined,
  ],
  [dairy, { kind: 'task.minutes', task: 'box c1', minutes: 25 }, /^A task takes 25 minutes here$/, (j) => j.day?.minutes['box c1'] === 25],
  [
    after(dairy, { kind: 'task.minutes', task: 'box c1', minutes: 25 }),
    { kind: 'task.minutes', task: 'box c1', minutes: null },
    /^A task takes what the table says$/,
    (j) => !('box c1' in j.day!.minutes),
  ],
  [
    dairy,
    { kind: 'day.plan', planned: { at, tasks: [{ id: 'box c1', startMin: 480, endMin: 495 }], outages: [], optimal: true } },
    /^Plan of the day accepted: 1 task$/,
    (j) => j.day?.planned?.tasks.length === 1,
  ],
  [
    dairy,
    { kind: 'task.start', row: { task: 'box c1', expectedMin: 15, startedAt: at, endedAt: null, note: '' } },
    /^A task begun$/,
    (j) => j.day?.log.length === 1,
  ],
  [
    begun,
    { kind: 'task.end', task: 'box c1', endedAt: '2026-11-20T08:20:00.000Z', note: 'old plaster' },
    /^A task done$/,
    (j) => j.day!.log[0]!.note === 'old plaster',
  ],
  [
    dairy,
    { kind: 'isolation.sign', signature: { id: 's1', circuits: ['c1'], name: 'Ann', told: 'the tenant', at } },
    /^Isolation signed by Ann$/,
    (j) => j.day?.signatures.length === 1,
  ],
  [dairy, { kind: 'labels.set', patch: { tapeMm: 12 } }, /^Labels: tape width$/, (j) => j.labels?.tapeMm === 12],
  [
    dairy,
    { kind: 'labels.stick', items: [{ key: 'board w ', text: '3 Bench', at }] },
    /^A label stuck$/,
    (j) => j.labels?.stuck[0]?.text === '3 Bench',
  ],
  [
    after(dairy, { kind: 'labels.stick', items: [{ key: 'board w ', text: '3 Bench', at }] }),
    { kind: 'labels.unstick', key: 'board w ' },
    /^A label taken off$/,
    (j) => j.labels?.stuck.length === 0,
  ],
  [
    dairy,
    {
      kind: 'issue.sign',
      signature: { id: 's', for: 'work', name: 'Ann', qualification: 'Electrician', registration: '', at },
      digest: '0'.repeat(64),
    },
    /^Record signed by Ann$/,
    (j) => j.issues?.[0]?.n === 1 && j.issues[0].signatures[0]!.name === 'Ann',
  ],
  [
    dairy,
    { kind: 'quotation.accept', accepted: { at, by: 'The potter', total: 1250 } },
    /^Quotation accepted by The potter: 1250\.00$/,
    (j) => j.day?.accepted?.total === 1250,
  ],
  [
    accepted,
    { kind: 'variation.add', item: { id: 'v1', at, words: 'A light as well', amount: -40, agreedBy: 'The potter' } },
    /^Variation agreed with The potter: A light as well, -40\.00$/,
    (j) => j.day?.variations?.[0]?.amount === -40,
  ],
  [
    after(accepted, { kind: 'variation.add', item: { id: 'v1', at, words: 'A light as well', amount: 40, agreedBy: 'The potter' } }),
    { kind: 'variation.remove', id: 'v1' },
    /^Variation taken off$/,
    (j) => j.day?.variations?.length === 0,
  ],
]

describe('an edit as the server reads it', () => {
  it('sets what is in it and nothing besides', () => {
    const edit = { kind: 'load.set', circuit: 'c1', patch: { amount: 5 } }
    expect(editSchema.parse(edit)).toEqual(edit)
  })
})

describe('each kind of edit', () => {
  it('refuses a day that ends before it begins, a task that is done twice at once, and one that ends before it began', () => {
    expect(() => after(dairy, { kind: 'day.set', patch: { endMin: 480 } })).toThrow(/ends after it begins/)
    expect(() => after(begun, { kind: 'task.start', row: { ...begun.day!.log[0]! } })).toThrow(/being done already/)
    expect(() => after(begun, { kind: 'task.end', task: 'box c1', endedAt: '2026-11-20T07:59:00.000Z', note: '' })).toThrow(/cannot end/)
    const nobody = { id: 's1', circuits: ['c1'], name: ' ', told: '', at }
    expect(() => after(dairy, { kind: 'isolation.sign', signature: nobody })).toThrow(/Who signs/)
  })
  it('has a case here', () => {
    const kinds = editSchema.options.map((o) => o.shape.kind.value)
    expect(kinds.filter((k) => !cases.some(([, e]) => e.kind === k))).toEqual([])
  })

  it.each(cases.map((one) => [one[1].kind, one] as const))(
    '%s does what it says, is told in the user’s words, and can be taken back',
    (_, [job, edit, words, holds]) => {
      expect(editSchema.safeParse(edit).error).toBeUndefined()
      expect(describeEdit(job, edit)).toMatch(words)
      const before = JSON.stringify(job)
      const { job: next, patches, inverse } = applyEdit(job, edit)
      expect(JSON.stringify(job)).toBe(before)
      expect(holds(next)).toBeTruthy()
      expect(holds(job)).toBeFalsy()
      expect(jobSchema.safeParse(next).error).toBeUndefined()
      expect(patchJob(next, inverse)).toEqual(job)
      expect(patchJob(job, patches)).toEqual(next)
      // Patches travel to the server and into the history as JSON.
      expect(patchJob(job, JSON.parse(JSON.stringify(patches)))).toStrictEqual(next)
      expect(evaluate(next, []).circuits).toHaveLength(next.circuits.length)
    },
  )

  it('names what it points at, never its id', () => {
    const say = (job: Job, edit: Edit) => describeEdit(job, edit)
    expect(say(dairy, { kind: 'circuit.connect', circuit: 'c4', board: feederBoardId('c5') })).toBe(
      'Fed from the board of Feeder, pug mill shed (Glaze bench, two lines)',
    )
    expect(say(dairy, { kind: 'circuit.connect', circuit: 'c6', board: 'main' })).toBe('Fed from the main board (Pug mill)')
    expect(say(dairy, { kind: 'circuit-point.set', circuit: 'c4', id: 'b3', patch: { from: 'b1', appliance: 'pottery-wheel' } })).toBe(
      'Bench, right: from Bench, left, appliance Pottery wheel (Glaze bench, two lines)',
    )
    expect(say(guarded, { kind: 'way.set', id: hall.ways[0]!.id, patch: { residual: 'g9', bar: null } })).toMatch(
      /: behind Stage RCD, neutral bar not known$/,
    )
    expect(say(dairy, { kind: 'way.set', id: 'w1', patch: { residual: 'own' } })).toBe('Way Yard: behind a device of its own')
  })

  it('names every field in words', () => {
    const shapes = [
      briefSchema,
      supplySchema,
      circuitSchema,
      cableSchema,
      loadSchema,
      designSchema,
      boxSchema,
      racewaySchema,
      waySchema,
      pointSchema,
      boardSchema,
      residualDeviceSchema,
      wallSchema,
      defectSchema,
      jobSchema,
    ].map((s) => s.shape)
    const words = [...new Set(shapes.flatMap((s) => Object.keys(s)))].map(fieldWords)
    expect(words.filter((w) => /[a-z][A-Z]/.test(w))).toEqual([])
    expect(fieldWords('lengthM')).toBe('length')
    expect(fieldWords('tradeSize')).toBe('trade size')
    expect(fieldWords('fitness')).toBe('fitness')
  })
})

describe('an edit that cannot be', () => {
  it.each<[string, Job, Edit, string]>([
    ['a point hung from itself', dairy, { kind: 'circuit-point.set', circuit: 'c4', id: 'b1', patch: { from: 'b3' } }, 'patch.from'],
    [
      'a point hung from nothing known',
      dairy,
      { kind: 'circuit-point.add', circuit: 'c4', points: [placed('n', 'N', { from: 'x' })] },
      'points.0.from',
    ],
    ['a point that is there already', dairy, { kind: 'circuit-point.add', circuit: 'c4', points: [placed('b1', 'N')] }, 'points.0.id'],
    [
      'a point that is to be removed, put on a circuit',
      after(dairy, { kind: 'point.add', points: [{ ...blankPoint('gone', 'Gone'), state: 'removed' }] }),
      { kind: 'circuit-point.take', circuit: 'c4', points: [{ id: 'gone', from: null, lengthM: null }] },
      'points.0.id',
    ],
    ['a circuit that is there already', dairy, { kind: 'circuit.add', id: 'c1', name: 'N' }, 'id'],
    [
      'a data or control cable in a raceway that is gone',
      dairy,
      { kind: 'signal-cable.add', item: { ...signal, shares: ['x'] } },
      'item.shares.0',
    ],
    ['a raceway of a circuit that is gone', dairy, { kind: 'raceway.set', id: 'rw1', patch: { circuits: ['x'] } }, 'patch.circuits.0'],
    ['a way on no board', dairy, { kind: 'way.add', way: newWay('n', 'N', { board: 'x' }) }, 'way.board'],
    ['the main board fed from somewhere', dairy, { kind: 'board.set', id: 'main', patch: { fedFrom: 'w1' } }, 'patch.fedFrom'],
    ['the main board removed', dairy, { kind: 'board.remove', id: 'main' }, 'id'],
    [
      'something seen of a point that is gone',
      dairy,
      {
        kind: 'observation.add',
        items: [{ id: 'n', at, instrument: 'contact', withdrawn: false, seen: { kind: 'breaker-off', breaker: 'w1', dead: ['x'] } }],
      },
      'items.0.seen',
    ],
    [
      'a finding declined without a reason',
      hall,
      { kind: 'defect.set', id: 'd2', patch: { state: 'declined', reason: ' ' } },
      'patch.reason',
    ],
    [
      'work of a finding of no kind',
      after(hall, { kind: 'defect.set', id: 'd2', patch: { kind: null } }),
      { kind: 'defect.work', id: 'd2', work: 'n' },
      'id',
    ],
    ['a fourth alternative', three, { kind: 'design.copy', circuit: 'c2', design: 'a', id: 'n', name: 'N' }, 'id'],
  ])('%s is refused at its field and changes nothing', (_, job, edit, path) => {
    const before = JSON.stringify(job)
    let thrown: unknown
    try {
      applyEdit(job, edit)
    } catch (e) {
      thrown = e
    }
    expect(thrown).toBeInstanceOf(EditError)
    expect((thrown as EditError).path).toBe(path)
    expect((thrown as EditError).message).toMatch(/^[A-Z].*\.$/)
    expect(JSON.stringify(job)).toBe(before)
  })
})

describe('a job of an older version', () => {
  const plain = () => JSON.parse(readFileSync('tests/support/job-file-2.json', 'utf8')).job as Record<string, unknown>

  it('gets at its beginnings whatever later versions added, wherever it is missing, and keeps the rest', () => {
    const whole = plain() as { circuits: Record<string, unknown>[] }
    const added = {
      point: Object.keys(newCircuitPoint('', '')).filter((k) => !['id', 'name'].includes(k)),
      design: Object.keys(oldDesign('southern-africa', '', '')).filter((k) => !['id', 'name'].includes(k)),
    }
    const later = ['guard', 'ends', 'feeder', 'nearWater', 'outOfReach', 'old', 'source', 'environment', 'work', 'kind', 'points'].filter(
      (k) => k in whole.circuits[0]!,
    )
    fc.assert(
      fc.property(
        fc.subarray(added.point),
        fc.subarray(added.design),
        fc.boolean(),
        fc.subarray(later),
        fc.boolean(),
        (points, designs, untyped, ofCircuit, unrecorded) => {
          const old = structuredClone(whole) as unknown as {
            survey: { demand: { recordedA?: number | null } }
            circuits: (Record<string, unknown> & { points: Record<string, unknown>[]; designs: Record<string, unknown>[] })[]
          }
          if (unrecorded) delete old.survey.demand.recordedA
          for (const circuit of old.circuits) {
            for (const point of circuit.points) for (const k of points) delete point[k]
            for (const d of circuit.designs) {
              if (untyped) delete (d.residual as { type?: unknown }).type
              for (const k of designs) delete d[k]
            }
            for (const k of ofCircuit) delete circuit[k]
          }
          const job = upgradeJob(old)
          expect(oldJobSchema.safeParse(job).error).toBeUndefined()
          expect(job).toMatchObject(old)
          expect(upgradeJob(job)).toBe(job)
          expect(jobSchema.safeParse(fromVersion2(job)).error).toBeUndefined()
        },
      ),
      { numRuns: 60 },
    )
  })

  it('is left alone where it is none', () => {
    for (const none of [null, 5, 'x', [], {}]) expect(upgradeJob(none)).toBe(none)
    expect(newStretch(newDesign('united-kingdom', 'a', 'A'), 's')).toMatchObject({ lengthM: null, method: 'clipped-direct' })
    expect(readFileSync('docs/file-format.md', 'utf8')).toContain('version')
  })
})
