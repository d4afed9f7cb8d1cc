'use client'
import { useRef } from 'react'
import { builtOf, noggingOf, type Side, sideLength, studRow } from '@/core/building/house'
import { turned } from '@/core/installation/building'
import type { Edit } from '@/core/job/edits'
import { sideOf } from '@/core/job/room'
import { metresFromFeet } from '@/core/base/units'
import type { Moved } from '@/ui/drawing'
import { useJob, useUnits } from '../sync/context'
import type { Building } from './use-building'
import { standingOf } from './standing'

/** From the left as one faces a wall, a metre to the east or the north is a metre more, or less. */
const alongLeft: Readonly<Record<Side, (by: Moved) => number>> = {
  north: (by) => by.eastM,
  south: (by) => -by.eastM,
  west: (by) => by.northM,
  east: (by) => -by.northM,
}
/** A side that is drawn outward makes its room larger. */
const outward: Readonly<Record<Side, (by: Moved) => number>> = {
  north: (by) => by.northM,
  south: (by) => -by.northM,
  east: (by) => by.eastM,
  west: (by) => -by.eastM,
}
const within = (m: number, least: number, most: number): number => Math.min(Math.max(m, least), most)

/** The framing of a wall as one faces it: its studs to the right or the left together, its noggings up or down. */
function framing({ read }: Building, kind: 'studs' | 'noggings', side: Side, id: string, round: (m: number) => number): Mover | null {
  const room = read.rooms.find((r) => r.id === id)
  const { input } = read
  if (!room || !input || builtOf(input, read.rooms, room, side).kind !== 'timber') return null
  const wall = crypto.randomUUID()
  const put = (patch: Extract<Edit, { kind: 'wall.inside' }>['patch']): Edit => ({ kind: 'wall.inside', room: id, side, wall, patch })
  if (kind === 'noggings') {
    const from = noggingOf(input, read.rooms, room, side)
    return from === null ? null : (by) => put({ noggingAtM: within(round(from + by.northM), 0.1, room.head - room.foot) })
  }
  const whole = sideLength(room, side)
  const stud = studRow(input, read.rooms, room, side)[1]
  if (stud === undefined) return null
  const from = turned(side, whole, stud)
  return (by) => put({ studAtM: within(round(from + by.eastM), 0, whole) })
}
type Mover = (by: Moved) => Edit

/** The edit that moves what was taken up on the plan; null where it cannot be moved. */
function edited(building: Building, part: string, round: (m: number) => number): Mover | null {
  const [kind, ...rest] = part.split(':')
  if (kind === 'studs' || kind === 'noggings') return framing(building, kind, rest[0] as Side, rest.slice(1).join(':'), round)
  const { job } = building
  if (kind === 'wall' || kind === 'dim') {
    // A dimension is drawn out to the east or to the north.
    const side = kind === 'wall' ? (rest[0] as Side) : rest[0] === 'length' ? 'east' : 'north'
    const id = rest.slice(1).join(':')
    const room = job.rooms.find((r) => r.id === id)
    if (!room?.measured) return null
    const { name, floor, measured } = room
    const key = side === 'east' || side === 'west' ? 'lengthM' : 'widthM'
    return (by) => ({
      kind: 'room.measure',
      name,
      floor,
      measured: { ...measured, [key]: within(round(measured[key] + outward[side](by)), 0.5, 200) },
    })
  }
  if (kind !== 'point' && kind !== 'board') return null
  const id = rest.join(':')
  const thing = standingOf(job, kind, id)
  if (!thing) return null
  const put = (room: string, spot: Extract<Edit, { kind: 'place.put' }>['spot']): Edit => ({
    kind: 'place.put',
    what: kind,
    id,
    room,
    spot,
  })
  if ('overhead' in thing && thing.overhead && 'room' in thing) {
    const { overhead, room } = thing
    const size = job.rooms.find((r) => r.id === room)?.measured
    if (!size || room === null) return null
    return (by) =>
      put(room, {
        ...overhead,
        eastM: within(round(overhead.eastM + by.eastM), 0, size.lengthM),
        northM: within(round(overhead.northM + by.northM), 0, size.widthM),
      })
  }
  const wall = job.record.walls.find((w) => w.id === thing.wall?.wall)
  const size = job.rooms.find((r) => r.id === wall?.room)?.measured
  const { heightMm } = thing
  if (!wall?.side || wall.room === null || !size || heightMm === null || heightMm === undefined) return null
  const [{ side, room }, from] = [wall as { side: Side; room: string }, thing.wall!.atM]
  const face = 'outside' in thing.wall! ? { outside: true as const } : {}
  return (by) =>
    put(room, { side, atM: within(round(from + alongLeft[side](by)), 0, sideOf(size, side)), heightMm, wall: wall.id, ...face })
}

/** Moves walls, points and boards on the plan: shown while it goes on, written down once they are let go, to the step of a tape. */
export function useMoving(building: Building): (part: string, by: Moved, settled: boolean) => void {
  const commit = useJob((s) => s.commit)
  const preview = useJob((s) => s.show)
  const units = useUnits()
  const step = units === 'imperial' ? metresFromFeet(1 / 12) : 0.05
  /** What was taken up, as it stood then. */
  const up = useRef<{ readonly part: string; readonly edit: ReturnType<typeof edited> } | null>(null)
  return (part, by, settled) => {
    if (up.current?.part !== part) up.current = { part, edit: edited(building, part, (m) => Math.round(m / step) * step) }
    const edit = up.current.edit?.(by)
    if (settled) up.current = null
    if (!edit) return
    if (settled) commit(edit)
    else preview(edit)
  }
}
