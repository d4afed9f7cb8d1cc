import type { Finding } from '../base/finding'
import { formatLength, formatSmallLength } from '../base/format'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { HOT_CLEAR_M, type Room, type Side, sideLength } from './house'
import type { Part } from './steps'
import type { WayKind } from './ways'

/* What a way comes too near to, or turns too tightly at: held against the way that was taken, whatever it was searched by. */

/** Something in or at a side of a room, from the west or south end of that side and from the floor. */
interface AtWall {
  readonly room: string
  readonly side: Side
  readonly name: string
  readonly fromM: number
  readonly toM: number
}
export interface ClearancesAsked {
  readonly parts: readonly Part[]
  readonly rooms: readonly Room[]
  readonly names: ReadonlyMap<string, string>
  readonly region: RegionId
  readonly holeMm: number
  /** Of the cable, its larger side; null: not measured. */
  readonly cableMm: number | null
  /** Of the studs of the wall that a part is in; null: not measured; not said: it is in no hollow wall. */
  readonly depthOf: (part: Part) => number | null | undefined
  /** What runs inside walls; `hot`: it gets hot. */
  readonly hidden: readonly (AtWall & { readonly sillM: number; readonly headM: number; readonly hot: boolean })[]
  /** Base cabinets with what room there is behind their drawers; null: not looked at. */
  readonly cabinets: readonly (AtWall & { readonly behindMm: number | null })[]
  /** Baths and showers. */
  readonly baths: readonly AtWall[]
}

/** And so far from a pipe or a duct, so that work on either harms the other not. */
const PIPE_CLEAR_M = 0.05
/** How far off the wall a cable is held by its clips. */
const CLIP_MM = 10
/** Where a cable turns out of the plane of a wall, within the depth of its studs. */
const turningOut: readonly WayKind[] = ['emerge', 'out-hole', 'partition', 'corner']

const alongSide = (room: Room, side: Side, [x, y]: readonly [number, number, number]): number =>
  side === 'north' || side === 'south' ? x - room.west : y - room.south
const wallWords = ({ names }: ClearancesAsked, { room, side }: Pick<AtWall, 'room' | 'side'>): string =>
  `the ${side} wall of ${names.get(room) ?? 'a room'}`
const between = (from: number, to: number, low: number, high: number): number => Math.max(low - to, from - high, 0)

export const clearanceFindings = (asked: ClearancesAsked): Finding[] => [
  ...thickness(asked),
  ...turns(asked),
  ...services(asked),
  ...drawers(asked),
  ...baths(asked),
]

/** Writes millimetres in the units of a world. */
const inUnits = (region: RegionId) => (mm: number) => formatSmallLength(mm, worlds[region].units)

/** A cable goes through no hole that is smaller than itself. */
function thickness({ cableMm, holeMm, parts, region }: ClearancesAsked): Finding[] {
  const mm = inUnits(region)
  if (cableMm === null || cableMm < holeMm || !parts.some((p) => p.holes > 0)) return []
  return [
    {
      rule: 'hole-too-small',
      severity: 'error',
      clause: 'As measured',
      message: `A cable of ${mm(cableMm)} does not go through a hole of ${mm(holeMm)}: bore larger, and look at the timbers again.`,
    },
  ]
}

/** A cable on the far face of a hollow wall that leaves it on the near one turns within what the studs leave beside its own thickness. */
function turns(asked: ClearancesAsked): Finding[] {
  const { parts, region, cableMm, depthOf } = asked
  const rule = worlds[region].bends
  const tight = parts.filter((p) => turningOut.includes(p.kind) && depthOf(p) != null)
  if (!rule || tight.length === 0) return []
  if (cableMm === null)
    return [
      {
        rule: 'bend-not-known',
        severity: 'unknown',
        clause: rule.clause,
        message:
          `The cable turns out of a wall in ${tight.length} ${tight.length === 1 ? 'place' : 'places'}: ` +
          'its thickness was not measured, so whether it bends so tightly is not known.',
      },
    ]
  const mm = inUnits(asked.region)
  const least = rule.times(cableMm) * cableMm
  const worst = tight.map((p) => ({ p, leftMm: depthOf(p)! - cableMm })).toSorted((a, b) => a.leftMm - b.leftMm)[0]!
  if (worst.leftMm >= least) return []
  const where = worst.p.room && worst.p.side ? wallWords(asked, { room: worst.p.room, side: worst.p.side }) : 'a wall'
  return [
    {
      rule: 'bend-too-tight',
      severity: 'warning',
      clause: rule.clause,
      message:
        `Where it turns out of ${where} there is ${mm(Math.max(worst.leftMm, 0))} to bend in; ` +
        `a cable of ${mm(cableMm)} needs an inside bend radius of at least ${mm(least)}. ` +
        'Bring it out in a deeper box, or in conduit.',
    },
  ]
}

/** What runs inside a wall past a flue, a pipe or a duct. */
function services(asked: ClearancesAsked): Finding[] {
  const mm = inUnits(asked.region)
  const found = asked.hidden.flatMap((h) => {
    const clearM = h.hot ? HOT_CLEAR_M : PIPE_CLEAR_M
    const near = asked.parts.flatMap((p) => {
      const room = asked.rooms.find((r) => r.id === h.room)
      if (!room || p.room !== h.room || p.side !== h.side || (p.kind !== 'cavity' && p.kind !== 'nogging' && p.kind !== 'stud')) return []
      return p.path.slice(1).map((q, i) => {
        const [a, b] = [alongSide(room, h.side, p.path[i]!), alongSide(room, h.side, q)]
        const [low, high] = [p.path[i]![2] - room.foot, q[2] - room.foot]
        const aside = between(Math.min(a, b), Math.max(a, b), h.fromM, h.toM)
        return Math.hypot(aside, between(Math.min(low, high), Math.max(low, high), h.sillM, h.headM))
      })
    })
    const nearest = Math.min(...near)
    return nearest < clearM - 1e-9 ? [{ h, nearest, clearM }] : []
  })
  return found.map(({ h, nearest, clearM }) => ({
    rule: h.hot ? 'near-heat' : 'near-pipe',
    // Where it would go through it, no distance is kept at all.
    severity: nearest < 1e-9 ? 'error' : h.hot ? 'warning' : 'note',
    clause: worlds[asked.region].nearHeat,
    message:
      (nearest < 1e-9
        ? `In ${wallWords(asked, h)} it runs where the ${h.name} is. Choose the route again: keep ${mm(clearM * 1000)} off, `
        : `In ${wallWords(asked, h)} it comes within ${mm(nearest * 1000)} of the ${h.name}: keep ${mm(clearM * 1000)} off, `) +
      (h.hot ? 'or calculate it at the temperature there.' : 'so that work on the one does not harm the other.'),
  }))
}

/** Behind base cabinets there must be room for the cable when the drawers are shut. */
function drawers(asked: ClearancesAsked): Finding[] {
  const mm = inUnits(asked.region)
  const clause = worlds[asked.region].guarded
  const those = asked.cabinets.filter((c) =>
    asked.parts.some((p) => {
      const room = asked.rooms.find((r) => r.id === c.room)
      if (!room || p.kind !== 'cabinets' || p.room !== c.room || p.side !== c.side) return false
      const at = p.path.map((q) => alongSide(room, c.side, q))
      return Math.min(...at) < c.toM && Math.max(...at) > c.fromM
    }),
  )
  return those.flatMap((c): Finding[] => {
    const where = `the base cabinets along ${wallWords(asked, c)}`
    if (c.behindMm === null)
      return [
        {
          rule: 'drawers-not-known',
          severity: 'unknown',
          clause,
          message: `The room behind the closed drawers of ${where} was not measured.`,
          about: `side:${c.side}:${c.room}`,
        },
      ]
    const takesMm = asked.cableMm === null ? null : asked.cableMm + CLIP_MM
    if (takesMm === null)
      return [
        {
          rule: 'cable-size-not-known',
          severity: 'unknown',
          clause,
          message: `Behind the drawers of ${where} there is ${mm(c.behindMm)}: the thickness of the cable was not measured.`,
        },
      ]
    if (c.behindMm >= takesMm) return []
    return [
      {
        rule: 'drawer-fouls',
        severity: 'error',
        clause,
        message:
          `Behind the drawers of ${where} there is ${mm(c.behindMm)}; the cable with what holds it takes ${mm(takesMm)}. ` +
          'Run it below the lowest drawer in a guard, or by another route.',
      },
    ]
  })
}

/** On the face of a wall, within reach of somebody in a bath or a shower on that wall. */
function baths(asked: ClearancesAsked): Finding[] {
  const { bathZone: zone, units } = worlds[asked.region]
  if (!zone) return []
  const m = (length: number) => formatLength(length, units)
  return asked.baths.flatMap((bath): Finding[] => {
    const room = asked.rooms.find((r) => r.id === bath.room)
    const inReach = asked.parts.some((p) => {
      if (!room || (p.kind !== 'surface' && p.kind !== 'surface-corner') || p.room !== bath.room || p.side !== bath.side) return false
      return p.path.slice(1).some((q, i) => {
        const from = p.path[i]!
        const [a, b] = [alongSide(room, bath.side, from), alongSide(room, bath.side, q)]
        const aside = between(Math.min(a, b), Math.max(a, b), Math.max(bath.fromM, 0), Math.min(bath.toM, sideLength(room, bath.side)))
        return aside < zone.asideM && Math.min(from[2], q[2]) - room.foot < zone.highM
      })
    })
    if (!inReach) return []
    return [
      {
        rule: 'in-reach-of-bath',
        severity: 'error',
        clause: zone.clause,
        message:
          `On ${wallWords(asked, bath)} it lies within ${m(zone.asideM)} of the ${bath.name} and lower than ${m(zone.highM)}: ` +
          'no cable that does not feed what is fixed there goes through that space.',
      },
    ]
  })
}
