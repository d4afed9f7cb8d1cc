import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyWanted } from '../../../tests/support/any-building'
import { holesOf } from './holes'
import { along, type BuildingInput, openIn, opensOf, placed } from './house'
import { standsOutside } from './outside'
import { type Route, route, routeInput } from './route'
import { type ChosenRoute, staleBy } from './stale'
import { routeSteps } from './steps'

/*
 * A second, plain reading of what was found: out of the file, with nothing of the search. Distances are Pythagoras, the cheapest walk is
 * the plainest that there is.
 */
type Place = readonly [number, number, number]
const far = (a: Place, b: Place): number => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2)
type Found = ReturnType<typeof route>

/** What leads into an attic is barred with it. */
const leadsUp = ['top-plates', 'ceiling-hole']

/** The least that reaching a node costs: the nearest of those not settled, one after another. */
function leastCost({ nodes, edges, from, to }: NonNullable<Found['graph']>, barred: (kind: string) => boolean): number {
  const near = new Map<number, [number, number][]>()
  const lead = (a: number, b: number, cost: number) => near.set(a, [...(near.get(a) ?? []), [b, cost]])
  for (const [a, b, cost, kind] of edges) {
    if (barred(kind)) continue
    lead(a, b, cost)
    lead(b, a, cost)
  }
  const settled = new Set<number>()
  const open = new Map([[from, 0]])
  for (;;) {
    let [at, cost] = [-1, Number.POSITIVE_INFINITY]
    for (const [n, c] of open) if (c < cost) [at, cost] = [n, c]
    if (at < 0 || at === to[0]) return cost
    settled.add(at)
    open.delete(at)
    for (const [b, c] of near.get(at) ?? []) if (!settled.has(b) && cost + c < (open.get(b) ?? Infinity)) open.set(b, cost + c)
    if (nodes[at] === undefined) expect.fail(`no node ${at}`)
  }
}

/** Parts in one piece, as long as their corners are apart, of the figures they add up to. */
function holdsTogether(r: Route): void {
  for (const [i, e] of r.elements.entries()) {
    const walked = e.path.slice(1).reduce((sum, p, k) => sum + far(e.path[k]!, p), 0)
    expect(walked).toBeCloseTo(e.lengthM, 6)
    expect([e.path[0], e.path.at(-1)]).toEqual([e.from, e.to])
    const next = r.elements[i + 1]
    if (next) expect(far(e.to, next.from)).toBeCloseTo(0, 9)
  }
  for (const of of ['lengthM', 'minutes', 'holes', 'openings'] as const)
    expect(r.elements.reduce((sum, e) => sum + e[of], 0)).toBeCloseTo(r[of], 6)
  expect(r.pieces.reduce((sum, p) => sum + p.lengthM, 0)).toBeGreaterThan(r.lengthM)
}

/** Changes to a building, or to what may be taken of it, that bar a route which leads through what is changed. */
function changesTo(
  parts: Route['elements'],
  input: BuildingInput,
  rooms: ReturnType<typeof placed>,
): readonly (readonly [string, Partial<ChosenRoute>])[] {
  const changes: (readonly [string, Partial<ChosenRoute>])[] = []
  const through = (...kinds: string[]) => parts.find((e) => kinds.includes(e.kind))
  if (through('attic')) changes.push(['no attic', { input: { ...input, attic: null } }])
  if (through('crawl')) changes.push(['no crawl space', { input: { ...input, crawl: null } }])
  for (const space of ['attic', 'crawl'] as const) {
    const [p, q] = parts.find((e) => e.kind === space)?.path ?? []
    const room = rooms[0]
    if (!p || !q || !room || far(p, q) < 0.5) continue
    // Half a metre about the middle of its first piece, wherever that lies from the first room.
    const [x, y] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]
    const box = { eastM: x - room.west - 0.25, northM: y - room.south - 0.25, lengthM: 0.5, widthM: 0.5 }
    changes.push(['obstacle', { input: { ...input, obstacles: [{ id: 'new', space, room: room.id, hot: false, ...box }] } }])
  }
  if (through('cavity', 'stud', 'nogging')) changes.push(['masonry', { input: { ...input, walls: { kind: 'masonry' }, found: [] } }])
  const named = parts.find((e) => e.room !== null)
  if (named) changes.push(['room gone', { rooms: rooms.filter((r) => r.id !== named.room) }])
  changes.push(['forbidden', { forbid: [parts[Math.floor(parts.length / 2)]!.kind] }])
  const opened = parts.find((e) => e.openings > 0 && e.room && e.side)
  if (opened)
    changes.push([
      'closed face',
      { input: { ...input, found: [...input.found, { room: opened.room!, side: opened.side!, closed: true }] } },
    ])
  if (parts.length > 2) changes.push(['gap', { parts: parts.filter((e, i) => i !== 1 || e.lengthM < 0.1) }])
  return changes.filter(([kind, { parts: left }]) => kind !== 'gap' || left!.length < parts.length)
}

describe('300 buildings', () => {
  it('give ways that hold together when they are read back, go through no opening, and are the cheapest there are', () => {
    let [found, none, steps, loose, joisted, bored] = [0, 0, 0, 0, 0, 0]
    const gone = new Map<string, number>()
    fc.assert(
      fc.property(anyWanted, (wanted) => {
        const input = routeInput.parse(wanted)
        const rooms = placed(input.building)
        const ends = [...input.building.boards, ...input.building.points.filter((p) => p.id === 'p0')]
        const opens = opensOf(input.building, rooms)
        const hangs = ends.every((f) => {
          if (!('side' in f)) return true
          const open = openIn(
            opens,
            rooms.find((r) => r.id === f.room)!,
            f.side,
          )
          // At the very end of a wall it may be called either; of what is outside, the open is behind its wall.
          if (f.outside) return standsOutside(rooms, f)
          fc.pre(open.every((o) => Math.abs(f.atM - o.fromM) > 0.01 && Math.abs(f.atM - o.toM) > 0.01))
          return !open.some((o) => f.atM > o.fromM && f.atM < o.toM)
        })
        // What would be placed where there is no wall is refused, and the rest is as it was asked for.
        if (!hangs) {
          loose++
          expect(() => route(input)).toThrow(/is at no wall/)
          return
        }
        const out = JSON.parse(JSON.stringify(route(input))) as Found
        const least = leastCost(out.graph!, (kind) => input.forbid.some((f) => f === kind || (f === 'attic' && leadsUp.includes(kind))))
        if (out.routes.length === 0) {
          none++
          expect(least).toBe(Number.POSITIVE_INFINITY)
          expect(out.findings[0]!.rule).toBe('no-way')
          return
        }
        found++
        expect(out.routes[0]!.cost).toBeCloseTo(least, 9)
        for (const r of out.routes) {
          holdsTogether(r)
          // What was found can be taken as long as the building is as it was, and cannot where what it leads through is barred since.
          const chosen = { parts: r.elements, input: input.building, rooms, forbid: input.forbid }
          expect(staleBy(chosen)).toBeNull()
          for (const [kind, change] of changesTo(r.elements, input.building, rooms)) {
            expect(staleBy({ ...chosen, ...change }), kind).not.toBeNull()
            gone.set(kind, (gone.get(kind) ?? 0) + 1)
          }
          expect(r.cost).toBeGreaterThanOrEqual(out.routes[0]!.cost - 1e-9)
          // Up and down a wall, or along it, never where something is in it.
          for (const e of r.elements)
            for (const o of input.building.openings) {
              const on =
                o.what === 'hidden'
                  ? ['cavity', 'nogging', 'stud']
                  : o.what === 'cabinets'
                    ? ['surface']
                    : ['cavity', 'nogging', 'stud', 'surface']
              if (e.room !== o.room || e.side !== o.side || !on.includes(e.kind)) continue
              const room = rooms.find((x) => x.id === o.room)!
              const [a, b] = [along(room, o.side, o.atM), along(room, o.side, o.atM + o.widthM)]
              for (const [x, y, z] of e.path) {
                const within = (v: number, p: number, q: number) => v > Math.min(p, q) + 1e-6 && v < Math.max(p, q) - 1e-6
                const level = o.side === 'north' || o.side === 'south'
                const beside = level ? within(x, a[0], b[0]) : within(y, a[1], b[1])
                if (beside) expect(within(z - room.foot, o.sillM, o.headM)).toBe(false)
              }
            }
          // A face that stays closed is neither opened nor bored; what is in attic and crawl space is gone round.
          for (const e of r.elements) {
            const closed = input.building.found.some((f) => f.closed && f.room === e.room && f.side === e.side)
            if (closed) expect([e.kind, e.openings]).toEqual([e.kind === 'emerge' ? 'not out of it' : e.kind, 0])
            if (e.kind !== 'attic' && e.kind !== 'crawl') continue
            for (const o of input.building.obstacles.filter((x) => x.space === e.kind)) {
              const room = rooms.find((x) => x.id === o.room)!
              const [west, south] = [room.west + o.eastM, room.south + o.northM]
              for (const [k, [x, y]] of e.path.entries())
                for (let part = 0; part <= 1; part += 1 / 64) {
                  const [p, q] = e.path[k + 1] ?? [x, y]
                  const [u, v] = [x + (p - x) * part, y + (q - y) * part]
                  const near = (o.hot ? 0.15 : 0.02) - 1e-6
                  const hit = u > west - near && u < west + o.lengthM + near && v > south - near && v < south + o.widthM + near
                  if (hit) expect.fail(`${e.kind} through ${o.id}`)
                }
            }
          }
          // A nogging is between the ends of what is bored through it, and no drop leads past one; under a floor each joist is bored.
          for (const e of r.elements) {
            const { walls, joists } = input.building
            const foot = rooms.find((x) => x.id === e.room)?.foot ?? 0
            if (e.kind === 'nogging' || e.kind === 'cavity') {
              const heights = e.path.map((p) => p[2] - foot)
              const past =
                walls.kind === 'timber' &&
                walls.noggingM != null &&
                Math.min(...heights) < walls.noggingM - 1e-9 &&
                Math.max(...heights) >= walls.noggingM - 1e-9
              expect([e.kind, past]).toEqual([e.kind, e.kind === 'nogging'])
            }
            if (e.kind !== 'crawl') continue
            // Walked by the centimetre: the joists of the room above each. Rooms may overlap here, and over a slab nobody crawls.
            const solid = new Set(input.building.rooms.filter((x) => x.slab || x.floor).map((x) => x.id))
            const overhead = rooms.filter((x) => !solid.has(x.id))
            let crossed = 0
            for (const [k, q] of e.path.entries()) {
              const p = e.path[k - 1]
              const strides = p ? Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1]) / 0.01) : 0
              for (let n = 0; n < strides; n++) {
                const on = (t: number): readonly [number, number] => [p![0] + t * (q[0] - p![0]), p![1] + t * (q[1] - p![1])]
                const [u, v] = [on(n / strides), on((n + 1) / strides)]
                const above = overhead.find((x) => u[0] >= x.west - 1e-9 && u[0] <= x.east && u[1] >= x.south - 1e-9 && u[1] <= x.north)
                const made = above?.joists ?? joists
                if (!above || !made) continue
                const axis = made.runs === 'east' ? 1 : 0
                const low = (x: (typeof rooms)[number]) => (axis ? x.south : x.west)
                const start = above.joists ? low(above) : Math.min(...rooms.map(low))
                const upTo = (m: number) => Math.floor((m - start) / made.spacingM + 1e-6)
                crossed += Math.abs(upTo(v[axis]) - upTo(u[axis]))
              }
            }
            // One that lies on the edge of a room is in the wall there, and a way may cross an edge more than once.
            expect(Math.abs(crossed - e.holes)).toBeLessThanOrEqual(2 * rooms.length)
            joisted += e.holes
          }
          // As many holes as were reckoned, each on the way.
          for (const e of r.elements) {
            const holes = holesOf(e, input.building, rooms)
            // One at the very place where two pieces of cable meet may be counted with either.
            if (e.kind === 'stud' || e.kind === 'crawl') expect(Math.abs(holes.length - e.holes)).toBeLessThanOrEqual(1)
            bored += holes.length
          }
          const told = routeSteps({
            parts: r.elements,
            rooms,
            names: new Map(),
            region: 'united-kingdom',
            units: 'metric',
            holeMm: 20,
            headAt: (space) => input.building[space]?.headM ?? null,
            noggingsKnown: () => true,
            joistsKnown: true,
          })
          steps += told.length
          // All the minutes are somebody's step, but for those of what asks for none.
          expect(told.reduce((sum, s) => sum + s.minutes, 0)).toBeCloseTo(r.minutes, 6)
          for (const s of told) expect(s.words).not.toMatch(/undefined|NaN|null/)
        }
      }),
      { numRuns: 300 },
    )
    expect(found).toBeGreaterThan(150)
    expect(none).toBeGreaterThan(3)
    expect(loose).toBeLessThan(60)
    expect(steps).toBeGreaterThan(1000)
    expect(joisted).toBeGreaterThan(20)
    expect(bored).toBeGreaterThan(500)
    for (const kind of ['no attic', 'no crawl space', 'obstacle', 'masonry', 'forbidden', 'closed face', 'room gone', 'gap'])
      expect(gone.get(kind) ?? 0, kind).toBeGreaterThan(3)
  })
})
