import type { Circuit, Design, Installation } from '../installation/installation'
import type { Stretch } from '../job/cable'
import type { Raceway } from '../job/raceway'

/** How one stretch of a run is laid, as ampacity sees it. */
export interface Conditions {
  /** The segment it speaks of; null where the run is one. */
  readonly segment: string | null
  readonly lengthM: number
  readonly ambientC: number
  readonly method: string | null
  readonly loadedConductors: number
  readonly groupedCircuits: number
  readonly insulationMm: number
}

/**
 * Loaded conductors a circuit brings into a raceway. NFPA 70 310.15(E): a neutral that carries only the unbalance is not counted, so
 * two lines and their neutral bring two.
 */
export const loadedIn = (_: Circuit): number => 2

/** A nipple is no longer than this. NFPA 70 Chapter 9 note 4. */
export const NIPPLE_M = 0.6096
export const isNipple = ({ nipple, lengthM }: Pick<Raceway, 'nipple' | 'lengthM'>): boolean =>
  nipple && lengthM !== null && lengthM <= NIPPLE_M + 1e-9
/** Cables of single conductors, which lie in a raceway wherever they lie. */
export const singleCores: readonly string[] = ['thwn-2', 'singles']

/** Raceways that a circuit runs in, with what else runs there. */
export function racewaysOf(job: Installation, circuit: Circuit): { readonly raceway: Raceway; readonly circuits: readonly Circuit[] }[] {
  return job.raceways
    .filter((r) => r.circuits.includes(circuit.id))
    .map((raceway) => ({ raceway, circuits: job.circuits.filter((c) => raceway.circuits.includes(c.id)) }))
}

/** The stretches of a run in order, or null while a length is not known. A raceway it shares counts on the stretches in conduit. */
export function conditionsOf(job: Installation, circuit: Circuit, design: Design): Conditions[] | null {
  const shared = racewaysOf(job, circuit)
  const loaded = Math.max(0, ...shared.filter((s) => !isNipple(s.raceway)).map((s) => s.circuits.reduce((sum, c) => sum + loadedIn(c), 0)))
  const grouped = Math.max(0, ...shared.filter((s) => !isNipple(s.raceway)).map((s) => s.circuits.length))
  const raised = (c: Conditions, conductors: number, circuits: number): Conditions =>
    conductors > c.loadedConductors || circuits > c.groupedCircuits
      ? { ...c, loadedConductors: Math.max(c.loadedConductors, conductors), groupedCircuits: Math.max(c.groupedCircuits, circuits) }
      : c
  /** Where the run lies; what is beside another cable of the circuit, in a place where the run is not, counts along all of it. */
  const laid = design.stretches.map((s) => s.place)
  const met = (c: Conditions, inRaceway: boolean, place: Stretch['place'] | null = null): Conditions => {
    const near = circuit.beside.filter((b) => place === null || b.places.has(place) || !laid.some((p) => b.places.has(p))).length
    return raised(inRaceway ? raised(c, loaded, grouped) : c, near ? (near + 1) * loadedIn(circuit) : 0, near ? near + 1 : 0)
  }
  if (design.stretches.length === 0) {
    // With points of its own, the lengths are theirs.
    const lengthM = circuit.points.length ? 0 : design.lengthM
    if (lengthM === null) return null
    const { ambientC, method, loadedConductors, groupedCircuits, insulationMm } = design
    return [met({ segment: null, lengthM, ambientC, method, loadedConductors, groupedCircuits, insulationMm }, true)]
  }
  if (design.stretches.some((s) => s.lengthM === null)) return null
  // It lies in the raceway where a stretch says so, or along all of it where none does.
  const throughout = !design.stretches.some((s) => s.place === 'conduit')
  return design.stretches.map((s) =>
    met(
      {
        segment: s.id,
        lengthM: s.lengthM!,
        ambientC: s.ambientC,
        method: s.method,
        loadedConductors: s.loadedConductors,
        groupedCircuits: s.groupedCircuits,
        insulationMm: s.insulationMm,
      },
      throughout || s.place === 'conduit',
      s.place,
    ),
  )
}

/** The whole length from the board, or null while it is not known. */
export function runLengthM(circuit: Circuit, design: Design): number | null {
  if (design.stretches.length === 0) return circuit.points.length ? 0 : design.lengthM
  return design.stretches.some((s) => s.lengthM === null) ? null : design.stretches.reduce((sum, s) => sum + s.lengthM!, 0)
}
