import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import type { WayKind } from './ways'

type Place = readonly [x: number, y: number, z: number]
/** Kinds of way along which a cable is fixed; inside a wall it hangs free, and a pipe has straps of its own. */
const held: readonly WayKind[] = ['attic', 'crawl', 'ceiling-void', 'cabinets']

/** Places along a part where the cable is fixed to what is beside it, by the spacing of the world; none where it is not fixed. */
export function supportsOf(
  { kind, path }: { readonly kind: WayKind; readonly path: readonly Place[] },
  region: RegionId,
): readonly Place[] {
  if (!held.includes(kind)) return []
  const { levelM, uprightM } = worlds[region].supports
  const places: Place[] = []
  // What is left of the last distance is carried round a turn.
  let share = 0
  for (const [i, [p, q, r]] of path.entries()) {
    const last = path[i - 1]
    if (!last) continue
    const by = [p - last[0], q - last[1], r - last[2]] as const
    const metres = Math.hypot(...by)
    const apart = Math.abs(by[2]) > Math.hypot(by[0], by[1]) ? uprightM : levelM
    let at = (1 - share) * apart
    for (; at < metres - 1e-9; at += apart) {
      const part = at / metres
      places.push([last[0] + part * by[0], last[1] + part * by[1], last[2] + part * by[2]])
    }
    share = Math.min(Math.max(1 - (at - metres) / apart, 0), 1)
  }
  return places
}
