import type { WayKind } from './ways'

type Place = readonly [x: number, y: number, z: number]
interface Element {
  readonly kind: WayKind
  readonly path: readonly Place[]
}

/** Cables nearer than this to each other lie together. */
const TOGETHER_M = 0.15
/** How closely a way is looked along. */
const STEP_M = 0.1

/** Where along a straight piece a place is, from 0 to 1 between its ends. */
function alongPiece(at: Place, a: Place, b: Place): number {
  const by = [b[0] - a[0], b[1] - a[1], b[2] - a[2]] as const
  const whole = by[0] ** 2 + by[1] ** 2 + by[2] ** 2
  return whole === 0 ? 0 : ((at[0] - a[0]) * by[0] + (at[1] - a[1]) * by[1] + (at[2] - a[2]) * by[2]) / whole
}
const fromSpot = (at: Place, a: Place, b: Place, part: number): number =>
  Math.hypot(at[0] - a[0] - part * (b[0] - a[0]), at[1] - a[1] - part * (b[1] - a[1]), at[2] - a[2] - part * (b[2] - a[2]))
/** How far a place is from a straight piece. */
export const fromPiece = (at: Place, a: Place, b: Place): number => fromSpot(at, a, b, Math.min(Math.max(alongPiece(at, a, b), 0), 1))
/** Whether a place is beside a straight piece, not past its ends. */
function isBeside(at: Place, a: Place, b: Place): boolean {
  const part = alongPiece(at, a, b)
  return part >= 0 && part <= 1 && fromSpot(at, a, b, part) < TOGETHER_M
}

/** How many metres of one way lie together with another, by what it is there. */
export function togetherM(one: readonly Element[], other: readonly Element[]): ReadonlyMap<WayKind, number> {
  const pieces = other.flatMap(({ path }) => path.slice(1).map((q, i) => [path[i]!, q] as const))
  const found = new Map<WayKind, number>()
  for (const { kind, path } of one)
    for (const [i, q] of path.entries()) {
      const p = path[i - 1]
      if (!p) continue
      const metres = Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2])
      const steps = Math.max(1, Math.round(metres / STEP_M))
      for (let k = 0; k < steps; k++) {
        const part = (k + 0.5) / steps
        const at: Place = [p[0] + part * (q[0] - p[0]), p[1] + part * (q[1] - p[1]), p[2] + part * (q[2] - p[2])]
        if (pieces.some(([a, b]) => isBeside(at, a, b))) found.set(kind, (found.get(kind) ?? 0) + metres / steps)
      }
    }
  return found
}
