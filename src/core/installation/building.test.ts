import { describe, expect, it } from 'vitest'
import { after, newJob, type Short } from '../../../tests/support/shorthand'
import { builtOf } from '../building/house'
import { boredAt, type Part } from '../building/steps'
import type { BuildingRecord, Otherwise } from '../job/building'
import { newWall } from '../job/room'
import { buildingOf, routeFindings, stepsOfWay } from './building'

const measured = { lengthM: 4, widthM: 4, heightM: 2.4 }
const beside = (room: string, side: 'east' | 'over') => ({ room, side, shiftM: 0, northM: 0 })
const joists = { runs: 'north' as const, spacingM: 0.4, depthMm: 200 }
/** Two rooms beside each other, one over the first; all of timber but for what is said otherwise. */
const house = (otherwise: readonly Otherwise[], patch: Partial<BuildingRecord> = {}, ...more: readonly Short[]) =>
  after(
    newJob('united-kingdom', 'x', ''),
    { kind: 'room.measure', name: 'Hall', measured: { ...measured, beside: null } },
    { kind: 'room.measure', name: 'Store', measured: { ...measured, beside: beside('room-hall', 'east') } },
    { kind: 'room.measure', name: 'Loft', floor: 1, measured: { ...measured, beside: beside('room-hall', 'over') } },
    {
      kind: 'building.set',
      patch: {
        walls: { kind: 'timber', studM: 0.4, depthMm: 90 },
        joists: { ...joists, runs: 'east' },
        attic: { headM: 1.2, hot: false },
        crawl: { headM: 0.6 },
        otherwise: [...otherwise],
        ...patch,
      },
    },
    ...more,
  )
const read = (job: ReturnType<typeof house>) => {
  const { input, rooms } = buildingOf(job.record)
  return { input: input!, rooms, room: (id: string) => rooms.find((r) => r.id === id)! }
}

describe('what is in a wall', () => {
  it('is called in the building as it is on the wall; what is fixed there bars its whole height', () => {
    const whats = ['door', 'window', 'cabinets', 'stairs', 'bath', 'sink'] as const
    const pieces = whats.map((what) => ({ id: what, what, lengthM: 0.5 }))
    const side: Short[] = [
      { kind: 'wall.add', item: { ...newWall('w', 'South wall'), room: 'Hall' } },
      { kind: 'wall.set', id: 'w', patch: { pieces, side: 'south' } },
    ]
    const { input } = buildingOf(house([], {}, ...side).record)
    expect(input!.openings.map((o) => [o.what, o.headM])).toEqual([
      ['door', 2.4],
      ['window', 2.4],
      ['cabinets', 0.9],
      ['stairs', 2.4],
      ['fixed', 2.4],
    ])
  })
})

describe('what is made otherwise', () => {
  const store = { id: 'a', of: { room: 'room-store' } }
  it('is so in its room, from both sides of a wall, and nowhere else', () => {
    const { input, rooms, room } = read(house([{ ...store, walls: { kind: 'masonry' } }]))
    const kind = (id: string, side: 'east' | 'west' | 'north') => builtOf(input, rooms, room(id), side).kind
    expect([kind('room-store', 'east'), kind('room-store', 'west'), kind('room-hall', 'east')]).toEqual(['masonry', 'masonry', 'masonry'])
    expect([kind('room-hall', 'west'), kind('room-loft', 'north')]).toEqual(['timber', 'timber'])
  })
  it('gives way to what was found of one wall, and comes before what is said of the storey', () => {
    const solid = { kind: 'masonry' as const }
    const studs = { kind: 'timber' as const, studM: 0.6, depthMm: null }
    const found: Short = { kind: 'wall.inside', room: 'room-store', side: 'north', wall: 'w', patch: { built: studs } }
    const { input, rooms, room } = read(
      house(
        [
          { ...store, walls: solid },
          { id: 'b', of: { floor: 0 }, walls: studs },
        ],
        {},
        found,
      ),
    )
    expect(builtOf(input, rooms, room('room-store'), 'north')).toMatchObject({ kind: 'timber', studM: 0.6 })
    expect(builtOf(input, rooms, room('room-store'), 'south').kind).toBe('masonry')
    expect(builtOf(input, rooms, room('room-hall'), 'south')).toMatchObject({ kind: 'timber', studM: 0.6 })
    expect(builtOf(input, rooms, room('room-loft'), 'south')).toMatchObject({ kind: 'timber', studM: 0.4 })
  })
  it('goes with its room, and is refused of one that is not there', () => {
    const gone = house([{ ...store, walls: { kind: 'masonry' } }], {}, { kind: 'room.remove', id: 'room-store' })
    expect(gone.record.building!.otherwise).toEqual([])
    expect(() => house([{ id: 'a', of: { room: 'nowhere' } }])).toThrow(/room/)
    expect(() => house([store, { ...store, id: 'b' }])).toThrow(/already/)
  })
  it('forgets a joist that was found when they run another way there', () => {
    const at: Short = { kind: 'room.set', name: 'Store', patch: { joistAtM: 0.1 } }
    const turned = house([], {}, at, { kind: 'building.set', patch: { otherwise: [{ ...store, joists }] } })
    expect(turned.record.rooms.map((r) => r.joistAtM ?? null)).toEqual([null, null, null])
    const same = house([], {}, at, { kind: 'building.set', patch: { otherwise: [{ ...store, joists: { ...joists, runs: 'east' } }] } })
    expect(same.record.rooms.find((r) => r.name === 'Store')!.joistAtM).toBe(0.1)
    expect(read(house([{ ...store, joists }])).room('room-store').joists).toEqual({ runs: 'north', spacingM: 0.4 })
  })
})

describe('head room under a roof that slopes', () => {
  const part: Part = {
    kind: 'top-plates',
    room: 'room-store',
    side: 'north',
    beyond: null,
    lengthM: 0.1,
    minutes: 8,
    holes: 2,
    openings: 0,
    path: [
      [6, 4, 2.4],
      [6, 4, 2.5],
    ],
  }
  const said = (attic: BuildingRecord['attic']) => stepsOfWay(house([], { attic }), [part], 'metric')[0]!.words
  it('is that of the place, and not known where it was not measured at the eaves', () => {
    expect(boredAt(part)).toEqual([6, 4, 2.4])
    expect(said({ headM: 1.2, hot: false })).toContain('head room 1.2 m')
    expect(said({ headM: 1.2, hot: false, roof: { ridge: 'east', eavesM: 0.14 } })).toContain('head room 140 mm: angle drill')
    expect(said({ headM: 1.2, hot: false, roof: { ridge: 'east', eavesM: null } })).toContain('head room not measured')
  })
})

it('says of no joist how deep it is where one of those over a crawl space was not measured', () => {
  const route = {
    cutM: 5,
    at: '2026-11-27T08:00:00.000Z',
    elements: [
      {
        kind: 'crawl' as const,
        room: null,
        side: null,
        beyond: null,
        lengthM: 4,
        minutes: 8,
        holes: 5,
        openings: 0,
        path: [
          [1, 1, -0.3],
          [5, 1, -0.3],
        ],
      },
    ],
  }
  const rules = (depthMm: number | null) => {
    const job = house([{ id: 'a', of: { room: 'room-store' }, joists: { ...joists, depthMm } }])
    const cable = job.record.cables[0]!.id
    const taken = after(job, { kind: 'route.take', cable, route } as Short)
    return routeFindings(taken.record).map((f) => f.rule)
  }
  expect(rules(null)).toContain('joist-depth-not-known')
  expect(rules(200)).not.toContain('joist-depth-not-known')
  expect(rules(50)).not.toContain('joist-depth-not-known')
})

describe('warmth and insulation on a way', () => {
  const at = '2026-11-27T08:00:00.000Z'
  const piece = (kind: 'attic' | 'cavity', lengthM: number): Part => ({
    kind,
    room: kind === 'cavity' ? 'room-hall' : null,
    side: kind === 'cavity' ? 'north' : null,
    beyond: null,
    lengthM,
    minutes: 1,
    holes: 0,
    openings: 0,
    path: [
      [0, 4, 0],
      [0, 4, lengthM],
    ],
  })
  const routed = (attic: BuildingRecord['attic'], filled?: boolean | null, ...more: readonly Short[]) => {
    const job = house(
      [],
      { attic, walls: { kind: 'timber', studM: 0.4, depthMm: 90, ...(filled === undefined ? {} : { filled }) } },
      ...more,
    )
    const elements = [piece('cavity', 2), piece('attic', 6)].map((e) => ({
      ...e,
      path: e.path.map((p) => [...p] as [number, number, number]),
    }))
    return after(job, { kind: 'route.take', cable: job.record.cables[0]!.id, route: { cutM: 10, at, elements } })
  }
  const rules = (job: ReturnType<typeof routed>) =>
    routeFindings(job.record)
      .map((f) => f.rule)
      .filter((r) => /warm|insulation/.test(r))
  const stretches = (job: ReturnType<typeof routed>) =>
    job.record.cables[0]!.stretches.map((s) => [s.place, s.lengthM, s.ambientC, s.insulationMm])
  const hot = { headM: 1.2, hot: true, filled: false }
  it('come from the building, and are asked for where they were not recorded', () => {
    const usual = newJob('united-kingdom', 'x', '').circuits[0]!.designs[0]!.ambientC
    expect(stretches(routed({ ...hot, ambientC: 50 }, false))).toEqual([
      ['wall', 2.5, usual, 0],
      ['attic', 7.5, 50, 0],
    ])
    expect(rules(routed({ ...hot, ambientC: 50 }, false))).toEqual([])
    expect(rules(routed(hot, false))).toEqual(['attic-warmth-not-known'])
    // Not hot after all: as warm as the design has it.
    expect(stretches(routed({ ...hot, hot: false, ambientC: 50 }, false)).map((s) => s[2])).toEqual([usual, usual])
    expect(rules(routed({ ...hot, ambientC: 50, filled: null }, false))).toEqual(['insulation-not-known'])
    expect(rules(routed({ ...hot, ambientC: 50 }))).toEqual(['insulation-not-known'])
  })
  it('count the length in insulation only with the method that goes with it', () => {
    const design = newJob('united-kingdom', 'x', '').circuits[0]!.designs[0]!.id
    const clipped: Short = { kind: 'design.set', circuit: 'c1', design, patch: { method: 'clipped-direct' } }
    const inside: Short = { kind: 'design.set', circuit: 'c1', design, patch: { method: 'stud-wall-insulated-touching' } }
    const insulated = { ...hot, ambientC: 50, filled: true }
    expect(stretches(routed(insulated, true, clipped)).map((s) => s[3])).toEqual([2500, 7500])
    expect(rules(routed(insulated, true, clipped))).toEqual([])
    expect(stretches(routed(insulated, true, inside)).map((s) => s[3])).toEqual([0, 0])
    expect(rules(routed(insulated, true, inside))).toEqual(['lies-in-insulation'])
  })
  it('are reported when it gets warmer than the route was calculated at', () => {
    const warmer = (ambientC: number) =>
      after(routed({ ...hot, ambientC: 50 }, false), { kind: 'building.set', patch: { attic: { ...hot, ambientC } } })
    expect([rules(warmer(50)), rules(warmer(51))]).toEqual([[], ['attic-warmer']])
    // A cable that has no stretches of its own is held against what its circuit is calculated at.
    const job = routed({ ...hot, ambientC: 50 }, false)
    const record = { ...job.record, cables: job.record.cables.map((k) => ({ ...k, stretches: [], lengthM: 10 })) }
    expect(routeFindings(record).map((f) => f.message)).toContainEqual(
      expect.stringContaining('enter that ambient temperature for its circuit'),
    )
  })
})
