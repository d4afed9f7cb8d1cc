import { fixture, acrossOpens, partitions, storeys, walls } from './bays'
import { type BuildingInput, type Obstacle, opensOf, type Room, SOLID_BAY_M } from './house'
import { fixtureOutside, outsides } from './outside'
import { onCeilings, openSpace, voids } from './spaces'
import { Builder, type Mark, type Ways, type Weights } from './ways'

/** The graph of ways of a building whose rooms are placed. */
export const waysOf = (building: BuildingInput, rooms: readonly Room[], weights: Weights): Ways =>
  waysRound(building, rooms, weights)(building.obstacles)

/** An obstacle in the attic is moved more often than one under the floor: what is laid last is rebuilt alone. */
const spaces = ['crawl', 'attic'] as const
/**
 * The graph of ways of a building round whatever is in its attic and under its floor. Only what an obstacle changes is rebuilt: a
 * graph that was asked for before is not to be used after the next.
 */
export function waysRound(building: BuildingInput, rooms: readonly Room[], weights: Weights): (obstacles: readonly Obstacle[]) => Ways {
  const b = new Builder(weights, building, rooms)
  const opens = opensOf(building, rooms)
  const bays = rooms.flatMap((room) => walls(b, room, opens))
  acrossOpens(b, bays, opens, building.walls.kind === 'timber' ? building.walls.studM : SOLID_BAY_M)
  partitions(b, bays)
  storeys(b, bays)
  const ceilings = onCeilings(b, bays, rooms)
  voids(b, bays, rooms, ceilings)
  const outer = outsides(b, bays)
  for (const f of [...building.points, ...building.boards])
    if ('side' in f && f.outside) fixtureOutside(b, bays, f, outer)
    else if ('side' in f) fixture(b, bays, f, opens)
  const laid = new Map<(typeof spaces)[number], { readonly round: string; readonly before: Mark }>()
  return (obstacles) => {
    let same = true
    for (const space of spaces.filter((s) => building[s])) {
      const own = obstacles.filter((o) => o.space === space)
      const round = JSON.stringify(own)
      const known = laid.get(space)
      if (same && known?.round === round) continue
      if (same && known) b.backTo(known.before)
      same = false
      laid.set(space, { round, before: b.mark })
      openSpace(b, bays, rooms, space, ceilings, own)
    }
    return b.ways
  }
}
