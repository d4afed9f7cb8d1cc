import type { Accessory } from '../catalogue/accessories'
import { cablesAt } from '../installation/cables-at'
import type { SelectedCircuit } from '../calculate/select-circuit'
import { protectiveOf } from '../design/protective'
import type { Circuit, Design, Installation } from '../installation/installation'
import { type Cable, cableM } from '../job/cable'
import { cableConductors, type Conductor, type ConductorRole } from '../region/colours'
import { worlds } from '../region/worlds'
import { coreEndName } from '../job/bench'
import { type Carried, coresFor, drawnIn, mainsOf, passedThrough, type Place, planOf, type Signal } from './carries'
import { singleCores } from '../design/conditions'
import { systemOf } from '../design/endings'

/** A circuit as it was worked out, as far as its wiring asks. */
export interface Worked {
  readonly circuit: Circuit
  readonly chosen: { readonly design: Design; readonly result: SelectedCircuit | null }
  /** The accessories on it. */
  readonly ends: readonly { readonly fitted: Accessory | undefined }[]
}
/** A core of a cable at the place where it ends: called so in the box, in this colour, for this. */
export interface CoreEnd {
  readonly name: string
  readonly core: string
  readonly conductor: Conductor
  /** The potential it is to carry; null: it is spare. */
  readonly signal: Signal | null
}
/** A cable as it comes into a box. */
export interface CableAt {
  readonly id: string
  /** The point at which it ends here. */
  readonly point: string
  /** It brings power, it continues to further points, or it goes to what the device here feeds. */
  readonly side: 'feed' | 'onward' | 'load'
  readonly circuit: string
  readonly circuitName: string
  /** Where its other end is, in words. */
  readonly to: string
  readonly size: string | null
  readonly protectiveSize: string | null
  readonly ends: readonly CoreEnd[]
  /** Its cores are conductors by themselves, in a raceway. */
  readonly singles: boolean
  /** What it should bring and has no core for. */
  readonly lacking: readonly Signal[]
  /** It is put in by this work. */
  readonly fresh: boolean
  /** As the record has it; null where it is the cord or cable from a device to its appliance. */
  readonly recorded: Cable | null
}

const cordCores: readonly Conductor[] = [
  { id: 'line', role: 'line', colour: 'brown' },
  { id: 'neutral', role: 'neutral', colour: 'blue' },
  { id: 'pe', role: 'pe', colour: 'greenYellow' },
]

/**
 * Whether a cable is put in. In a circuit that is altered one between what is there already is there itself, whatever an older file says.
 */
export function isPutIn(job: Pick<Installation, 'record'>, { circuit }: Pick<Worked, 'circuit'>, k: Cable): boolean {
  if (k.state !== 'new') return false
  if (circuit.work !== 'altered') return true
  const there = (e: Cable['from']): boolean =>
    e.kind === 'point'
      ? job.record.points.find((p) => p.id === e.id)?.state === 'existing'
      : e.kind === 'way'
        ? job.record.ways.find((w) => w.id === e.id)?.state === 'existing'
        : job.record.boards.find((b) => b.id === e.id)?.state === 'existing'
  return !(there(k.from) && there(k.to))
}

/** The cores of a cable of a circuit, in their colours, each with what it carries. */
export function coresOf(job: Installation, report: Worked, cable: Cable): readonly Carried[] {
  const known = planOf(job.region, report).cables.get(cable.id)
  if (known) return known.cores
  const system = systemOf(job.region, report.circuit, report.ends)
  if (singleCores.includes(cable.type ?? report.chosen.design.cable)) return drawnIn(job.region, mainsOf(system)).cores
  return coresFor(job.region, report.circuit.colours, cable.cores, system, { must: mainsOf(system), may: [] }).cores
}

const endsOf = (cable: string, cores: readonly Carried[]): readonly CoreEnd[] =>
  cores.map(({ signal, ...conductor }) => ({ name: coreEndName(cable, conductor.id), core: conductor.id, conductor, signal }))

const nameOf = (job: Installation, end: Cable['from']): string => {
  if (end.kind === 'point') return job.points.find((p) => p.id === end.id)?.name ?? 'a point'
  return `the ${worlds[job.region].words.board}`
}
export const isAt = (end: Cable['from'], point: string): boolean => end.kind === 'point' && end.id === point

/** The cable from a device to what it feeds, where the record has none of its own: the cord, or a cable to the appliance. */
export const loadCable = (point: string): string => `load-${point}`

/** The cables that come into the box of a point, feed first; those of other circuits of the job after its own. */
export function cablesInto(job: Installation, of: ReadonlyMap<string, Worked>, circuit: Circuit, point: string): readonly CableAt[] {
  const found = cablesAt(job, point).flatMap((k): CableAt[] => {
    const report = k.circuit === null ? undefined : of.get(k.circuit)
    if (!report) return []
    const { result } = report.chosen
    const arrives = isAt(k.to, point)
    // The last leg of a ring leaves a point and comes to the board: it feeds too.
    const feeds = arrives || k.to.kind !== 'point'
    return [
      {
        id: k.id,
        point,
        side: feeds ? 'feed' : 'onward',
        circuit: report.circuit.id,
        circuitName: report.circuit.name,
        to: nameOf(job, arrives ? k.from : k.to),
        size: k.size ?? result?.size ?? null,
        protectiveSize: result ? protectiveOf(job.region, report.chosen.design.cable, result, k.size) : null,
        ends: endsOf(k.id, coresOf(job, report, k)),
        singles: singleCores.includes(k.type ?? report.chosen.design.cable),
        lacking: planOf(job.region, report).cables.get(k.id)?.lacking ?? [],
        fresh: isPutIn(job, report, k),
        recorded: k,
      },
    ]
  })
  const rank = (k: CableAt) => (k.circuit === circuit.id ? 0 : 2) + (k.side === 'feed' ? 0 : 1)
  return found.toSorted((a, b) => rank(a) - rank(b))
}

/** Where a cable to a fixed load leads, in words; a cord is called as itself. */
export const TO_ITS_LOAD = 'what it feeds'

/** The cord or cable from the device of a place to its appliance, where no cable of the record is it. */
export function applianceCable(job: Installation, report: Worked, place: Place): CableAt | null {
  const { fitted, point, kind } = place
  if (!fitted || !place.appliance) return null
  const cord = fitted.onward === 'cord'
  const id = loadCable(point.id)
  const { result } = report.chosen
  const cores = cord ? cordCores : cableConductors(job.region, fitted.system, report.circuit.colours)
  const passed = passedThrough(kind)
  const carries = (role: ConductorRole): Signal =>
    role === 'line' ? (place.out ?? (passed.has('line') && place.lineIn === 'line-2' ? 'line-2' : place.line)) : role
  return {
    id,
    point: point.id,
    side: 'load',
    circuit: report.circuit.id,
    circuitName: report.circuit.name,
    to: cord ? `${worlds[job.region].words.cord} of the appliance` : TO_ITS_LOAD,
    size: cord ? null : (result?.size ?? null),
    protectiveSize: cord ? null : (result?.protectiveSize ?? null),
    ends: cores.map((conductor) => ({
      name: coreEndName(id, conductor.id),
      core: conductor.id,
      conductor: conductor.role === 'line' && place.out ? { ...conductor, role: 'switched-line' as const } : conductor,
      signal: carries(conductor.role),
    })),
    singles: false,
    lacking: [],
    fresh: point.state === 'new',
    recorded: null,
  }
}

/** Metres of a cable; null: not said. */
export const metresOf = (k: CableAt): number | null => (k.recorded ? cableM(k.recorded) : null)
