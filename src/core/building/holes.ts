import { along, baysOf, type BuildingInput, joistsOf, type Room } from './house'
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
  if (!input.joists) return []
  const axis = input.joists.runs === 'east' ? 1 : 0
  const lowest = Math.min(...rooms.map((r) => r.floor))
  return path.flatMap((q, i) => {
    const p = path[i - 1]
    if (!p || Math.abs(q[axis] - p[axis]) < 1e-9) return []
    return rooms
      .filter((r) => r.floor === lowest)
      .flatMap((room) =>
        joistsOf(input, rooms, room).flatMap((m): Place[] => {
          const part = (m - p[axis]) / (q[axis] - p[axis])
          const place: Place = [p[0] + part * (q[0] - p[0]), p[1] + part * (q[1] - p[1]), p[2] + part * (q[2] - p[2])]
          const here =
            place[0] > room.west - 1e-6 && place[0] < room.east + 1e-6 && place[1] > room.south - 1e-6 && place[1] < room.north + 1e-6
          return part > 0 && part <= 1 && here ? [place] : []
        }),
      )
  })
}
