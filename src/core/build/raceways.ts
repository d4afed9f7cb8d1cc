import { type RoutePart, tubesOf } from '../calculate/from-way'
import { singleCores } from '../design/conditions'
import type { Circuit, Installation } from '../installation/installation'
import { type Cable, cableM } from '../job/cable'
import type { Raceway } from '../job/raceway'
import { worlds } from '../region/worlds'

/* How much pipe a raceway is: as long as the cables that lie in it, run by run, whatever was measured between two pull points. */

/** A raceway as built. */
export interface BuiltRaceway {
  readonly raceway: Raceway
  /** Its runs from box to box, metres each; null: a length is not known. */
  readonly runsM: readonly number[] | null
  /** The lengths of pipe that its runs are made of, in the lengths it is sold in; null as `runsM`. */
  readonly piecesM: readonly number[] | null
}

/**
 * The parts of a route that lie in pipe, by their place in it: all of them where the cable is single conductors, which lie nowhere but in a
 * raceway; else the pieces that raceways of the job were marked out from.
 */
export function partsInPipe(job: Installation, cable: Cable, parts: readonly RoutePart[]): ReadonlySet<number> {
  const circuit = job.circuits.find((c) => c.id === cable.circuit)
  const type = cable.type ?? circuit?.designs.find((d) => d.id === circuit.chosen)?.cable
  if (type && singleCores.includes(type)) return new Set(parts.keys())
  const marked = new Set(job.raceways.flatMap((r) => (r.along?.cable === cable.id ? [r.along.piece] : [])))
  return new Set(
    tubesOf(parts).flatMap((t, n) => (marked.has(n + 1) ? parts.flatMap((_, i) => (i >= t.from && i <= t.to ? [i] : [])) : [])),
  )
}

/** A length of pipe as it is sold, in metres, where nothing else is said: 10 ft, and 3 m elsewhere. */
const STOCK_M = { imperial: 3.048, metric: 3 } as const

/** What of a cable lies in a raceway, in metres: null where it is not known, 0 where it lies beside it. */
function inPipe(cable: Cable, circuit: Circuit): number | null {
  const stretches = cable.stretches.filter((s) => s.place === 'conduit')
  if (stretches.length > 0)
    return stretches.reduce<number | null>((sum, s) => (sum === null || s.lengthM === null ? null : sum + s.lengthM), 0)
  const type = cable.type ?? circuit.designs.find((d) => d.id === circuit.chosen)!.cable
  // Single conductors lie nowhere but in a raceway; a sheathed cable is drawn in as far as somebody said.
  return singleCores.includes(type) && !circuit.cables.some((k) => k.stretches.some((s) => s.place === 'conduit')) ? cableM(cable) : 0
}

const total = (runs: readonly number[]): number => runs.reduce((sum, m) => sum + m, 0)

/** The runs of a raceway: those of the circuit that lies in most of it. Circuits drawn in together share its pipe. */
function runsOf(job: Installation, raceway: Raceway): readonly number[] | null {
  const own = raceway.lengthM === null ? [] : [raceway.lengthM]
  // A piece of a route is as long as it was marked out there.
  if (raceway.along && own.length > 0) return own
  const elsewhere = new Set(job.raceways.flatMap((r) => (r.along && r.id !== raceway.id ? [r.along.cable] : [])))
  let longest: readonly number[] = own
  for (const circuit of job.circuits) {
    if (!raceway.circuits.includes(circuit.id)) continue
    const runs = circuit.cables
      .flatMap((k) => (k.state === 'removed' || k.inside || elsewhere.has(k.id) ? [] : [inPipe(k, circuit)]))
      .filter((m) => m !== 0)
    // One run is as long as the pipe that was measured for it.
    const known = runs.length === 1 && raceway.lengthM !== null ? own : runs
    if (known.includes(null)) return null
    if (total(known as number[]) > total(longest)) longest = known as number[]
  }
  return longest.length > 0 ? longest : null
}

export function builtRaceways(job: Installation): readonly BuiltRaceway[] {
  return job.raceways.map((raceway) => {
    const runsM = runsOf(job, raceway)
    const stockM = raceway.stockM ?? STOCK_M[worlds[job.region].units]
    const piecesM =
      runsM?.flatMap((m) => {
        const whole = Math.floor(m / stockM + 1e-9)
        const rest = m - whole * stockM
        return [...Array.from({ length: whole }, () => stockM), ...(rest > 1e-6 ? [rest] : [])]
      }) ?? null
    return { raceway, runsM, piecesM }
  })
}
