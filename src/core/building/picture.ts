/** A place on a picture, from its left and its upper edge, its width being 1. */
export type OnPicture = readonly [right: number, down: number]
/** A place of the building, in metres to the east and to the north. */
export type OnGround = readonly [eastM: number, northM: number]

/** A picture laid under a plan by two places on it: where each is in the building. */
export interface LaidPicture {
  readonly marks: readonly [OnPicture, OnPicture]
  readonly places: readonly [OnGround, OnGround]
}
/** How it then lies: where its upper left corner is, how wide it is, and how far it is turned to the left, in degrees. */
export interface PictureLie {
  readonly corner: OnGround
  readonly widthM: number
  readonly turnedDeg: number
}

/** Two places nearer to each other than this, of the width of the picture, or in metres, say nothing of its size. */
export const LEAST_APART = 0.02
const LEAST_M = 0.2

/** How a picture lies whose two marks are at two places; null where either two are too near to each other. */
export function lieOf({ marks: [a, b], places: [p, q] }: LaidPicture): PictureLie | null {
  // Up on the picture is north.
  const seen = [b[0] - a[0], a[1] - b[1]] as const
  const real = [q[0] - p[0], q[1] - p[1]] as const
  const [shown, measured] = [Math.hypot(...seen), Math.hypot(...real)]
  if (shown < LEAST_APART || measured < LEAST_M) return null
  const widthM = measured / shown
  const turn = Math.atan2(real[1], real[0]) - Math.atan2(seen[1], seen[0])
  const [cos, sin] = [Math.cos(turn) * widthM, Math.sin(turn) * widthM]
  const corner: OnGround = [p[0] - (cos * a[0] + sin * a[1]), p[1] - (sin * a[0] - cos * a[1])]
  return { corner, widthM, turnedDeg: (Math.atan2(Math.sin(turn), Math.cos(turn)) * 180) / Math.PI }
}
