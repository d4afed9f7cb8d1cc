import { describe, expect, it } from 'vitest'
import { after, newJob } from '../../../tests/support/shorthand'
import { buildingOf } from '../installation/building'
import { blankPoint } from '../job/point'
import { placed } from './house'
import { endsOf, outerWalls } from './outside'
import { route, routeInput } from './route'

const rooms = [
  { id: 'hall', lengthM: 4, widthM: 4, heightM: 2.4 },
  { id: 'store', lengthM: 3, widthM: 3, heightM: 2.4, beside: { room: 'hall', side: 'east' } },
]
const door = { id: 'd', room: 'hall', side: 'south', atM: 1, what: 'door', widthM: 1, sillM: 0, headM: 2 }
const building = {
  rooms,
  walls: { kind: 'masonry' },
  attic: null,
  crawl: null,
  outside: true,
  boards: [{ id: 'board', room: 'hall', side: 'west', atM: 1, heightM: 1.5 }],
  points: [
    { id: 'yard', room: 'store', side: 'east', atM: 1, heightM: 0.5, outside: true },
    { id: 'within', room: 'store', side: 'west', atM: 1, heightM: 0.5, outside: true },
  ],
}
const ask = (more: object, to = 'yard', forbid: string[] = []) =>
  route(routeInput.parse({ building: { ...building, ...more }, from: { board: 'board' }, to: [{ point: to }], forbid }))
const near = ([x, y]: readonly [number, number]) => [Math.round(x * 100) / 100, Math.round(y * 100) / 100]

describe('outer walls', () => {
  const all = placed(routeInput.shape.building.parse(building))
  const outer = outerWalls(all)
  const of = (room: string, side: string) => outer.filter((w) => w.room.id === room && w.side === side)
  it('are those behind which no room of their storey lies, and the parts of them', () => {
    expect(of('hall', 'west')).toMatchObject([{ fromM: 0, toM: 4 }])
    expect(of('store', 'west')).toEqual([])
    // The store hides three of the four metres of the hall's east wall.
    expect(of('hall', 'east')).toMatchObject([{ fromM: 3, toM: 4 }])
    const over = placed(routeInput.shape.building.parse({ ...building, rooms: [rooms[0], { ...rooms[1], floor: 1 }] }))
    expect(outerWalls(over)).toHaveLength(8)
  })
  it('end at a corner that stands out or in, or go straight on', () => {
    const ends = (room: string, side: string) => endsOf(of(room, side)[0]!, all).map(near)
    expect(ends('hall', 'west')).toEqual([
      [-0.15, -0.15],
      [-0.15, 4.15],
    ])
    // In the corner between the two rooms, and on along the south of both.
    expect(ends('hall', 'east')).toEqual([
      [4.15, 3.15],
      [4.15, 4.15],
    ])
    expect(ends('hall', 'south')[1]).toEqual([4, -0.15])
    expect(ends('store', 'south')[0]).toEqual([4, -0.15])
  })
})

describe('a way along the outside', () => {
  const indoors = ['surface-corner', 'wall-hole']
  it('leads round the corners to what is on an outer face, where it may', () => {
    const [best] = ask({}, 'yard', indoors).routes
    const kinds = best!.elements.map((e) => e.kind)
    expect(kinds).toContain('outside-corner')
    expect(kinds.filter((k) => k === 'out-hole')).toHaveLength(1)
    expect(best!.holes).toBe(1)
    expect(best!.elements.at(-1)!.to.map((v) => Math.round(v * 100) / 100)).toEqual([7.15, 1, 0.5])
    // Where it may not, what is outside is reached through its own wall.
    const inside = ask({ outside: false }).routes[0]!.elements.map((e) => e.kind)
    expect(inside.at(-1)).toBe('out-hole')
    expect(inside).not.toContain('outside')
  })
  it('leads up from storey to storey on the face of both, and not past one that is two above', () => {
    const over = (floor: number) => ({
      rooms: [
        { ...rooms[0], at: [0, 0] },
        { ...rooms[0], id: 'loft', floor, at: [0, 0] },
      ],
      points: [{ id: 'up', room: 'loft', side: 'west', atM: 2, heightM: 1, outside: true }],
    })
    const [best] = ask(over(1), 'up', ['floor-hole', 'ceiling-hole']).routes
    expect(best!.elements.map((e) => e.kind)).toEqual(expect.arrayContaining(['out-hole', 'outside']))
    expect(best!.elements.at(-1)!.to[2]).toBeGreaterThan(2.4)
    expect(ask(over(2), 'up', ['floor-hole', 'ceiling-hole']).routes).toEqual([])
  })
  it('goes over a door, and through no face that stays closed', () => {
    /** Straight pieces that lie low before where the door is. */
    const low = (more: object) =>
      ask(more, 'yard', indoors).routes.flatMap((r) =>
        r.elements.flatMap((e) =>
          e.path.filter((q, i) => {
            const p = e.path[i - 1]
            return e.kind === 'outside' && p && p[2] < 1 && q[2] < 1 && q[1] < 0 && Math.min(p[0], q[0]) < 1.9 && Math.max(p[0], q[0]) > 1.1
          }),
        ),
      )
    expect(low({}).length).toBeGreaterThan(0)
    expect(low({ openings: [door] })).toEqual([])
    const closed = [{ room: 'hall', side: 'west', closed: true }]
    for (const r of ask({ found: closed }).routes)
      expect(r.elements.filter((e) => e.kind === 'out-hole').map((e) => e.where)).not.toContain('hall west')
  })
  it('is refused to what has a room behind it', () => {
    expect(() => ask({}, 'within')).toThrow(/is at no wall/)
  })
})

it('what is put on an outer face is outdoors, and is asked for again when it is brought in', () => {
  const spot = { side: 'north' as const, atM: 1, heightMm: 450, wall: 'w' }
  const job = after(
    newJob('united-kingdom', 'x', ''),
    { kind: 'room.measure', name: 'Shed', measured: { lengthM: 4, widthM: 3, heightM: 2.4, beside: null } },
    { kind: 'point.add', points: [{ ...blankPoint('p', 'P'), room: 'Shed', place: 'kitchen' as const }] },
    { kind: 'place.put', what: 'point', id: 'p', room: 'room-shed', spot: { ...spot, outside: true } },
  )
  const of = (j: typeof job) => j.points.find((p) => p.id === 'p')!
  expect(of(job)).toMatchObject({ place: 'outdoors', environment: 'outdoors', wall: { outside: true } })
  expect(job.walls.flatMap((w) => w.outlets)).toEqual([])
  expect(buildingOf(job.record).standing.has('p')).toBe(true)
  const back = after(job, { kind: 'place.put', what: 'point', id: 'p', room: 'room-shed', spot })
  expect(of(back)).toMatchObject({ place: null, environment: null })
  expect(back.walls.flatMap((w) => w.outlets.map((o) => o.id))).toEqual(['p'])
  expect(() => after(job, { kind: 'place.put', what: 'board', id: 'main', room: 'room-shed', spot: { ...spot, outside: true } })).toThrow(
    /indoors/,
  )
})
