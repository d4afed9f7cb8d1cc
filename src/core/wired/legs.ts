import type { Installation } from '../installation/installation'
import { lately } from '../base/memory'
import type { Worked } from '../build/cores'
import { endWords } from './words'
import { bothWays } from './house'
import { aliveIn } from './isolate'
import { nodeOf } from './laid'

/** Lines in one box of which some are alive however its switches stand, and some are switched. */
export interface Legs {
  readonly always: readonly string[]
  readonly switched: readonly string[]
}

const known = lately<ReadonlyMap<string, Legs>>()

/** The boxes in which lines that are always live meet switched ones, by their point; found in the solved wiring. */
export const legsIn = (job: Installation, circuits: readonly Worked[]): ReadonlyMap<string, Legs> =>
  known([job.record, job.supply, ...circuits], () => {
    const houses = bothWays(job, circuits)
    if (houses.length === 1) return new Map()
    const alive = houses.map((h) => aliveIn(h, []))
    return new Map(
      houses[0]!.boxes.flatMap((box): [string, Legs][] => {
        const ends = box.cables.flatMap((k) => k.ends.map((e) => e.name))
        const often = (name: string) => alive.filter((is) => is(nodeOf(box.point, name))).length
        const words = (n: number) => [...new Set(ends.filter((e) => often(e) === n).map((e) => endWords(box, e)))]
        const [always, switched] = [words(alive.length), words(1)]
        return always.length && switched.length ? [[box.point, { always, switched }]] : []
      }),
    )
  })
