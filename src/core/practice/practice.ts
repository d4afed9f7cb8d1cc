import { answer, type House, onwardCables, seeded } from '../trace/house'
import type { Observation, TraceTest } from '../trace/types'
import { newJob } from '../job/schema'
import type { RegionId } from '../region/types'
import { blankPoint, type TypedPoint, putTyped } from '../job/point'
import { newWay, type Way } from '../job/board'
import type { Job } from '../job/schema'

/** A building to practise on: what can be seen of it, and what is hidden. */
export interface PracticeBuilding {
  readonly house: House
  readonly ways: readonly Way[]
  readonly points: readonly TypedPoint[]
}

const rooms = ['Hall', 'Loom room', 'Dye room', 'Store', 'Office', 'Yard'] as const
const things: readonly (readonly [string, TypedPoint['kind'], number | null])[] = [
  ['outlet by the door', 'outlet', 100],
  ['light', 'light', 60],
  ['outlet under the window', 'outlet', null],
  ['switch', 'switch', 0],
  ['outlet at the bench', 'outlet', 800],
]

/** The same seed gives the same building: five breakers, twelve points in six rooms, labels of which some are wrong. */
export function practiceBuilding(seed: number): PracticeBuilding {
  const random = seeded(seed)
  const breakers = ['w1', 'w2', 'w3', 'w4', 'w5']
  const points = Array.from({ length: 12 }, (_, i) => {
    const [thing, kind, watts] = things[(i + Math.floor(i / rooms.length)) % things.length]!
    const room = rooms[i % rooms.length]!
    return blankPoint(`p${i + 1}`, `${room} ${thing}`, { room, kind, watts, mustHold: i === 3 })
  })
  const parent: Record<string, string> = {}
  const on = new Map<string, string[]>(breakers.map((b) => [b, []]))
  // Rooms keep together, as wiring does, but not always: a point of each building hangs where nobody expects it.
  for (const p of points) {
    const usual = breakers[(rooms.indexOf(p.room as (typeof rooms)[number]) + Math.floor(seed % 3)) % 4]!
    const breaker = random() < 0.2 ? breakers[Math.floor(random() * 4)]! : usual
    const there = on.get(breaker)!
    parent[p.id] = there.length === 0 || random() < 0.2 ? breaker : there[Math.floor(random() * there.length)]!
    there.push(p.id)
  }
  const labels = ['1 Lights', '2 Loom room', '3 Dye room?', '4 Office', '5 (no label)']
  const ways = breakers.map((id, i) => newWay(id, labels[i]!, { ratingA: i === 0 ? 15 : 20, position: i + 1 }))
  return { house: { breakers, points: points.map((p) => p.id), parent }, ways, points }
}

/** What a tester shows at every point while a test is made. A non-contact detector may show a dead point live beside a live cable. */
export function probe(
  building: PracticeBuilding,
  test: TraceTest,
  instrument: string,
  misleading: boolean,
  seed: number,
): Record<string, 'dead' | 'live'> {
  const dead = new Set((answer(building.house, test)[0] as Exclude<Observation, { kind: 'cables' }>).dead)
  const roomOf = new Map(building.points.map((p) => [p.id, p.room]))
  const liveRooms = new Set(building.points.filter((p) => !dead.has(p.id)).map((p) => p.room))
  return Object.fromEntries(
    building.points.map((p) => {
      const fooled =
        misleading &&
        instrument === 'non-contact' &&
        dead.has(p.id) &&
        liveRooms.has(roomOf.get(p.id)!) &&
        seeded(seed + p.id.length * 131 + p.id.charCodeAt(p.id.length - 1))() < 0.7
      return [p.id, dead.has(p.id) && !fooled ? 'dead' : 'live']
    }),
  )
}

export const cablesAt = (building: PracticeBuilding, point: string): number => onwardCables(building.house, point)

/** How what was found compares with the truth: points whose parent is right, wrong, and still open. */
export function compareWithTruth(
  building: PracticeBuilding,
  parents: Readonly<Record<string, string | null>>,
): { right: number; wrong: string[]; open: number } {
  const ids = building.points.map((p) => p.id)
  return {
    right: ids.filter((p) => parents[p] === building.house.parent[p]).length,
    wrong: ids.filter((p) => parents[p] != null && parents[p] !== building.house.parent[p]),
    open: ids.filter((p) => parents[p] == null).length,
  }
}

/** A job on a practice building: its ways and points are listed as one finds them, and what feeds what is to be traced. */
export function practiceJob(region: RegionId, title: string, practice: NonNullable<Job['practice']>): Job {
  const { ways, points } = practiceBuilding(practice.seed)
  const job = newJob(region, title, 'Practice building')
  const made: Job = { ...job, ways: [...ways], practice }
  for (const p of points) putTyped(made, p, 'points')
  return made
}
