import { describe, expect, it } from 'vitest'
import { after, newJob, type Short } from '../../../tests/support/shorthand'
import { jointSpot } from '../building/breaking'
import { placed as roomsOf } from '../building/house'
import { type Route, route, routeInput } from '../building/route'
import { placeAt } from '../building/search'
import { usualWeights } from '../building/ways'
import { waysOf } from '../building/ways-of'
import type { Edit } from '../job/edits'
import { breakWanted, brokenBy } from './break-in'
import { buildingOf, legsOf, routeFindings, waysWanted } from './building'

const at = '2026-11-27T08:00:00.000Z'
const put = (what: 'board' | 'point', id: string, side: 'north' | 'east' | 'west', atM: number): Edit => ({
  kind: 'place.put',
  what,
  id,
  room: 'room-shed',
  spot: { side, atM, heightMm: 1500, wall: `w-${side}` },
})
/** A shed of eight by four: the board on its west wall, one socket at the far end, another fed from there and half way back. */
const shed = (attic: boolean, ...more: readonly Short[]) =>
  after(
    newJob('united-kingdom', 'x', ''),
    { kind: 'room.measure', name: 'Shed', measured: { lengthM: 8, widthM: 4, heightM: 2.4, beside: null } },
    {
      kind: 'building.set',
      patch: {
        walls: { kind: 'timber', studM: 0.4, depthMm: 90 },
        attic: attic ? { headM: 1.5, hot: false } : 'none',
        crawl: 'none',
        forbid: attic ? ['surface', 'stud'] : ['surface'],
      },
    },
    { kind: 'load.set', circuit: 'c1', patch: { name: 'x', volts: 230, basis: 'watts', amount: 800, connection: 'plug' } },
    {
      kind: 'circuit-point.add',
      circuit: 'c1',
      points: [
        { id: 'far', name: 'Far', lengthM: 10, from: null, watts: 100 },
        { id: 'half', name: 'Half', lengthM: 6, from: 'far', watts: 100 },
      ],
    },
    put('board', 'main', 'west', 3.6),
    put('point', 'far', 'east', 0.4),
    put('point', 'half', 'north', 4),
    ...more,
  )
type Job = ReturnType<typeof shed>
const best = (asked: NonNullable<ReturnType<typeof breakWanted>>): Route => route(routeInput.parse(asked)).routes[0]!
const taken = (job: Job, cable: string): Job => {
  const found = best(waysWanted(job.record, 'c1')![legsOf(job.record, 'c1').findIndex((l) => l.cable === cable)]!)
  const elements = found.elements.map(({ id: _, where: __, from: ___, to: ____, ...e }) => e)
  return after(job, { kind: 'route.take', cable, route: { at, cutM: found.pieces[0]!.lengthM, elements } })
}
const cableTo = (job: Job, point: string) => job.record.cables.find((k) => k.to.id === point)!
function brokenIn(job: Job): Job {
  const branch = cableTo(job, 'half').id
  const { cable, spot, toJoint, onward, way } = brokenBy(job.record, branch, best(breakWanted(job.record, branch)!))!
  const where =
    'side' in spot
      ? { side: spot.side, atM: spot.atM, heightMm: spot.heightM * 1000, wall: 'w-new' }
      : { eastM: spot.eastM, northM: spot.northM }
  return after(job, {
    kind: 'route.break',
    cable,
    branch,
    joint: { id: 'j', name: 'Joint' },
    room: spot.room,
    spot: where,
    toJoint: { ...toJoint, at },
    onward: { ...onward, at },
    way: { ...way, at },
  })
}

describe('a joint box put into a cable', () => {
  it('is asked for only where a cable of the circuit has a way, and never one that the point itself feeds', () => {
    const job = shed(true)
    expect(breakWanted(job.record, cableTo(job, 'half').id)).toBeNull()
    const routed = taken(job, cableTo(job, 'far').id)
    expect(breakWanted(routed.record, cableTo(routed, 'half').id)!.to).toHaveLength(1)
    // What comes first is fed by nothing behind it.
    const other = taken(job, cableTo(job, 'half').id)
    expect(breakWanted(other.record, cableTo(other, 'far').id)).toBeNull()
  })
  it.each([true, false])('feeds the point from where the way is least, and leaves each cable its part of the way (attic %s)', (attic) => {
    const job = taken(shed(attic), attic ? 'to-far' : cableTo(shed(attic), 'far').id)
    const whole = cableTo(job, 'far').route!
    const next = brokenIn(job)
    const [first, second, branch] = ['j', 'far', 'half'].map((id) => cableTo(next, id))
    expect([first!.from, second!.from.id, branch!.from.id]).toEqual([cableTo(job, 'far').from, 'j', 'j'])
    const walked = (r: typeof whole) => r.elements.reduce((sum, e) => sum + e.lengthM, 0)
    expect(walked(first!.route!) + walked(second!.route!)).toBeCloseTo(walked(whole), 6)
    const holes = (r: typeof whole) => r.elements.reduce((sum, e) => sum + e.holes, 0)
    expect(holes(first!.route!) + holes(second!.route!)).toBe(holes(whole))
    // Each way begins where its cable does and ends where that ends, the joint box among them.
    expect(routeFindings(next.record).filter((f) => f.rule === 'way-moved')).toEqual([])
    const joint = next.record.points.find((p) => p.id === 'j')!
    expect(joint.kind).toBe('box')
    expect(next.record.boxes.find((b) => b.id === joint.box)!.overhead !== undefined).toBe(attic)
    // It is nearer than from the far end.
    expect(walked(branch!.route!)).toBeLessThan(attic ? 6 : 5)
    for (const k of [first, second, branch]) expect(k!.lengthM ?? k!.stretches.reduce((sum, s) => sum + s.lengthM!, 0)).toBeGreaterThan(0)
  })
  it('counts the box, and the circuit off while it is wired, as they are weighed', () => {
    const costs = [0, 2].map((outage) => {
      const job = taken(shed(true, { kind: 'building.set', patch: { weights: { ...usualWeights, minute: 3, outage } } }), 'to-far')
      const route = best(breakWanted(job.record, 'to-half')!)
      return brokenBy(job.record, 'to-half', route)!.cost - route.cost
    })
    expect(costs).toEqual([expect.closeTo(25 * 3, 9), expect.closeTo(25 * 5, 9)])
  })
  it('leaves a cable that is there as long as it was, and one that is to come is cut twice', () => {
    const found = shed(true)
    const record = { ...taken(found, 'to-far').record }
    const there = { ...record, cables: record.cables.map((k) => (k.to.id === 'far' ? { ...k, state: 'existing' as const } : k)) }
    const cut = (cables: typeof record) => {
      const broken = brokenBy(cables, 'to-half', best(breakWanted(cables, 'to-half')!))!
      return broken.toJoint.cutM + broken.onward.cutM
    }
    const whole = record.cables.find((k) => k.to.id === 'far')!.route!.cutM
    expect(cut(there)).toBeCloseTo(whole, 6)
    // Loop and tails once more.
    expect(cut(record)).toBeCloseTo(whole + 0.8, 6)
  })
  it('is in no wall whose face stays closed, and refuses a cable of another circuit', () => {
    const closed = (['north', 'south', 'east', 'west'] as const).map((side): Short => ({
      kind: 'wall.inside',
      room: 'room-shed',
      side,
      wall: `c-${side}`,
      patch: { closed: true },
    }))
    const job = taken(shed(true), 'to-far')
    const { input, rooms } = buildingOf(after(job, ...closed).record)
    const ways = waysOf(input!, rooms, usualWeights)
    for (const [n, spot] of ways.boxes) expect(jointSpot(ways, roomsOf(input!), placeAt(ways, n))).toEqual(spot)
    // On its face it may.
    const inside = [...ways.boxes.keys()].filter((n) => {
      const [x, y] = placeAt(ways, n)
      return x === 0 || y === 0 || x === 8 || y === 4
    })
    expect(inside).toEqual([])
    const two = after(job, { kind: 'circuit.add', id: 'c2', name: 'Other' })
    const good = brokenBy(job.record, 'to-half', best(breakWanted(job.record, 'to-half')!))!
    const edit = (branch: string): Edit => ({
      kind: 'route.break',
      cable: good.cable,
      branch,
      joint: { id: 'j', name: 'J' },
      room: 'room-shed',
      spot: { eastM: 4, northM: 2 },
      toJoint: { ...good.toJoint, at },
      onward: { ...good.onward, at },
      way: { ...good.way, at },
    })
    expect(() => after(two, edit('to-end-c2'))).toThrow(/another circuit/)
    expect(() => after(job, edit('to-far'))).toThrow(/fed through the point itself/)
  })
})
