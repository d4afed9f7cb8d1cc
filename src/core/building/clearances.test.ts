import { describe, expect, it } from 'vitest'
import { after, newJob, type Short } from '../../../tests/support/shorthand'
import { buildingOf, routeFindings } from '../installation/building'
import { clearanceFindings, type ClearancesAsked } from './clearances'
import type { Part } from './steps'
import type { WayKind } from './ways'

const room = { id: 'r', floor: 0, west: 0, south: 0, east: 5, north: 4, voidM: null, foot: 0, head: 2.4 }
const part = (kind: WayKind, path: Part['path'], more: Partial<Part> = {}): Part => ({
  kind,
  room: 'r',
  side: 'south',
  beyond: null,
  lengthM: 1,
  minutes: 1,
  holes: 0,
  openings: 0,
  path,
  ...more,
})
const along = (kind: WayKind, from: number, to: number, high = 0.4, side: Part['side'] = 'south') =>
  part(
    kind,
    [
      [from, 0, high],
      [to, 0, high],
    ],
    { side },
  )
const asked: ClearancesAsked = {
  parts: [],
  rooms: [room],
  names: new Map([['r', 'Wash room']]),
  region: 'united-kingdom',
  holeMm: 20,
  cableMm: 10,
  depthOf: () => 89,
  hidden: [],
  cabinets: [],
  baths: [],
}
const rules = (more: Partial<ClearancesAsked>) => clearanceFindings({ ...asked, ...more }).map((f) => f.rule)
const at = { room: 'r', side: 'south' as const, fromM: 2, toM: 3 }

describe('the thickness of the cable', () => {
  const bored = [
    part(
      'stud',
      [
        [0, 0, 1],
        [1, 0, 1],
      ],
      { holes: 1 },
    ),
  ]
  it('fits the hole, and is not claimed to where it was not measured', () => {
    expect(rules({ parts: bored, cableMm: 20 })).toEqual(['hole-too-small'])
    expect(rules({ parts: bored, cableMm: 19.9 })).toEqual([])
    expect(rules({ parts: bored, cableMm: null })).toEqual([])
    expect(rules({ parts: [along('surface', 0, 1)], cableMm: 30 })).toEqual([])
  })
  it('turns within the depth of the studs, by the times of the world', () => {
    const out = [
      part(
        'emerge',
        [
          [1, 0, 0.4],
          [1, 0.06, 0.4],
        ],
        { holes: 1 },
      ),
    ]
    const turn = (depthMm: number | null | undefined, cableMm: number | null, region: ClearancesAsked['region'] = 'united-kingdom') =>
      rules({ parts: out, cableMm, region, depthOf: () => depthMm, holeMm: 60 })
    // Up to 10 mm three times, then four, each beside its own thickness: 40 mm, and 55 for 11 mm.
    expect([turn(40, 10), turn(39.9, 10)]).toEqual([[], ['bend-too-tight']])
    expect([turn(55, 11), turn(54.9, 11)]).toEqual([[], ['bend-too-tight']])
    expect([turn(182, 26), turn(181, 26)]).toEqual([[], ['bend-too-tight']])
    // In North America five times.
    expect([turn(60, 10, 'north-america'), turn(59, 10, 'north-america')]).toEqual([[], ['bend-too-tight']])
    expect(turn(89, null)).toEqual(['bend-not-known'])
    // Of depth not measured another finding tells; in a solid wall, and where the maker says it, nothing is said here.
    expect([turn(null, 10), turn(undefined, 10), turn(20, 10, 'southern-africa')]).toEqual([[], [], []])
  })
})

describe('what is warm, in the way, or in reach', () => {
  const flue = { ...at, name: 'flue', hot: true, sillM: 0, headM: 2.4 }
  it('keeps a cable 150 mm from a flue in its wall', () => {
    expect(rules({ hidden: [flue], parts: [along('stud', 0, 1.85)] })).toEqual([])
    expect(rules({ hidden: [flue], parts: [along('stud', 0, 1.86)] })).toEqual(['near-heat'])
    expect(rules({ hidden: [{ ...flue, sillM: 0.6 }], parts: [along('stud', 0, 4, 0.4)] })).toEqual([])
    expect(rules({ hidden: [flue], parts: [along('surface', 0, 4), along('stud', 0, 4, 1, 'north')] })).toEqual([])
  })
  it('keeps it 50 mm from a pipe', () => {
    const pipe = { ...flue, name: 'pipe', hot: false }
    expect([1.95, 1.96].map((to) => rules({ hidden: [pipe], parts: [along('stud', 0, to)] }))).toEqual([[], ['near-pipe']])
  })
  it('asks for the room behind drawers, and for the cable, before it says that they clear it', () => {
    const behind = (behindMm: number | null, cableMm: number | null = 10) =>
      rules({ cabinets: [{ ...at, name: 'cabinets', behindMm }], parts: [along('cabinets', 0, 2.5)], cableMm })
    expect([behind(null), behind(30, null), behind(19), behind(20)]).toEqual([
      ['drawers-not-known'],
      ['cable-size-not-known'],
      ['drawer-fouls'],
      [],
    ])
    // Others of the same wall are not on the way.
    expect(rules({ cabinets: [{ ...at, name: 'cabinets', behindMm: null }], parts: [along('cabinets', 0, 1.9)] })).toEqual([])
  })
  it('keeps out of reach of a bath, where a world says how far that is', () => {
    const bath = { ...at, name: 'bath' }
    const by = (to: number, high: number, region: ClearancesAsked['region'] = 'united-kingdom') =>
      rules({ baths: [bath], parts: [along('surface', 0, to, high)], region })
    expect([by(1.4, 0.4), by(1.41, 0.4)]).toEqual([[], ['in-reach-of-bath']])
    expect([by(2.5, 2.25), by(2.5, 2.24)]).toEqual([[], ['in-reach-of-bath']])
    expect([by(2.5, 1, 'southern-africa'), by(2.5, 1, 'north-america')]).toEqual([['in-reach-of-bath'], []])
  })
})

it('reads all of it from the record, whichever way a wall is faced', () => {
  const path = (x: number, kind: 'cabinets' | 'surface', high: number) => ({
    ...along(kind, x, x + 0.2, high),
    room: 'room-wash-room',
    path: [
      [x, 0, high],
      [x + 0.2, 0, high],
    ] as [number, number, number][],
  })
  const piece = (id: string, what: 'wall' | 'cabinets' | 'bath', lengthM: number) => ({ id, what, lengthM })
  const job = (x: number, ...more: readonly Short[]) =>
    after(
      newJob('united-kingdom', 'x', ''),
      { kind: 'room.measure', name: 'Wash room', measured: { lengthM: 5, widthM: 4, heightM: 2.4, beside: null } },
      { kind: 'building.set', patch: { walls: { kind: 'masonry' }, attic: 'none', crawl: 'none' } },
      {
        kind: 'wall.open',
        room: 'room-wash-room',
        side: 'south',
        wall: 'w',
        // From the left as one faces it: the south wall is measured from the east.
        piece: piece('k', 'cabinets', 1),
        atM: 0.5,
      },
      {
        kind: 'route.take',
        cable: newJob('united-kingdom', 'x', '').record.cables[0]!.id,
        route: { cutM: 1, at: '2026-11-27T08:00:00.000Z', elements: [path(x, 'cabinets', 0)] },
      },
      ...more,
    )
  const found = (j: ReturnType<typeof job>) => routeFindings(j.record).map((f) => f.rule)
  expect(found(job(4))).toContain('drawers-not-known')
  expect(found(job(1))).not.toContain('drawers-not-known')
  expect(buildingOf(job(4).record).rooms).toHaveLength(1)
  const measured = (behindMm: number): Short => ({
    kind: 'wall.set',
    id: 'w',
    patch: { pieces: job(4).record.walls[0]!.pieces.map((p) => (p.what === 'cabinets' ? { ...p, behindMm } : p)) },
  })
  const cable: Short = { kind: 'building.set', patch: { cableMm: 9 } }
  expect(found(job(4, measured(40)))).toContain('cable-size-not-known')
  expect(found(job(4, measured(40), cable))).not.toContain('drawer-fouls')
  expect(found(job(4, measured(12), cable))).toContain('drawer-fouls')
})
