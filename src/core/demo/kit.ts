import type { Edit } from '../job/edits'
import type { Reading } from '../job/schema'
import type { RegionId } from '../region/types'
import { type CircuitPoint, newCircuitPoint } from '../job/schema'
import { newDefect, newPoint, newRun, newWay, type Room, type Run, type SurveyPoint, type Way } from '../survey/schema'

export interface DemoJob {
  readonly id: string
  readonly region: RegionId
  readonly title: string
  readonly place: string
  readonly by: string
  readonly start: string
  readonly edits: readonly Edit[]
  readonly readings: readonly (Pick<Reading, 'circuit' | 'test' | 'value' | 'mark' | 'unit'> & Partial<Reading>)[]
}

export const way = (id: string, label: string, ratingA: number, more: Partial<Way> = {}): Edit => ({ kind: 'way.add', way: newWay(id, label, { ratingA, ...more }) })
export const point = (id: string, name: string, room: string, kind: SurveyPoint['kind'], watts: number | null, more: Partial<SurveyPoint> = {}) => newPoint(id, name, { room, kind, watts, ...more })
export const off = (id: string, breaker: string, dead: string[], at: string): Edit => ({ kind: 'sighting.add', sightings: [{ id, at, instrument: 'contact', withdrawn: false, seen: { kind: 'breaker-off', breaker, dead } }] })
/** Boxes parted one after another, a quarter of an hour each, in which nothing further died. */
export const partedAlone = (id: string, from: string, places: readonly string[]): Edit[] =>
  places.map((point, i): Edit => ({ kind: 'sighting.add', sightings: [{ id: `${id}-${i + 1}`, at: new Date(Date.parse(from) + i * 900_000).toISOString(), instrument: 'contact', withdrawn: false, seen: { kind: 'disconnected', point, dead: [] } }] }))
/** A box parted, and the cables in it counted. */
export const parted = (id: string, at: string, where: string, dead: string[], onward: number): Edit => ({
  kind: 'sighting.add',
  sightings: [
    { id, at, instrument: 'contact', withdrawn: false, seen: { kind: 'disconnected', point: where, dead } },
    { id: `${id}-c`, at, instrument: 'contact', withdrawn: false, seen: { kind: 'cables', point: where, onward } },
  ],
})
/** Rooms by name: floors up, along and across from the board in metres, and whether its walls are finished. */
export const rooms = (list: Readonly<Record<string, readonly [floor: number, alongM: number, acrossM: number, finished: boolean]>>): Edit[] =>
  Object.entries(list).map(([name, [floor, alongM, acrossM, finished]]): Edit => ({ kind: 'room.set', room: { name, floor, alongM, acrossM, finished } satisfies Room }))
export const wall = (id: string, room: string, name: string, pieces: readonly (readonly [what: Run['pieces'][number]['what'], lengthM: number])[], outletsAtM: readonly number[], heightMm: number): Edit => ({
  kind: 'run.add',
  item: newRun(id, name, { room, pieces: pieces.map(([what, lengthM], i) => ({ id: `${id}-${i + 1}`, what, lengthM })), outlets: outletsAtM.map((atM, i) => ({ id: `${id}-o${i + 1}`, atM, heightMm })) }),
})
export const defect = (id: string, text: string, place: string, kind: string) => newDefect(id, text, { place, kind })
export const fitness = (answers: Record<string, 'yes' | 'no' | 'unknown'>): Edit[] => Object.entries(answers).map(([question, answer]) => ({ kind: 'fitness.answer', question, answer }))
export const fit = { permitted: 'yes', isolation: 'yes', board: 'yes', earth: 'yes', aluminium: 'no', service: 'no', unexplained: 'no' } as const

/** Edits of one circuit: its chosen design by default `a`. */
export const inCircuit = (circuit: string) => ({
  set: (patch: Extract<Edit, { kind: 'circuit.set' }>['patch']): Edit => ({ kind: 'circuit.set', circuit, patch }),
  load: (patch: Extract<Edit, { kind: 'load.set' }>['patch']): Edit => ({ kind: 'load.set', circuit, patch }),
  design: (patch: Extract<Edit, { kind: 'design.set' }>['patch'], design = 'a'): Edit => ({ kind: 'design.set', circuit, design, patch }),
  box: (patch: Extract<Edit, { kind: 'box.set' }>['patch'], end?: string): Edit => ({ kind: 'box.set', circuit, ...(end ? { end } : {}), patch }),
  add: (name: string): Edit => ({ kind: 'circuit.add', id: circuit, name }),
  /** Points in order: the first from the board, each further one from the one before unless it says otherwise. */
  stops: (...points: readonly (Partial<CircuitPoint> & { readonly id: string; readonly name: string })[]): Edit => ({ kind: 'stop.add', circuit, points: points.map((p) => newCircuitPoint(p.id, p.name, p)) }),
})
