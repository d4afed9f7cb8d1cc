import { schools } from '../../src/core/catalogue/schools'
import fc from 'fast-check'
import { accessoriesFor } from '../../src/core/catalogue/accessories'
import { devicesFor } from '../../src/core/catalogue/devices'
import { boxesFor } from '../../src/core/catalogue/boxes'
import { newBoard, newResidualDevice, newWay } from '../../src/core/job/board'
import { circuitKinds, circuitWorks } from '../../src/core/job/circuit'
import { newStretch } from '../../src/core/job/design'
import type { Edit } from '../../src/core/job/edits'
import { blankPoint, pointKinds } from '../../src/core/job/point'
import { ownTaskKinds } from '../../src/core/job/day'
import { newDefect } from '../../src/core/job/report'
import { type Measured, newWall } from '../../src/core/job/room'
import { sides } from '../../src/core/building/house'
import type { RouteElement } from '../../src/core/job/cable'
import { newRaceway } from '../../src/core/job/raceway'
import type { Job } from '../../src/core/job/schema'
import { states } from '../../src/core/job/fields'

/** What decides an edit: numbers that pick from what the job holds at that moment. */
export const dice = fc.array(fc.nat(997), { minLength: 8, maxLength: 8 })
type Roll = readonly number[]

const at = '2026-11-20T08:00:00.000Z'
const pick = <T>(list: readonly T[], n: number): T => list[n % list.length]!
/** An id of a list, or now and then one that is not there. */
const idOf = (list: readonly { id: string }[], n: number): string => (list.length === 0 || n % 23 === 0 ? 'nobody' : pick(list, n).id)
const lengths = [null, 0, 3, 12.5, 80]

const measures = (n: number, beside: Measured['beside']): Measured => ({ lengthM: 2 + (n % 5), widthM: 3, heightM: 2.4, beside })
const element = (kind: RouteElement['kind'], room: string | null, side: RouteElement['side']): RouteElement => ({
  kind,
  room,
  side,
  beyond: null,
  lengthM: 2,
  minutes: 4,
  holes: 1,
  openings: 0,
  path: [
    [0, 0, 1],
    [0, 0, 2.4],
  ],
})

const makers: readonly ((job: Job, r: Roll) => Edit)[] = [
  (_, [a]) => ({ kind: 'circuit.add', id: `n${a! % 5}`, name: `New ${a}`, of: pick(circuitKinds, a!) }),
  (job, [a]) => ({ kind: 'circuit.remove', circuit: idOf(job.circuits, a!) }),
  (job, [a, b]) => ({ kind: 'circuit.set', circuit: idOf(job.circuits, a!), patch: { kind: pick(circuitKinds, b!) } }),
  (job, [a, b]) => ({ kind: 'circuit.set', circuit: idOf(job.circuits, a!), patch: { work: pick(circuitWorks, b!) } }),
  (job, [a, b, c]) => ({
    kind: 'circuit.connect',
    circuit: idOf(job.circuits, a!),
    board: idOf(job.boards, b!),
    way: pick(['', '3', '5-7', '9, 12', '4a', 'x', '99'], c!),
  }),
  (job, [a, b]) => ({
    kind: 'circuit.connect',
    circuit: idOf(job.circuits, a!),
    residual: pick(['none', 'own', 'unknown', idOf(job.residualDevices, b!)], b!),
  }),
  (job, [a, b, c]) => ({
    kind: 'run.set',
    circuit: idOf(job.circuits, a!),
    patch: b! % 3 ? { lengthM: pick(lengths, c!) } : { closeM: pick(lengths, c!) },
  }),
  (job, [a, b]) => ({
    kind: 'run.set',
    circuit: idOf(job.circuits, a!),
    patch: { stretches: Array.from({ length: b! % 3 }, (_, i) => newStretch(job.circuits[0]!.designs[0]!, `s${i}`)) },
  }),
  (job, [a, b, c]) => ({
    kind: 'cable.set',
    id: idOf(job.cables, a!),
    patch: {
      lengthM: null,
      stretches: Array.from({ length: 1 + (b! % 2) }, (_, i) => ({
        ...newStretch(job.circuits[0]!.designs[0]!, `s${i}`),
        lengthM: pick(lengths, c! + i),
        ambientC: 30 + 5 * ((b! + i) % 5),
      })),
    },
  }),
  (job, [a, b, c]) => ({
    kind: 'circuit-point.add',
    circuit: idOf(job.circuits, a!),
    points: [{ id: `p${b! % 9}`, name: `Point ${b}`, from: c! % 2 ? null : idOf(job.points, c!), lengthM: pick(lengths, b!) }],
  }),
  (job, [a, b, c]) => ({
    kind: 'circuit-point.take',
    circuit: idOf(job.circuits, a!),
    points: [{ id: idOf(job.points, b!), from: c! % 2 ? null : idOf(job.points, c!), lengthM: pick(lengths, c!) }],
  }),
  (job, [a, b, c]) => ({
    kind: 'circuit-point.set',
    circuit: idOf(job.circuits, a!),
    id: idOf(job.points, b!),
    patch: { from: c! % 2 ? null : idOf(job.points, c!), lengthM: pick(lengths, c!) },
  }),
  (job, [a, b]) => ({ kind: 'circuit-point.remove', circuit: idOf(job.circuits, a!), id: idOf(job.points, b!) }),
  (job, [a, b, c]) => ({ kind: 'circuit-point.move', circuit: idOf(job.circuits, a!), id: idOf(job.points, b!), to: c! % 6 }),
  (job, [a, b, c]) => ({
    kind: 'point.set',
    id: idOf(job.points, a!),
    patch: {
      state: pick(states, b!),
      accessory: pick([null, ...accessoriesFor(job.region).map((x) => x.id)], c!),
      room: pick(['', 'Store', 'Loft'], c!),
    },
  }),
  (job, [a, b]) => ({
    kind: 'point.add',
    points: [
      blankPoint(`q${a! % 9}`, `Q${a}`, {
        kind: pick(pointKinds, a!),
        room: pick(['', 'Store'], b!),
        wall: b! % 4 ? null : { wall: idOf(job.walls, b!), atM: 1 },
      }),
    ],
  }),
  (job, [a]) => ({ kind: 'point.remove', id: idOf(job.points, a!) }),
  (job, [a, b]) => ({
    kind: 'box.set',
    boxes: [idOf(job.boxes, a!)],
    patch: { kind: pick(boxesFor(job.region), b!).id, others: b! % 4 },
  }),
  (job, [a, b]) => ({
    kind: 'way.add',
    way: newWay(`w${a! % 9}`, `Way ${a}`, {
      board: idOf(job.boards, b!),
      position: 1 + (a! % 20),
      residual: pick(['none', 'unknown', idOf(job.residualDevices, a!)], b!),
    }),
  }),
  (job, [a, b]) => ({
    kind: 'way.set',
    id: idOf(job.ways, a!),
    patch: { ratingA: 6 + (b! % 40), bar: pick([null, 'main', idOf(job.residualDevices, b!)], a!) },
  }),
  (job, [a]) => ({ kind: 'way.remove', id: idOf(job.ways, a!) }),
  (job, [a, b]) => ({ kind: 'board.add', item: newBoard(`b${a! % 3}`, { fedFrom: b! % 2 ? null : idOf(job.ways, b!) }) }),
  (job, [a, b]) => ({
    kind: 'board.set',
    id: idOf(job.boards, a!),
    patch: { free: b! % 2 ? null : [(b! % 20) + 1], fedFrom: a! % 5 ? null : idOf(job.ways, b!) },
  }),
  (job, [a]) => ({ kind: 'board.remove', id: idOf(job.boards, a!) }),
  (job, [a, b]) => ({
    kind: 'residual-device.add',
    item: newResidualDevice(`d${a! % 3}`, `Device ${a}`, { board: idOf(job.boards, b!), tripMa: pick([null, 30, 100], b!) }),
  }),
  (job, [a]) => ({ kind: 'residual-device.remove', id: idOf(job.residualDevices, a!) }),
  (_, [a]) => ({ kind: 'wall.add', item: { ...newWall(`r${a! % 3}`, `Wall ${a}`), room: pick(['', 'Store'], a!) } }),
  (job, [a]) => ({ kind: 'wall.remove', id: idOf(job.walls, a!) }),
  (_, [a, b]) => ({ kind: 'room.set', name: pick(['Store', 'Loft', 'Hall'], a!), patch: { floor: b! % 3 } }),
  (job, [a, b, c]) => ({
    kind: 'room.measure',
    name: pick(['Store', 'Loft', 'Hall'], a!),
    measured:
      b! % 5 ? measures(b!, c! % 3 ? { room: idOf(job.rooms, c!), side: pick([...sides, 'over'], b!), shiftM: 0, northM: 1 } : null) : null,
  }),
  (job, [a]) => ({ kind: 'room.remove', id: idOf(job.rooms, a!) }),
  (job, [a, b, c]) => ({
    kind: 'wall.open',
    room: idOf(job.rooms, a!),
    side: pick(sides, b!),
    wall: `r${c! % 5}`,
    piece: { id: `p${c}`, what: pick(['door', 'window', 'fixed'], c!), lengthM: 0.9, ...(b! % 2 ? { sillM: 0.9, headM: 2 } : {}) },
    atM: b! % 4,
  }),
  (job, [a, b]) => {
    const circuit = job.circuits[a! % Math.max(1, job.circuits.length)]
    const points = job.cables.flatMap((k) => (k.circuit === circuit?.id && k.to.kind === 'point' ? [k.to.id] : []))
    return {
      kind: 'circuit-point.chain',
      circuit: circuit?.id ?? 'none',
      order: points.length < 2 ? ['a', 'b'] : b! % 2 ? points.toReversed() : points,
    }
  },
  (job, [a, b, c]) => ({
    kind: 'room.draw',
    rooms: [
      {
        id: `drawn${a! % 3}`,
        name: pick(['Drawn', 'Store', 'Nook'], b!),
        floor: 0,
        measured: { ...measures(b!, c! % 2 ? { room: idOf(job.rooms, c!), side: pick(sides, b!), shiftM: 0, northM: 0 } : null) },
      },
    ],
  }),
  (job, [a, b, c]) => ({
    kind: 'wall.inside',
    room: idOf(job.rooms, a!),
    side: pick(sides, b!),
    wall: `r${c! % 5}`,
    patch: {
      ...(b! % 2 ? { studAtM: pick([null, 0.7, 9], c!) } : { closed: c! % 2 === 0 }),
      ...(c! % 3 ? {} : { hidden: [{ id: 'h', what: 'duct' as const, atM: b! % 4, widthM: 0.2, sillM: 0 }] }),
    },
  }),
  (job, [a, b, c]) => ({
    kind: 'building.set',
    patch: {
      ...(a! % 2
        ? {}
        : {
            obstacles: [
              { id: 'o', name: 'Duct', space: 'attic' as const, room: idOf(job.rooms, b!), eastM: 1, northM: 0, lengthM: 0.3, widthM: 2 },
            ],
          }),
      ...(c! % 3
        ? {}
        : {
            otherwise: [
              { id: 'w', of: { room: idOf(job.rooms, b!) }, walls: { kind: 'masonry' as const }, crawl: 'none' as const },
              { id: 'f', of: { floor: b! % 2 }, joists: { runs: 'north' as const, spacingM: 0.4, depthMm: null } },
            ],
          }),
      walls: pick([null, { kind: 'masonry' }, { kind: 'timber', studM: 0.4, depthMm: null, noggingM: 1.2 }], a!),
      joists: pick([null, { runs: 'east', spacingM: 0.4, depthMm: null }, { runs: 'north', spacingM: 0.4, depthMm: 200 }], b!),
      attic: pick([null, 'none', { headM: 1.2, hot: true }, { headM: 1.2, hot: false, roof: { ridge: 'east', eavesM: null } }], b!),
      outside: pick([null, 'none', 'there'], c!),
    },
  }),
  (job, [a, b, c]) => ({
    kind: 'place.put',
    what: a! % 4 ? 'point' : 'board',
    id: a! % 4 ? idOf(job.points, b!) : idOf(job.boards, b!),
    room: idOf(job.rooms, c!),
    spot:
      b! % 3
        ? {
            side: pick(sides, c!),
            atM: b! % 5,
            heightMm: 450,
            wall: `r${c! % 5}`,
            ...(b! % 5 === 1 ? { outside: true as const } : {}),
          }
        : { eastM: 1, northM: c! % 4 },
  }),
  (job, [a, b]) => ({
    kind: 'route.take',
    cable: idOf(job.cables, a!),
    route: {
      cutM: 4 + (b! % 9),
      at,
      elements: [
        element('cavity', idOf(job.rooms, b!), 'north'),
        element('attic', null, null),
        element('surface', idOf(job.rooms, a!), pick(sides, b!)),
      ],
    },
  }),
  (job, [a, b, c]) => {
    const way = { cutM: 3 + (b! % 5), at, elements: [element('attic', null, null), element('cavity', idOf(job.rooms, b!), 'north')] }
    return {
      kind: 'route.break',
      cable: idOf(job.cables, a!),
      branch: idOf(job.cables, b!),
      joint: { id: `joint${c! % 4}`, name: 'Joint' },
      room: idOf(job.rooms, c!),
      spot: c! % 2 ? { eastM: 1, northM: 0.5 } : { side: pick(sides, b!), atM: 0.5, heightMm: 450, wall: `r${c! % 5}` },
      toJoint: way,
      onward: way,
      way,
    }
  },
  (_, [a, b]) => ({
    kind: 'coil.add',
    item: { id: `v${a! % 4}`, cable: 'a', size: '2.5 mm2', lengthM: 1 + b!, price: b! % 2 ? null : 9, onHand: a! % 2 === 0 },
  }),
  (job, [a, b, x]) => ({
    kind: 'bench.take',
    box: idOf(job.boxes, a!),
    bench: {
      devices:
        b! % 3 ? [{ id: 'd1', kind: pick(devicesFor(job.region), b!).id, broken: [] }] : [{ id: 'd1', kind: 'uk-two-way', broken: [] }],
      connectors: [{ id: x! % 7 ? 'j1' : 'd1', kind: 'lever-3' }],
      tails: [{ id: 't1', colour: 'white' }],
      ends: [
        { end: `${idOf(job.cables, a!)} line`, to: x! % 5 ? 'j1' : 'nowhere' },
        { end: 't1 a', to: 'cap' },
      ],
      marked: [],
    },
  }),
  (job, [a, b]) => ({
    kind: 'bench.connect',
    box: idOf(job.boxes, a!),
    end: `${idOf(job.cables, b!)} pe`,
    to: pick(['j1', 'cap', null, 'elsewhere'], b!),
  }),
  (job, [a]) => ({ kind: 'bench.drop', box: idOf(job.boxes, a!) }),
  (job, [a, b, c]) => ({ kind: 'box.share', point: idOf(job.points, a!), box: c! % 3 ? idOf(job.boxes, b!) : null }),
  (job, [a, b]) => ({
    kind: 'box.set',
    boxes: [idOf(job.boxes, a!)],
    patch: { planned: b! % 3 ? { kind: pick(boxesFor(job.region), b!).id } : null },
  }),
  (job, [a, b]) => ({
    kind: 'mount.set',
    boxes: [idOf(job.boxes, a!)],
    patch: {
      behind: pick(['finished', 'open', null] as const, b!),
      layers: [{ what: 'board', mm: 1 + (b! % 30) }],
      studMm: b! % 2 ? 40 : null,
    },
  }),
  (job, [a, b]) => ({ kind: 'coil.set', id: idOf(job.coils ?? [], a!), patch: { lengthM: 1 + b! } }),
  (job, [a]) => ({ kind: 'coil.remove', id: idOf(job.coils ?? [], a!) }),
  (job, [a, b]) => ({
    kind: 'day.set',
    patch: {
      startMin: (a! % 30) * 60,
      endMin: (b! % 30) * 60,
      people: [{ id: 'a', name: '', ...(b! % 3 ? {} : { fromMin: (a! % 20) * 60, untilMin: 600, helper: true }) }],
      mostOffMin: b! % 2 ? null : 20,
      holds: b! % 4 ? { [idOf(job.points, a!)]: 20 } : {},
      wishes: { rainFromMin: a! % 2 ? 600 : null, outsideBeforeRain: a! % 11, insideBeforeOutside: b! % 11 },
      place: { north: 52, east: a! % 3 ? 0 : null },
    },
  }),
  (job, [a, b]) => ({
    kind: 'task.add',
    item: {
      id: `o${a! % 4}`,
      name: `Task ${a}`,
      kind: pick(ownTaskKinds, a!),
      minutes: 5,
      people: b! % 3,
      power: 'any',
      after: [idOf(job.day?.own ?? [], b!)],
      earliestMin: null,
      latestMin: 900,
      outside: a! % 2 === 0,
      skilled: b! % 2 === 0,
    },
  }),
  (job, [a]) => ({ kind: 'task.remove', id: idOf(job.day?.own ?? [], a!) }),
  (_, [a, b]) => ({ kind: 'task.hold', task: pick(['run c1', 'box c1'], a!), earliestMin: b! % 3 ? 600 : null }),
  (_, [a, b]) => ({ kind: 'task.minutes', task: pick(['run c1', 'box c1'], a!), minutes: b! % 3 ? 5 : null }),
  (_, [a]) => ({
    kind: 'task.start',
    row: { task: pick(['run c1', 'box c1'], a!), expectedMin: 5, startedAt: at, endedAt: null, note: '' },
  }),
  (_, [a]) => ({ kind: 'task.end', task: pick(['run c1', 'box c1'], a!), endedAt: at, note: '' }),
  (job, [a]) => ({
    kind: 'isolation.sign',
    signature: { id: `s${a! % 5}`, circuits: [idOf(job.circuits, a!)], name: pick(['Ann', ''], a!), told: '', at },
  }),
  (_, [a]) => ({
    kind: 'day.plan',
    planned: a! % 3 ? { at, tasks: [{ id: 'run c1', startMin: 480, endMin: 490 }], outages: [], optimal: true } : null,
  }),
  (job, [a, b]) => ({
    kind: 'design.swap',
    what: pick(['accessory', 'box', 'cable'] as const, a!),
    from: pick([...job.circuits.map((c) => c.designs[0]!.accessory ?? ''), job.circuits[0]?.designs[0]?.cable ?? 'x'], b!) || 'x',
    to: pick(['uk-socket-13', 'na-duplex-15', 'uk-metal-35', 'flat-twin-earth'], b!),
  }),
  (job, [a]) => ({ kind: 'route.drop', cable: idOf(job.cables, a!) }),
  (job, [a, b]) => ({ kind: 'raceway.add', item: newRaceway(`x${a! % 3}`, `Raceway ${a}`, { circuits: [idOf(job.circuits, b!)] }) }),
  (job, [a]) => ({ kind: 'raceway.remove', id: idOf(job.raceways, a!) }),
  (job, [a, b, c]) => ({
    kind: 'observation.add',
    items: [
      {
        id: `o${a}`,
        at,
        instrument: 'contact',
        withdrawn: false,
        seen:
          c! % 2
            ? { kind: 'breaker-off', breaker: idOf(job.ways, a!), dead: [idOf(job.points, b!)] }
            : { kind: 'cables', point: idOf(job.points, b!), onward: a! % 3 },
      },
    ],
  }),
  (job, [a, b]) => ({ kind: 'observation.complete', ids: [idOf(job.observations, a!)], dead: [idOf(job.points, b!)] }),
  (job, [a, b]) => ({
    kind: 'trace.take',
    cables: [{ point: idOf(job.points, a!), from: { kind: 'way', id: idOf(job.ways, b!) }, proof: 'seen' }],
  }),
  (_, [a, b]) => ({
    kind: 'school.choose',
    school: pick(
      schools.map((s) => s.id),
      a!,
    ),
    option: b! % 3 ? pick(['lever', 'working', 'main', 'ahead', 'yes'], b!) : null,
  }),
  (job, [a, b, c]) => ({ kind: 'cable.find', id: `k${a! % 9}`, way: idOf(job.ways, b!), point: idOf(job.points, c!) }),
  (_, [a]) => ({
    kind: 'defect.add',
    items: [newDefect(`f${a! % 5}`, 'A socket cracked', { kind: pick(['damaged-accessory', 'buried-joint', 'overloaded', null], a!) })],
  }),
  (job, [a, b]) => ({ kind: 'defect.work', id: idOf(job.defects, a!), work: `k${b}` }),
  (job, [a, b]) => ({
    kind: 'source.choose',
    circuit: idOf(job.circuits, a!),
    source: {
      kind: b! % 2 ? 'board' : 'extend',
      from: b! % 2 ? idOf(job.boards, b!) : idOf(job.points, b!),
      words: 'there',
      reason: '',
      at,
    },
    way: pick(['', '3', 'Old'], b!),
    lengthM: pick(lengths, a!),
    design: {},
  }),
  (job, [a, b]) => ({
    kind: 'design.set',
    circuit: idOf(job.circuits, a!),
    design: 'a',
    patch: { residual: { at: pick(['none', 'board', 'outlet'] as const, b!), ma: 30, type: null } },
  }),
]

/** Any edit that a hand, or a program, might send of this job: mostly of what is there. */
export const editBy = (job: Job, roll: Roll): Edit => pick(makers, roll[7]!)(job, roll)
