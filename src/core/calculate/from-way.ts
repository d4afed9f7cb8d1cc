import type { BendItem } from './bending'

type Place = readonly [x: number, y: number, z: number]
/** A part of a way, as far as what lies on a face asks. */
export interface RoutePart {
  readonly kind: string
  /** The wall it is on; of a corner one of the two. */
  readonly side: string | null
  readonly beyond: string | null
  readonly path: readonly Place[]
}
/** What lies on faces of a way in one piece, as it is bent. */
export interface Tube {
  /** The parts of the way that it is of, by their place in it: from the first to the last. */
  readonly from: number
  readonly to: number
  readonly items: readonly BendItem[]
  readonly lengthM: number
  readonly bends: number
}

const LEAST_M = 0.005
const away = (a: Place, b: Place): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])

/** The pieces of pipe of a way: each runs on the faces of walls and ceilings, plumb and level, as far as it stays there. */
export function tubesOf(parts: readonly RoutePart[]): readonly Tube[] {
  const tubes: Tube[] = []
  for (let from = 0; from < parts.length; from++) {
    if (!onFace(parts[from]!)) continue
    let to = from
    while (to + 1 < parts.length && onFace(parts[to + 1]!)) to++
    const legs = legsOf(squared(parts.slice(from, to + 1)))
    const [first, ...rest] = legs
    if (first !== undefined) {
      const items: BendItem[] = [
        { kind: 'straight', lengthMm: mm(first) },
        ...rest.map((m) => ({ kind: 'stub-90' as const, heightMm: mm(m) })),
      ]
      tubes.push({ from, to, items, lengthM: legs.reduce((sum, m) => sum + m, 0), bends: rest.length })
    }
    from = to
  }
  return tubes
}
const onFace = ({ kind }: RoutePart): boolean =>
  kind === 'surface' || kind === 'surface-corner' || kind === 'outside' || kind === 'outside-corner'
const mm = (m: number): number => Math.round(m * 1000)

/**
 * A way leads from the middle of one stretch of wall to that of the next; a pipe is fixed plumb and level, and goes into the corner. Its
 * ends stay where they are.
 */
function squared(parts: readonly RoutePart[]): readonly Place[] {
  const places: Place[] = [parts[0]!.path[0]!]
  for (const [i, { kind, side, beyond, path }] of parts.entries())
    for (const next of path.slice(1)) {
      const last = places.at(-1)!
      // It leaves the wall that it was on, or that it does not go on along.
      const left = parts[i - 1]?.side ?? (parts[i + 1]?.side === side ? beyond : side)
      places.push(...(kind === 'surface-corner' ? [intoCorner(last, next, left), next] : [aligned(last, next)]))
    }
  const end = parts.at(-1)!.path.at(-1)!
  places[places.length - 1] = end
  // The last turn is moved to straight before the end, and what leads to it stays plumb or level.
  if (places.length > 2) places[places.length - 2] = aligned(end, places.at(-2)!)
  return places.flatMap((p, i) => (i === 0 ? [p] : [...between(places[i - 1]!, p), p]))
}

/** Where the faces of two walls meet: level with the one that is left, as far as the other. */
const intoCorner = (from: Place, to: Place, left: string | null): Place =>
  left === 'north' || left === 'south' ? [to[0], from[1], from[2]] : [from[0], to[1], from[2]]
/** A place moved to lie plumb or level with another. */
function aligned([x, y, z]: Place, [p, q, r]: Place): Place {
  const by = [Math.abs(p - x), Math.abs(q - y), Math.abs(r - z)] as const
  const most = Math.max(...by)
  return [by[0] === most ? p : x, by[1] === most && by[0] !== most ? q : y, by[2] === most && by[0] !== most && by[1] !== most ? r : z]
}
/** Where it turns between two places that lie neither plumb nor level with each other. */
function between(from: Place, to: Place): Place[] {
  const turns: Place[] = []
  let at = from
  for (const axis of [2, 0, 1] as const) {
    if (Math.abs(to[axis] - at[axis]) < LEAST_M) continue
    at = [axis === 0 ? to[0] : at[0], axis === 1 ? to[1] : at[1], axis === 2 ? to[2] : at[2]]
    if (away(at, to) >= LEAST_M) turns.push(at)
  }
  return turns
}

/** Lengths between the turns of a way that is plumb and level, in metres. */
function legsOf(places: readonly Place[]): readonly number[] {
  const turns = places.filter((p, i) => i === 0 || away(p, places[i - 1]!) >= LEAST_M)
  const legs: number[] = []
  let axis = -1
  for (const [i, p] of turns.entries()) {
    if (i === 0) continue
    const q = turns[i - 1]!
    const along = ([0, 1, 2] as const).findIndex((k) => Math.abs(p[k] - q[k]) >= LEAST_M)
    if (along === axis) legs[legs.length - 1]! += away(p, q)
    else legs.push(away(p, q))
    axis = along
  }
  return legs
}
