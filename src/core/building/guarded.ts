import type { Finding } from '../base/finding'
import { formatLength } from '../base/format'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { boredHole } from '../calculate/bored-hole'
import { type BuildingInput, type Room, type Side, sideLength } from './house'
import { inStuds, type Part } from './steps'

/* How a way is guarded, and found again once it is hidden: steel plates, and zones in which a cable is looked for. */

type Place = readonly [x: number, y: number, z: number]
/** Parts whose holes come so near a face of the wall that a steel plate goes over each; of studs not measured nothing is said. */
export function plated(
  parts: readonly Part[],
  region: RegionId,
  holeMm: number,
  depthOf: (p: Part) => number | null | undefined,
): ReadonlySet<number> {
  return new Set(
    parts.flatMap((p, i) => {
      const depthMm = inStuds.includes(p.kind) ? depthOf(p) : null
      if (depthMm == null || depthMm < holeMm) return []
      const hole = { diameterMm: holeMm, edgeMm: (depthMm - holeMm) / 2 }
      return boredHole({ region, member: { kind: 'stud-bearing', depthMm }, hole }).plateNeeded ? [i] : []
    }),
  )
}

/** Half of the plate of an accessory: a cable at its height, or plumb over or under it, is looked for. */
const HALF_PLATE_M = 0.045

/** Hidden cable that lies in no zone where somebody who drills would look for one, in worlds that have such zones. */
export function zoneFindings(
  parts: readonly Part[],
  { points, boards }: Pick<BuildingInput, 'points' | 'boards'>,
  rooms: readonly Room[],
  names: ReadonlyMap<string, string>,
  region: RegionId,
): Finding[] {
  const zones = worlds[region].hiddenZones
  if (!zones) return []
  const edgeM = zones.edgeMm / 1000
  const out = parts.flatMap((p, i): { readonly lengthM: number; readonly where: string }[] => {
    const room = rooms.find((r) => r.id === p.room)
    const { side } = p
    if (!room || side === null || (p.kind !== 'stud' && p.kind !== 'cavity' && p.kind !== 'nogging')) return []
    const along = ([x, y]: Place) => (side === 'north' || side === 'south' ? x - room.west : y - room.south)
    const at = p.path.map(along)
    const [from, to] = [Math.min(...at), Math.max(...at)]
    const whole = sideLength(room, side)
    // In a corner, or right below the ceiling.
    if (to <= edgeM || from >= whole - edgeM) return []
    const here = [...points, ...boards].flatMap((f) => ('side' in f && f.room === room.id && f.side === side && !f.outside ? [f] : []))
    if (p.kind === 'stud') {
      const heightM = p.path[0]![2] - room.foot
      if (room.head - room.foot - heightM <= edgeM || here.some((f) => Math.abs(f.heightM - heightM) <= HALF_PLATE_M)) return []
    } else {
      // What ends at an accessory is led plumb to it, whichever bay it was reckoned in.
      if (i === 0 || i === parts.length - 1 || here.some((f) => Math.abs(f.atM - (from + to) / 2) <= HALF_PLATE_M)) return []
    }
    return [{ lengthM: p.lengthM, where: `the ${side as Side} wall of ${names.get(room.id) ?? 'a room'}` }]
  })
  return out.map(({ lengthM, where }) => ({
    rule: 'outside-zones',
    severity: 'warning',
    clause: zones.clause,
    message:
      `${formatLength(lengthM, worlds[region].units)} hidden in ${where} lies outside the zones where a cable is expected: ` +
      'bring it to the height of an accessory there, plumb over one, or guard it with steel.',
  }))
}
