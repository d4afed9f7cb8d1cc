import { evaluate } from '../evaluate/evaluate'
import { applyEdit, type Edit } from '../job/edits'
import { type Job, newJob } from '../job/schema'
import type { Reading } from '../job/reading'
import type { IssueSignature } from '../job/issue'
import type { NewRow } from '../verify/photograph'
import type { RegionId } from '../region/types'
import { endPointId } from '../job/cable'
import { newDefect } from '../job/report'
import { blankPoint, type TypedPoint } from '../job/point'
import { newWall } from '../job/room'
import { newWay, type Way } from '../job/board'
import type { Wall } from '../installation/installation'

type DemoReading = Pick<Reading, 'circuit' | 'test' | 'value' | 'mark' | 'unit'> & Partial<Reading>
/** One thing done in a demo job, at its moment. */
export type DemoAct = { readonly at: string } & (
  | { readonly edit: Edit }
  | { readonly reading: DemoReading }
  | { readonly signature: IssueSignature }
  /** A picture among those of the application, by its name. */
  | { readonly photograph: Pick<NewRow, 'id' | 'of' | 'words'> & Partial<NewRow>; readonly picture: string | null }
)
export interface DemoJob {
  readonly id: string
  readonly region: RegionId
  readonly title: string
  readonly place: string
  readonly by: string
  readonly start: string
  /** What it shows, in one line. */
  readonly about: string
  readonly edits: readonly Edit[]
  readonly readings: readonly DemoReading[]
  /** What was done after that, to its end, in order. */
  readonly finish?: (job: Job) => readonly DemoAct[]
}

export const way = (id: string, label: string, ratingA: number, more: Partial<Way> = {}): Edit => ({
  kind: 'way.add',
  way: newWay(id, label, { ratingA, ...more }),
})
export const point = (
  id: string,
  name: string,
  room: string,
  kind: TypedPoint['kind'],
  watts: number | null,
  more: Partial<TypedPoint> = {},
) => blankPoint(id, name, { room, kind, watts, ...more })
export const off = (id: string, breaker: string, dead: string[], at: string): Edit => ({
  kind: 'observation.add',
  items: [{ id, at, instrument: 'contact', withdrawn: false, seen: { kind: 'breaker-off', breaker, dead } }],
})
/** Boxes parted one after another, a quarter of an hour each, in which nothing further died. */
export const partedAlone = (id: string, from: string, places: readonly string[]): Edit[] =>
  places.map((point, i): Edit => ({
    kind: 'observation.add',
    items: [
      {
        id: `${id}-${i + 1}`,
        at: new Date(Date.parse(from) + i * 900_000).toISOString(),
        instrument: 'contact',
        withdrawn: false,
        seen: { kind: 'disconnected', point, dead: [] },
      },
    ],
  }))
/** A box parted, and the cables in it counted. */
export const parted = (id: string, at: string, where: string, dead: string[], onward: number): Edit => ({
  kind: 'observation.add',
  items: [
    { id, at, instrument: 'contact', withdrawn: false, seen: { kind: 'disconnected', point: where, dead } },
    { id: `${id}-c`, at, instrument: 'contact', withdrawn: false, seen: { kind: 'cables', point: where, onward } },
  ],
})
/** Rooms by name: floors up, along and across from the board in metres, and whether its walls are finished. */
export const rooms = (
  list: Readonly<Record<string, readonly [floor: number, alongM: number, acrossM: number, finished: boolean]>>,
): Edit[] =>
  Object.entries(list).map(([name, [floor, alongM, acrossM, finished]]): Edit => ({
    kind: 'room.set',
    name,
    patch: { floor, alongM, acrossM, finished },
  }))
/** A wall, and the points that are along it. */
export const wall = (
  id: string,
  room: string,
  name: string,
  pieces: readonly (readonly [what: Wall['pieces'][number]['what'], lengthM: number])[],
  along: Readonly<Record<string, number>>,
): Edit[] => [
  {
    kind: 'wall.add',
    item: { ...newWall(id, name), room, pieces: pieces.map(([what, lengthM], i) => ({ id: `${id}-${i + 1}`, what, lengthM })) },
  },
  ...Object.entries(along).map(([point, atM]): Edit => ({ kind: 'point.set', id: point, patch: { wall: { wall: id, atM } } })),
]
const roomOf = (name: string): string => `room-${name.toLowerCase().replaceAll(' ', '-')}`
/** Rooms as measured: along east, along north, high; the first lies by itself, the others on a side of one before. */
export const measured = (
  list: Readonly<Record<string, readonly [lengthM: number, widthM: number, heightM: number, side?: Beside, of?: string]>>,
): Edit[] =>
  Object.entries(list).map(([name, [lengthM, widthM, heightM, side, of]]): Edit => ({
    kind: 'room.measure',
    name,
    measured: { lengthM, widthM, heightM, beside: side && of ? { room: roomOf(of), side, shiftM: 0, northM: 0 } : null },
  }))
type Beside = NonNullable<NonNullable<Extract<Edit, { kind: 'room.measure' }>['measured']>['beside']>['side']
/** Where a point, or the main board, is on a wall: from the left as one faces it, and how high. */
export const standing = (id: string, room: string, side: Exclude<Beside, 'over'>, atM: number, heightMm: number): Edit => ({
  kind: 'place.put',
  what: id === 'main' ? 'board' : 'point',
  id,
  room: roomOf(room),
  spot: { side, atM, heightMm, wall: `${roomOf(room)}-${side}` },
})
export const overhead = (id: string, room: string, eastM: number, northM: number): Edit => ({
  kind: 'place.put',
  what: 'point',
  id,
  room: roomOf(room),
  spot: { eastM, northM },
})
export const defect = (id: string, text: string, place: string, kind: string) => newDefect(id, text, { place, kind })
export const fitness = (answers: Record<string, 'yes' | 'no' | 'unknown'>): Edit[] =>
  Object.entries(answers).map(([question, answer]) => ({ kind: 'fitness.answer', question, answer }))
export const fit = {
  dust: 'no',
  permitted: 'yes',
  isolation: 'yes',
  board: 'yes',
  earth: 'yes',
  aluminium: 'no',
  service: 'no',
  unexplained: 'no',
} as const

/** All wiring of some circuits done, step by step as their boxes have it. */
export function wiredIn(region: RegionId, before: readonly Edit[], ...circuits: readonly string[]): readonly Edit[] {
  const job = before.reduce((j, e) => applyEdit(j, e).job, newJob(region, '', ''))
  return evaluate(job, [])
    .circuits.filter((c) => circuits.includes(c.circuit.id))
    .flatMap((c) =>
      c.ends.flatMap((e): Edit[] => (e.lead && e.built ? [{ kind: 'wiring.done', boxes: [e.built.id], steps: [...e.steps] }] : [])),
    )
}

type PatchOf<K extends Edit['kind']> = Extract<Edit, { kind: K; patch: unknown }>['patch']
type Placed = Extract<Edit, { kind: 'circuit-point.add' }>['points'][number]

/** Edits of one circuit: its chosen design by default `a`, its one point where it has no named ones. */
export const inCircuit = (circuit: string) => ({
  set: (patch: PatchOf<'circuit.set'>): Edit => ({ kind: 'circuit.set', circuit, patch }),
  connect: (to: Omit<Extract<Edit, { kind: 'circuit.connect' }>, 'kind' | 'circuit'>): Edit => ({
    kind: 'circuit.connect',
    circuit,
    ...to,
  }),
  run: (patch: PatchOf<'run.set'>): Edit => ({ kind: 'run.set', circuit, patch }),
  load: (patch: PatchOf<'load.set'>): Edit => ({ kind: 'load.set', circuit, patch }),
  design: (patch: PatchOf<'design.set'>, design = 'a'): Edit => ({ kind: 'design.set', circuit, design, patch }),
  box: (patch: PatchOf<'box.set'>, ...boxes: string[]): Edit => ({
    kind: 'box.set',
    boxes: boxes.length ? boxes : [endPointId(circuit)],
    patch,
  }),
  add: (name: string, of?: Extract<Edit, { kind: 'circuit.add' }>['of']): Edit => ({
    kind: 'circuit.add',
    id: circuit,
    name,
    ...(of ? { of } : {}),
  }),
  /** Points in order, each from the one it names, or from the board. */
  points: (...points: readonly Placed[]): Edit => ({ kind: 'circuit-point.add', circuit, points: [...points] }),
  take: (...points: readonly (readonly [id: string, from: string | null, lengthM: number | null])[]): Edit => ({
    kind: 'circuit-point.take',
    circuit,
    points: points.map(([id, from, lengthM]) => ({ id, from, lengthM })),
  }),
})
