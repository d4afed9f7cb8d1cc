import type { BuiltRaceway } from '../build/raceways'
import { singleCores } from '../design/conditions'
import type { Installation } from '../installation/installation'
import { worlds } from '../region/worlds'
import type { Report } from '../report/report'
import { strapsOnRuns } from '../rules/raceway'

/** A fitting of a raceway, counted. `key` is what it is called in lists, without the size of its pipe. */
export interface Fitting {
  readonly key: 'coupling' | 'end' | 'changeover' | 'access' | 'expansion' | 'strap' | 'anchor' | 'cement'
  readonly words: string
  readonly count: number
  /** Whether it is sold by the size of the pipe. */
  readonly sized: boolean
}

/**
 * Ends of a raceway at which a sheathed cable leaves it and goes on by itself, counted on the cable that leaves it most often: each takes a
 * fitting from pipe to cable in place of one to a box. NFPA 70 300.15(F), 300.16(B).
 */
function changeovers(job: Installation, { raceway }: BuiltRaceway): number {
  const cables = job.circuits.flatMap((circuit) =>
    raceway.circuits.includes(circuit.id)
      ? circuit.cables.filter((k) => {
          const type = k.type ?? circuit.designs.find((d) => d.id === circuit.chosen)!.cable
          return k.state !== 'removed' && !singleCores.includes(type)
        })
      : [],
  )
  const turns = cables.map(
    (k) => k.stretches.filter((s, i) => i > 0 && (s.place === 'conduit') !== (k.stretches[i - 1]!.place === 'conduit')).length,
  )
  return Math.max(0, ...turns)
}

/** The fittings of a raceway of known length: what joins, ends, opens, holds and lets it grow. */
export function fittingsOf(
  job: Installation,
  built: BuiltRaceway & { readonly runsM: readonly number[]; readonly piecesM: readonly number[] },
  report: Report['raceways'][number] | undefined,
): readonly Fitting[] {
  const { raceway, runsM, piecesM } = built
  const { splitPhase } = worlds[job.region]
  const flexible = splitPhase && raceway.kind === 'fmc'
  const plastic = splitPhase && raceway.kind.startsWith('pvc')
  const ends = 2 * runsM.length
  const leaving = Math.min(ends, changeovers(job, built))
  // Bends that are counted and not marked out are those between two pull points already.
  const opened = report?.bending?.pullAfter.length ?? 0
  // What is marked out may be a part of one run: the whole of each is held.
  const marked = runsM.length === 1 ? (report?.straps?.length ?? 0) : 0
  const straps = Math.max(marked, strapsOnRuns(job, raceway, runsM))
  const sized: readonly (readonly [Fitting['key'], string, number])[] = [
    ['coupling', 'coupling', flexible ? 0 : piecesM.length - runsM.length],
    ['end', splitPhase ? 'box connector' : 'adaptor with bush', ends - leaving],
    ['changeover', splitPhase ? 'to cable fitting' : 'end bush, where cable leaves it', leaving],
    ['access', splitPhase ? 'body with cover, as a pull point' : 'inspection box with lid', opened],
    ['expansion', 'expansion fitting', report?.expansion?.fittingNeeded ? 1 : 0],
    ['strap', 'strap', straps],
  ]
  const others: readonly (readonly [Fitting['key'], string, number])[] = [
    ['anchor', 'Screw for a strap, with an anchor where the wall is solid', straps],
    ['cement', 'Solvent cement for PVC conduit, a tin', plastic ? 1 : 0],
  ]
  return [
    ...sized.map(([key, words, count]) => ({ key, words, count, sized: true })),
    ...others.map(([key, words, count]) => ({ key, words, count, sized: false })),
  ].filter((f) => f.count > 0)
}
