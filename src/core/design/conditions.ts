import type { Circuit, CircuitPoint, Design, Installation, LaidStretch } from '../installation/installation'
import { type Cable, endPointId } from '../job/cable'
import type { Raceway } from '../job/raceway'
import { once } from '../base/memory'

/** How one stretch of a cable is laid, as ampacity sees it. */
export interface Conditions {
  /** The cable it is of; null: each that lies in one manner, with nothing beside it of its own. */
  readonly cable: string | null
  /** The stretch of it; null where it lies in one manner. */
  readonly segment: string | null
  /** Whether the size of the circuit follows from it; what has a size or a fuse of its own is judged by itself. */
  readonly governs: boolean
  /** Null: not known. */
  readonly lengthM: number | null
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

/** By each point the fuse that the cable to it lies behind: its own, or the next towards the board; null: the breaker alone. */
export const fusesOver = once((points: readonly CircuitPoint[]): ReadonlyMap<string, number | null> => {
  const known = new Map(points.map((p) => [p.id, p]))
  const found = new Map<string, number | null>()
  for (const p of points) {
    const way: string[] = []
    let at: CircuitPoint | undefined = p
    while (at && at.fuseA === null && !found.has(at.id) && !way.includes(at.id)) {
      way.push(at.id)
      at = at.from === null ? undefined : known.get(at.from)
    }
    const fuseA = at ? (at.fuseA ?? found.get(at.id) ?? null) : null
    if (at) found.set(at.id, fuseA)
    for (const id of way) found.set(id, fuseA)
  }
  return found
})

/** Whether the circuit's size must do for a cable: not where it has a size of its own, lies behind a fuse, or is a spur of a ring. */
function followsCircuit(circuit: Circuit, cable: Cable): boolean {
  if (circuit.points.length === 0) return true
  if (cable.size !== null) return false
  const fuses = fusesOver(circuit.points)
  if (!fuses.has(cable.to.id)) return true
  if (fuses.get(cable.to.id) !== null) return false
  return circuit.kind !== 'ring' || circuit.points.some((p) => p.id === cable.to.id && p.from === null)
}

const unlike = ['ambientC', 'method', 'loadedConductors', 'groupedCircuits', 'insulationMm'] as const
const laidAs = (s: Pick<Conditions, (typeof unlike)[number]>): Pick<Conditions, (typeof unlike)[number]> => ({
  ambientC: s.ambientC,
  method: s.method,
  loadedConductors: s.loadedConductors,
  groupedCircuits: s.groupedCircuits,
  insulationMm: s.insulationMm,
})

/** Cables that make up the lengths of a circuit: all that reach its points; the one run where it has none. */
const cablesOf = (circuit: Circuit): readonly Cable[] =>
  circuit.points.length > 0 ? circuit.cables.filter((k) => k.to.id !== endPointId(circuit.id)) : circuit.cables

/**
 * How every cable of a circuit lies: stretch by stretch, and once for all that lie in one manner, as the design has it. Null while
 * the length of a single run is not known. A raceway it shares counts on the stretches in conduit, what lies beside a cable where it
 * does.
 */
export function conditionsOf(job: Installation, circuit: Circuit, design: Design): Conditions[] | null {
  const shared = racewaysOf(job, circuit)
  const loaded = Math.max(0, ...shared.filter((s) => !isNipple(s.raceway)).map((s) => s.circuits.reduce((sum, c) => sum + loadedIn(c), 0)))
  const grouped = Math.max(0, ...shared.filter((s) => !isNipple(s.raceway)).map((s) => s.circuits.length))
  const raised = (c: Conditions, conductors: number, circuits: number): Conditions =>
    conductors > c.loadedConductors || circuits > c.groupedCircuits
      ? { ...c, loadedConductors: Math.max(c.loadedConductors, conductors), groupedCircuits: Math.max(c.groupedCircuits, circuits) }
      : c
  /** What lies beside a cable in a place, or, where none of its stretches lies in such a one, along all of it. */
  const near = (cable: string, laid: readonly LaidStretch[], place: LaidStretch['place'] | null): number =>
    circuit.beside.filter(({ cables }) => {
      const there = cables.get(cable)
      return there && (place === null || there.has(place) || !laid.some((s) => there.has(s.place)))
    }).length
  const met = (c: Conditions, inRaceway: boolean, beside: number): Conditions =>
    raised(inRaceway ? raised(c, loaded, grouped) : c, beside ? (beside + 1) * loadedIn(circuit) : 0, beside ? beside + 1 : 0)
  const several = circuit.points.length > 0
  const cables = cablesOf(circuit)
  if (!several && runLengthM(circuit, design) === null) return null
  // It lies in the raceway where a stretch says so, or along all of it where none does.
  const throughout = !design.stretches.some((s) => s.place === 'conduit')
  const whole = (cable: string | null, governs: boolean, beside: number) =>
    met({ cable, segment: null, governs, lengthM: several ? 0 : design.lengthM, ...laidAs(design) }, throughout, beside)
  const own: Conditions[] = []
  const plain: boolean[] = []
  for (const k of cables) {
    const governs = followsCircuit(circuit, k)
    const laid = design.stretches.filter((s) => s.cable === k.id)
    for (const s of laid)
      own.push(
        met(
          { cable: k.id, segment: s.id, governs, lengthM: s.lengthM, ...laidAs(s) },
          throughout || s.place === 'conduit',
          near(k.id, laid, s.place),
        ),
      )
    if (laid.length > 0) continue
    const beside = near(k.id, laid, null)
    if (beside > 0) own.push(whole(k.id, governs, beside))
    else plain.push(governs)
  }
  const governs = plain.includes(true) || !own.some((c) => c.governs)
  return governs || plain.length > 0 ? [whole(null, governs, 0), ...own] : own
}

/** The whole length of a single run, or null while it is not known; with points of its own, the lengths are theirs. */
export function runLengthM(circuit: Circuit, design: Design): number | null {
  if (circuit.points.length > 0) return 0
  if (design.stretches.length === 0) return design.lengthM
  return design.stretches.some((s) => s.lengthM === null) ? null : design.stretches.reduce((sum, s) => sum + s.lengthM!, 0)
}
