import { togetherM } from '../building/beside'
import { placeOf } from '../job/building'
import type { Cable, Stretch } from '../job/cable'
import type { Job } from '../job/schema'
import { once } from '../base/memory'

/** Cables that lie together no farther than this are not reckoned so. NFPA 70 310.15(C)(1): 24 inches; taken in every world. */
const SHORT_M = 0.6

/** Another circuit whose cable lies together with one of a circuit, so far, and in what kinds of places with each of its cables. */
export interface Beside {
  readonly circuit: string
  readonly lengthM: number
  readonly cables: ReadonlyMap<string, ReadonlySet<Stretch['place']>>
}
const none: ReadonlyMap<string, readonly Beside[]> = new Map()

/** For each circuit the others whose cables take the same way as its own for more than a little. */
const besideAmong = once((cables: readonly Cable[]): ReadonlyMap<string, readonly Beside[]> => {
  const routed = cables.filter((k) => k.route && k.circuit !== null)
  if (routed.length < 2) return none
  const found = new Map<string, Map<string, { lengthM: number; cables: Map<string, Set<Stretch['place']>> }>>()
  for (const k of routed)
    for (const o of routed) {
      if (o.circuit === k.circuit) continue
      const together = togetherM(k.route!.elements, o.route!.elements)
      const lengthM = [...together.values()].reduce((sum, m) => sum + m, 0)
      if (lengthM <= SHORT_M + 1e-6) continue
      const own = found.get(k.circuit!) ?? new Map<string, { lengthM: number; cables: Map<string, Set<Stretch['place']>> }>()
      found.set(k.circuit!, own)
      const known = own.get(o.circuit!) ?? { lengthM: 0, cables: new Map() }
      own.set(o.circuit!, known)
      known.lengthM = Math.max(known.lengthM, lengthM)
      known.cables.set(k.id, new Set([...(known.cables.get(k.id) ?? []), ...[...together.keys()].map((kind) => placeOf[kind])]))
    }
  return new Map([...found].map(([circuit, own]) => [circuit, [...own].map(([other, b]) => ({ circuit: other, ...b }))]))
})

/** By circuit the others whose cables lie together with its own on their ways; none where they are kept apart. */
export const besideIn = ({ building, cables }: Job): ReadonlyMap<string, readonly Beside[]> =>
  building?.apart ? none : besideAmong(cables)

const nobody: readonly Beside[] = []
export const besideOnWay = (job: Job, circuit: string): readonly Beside[] => besideIn(job).get(circuit) ?? nobody
