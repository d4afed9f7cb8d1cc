import { fittedAt } from '../../src/core/design/endings'
import { chosenDesign, type CircuitPoint, type Installation, read } from '../../src/core/installation/installation'
import { MAIN_BOARD } from '../../src/core/job/board'
import { endPointId, feederBoardId, type Stretch } from '../../src/core/job/cable'
import type { DesignRecord } from '../../src/core/job/design'
import { applyEdit, type Edit, EditError } from '../../src/core/job/edits'
import { newPoint } from '../../src/core/job/point'
import { newBox, noPlace } from '../../src/core/job/box'
import { type Job, newJob as bareJob } from '../../src/core/job/schema'
import type { RegionId } from '../../src/core/region/types'

/*
 * Edits as tests write them in short: a design together with the run of its circuit, a circuit together with where it is
 * connected, a box by what stands on it.
 */

type Of<K extends Edit['kind']> = Extract<Edit, { kind: K }>
type PatchOf<K extends Edit['kind']> = Extract<Edit, { kind: K; patch: unknown }>['patch']
type Run = { lengthM?: number | null; stretches?: Stretch[] }
type Connected = { way?: string; feeder?: string | null; behind?: string | null; closeM?: number | null }
type ByAccessory = { circuit: string; end?: string }

export type Placed = Of<'circuit-point.add'>['points'][number]
export type Short =
  | Exclude<Edit, { kind: 'design.set' | 'circuit.set' | 'box.set' | 'wiring.step' }>
  | { kind: 'design.set'; circuit: string; design: string; patch: PatchOf<'design.set'> & Run }
  | { kind: 'circuit.set'; circuit: string; patch: PatchOf<'circuit.set'> & Connected }
  | Of<'box.set'>
  | Of<'wiring.step'>
  | ({ kind: 'box.set'; patch: PatchOf<'box.set'> & { cables?: number } } & ByAccessory)
  | ({ kind: 'wiring.step'; step: string; done: boolean } & ByAccessory)

const has = (o: object): boolean => Object.keys(o).length > 0
const defined = <T extends object>(o: T): T => Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined)) as T

/** The points of a circuit that carry an accessory: the one named, or what the circuit ends on. */
function pointsWith(job: Job, { circuit: id, end }: ByAccessory): string[] {
  const circuit = read(job).circuits.find((c) => c.id === id)
  if (!circuit) throw new EditError('circuit', 'This circuit is no longer in the job.')
  if (circuit.points.length === 0) return [endPointId(id)]
  const design = chosenDesign(circuit)
  return circuit.points.filter((p) => p.kind !== 'box' && fittedAt(design, p)?.id === (end ?? design.accessory)).map((p) => p.id)
}

/** A short edit in full. */
export function spell(job: Job, edit: Short): Edit[] {
  if (edit.kind === 'design.set') {
    const { lengthM, stretches, ...patch } = edit.patch
    const run = defined({ lengthM, stretches })
    return [
      ...(has(patch) || !has(run) ? [{ ...edit, patch: patch as Partial<DesignRecord> } as Edit] : []),
      ...(has(run) ? [{ kind: 'run.set', circuit: edit.circuit, patch: run } as Edit] : []),
    ]
  }
  if (edit.kind === 'circuit.set') {
    const { way, feeder, behind, closeM, ...patch } = edit.patch
    const to = defined({
      way,
      board: feeder === undefined ? undefined : feeder === null ? MAIN_BOARD : feederBoardId(feeder),
      residual: behind === null ? 'unknown' : behind,
    })
    return [
      ...(has(patch) || !has({ ...to, ...defined({ closeM }) }) ? [{ ...edit, patch } as Edit] : []),
      ...(has(to) ? [{ kind: 'circuit.connect', circuit: edit.circuit, ...to } as Edit] : []),
      ...(closeM === undefined || (edit.patch.kind ?? job.circuits.find((c) => c.id === edit.circuit)?.kind) !== 'ring'
        ? []
        : [{ kind: 'run.set', circuit: edit.circuit, patch: { closeM } } as Edit]),
    ]
  }
  if (edit.kind === 'box.set' && 'circuit' in edit) {
    const { cables, ...patch } = edit.patch
    return [{ kind: 'box.set', boxes: pointsWith(job, edit), patch: { ...patch, ...(cables === undefined ? {} : { others: cables - 1 }) } }]
  }
  if (edit.kind === 'wiring.step' && 'circuit' in edit)
    return [{ kind: 'wiring.step', boxes: pointsWith(job, edit), step: edit.step, done: edit.done }]
  return [edit]
}

/*
 * Jobs do not change: what the same edits make of the same job is made once for all the tests of a worker.
 */
const toTheLetter = (_: string, value: unknown) =>
  value === undefined || (typeof value === 'number' && !Number.isFinite(value)) ? String(value) : value
const madeOf = new WeakMap<Job, Map<string, Job>>()
function afterOne(job: Job, short: Short): Job {
  const known = madeOf.get(job) ?? new Map<string, Job>()
  madeOf.set(job, known)
  const key = JSON.stringify(short, toTheLetter)
  const made = known.get(key) ?? spell(job, short).reduce((j, e) => applyEdit(j, e).job, job)
  known.set(key, made)
  return made
}

/** The job after edits, short or in full. */
export const after = (job: Job | Installation, ...edits: readonly Short[]): Installation => read(edits.reduce(afterOne, read(job).record))
const bare = new Map<string, Job>()
/** A job as it begins, read. */
export function newJob(region: RegionId, title = 'x', place = ''): Installation {
  const key = JSON.stringify([region, title, place])
  const job = bare.get(key) ?? bareJob(region, title, place)
  bare.set(key, job)
  return read(job)
}
/** As `applyEdit`, of a short edit. */
export const applyShort = (job: Job | Installation, edit: Short): { readonly job: Installation } => ({ job: after(job, edit) })
/** A new job after edits. */
export const made = (region: RegionId, ...edits: readonly Short[]): Installation => after(newJob(region), ...edits)

/** A point along a circuit, as an edit puts it there. */
export const placed = (id: string, name: string, more: Partial<Placed> = {}): Placed => ({ id, name, ...more })
export type DesignPatch = Extract<Short, { kind: 'design.set' }>['patch']
/** A point along a circuit as it is read. */
export const laid = (id: string, name: string, more: Partial<CircuitPoint> = {}): CircuitPoint => ({
  ...newPoint(id, name, { state: 'new' }),
  ...noPlace,
  box: newBox(id),
  from: null,
  lengthM: null,
  size: null,
  ...more,
})
