import { z } from 'zod'
import { fromPiece } from './beside'
import { type Room, sides } from './house'
import { type Adjacency, distance, placeAt } from './search'
import type { Part } from './steps'
import { ATTIC_M, labelOf, type Ways } from './ways'

type Place = readonly [x: number, y: number, z: number]
/** Where a joint box is: in or on a wall, along it from its west or south end; or above a ceiling. */
export const jointSpotSchema = z.union([
  z.strictObject({ room: z.string(), side: z.enum(sides), atM: z.number(), heightM: z.number() }),
  z.strictObject({ room: z.string(), eastM: z.number(), northM: z.number() }),
])
export type JointSpot = z.output<typeof jointSpotSchema>

/** Minutes for a joint box that is put into a cable, wired and covered. */
export const JOINT_MIN = 25
/** A place so far from a line lies on it. */
const ON_M = 0.03
/** The least distance of a joint box from the ends of the cable: nearer, the cable is taken up there. */
const FROM_ENDS_M = 0.5

/** The nodes along the routes of cables where a joint box may be fitted: in the bays of walls, off floor and ceiling, and in an attic. */
export function jointNodes(ways: Ways, near: Adjacency, paths: readonly (readonly Place[])[]): readonly number[] {
  const inAttic = (n: number) => {
    for (let k = near.from[n]!; k < near.from[n + 1]!; k++) if (labelOf(ways, near.edge[k]!).kind === 'attic') return true
    return false
  }
  const able = [...ways.boxes.keys()]
  return paths.flatMap((path) => {
    const [first, last] = [path[0]!, path.at(-1)!]
    const on = (n: number): boolean => {
      const at = placeAt(ways, n)
      if (Math.min(distance(at, first), distance(at, last)) < FROM_ENDS_M) return false
      return path.some((p, i) => i > 0 && fromPiece(at, path[i - 1]!, p) < ON_M)
    }
    const aloft = path.some((p, i) => i > 0 && Math.abs(p[2] - path[i - 1]![2]) < 1e-6)
      ? Array.from({ length: ways.nodes }, (_, n) => n).filter((n) => !ways.boxes.has(n) && on(n) && inAttic(n))
      : []
    return [...able.filter(on), ...aloft]
  })
}

/** Where the joint box at a place of a way is; null where none may be fitted. */
export function jointSpot(ways: Ways, rooms: readonly Room[], at: Place): JointSpot | null {
  for (const [n, spot] of ways.boxes) if (distance(placeAt(ways, n), at) < ON_M) return { ...spot }
  const under = rooms.find(
    (r) =>
      at[0] > r.west - 1e-6 &&
      at[0] < r.east + 1e-6 &&
      at[1] > r.south - 1e-6 &&
      at[1] < r.north + 1e-6 &&
      Math.abs(at[2] - r.head - ATTIC_M) < 1e-6,
  )
  return under ? { room: under.id, eastM: Math.max(at[0] - under.west, 0), northM: Math.max(at[1] - under.south, 0) } : null
}

/** A way from its other end. */
export const turnedRound = (parts: readonly Part[]): readonly Part[] => parts.toReversed().map((p) => ({ ...p, path: p.path.toReversed() }))

/** A way in two, where a place lies on it; null where it does not. */
export function cutAt(parts: readonly Part[], at: Place): readonly [readonly Part[], readonly Part[]] | null {
  for (const [i, part] of parts.entries())
    for (let k = 1; k < part.path.length; k++) {
      if (fromPiece(at, part.path[k - 1]!, part.path[k]!) >= ON_M) continue
      const [before, after] = [
        [...part.path.slice(0, k), at],
        [at, ...part.path.slice(k)],
      ]
      const walked = (path: readonly Place[]) => path.reduce((sum, p, n) => (n ? sum + distance(path[n - 1]!, p) : 0), 0)
      const share = walked(before) / Math.max(walked(before) + walked(after), 1e-9)
      const holes = Math.round(part.holes * share)
      const openings = Math.round(part.openings * share)
      const [first, second] = [
        { ...part, path: before, lengthM: part.lengthM * share, minutes: part.minutes * share, holes, openings },
        {
          ...part,
          path: after,
          lengthM: part.lengthM * (1 - share),
          minutes: part.minutes * (1 - share),
          holes: part.holes - holes,
          openings: part.openings - openings,
        },
      ]
      const kept = (p: Part) => (walked(p.path) > 1e-6 ? [p] : [])
      const halves = [
        [...parts.slice(0, i), ...kept(first)],
        [...kept(second), ...parts.slice(i + 1)],
      ] as const
      return halves[0].length && halves[1].length ? halves : null
    }
  return null
}
