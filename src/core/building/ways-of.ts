import { fixture, acrossOpens, partitions, storeys, walls } from './bays'
import { type BuildingInput, opensOf, type Room, SOLID_BAY_M } from './house'
import { fixtureOutside, outsides } from './outside'
import { onCeilings, openSpace, voids } from './spaces'
import { Builder, type Ways, type Weights } from './ways'

/** The graph of ways of a building whose rooms are placed. */
export function waysOf(building: BuildingInput, rooms: readonly Room[], weights: Weights): Ways {
  const b = new Builder(weights, building, rooms)
  const opens = opensOf(building, rooms)
  const bays = rooms.flatMap((room) => walls(b, room, opens))
  acrossOpens(b, bays, opens, building.walls.kind === 'timber' ? building.walls.studM : SOLID_BAY_M)
  partitions(b, bays)
  storeys(b, bays)
  const ceilings = onCeilings(b, bays, rooms)
  for (const space of ['attic', 'crawl'] as const) if (building[space]) openSpace(b, bays, rooms, space, ceilings)
  voids(b, bays, rooms, ceilings)
  const outer = outsides(b, bays)
  for (const f of [...building.points, ...building.boards])
    if ('side' in f) (f.outside ? fixtureOutside : fixture)(b, bays, f, opens, outer)
  return b.ways
}
