import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyJob, some } from '../../../tests/support/any-job'
import { collisionsIn } from '../../../tests/support/collisions'
import { drawingsOf } from '../../../tests/support/drawings'
import { anyWanted } from '../../../tests/support/any-building'
import type { WaysAsked } from '../building/route'
import { newBuilding } from '../job/building'
import { after, newJob } from '../../../tests/support/shorthand'
import { demoJobs } from '../demo/demo'
import { read } from '../installation/installation'
import { newResidualDevice, newWay } from '../job/board'
import { newBox } from '../job/box'
import { newPoint } from '../job/point'
import { newRoom, newWall, pieceKinds } from '../job/room'
import type { Job } from '../job/schema'
import { anyBends } from '../../../tests/support/any-bends'
import { bending } from '../calculate/bending'
import { bendingDrawing } from './bending'
import { line, text } from './shape'

/*
 * No text of a drawing lies on another or runs over its edge, and no line goes through one: in every drawing of the demo jobs, and of
 * jobs made up to be awkward.
 */
const words = [
  'Kiln',
  'wheel room',
  'behind the blackboard',
  'Sockets upstairs and in the hall',
  'WC',
  'Lights',
  'a',
  'Verschlusskappenpresse',
  '12',
]
const name = fc.array(some(words), { minLength: 1, maxLength: 4 }).map((list) => list.join(', ').slice(0, 80))

/** Boards full of ways, points, walls: what a survey adds to a job. */
const surveyed = (job: Job): fc.Arbitrary<Job> =>
  fc
    .record({
      board: name,
      spaces: fc.option(some([4, 12, 24, 42, 84]), { nil: null }),
      free: fc.option(fc.uniqueArray(fc.integer({ min: 1, max: 84 }), { maxLength: 12 }), { nil: null }),
      mainA: fc.option(some([32, 100, 200]), { nil: null }),
      devices: fc.array(name, { maxLength: 3 }),
      ways: fc.array(
        fc.record({
          label: name,
          ratingA: fc.option(some([6, 16, 32, 100]), { nil: null }),
          poles: some([1, 1, 2] as const),
          position: fc.option(fc.integer({ min: 1, max: 84 }), { nil: null }),
          half: some([null, null, 'a', 'b'] as const),
          kind: some(['circuit', 'circuit', 'spare', 'source'] as const),
          shape: some(['radial', 'ring', 'unknown'] as const),
          behind: fc.nat(6),
          bar: fc.nat(6),
        }),
        { maxLength: 24 },
      ),
      points: fc.array(name, { maxLength: 40 }),
      pieces: fc.array(fc.record({ what: some(pieceKinds), lengthM: some([0.05, 0.4, 0.9, 2.4, 7, 40]) }), { minLength: 1, maxLength: 12 }),
      outlets: fc.array(fc.double({ min: 0, max: 12, noNaN: true }), { maxLength: 8 }),
    })
    .map(({ board, spaces, free, mainA, devices, ways, points, pieces, outlets }) => {
      const residualDevices = devices.map((d, i) => newResidualDevice(`g${i}`, d, { tripMa: 30, ratingA: 63 }))
      const behind = ['none', 'own', 'unknown', ...residualDevices.map((d) => d.id)]
      const bars = ['main', null, ...residualDevices.map((d) => d.id)]
      const placed = new Set<string>()
      const listed = ways.flatMap(({ behind: b, bar, half, ...w }, i) => {
        // In one space is one way, or two halves.
        const at = `${w.position}`
        const taken = [at, `${(w.position ?? 0) + 1}`, `${(w.position ?? 0) + 2}`].some((x) => placed.has(x))
        if (w.position !== null && taken) return []
        if (w.position !== null) for (let k = 0; k < 3; k++) placed.add(`${w.position + k}`)
        const tandem = job.region === 'north-america' && w.position !== null && w.poles === 1 ? half : null
        return [newWay(`w${i}`, w.label, { ...w, half: tandem, residual: behind[b % behind.length]!, bar: bars[bar % bars.length]! })]
      })
      return {
        ...job,
        boards: job.boards.map((b) => ({ ...b, name: board, spaces, free, mainA })),
        residualDevices,
        ways: [...job.ways, ...listed],
        rooms: [...job.rooms, newRoom('r', 'Hall')],
        walls: [newWall('wall', 'North wall', { room: 'r', pieces: pieces.map((p, i) => ({ id: `piece-${i}`, ...p })) })],
        points: [...job.points, ...points.map((p, i) => newPoint(`s${i}`, p)), ...outlets.map((_, i) => newPoint(`o${i}`, `Outlet ${i}`))],
        boxes: [
          ...job.boxes,
          ...points.map((_, i) => newBox(`s${i}`)),
          ...outlets.map((atM, i) => newBox(`o${i}`, { room: 'r', wall: { wall: 'wall', atM } })),
        ],
        observations: [
          ...job.observations,
          ...listed.slice(0, 6).map((w, i) => ({
            id: `x${i}`,
            at: '2026-11-14T12:00:00.000Z',
            instrument: 'contact' as const,
            withdrawn: false,
            seen: { kind: 'breaker-off' as const, breaker: w.id, dead: points.flatMap((_, k) => (k % 6 === i ? [`s${k}`] : [])) },
            later: [],
          })),
        ],
      }
    })
const awkward = anyJob.chain(surveyed)

const told = (job: Job): string[] =>
  drawingsOf(read(job)).flatMap((d) => {
    const { texts, cut, crossed } = collisionsIn(d)
    return [...texts, ...cut.map((c) => `over the edge: ${c}`), ...crossed]
  })

/** A job whose building this is, its rooms and points called as somebody calls them. */
function buildingJob({ rooms, points, walls, attic, crawl, joists }: WaysAsked['building'], said: () => string): Job {
  const bare = newJob('united-kingdom', 'x', '').record
  const fixtures = (points ?? []).flatMap((p) => ('side' in p ? [p] : []))
  return {
    ...bare,
    building: {
      ...newBuilding(),
      walls: walls.kind === 'timber' ? { ...walls, depthMm: 90 } : walls,
      joists: joists ? { ...joists, depthMm: null } : null,
      attic: attic ?? 'none',
      crawl: crawl ?? 'none',
    },
    rooms: rooms.map(({ id, floor, lengthM, widthM, heightM, beside }) => ({
      ...newRoom(id, said(), { floor: floor ?? 0 }),
      measured: { lengthM, widthM, heightM, beside: beside ? { shiftM: 0, northM: 0, ...beside } : null },
    })),
    walls: fixtures.map((p) => newWall(`w${p.id}`, said(), { room: p.room, side: p.side })),
    boards: [{ ...bare.boards[0]!, name: said(), wall: fixtures[0] ? { wall: `w${fixtures[0].id}`, atM: 0.3 } : null, heightMm: 1500 }],
    points: [...(points ?? []).map((p) => newPoint(p.id, said())), ...bare.points],
    boxes: [
      ...(points ?? []).map((p) =>
        newBox(
          p.id,
          'side' in p
            ? { room: p.room, wall: { wall: `w${p.id}`, atM: p.atM }, heightMm: p.heightM * 1000 }
            : { room: p.room, overhead: { eastM: p.eastM, northM: p.northM } },
        ),
      ),
      ...bare.boxes,
    ],
    cables: bare.cables.map((k) => ({ ...k, to: { kind: 'point', id: 'p0' } })),
  }
}

describe('collisions', () => {
  it('are seen where there are some, and not where there are none', () => {
    const drawing = { width: 100, height: 100, title: 'x', shapes: [text(10, 50, 'board', 14), text(20, 52, 'main', 14)] }
    expect(collisionsIn(drawing)).toMatchObject({ texts: [expect.stringContaining('board')], cut: [], crossed: [] })
    expect(collisionsIn({ ...drawing, shapes: [text(90, 50, 'board', 14)] }).cut).toHaveLength(1)
    const crossing = line(0, 46, 100, 46)
    expect(collisionsIn({ ...drawing, shapes: [crossing, text(10, 50, 'board', 14)] }).crossed).toHaveLength(1)
    const ground = { kind: 'rect', x: 8, y: 36, w: 60, h: 20, fill: 'sheet' } as const
    expect(collisionsIn({ ...drawing, shapes: [crossing, ground, text(10, 50, 'board', 14)] }).crossed).toHaveLength(0)
    expect(collisionsIn({ ...drawing, shapes: [text(10, 50, 'board', 14), text(10, 70, 'main', 14)] })).toEqual({
      texts: [],
      cut: [],
      crossed: [],
    })
  })
  it.each(demoJobs.map((d) => [d.title, d] as const))('are in no drawing of %s', async (_, demo) => {
    const { record } = after(newJob(demo.region, demo.title, demo.place), ...demo.edits)
    expect(told(record)).toEqual([])
  })
  it('are in no drawing of any building', async () => {
    const wanted = fc.sample(fc.tuple(anyWanted, fc.infiniteStream(name)), { numRuns: 30, seed: Number(process.env.SEED ?? 12) })
    for (const [{ building }, said] of wanted) expect(told(buildingJob(building, () => said.next().value as string))).toEqual([])
  })
  it('are on no bent pipe', () => {
    for (const items of fc.sample(anyBends, { numRuns: 60, seed: 4 }))
      for (const stockMm of [null, 3048])
        for (const format of ['wide', 'narrow'] as const)
          expect(collisionsIn(bendingDrawing(bending({ items, radiusMm: 114, takeUpMm: null, stockMm }), 'metric', format))).toEqual({
            texts: [],
            cut: [],
            crossed: [],
          })
  })

  it('are in no drawing of any job, however awkward', async () => {
    const jobs = fc.sample(awkward, { numRuns: Number(process.env.JOBS ?? 200), seed: Number(process.env.SEED ?? 12) })
    for (const job of jobs) expect(told(job)).toEqual([])
  })
})
