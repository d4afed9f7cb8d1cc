import { along, baysOf, type BuildingInput, joistsCrossed, openRooms, type Room } from './house'
import { boredAt, type Part } from './steps'

type Place = readonly [x: number, y: number, z: number]

/** Where each hole of a part is bored: through every stud that it crosses in a wall, every joist under a floor, else where it begins. */
export function holesOf(part: Part, input: BuildingInput, rooms: readonly Room[]): readonly Place[] {
  if (part.holes === 0) return []
  const found = part.kind === 'stud' ? throughStuds(part, input, rooms) : part.kind === 'crawl' ? throughJoists(part, input, rooms) : []
  return found.length ? found : [boredAt(part)]
}

function throughStuds({ room: id, side, path }: Part, input: BuildingInput, rooms: readonly Room[]): readonly Place[] {
  const room = rooms.find((r) => r.id === id)
  if (!room || side === null) return []
  const at = path.map(([x, y]) => (side === 'north' || side === 'south' ? x - room.west : y - room.south))
  const [from, to] = [Math.min(...at), Math.max(...at)]
  const studs = baysOf(input, rooms, room, side).slice(1, -1)
  return studs.flatMap((m): Place[] => (m > from && m < to ? [[...along(room, side, m), path[0]![2]]] : []))
}

function throughJoists({ path }: Part, input: BuildingInput, rooms: readonly Room[]): readonly Place[] {
  const crossed = joistsCrossed(input, rooms, openRooms(rooms, false))
  return path.flatMap((q, i) => {
    const p = path[i - 1]
    if (!p || !crossed) return []
    return crossed(p[0], p[1], q[0], q[1]).map((t): Place => [p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1]), p[2] + t * (q[2] - p[2])])
  })
}
