import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { InputError } from '../base/input-error'
import { baysOf, placed, sides, studRow } from './house'
import { route, routeInput } from './route'
import { takesTwo, usualWeights, wallsOf } from './ways'
import { waysOf, waysRound } from './ways-of'
import { adjacencyOf, cheapest, cheapestThrough, type Graph } from './search'

/** The plain search: every edge tried again until nothing gets cheaper. */
function plainly({ nodes, edges }: Listed, from: number): number[] {
  const cost = nodes.map(() => Number.POSITIVE_INFINITY)
  cost[from] = 0
  for (let changed = true; changed;) {
    changed = false
    for (const e of edges)
      for (const [a, b] of [
        [e.a, e.b],
        [e.b, e.a],
      ] as const)
        if (cost[a]! + e.cost < cost[b]! - 1e-12) {
          cost[b] = cost[a]! + e.cost
          changed = true
        }
  }
  return cost
}

interface Listed {
  readonly nodes: readonly (readonly [number, number, number])[]
  readonly edges: readonly { readonly a: number; readonly b: number; readonly cost: number }[]
}
const columns = ({ nodes, edges }: Listed): Graph => ({
  at: Float64Array.from(nodes.flat()),
  nodes: nodes.length,
  a: Int32Array.from(edges, (e) => e.a),
  b: Int32Array.from(edges, (e) => e.b),
  cost: Float64Array.from(edges, (e) => e.cost),
  edges: edges.length,
})
const anyGraph: fc.Arbitrary<Listed> = fc
  .record({
    nodes: fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 3 })), {
      minLength: 2,
      maxLength: 14,
    }),
    edges: fc.array(fc.record({ a: fc.nat(99), b: fc.nat(99), more: fc.double({ min: 0, max: 5, noNaN: true }) }), { maxLength: 40 }),
  })
  .map(({ nodes, edges }) => ({
    nodes,
    edges: edges.map(({ a, b, more }) => {
      const [p, q] = [a % nodes.length, b % nodes.length]
      const metres = Math.hypot(...nodes[p]!.map((x, k) => x - nodes[q]![k]!))
      return { a: p, b: q, cost: metres + more }
    }),
  }))

describe('the search', () => {
  it('finds what the plain one finds, by a way that costs what it says', () => {
    fc.assert(
      fc.property(anyGraph, fc.nat(99), (graph, t) => {
        const to = t % graph.nodes.length
        const way = cheapest(columns(graph), adjacencyOf(columns(graph)), 0, new Set([to]))
        const least = plainly(graph, 0)[to]!
        if (!way) {
          expect(least).toBe(Number.POSITIVE_INFINITY)
          return
        }
        expect(way.cost).toBeCloseTo(least, 9)
        let at = 0
        for (const i of way.edges) at = graph.edges[i]!.a === at ? graph.edges[i]!.b : graph.edges[i]!.a
        expect(at).toBe(to)
        expect(way.edges.reduce((sum, i) => sum + graph.edges[i]!.cost, 0)).toBeCloseTo(way.cost, 9)
      }),
      { numRuns: 500 },
    )
  })
  it('estimates no edge above its cost, so that its heuristic is admissible', () => {
    fc.assert(
      fc.property(anyGraph, (graph) => {
        const { aside, upright } = adjacencyOf(columns(graph)).least
        for (const { a, b, cost } of graph.edges) {
          const [p, q] = [graph.nodes[a]!, graph.nodes[b]!]
          const wide = Math.hypot(p[0] - q[0], p[1] - q[1])
          expect(aside * wide + upright * Math.abs(p[2] - q[2])).toBeLessThanOrEqual(cost + 1e-9)
        }
      }),
      { numRuns: 300 },
    )
  })
  it('through several places costs what the best of all orders costs', () => {
    fc.assert(
      fc.property(anyGraph, fc.uniqueArray(fc.nat(13), { minLength: 1, maxLength: 3 }), (graph, picks) => {
        const targets = [...new Set(picks.map((t) => t % graph.nodes.length))]
        const way = cheapestThrough(columns(graph), adjacencyOf(columns(graph)), 0, targets, [], () => true)
        const from = new Map([0, ...targets].map((n) => [n, plainly(graph, n)]))
        const orders = (list: number[]): number[][] =>
          list.length < 2 ? [list] : list.flatMap((x) => orders(list.filter((y) => y !== x)).map((rest) => [x, ...rest]))
        const least = Math.min(
          ...orders(targets).map(
            (order) => order.reduce(({ at, sum }, n) => ({ at: n, sum: sum + from.get(at)![n]! }), { at: 0, sum: 0 }).sum,
          ),
        )
        if (way) expect(way.cost).toBeCloseTo(least, 9)
        else expect(least).toBe(Number.POSITIVE_INFINITY)
      }),
      { numRuns: 300 },
    )
  })
})

const house = {
  rooms: [
    { id: 'kitchen', lengthM: 4.2, widthM: 3.1, heightM: 2.4 },
    { id: 'store', lengthM: 3, widthM: 3.1, heightM: 2.4, beside: { room: 'kitchen', side: 'east' } },
    { id: 'hall', lengthM: 7.2, widthM: 2, heightM: 2.4, beside: { room: 'kitchen', side: 'north' } },
  ],
  points: [
    { id: 'urn', room: 'kitchen', side: 'south', atM: 2, heightM: 1.1 },
    { id: 'shelf', room: 'store', side: 'east', atM: 1, heightM: 0.4 },
  ],
  boards: [{ id: 'board', room: 'hall', side: 'north', atM: 0.5, heightM: 1.5 }],
  walls: { kind: 'timber', studM: 0.4 },
  attic: { headM: 1.2, hot: true },
  crawl: null,
}
const ask = (more: object, building: object = house) =>
  route(routeInput.parse({ building, from: { board: 'board' }, to: [{ point: 'shelf' }], ...more }))
const places = (r: ReturnType<typeof ask>['routes'][number]) => r.elements.map((e) => `${e.kind} ${e.where}`)

describe('a building', () => {
  it('lies as its rooms are placed next to each other', () => {
    const [kitchen, store, hall] = placed(routeInput.shape.building.parse(house))
    expect(kitchen).toMatchObject({ west: 0, south: 0, east: 4.2, north: 3.1 })
    expect(store).toMatchObject({ west: 4.2, east: 7.2, south: 0 })
    expect(hall).toMatchObject({ south: 3.1, north: 5.1, west: 0, east: 7.2 })
  })
  it('has its studs in step with one that was found, from end to end', () => {
    const built = routeInput.shape.building.parse({
      ...house,
      rooms: [{ id: 'a', lengthM: 3, widthM: 3, heightM: 2.4 }],
      walls: { kind: 'timber', studM: 0.4 },
      found: [{ room: 'a', side: 'south', studM: 1.3 }],
    })
    const rooms = placed(built)
    const row = studRow(built, rooms, rooms[0]!, 'south').map((m) => Math.round(m * 1000))
    expect(row).toEqual([0, 100, 500, 900, 1300, 1700, 2100, 2500, 2900, 3000])
  })
  it('refuses rooms that hang on nothing, on each other, or share an id', () => {
    const rooms =
      (...list: object[]) =>
      () =>
        placed(routeInput.shape.building.parse({ ...house, rooms: list }))
    const room = { id: 'a', lengthM: 3, widthM: 3, heightM: 2.4 }
    expect(rooms(room, { ...room, id: 'b', beside: { room: 'x', side: 'east' } })).toThrow(InputError)
    expect(rooms(room, { ...room, id: 'b' })).toThrow(/no place/)
    // With one placed, no other is taken for the origin.
    expect(rooms({ ...room, id: 'b' }, { ...room, at: [0, 0] })).toThrow(/no place/)
    expect(rooms({ ...room, beside: { room: 'b', side: 'east' } }, { ...room, id: 'b', beside: { room: 'a', side: 'west' } })).toThrow(
      /in turn/,
    )
    expect(rooms(room, room)).toThrow(/one id/)
  })
})

describe('routes', () => {
  it('go up, through the attic and down, and say what they are made of', () => {
    const [best] = ask({}).routes
    expect(places(best!)).toEqual([
      'cavity hall north',
      'top-plates hall north',
      'attic attic',
      'top-plates store east',
      'cavity store east',
    ])
    expect(best!.holes).toBe(4)
    expect(best!.lengthM).toBeCloseTo(
      best!.elements.reduce((sum, e) => sum + e.lengthM, 0),
      9,
    )
    // A tenth more, a loop and two tails.
    expect(best!.pieces).toEqual([{ cable: 'to shelf', lengthM: expect.closeTo(best!.lengthM * 1.1 + 0.3 + 0.5, 9) }])
    expect(best!.findings.map((f) => f.rule)).toContain('attic-work')
  })
  it('are up to three, truly different, the best first', () => {
    const { routes } = ask({})
    expect(routes.length).toBeGreaterThan(1)
    expect(routes.map((r) => r.cost)).toEqual(routes.map((r) => r.cost).toSorted((a, b) => a - b))
    expect(new Set(routes.map((r) => places(r).join())).size).toBe(routes.length)
  })
  it('take another way where one is forbidden, and say so where none is left', () => {
    const without = ask({ forbid: ['attic'] }).routes[0]!
    expect(places(without).some((p) => p.startsWith('attic'))).toBe(false)
    expect(without.cost).toBeGreaterThan(ask({}).routes[0]!.cost)
    const none = ask({ forbid: ['attic', 'partition', 'surface'] })
    expect(none.routes).toEqual([])
    expect(none.findings[0]).toMatchObject({ rule: 'no-way', message: expect.stringContaining('attic') })
  })
  it('bore through no wall that is forbidden, from whichever side it is named', () => {
    const holes = (forbid: string[]) =>
      ask({ forbid }).routes.flatMap((r) => r.elements.filter((e) => e.kind === 'partition').map((e) => `${e.room} ${e.side} ${e.beyond}`))
    expect(holes(['attic', 'surface'])).toContain('store north hall')
    // Named from either side it is one wall.
    for (const wall of ['store north', 'hall south']) expect(holes(['attic', 'surface', wall])).not.toContain('store north hall')
    // Another wall of the same room bars nothing of it.
    expect(holes(['attic', 'surface', 'store south'])).toContain('store north hall')
  })
  it('names the walls of a hole, a corner and a storey', () => {
    expect(wallsOf('partition', { room: 'store', side: 'north', beyond: 'hall' })).toEqual(['store north', 'hall south'])
    expect(wallsOf('corner', { room: 'store', side: 'north', beyond: 'east' })).toEqual(['store north', 'store east'])
    expect(wallsOf('storey', { room: 'store', side: 'north', beyond: 'loft' })).toEqual(['store north', 'loft north'])
    expect(wallsOf('stud', { room: 'store', side: 'north', beyond: null })).toEqual(['store north'])
    expect(wallsOf('ceiling-void', { room: 'store', side: null, beyond: 'hall' })).toEqual([])
  })
  it('never go through a door', () => {
    const door = { id: 'd', room: 'store', side: 'east', atM: 0.5, what: 'door', widthM: 1, headM: 2.1 }
    const barred = ask({}, { ...house, openings: [door] })
    // The point is in the door: nothing reaches it.
    expect(barred.routes).toEqual([])
    expect(barred.findings[0]!.message).toContain('it is in a door')
  })
  it('come to a point close beside a door, between the door and the next stud', () => {
    const beside = (atM: number, walls: object) => {
      const door = { id: 'd', room: 'store', side: 'east', atM, what: 'door', widthM: 0.9, headM: 2.1 }
      return ask({}, { ...house, walls, openings: [door] })
    }
    for (const walls of [{ kind: 'timber', studM: 0.4 }, { kind: 'masonry' }]) {
      expect(beside(1.05, walls).routes.length).toBeGreaterThan(0)
      expect(beside(0.95, walls).findings[0]?.message).toContain('in a door')
    }
  })
  it('never go through a window over the point, nor through what was entered from the room behind the wall', () => {
    const window = { id: 'w', room: 'store', side: 'east', atM: 0.2, what: 'window', widthM: 1.6, sillM: 0.9, headM: 2 }
    const under = ask({}, { ...house, openings: [window] }).routes
    expect(under.length).toBeGreaterThan(0)
    // Down beside the window, and across the studs under it or over the face of the wall.
    for (const r of under) expect(r.elements.at(-1)!.from[2] < 0.9 && r.elements.length > 5, places(r).join()).toBe(true)
    // Kitchen and hall share a wall: a cupboard along all of it bars it, from whichever side it was measured.
    const whole = { id: 'c', atM: 0, widthM: 4.2, what: 'fixed', sillM: 0, headM: 2.4 }
    const through = (openings: object[]) =>
      ask({ graph: true }, { ...house, openings }).graph!.edges.filter(([, , , kind]) => kind === 'partition').length
    const barred = through([{ ...whole, room: 'kitchen', side: 'north' }])
    expect(barred).toBeLessThan(through([]))
    expect(through([{ ...whole, room: 'hall', side: 'south' }])).toBe(barred)
    const cavities = (openings: object[]) =>
      ask({ graph: true }, { ...house, openings }).graph!.edges.filter(([, , , kind]) => kind === 'cavity' || kind === 'stud').length
    expect(cavities([{ ...whole, room: 'hall', side: 'south' }])).toBe(cavities([{ ...whole, room: 'kitchen', side: 'north' }]))
  })
  it('go round the corner of one room entered as two, where there is no wall between', () => {
    // A nook north of the kitchen, over its western part, open to it: an L.
    const ell = (open: boolean) => ({
      ...house,
      attic: null,
      rooms: [house.rooms[0], { id: 'nook', lengthM: 1.6, widthM: 1.5, heightM: 2.4, beside: { room: 'kitchen', side: 'north', open } }],
      points: [{ id: 'shelf', room: 'nook', side: 'east', atM: 1, heightM: 0.4 }],
      boards: [{ id: 'board', room: 'kitchen', side: 'north', atM: 3, heightM: 1.5 }],
    })
    const [best] = ask({ forbid: ['surface'] }, ell(true)).routes
    expect(places(best!)).toEqual(expect.arrayContaining(['stud kitchen north', 'corner kitchen north to east', 'stud nook east']))
    // The whole south side of the nook is open: nothing leads through it, and nothing can be there.
    const edges = ask({ graph: true }, ell(true)).graph!
    expect(edges.edges.some(([, , , kind]) => kind === 'partition')).toBe(false)
    expect(ask({ graph: true }, ell(false)).graph!.edges.some(([, , , kind]) => kind === 'partition')).toBe(true)
    const nowhere = { ...ell(true), points: [{ id: 'shelf', room: 'nook', side: 'south', atM: 0.8, heightM: 0.4 }] }
    expect(() => ask({}, nowhere)).toThrow(/no wall/)
  })
  it('keep in step with a stud that was found, from whichever side of the wall', () => {
    const boundsOf = (found: object[]) => {
      const building = routeInput.shape.building.parse({ ...house, found })
      const rooms = placed(building)
      return baysOf(
        building,
        rooms,
        rooms.find((r) => r.id === 'kitchen')!,
        'north',
      )
    }
    const even = boundsOf([])
    expect(even[1]! - even[0]!).toBeCloseTo(4.2 / 11, 9)
    const from = boundsOf([{ room: 'kitchen', side: 'north', studM: 1.5 }])
    expect(from.slice(1, 4).map((m) => Number(m.toFixed(3)))).toEqual([0.3, 0.7, 1.1])
    expect(from.at(-1)).toBe(4.2)
    expect(boundsOf([{ room: 'hall', side: 'south', studM: 1.5 }])).toEqual(from)
    // Of another wall it says nothing.
    expect(boundsOf([{ room: 'kitchen', side: 'south', studM: 1.5 }])).toEqual(even)
  })
  it('open no face that stays closed, go round what is in the attic, and past what is hidden on the face', () => {
    const kinds = (building: object, more: object = {}) => ask(more, building).routes[0]?.elements.map((e) => e.kind) ?? []
    const noAttic = { ...house, attic: null }
    expect(kinds(noAttic, { forbid: ['surface'] })).toContain('stud')
    const closed = ['kitchen', 'store', 'hall'].flatMap((room) => sides.map((side) => ({ room, side, closed: true })))
    for (const r of ask({}, { ...noAttic, found: closed }).routes) expect(r.openings).toBe(0)
    expect(ask({ forbid: ['surface'] }, { ...noAttic, found: closed }).routes).toEqual([])
    // A duct across the whole attic: nothing gets past it; one with a gap is gone round.
    const duct = (widthM: number) => ({
      ...house,
      obstacles: [{ id: 'd', space: 'attic', room: 'kitchen', eastM: 1, northM: 0, lengthM: 0.3, widthM }],
    })
    const far = { from: { board: 'board' }, to: [{ point: 'urn' }], forbid: ['stud', 'surface', 'partition'] }
    const reach = (building: object) =>
      ask({ ...far }, { ...building, boards: [{ id: 'board', room: 'kitchen', side: 'west', atM: 1, heightM: 1.5 }] }).routes[0]
    const free = reach(house)!
    const round = reach(duct(2))!
    expect(round.lengthM).toBeGreaterThan(free.lengthM + 0.2)
    expect(reach({ ...duct(3.2), rooms: [house.rooms[0], house.rooms[1]] })).toBeUndefined()
    // On whichever side it is passed, a cable keeps clear of it: of what gets hot by more.
    for (const [hot, clearM] of [
      [false, 0.02],
      [true, 0.15],
    ] as const)
      for (const northM of [0, 0.35, 0.8, 1.15])
        for (let widthM = 0.3; widthM < 1.9; widthM += 0.13) {
          const [obstacle] = duct(widthM).obstacles
          const { elements } = reach({ ...house, obstacles: [{ ...obstacle, northM, hot }] })!
          for (const { path } of elements.filter((e) => e.kind === 'attic'))
            for (let k = 1; k < path.length; k++) {
              const [[x, y], [p, q]] = [path[k - 1]!, path[k]!]
              // Where the straight piece passes either end of it.
              for (const end of [1, 1.3].filter((e) => Math.min(x, p) <= e && e <= Math.max(x, p) && x !== p)) {
                const at = y + ((end - x) / (p - x)) * (q - y)
                expect(Math.max(northM - at, at - northM - widthM)).toBeGreaterThanOrEqual(clearM - 1e-9)
              }
            }
        }
    // A pipe in the wall behind the point: only its face is left.
    const pipe = { id: 'p', room: 'store', side: 'east', atM: 0.6, what: 'hidden', widthM: 0.8, sillM: 0, headM: 2.4 }
    const past = ask({}, { ...house, openings: [pipe] }).routes
    for (const r of past) expect(r.elements.filter((e) => e.where === 'store east').map((e) => e.kind)).not.toContain('cavity')
  })
  it('lead behind base cabinets, not over their doors, and reach what is in one', () => {
    const cabinets = { id: 'k', room: 'kitchen', side: 'south', atM: 1, what: 'cabinets', widthM: 2.4, sillM: 0, headM: 0.9 }
    const solid = { ...house, attic: null, walls: { kind: 'masonry' }, openings: [cabinets] }
    const along = { from: { point: 'left' }, to: [{ point: 'right' }] }
    const points = [
      { id: 'left', room: 'kitchen', side: 'south', atM: 0.5, heightM: 0.3 },
      { id: 'right', room: 'kitchen', side: 'south', atM: 3.8, heightM: 0.3 },
    ]
    const [best] = ask(along, { ...solid, points }).routes
    expect(places(best!)).toContain('cabinets kitchen south')
    // Out of the drawers’ way it is cheaper than over the wall above.
    expect(best!.elements.every((e) => e.path.every(([, , z]) => z < 0.9))).toBe(true)
    const barred = ask({ ...along, forbid: ['cabinets'] }, { ...solid, points }).routes[0]!
    expect(barred.cost).toBeGreaterThan(best!.cost)
    // In a cabinet: behind it is the only way.
    const within = [points[0], { id: 'right', room: 'kitchen', side: 'south', atM: 2, heightM: 0.4 }]
    expect(places(ask(along, { ...solid, points: within }).routes[0]!).at(-1)).toBe('cabinets kitchen south')
    // Stairs bar all of it.
    const stairs = { ...cabinets, what: 'stairs', headM: 2.4 }
    const round = ask(along, { ...solid, openings: [stairs], points }).routes[0]!
    expect(places(round)).not.toContain('cabinets kitchen south')
  })
  it('cross no attic over a flat roof, and no crawl space under a slab', () => {
    const kinds = (building: object) => {
      const { nodes, edges } = ask({ graph: true }, building).graph!
      const inside = (kind: string) =>
        edges.filter(([a, , , k]) => k === kind && nodes[a]![0] > 0.1 && nodes[a]![0] < 3.9 && nodes[a]![1] > 0.1 && nodes[a]![1] < 2.9)
          .length
      return { attic: inside('attic'), crawl: inside('crawl') }
    }
    const under = { ...house, crawl: { headM: 0.6 } }
    const [kitchen, ...others] = house.rooms
    expect(kinds(under).attic).toBeGreaterThan(0)
    expect(kinds(under).crawl).toBeGreaterThan(0)
    expect(kinds({ ...under, rooms: [{ ...kitchen, flat: true }, ...others] })).toEqual({ attic: 0, crawl: kinds(under).crawl })
    expect(kinds({ ...under, rooms: [{ ...kitchen, slab: true }, ...others] })).toEqual({ attic: kinds(under).attic, crawl: 0 })
  })
  it('turn once across an open attic, after the longer leg, whichever way its joists run and wherever it goes', () => {
    let seen = 0
    for (const runs of ['east', 'north'] as const)
      for (const [spacingM, lengthM, widthM] of [
        [0.4, 4, 3],
        [0.6, 4, 5.2],
        [0.4, 6.3, 3],
        [0.6, 6.3, 5.2],
      ] as const)
        for (const [from, to] of [
          ['west', 'east'],
          ['east', 'west'],
        ])
          for (const up of [true, false]) {
            const attic = { ...house, attic: { headM: 1.5, hot: false }, joists: { runs, spacingM } }
            const room = { id: 'hall', lengthM, widthM, heightM: 2.4 }
            const [low, high] = [0.5, widthM * 0.6]
            const points = [{ id: 'shelf', room: 'hall', side: to, atM: up ? high : low, heightM: 0.4 }]
            const boards = [{ id: 'board', room: 'hall', side: from, atM: up ? low : high, heightM: 1.5 }]
            const { routes } = ask({ forbid: ['stud'] }, { ...attic, rooms: [room], points, boards })
            for (const { path } of routes.flatMap((r) => r.elements.filter((e) => e.kind === 'attic'))) {
              expect(path, `${runs} ${spacingM} ${lengthM} ${widthM} ${from} ${up}`).toHaveLength(3)
              const strides = ([p, q]: typeof path) => Math.max(...p!.map((x, k) => Math.abs(x - q![k]!)))
              expect(strides(path.slice(0, 2))).toBeGreaterThanOrEqual(strides(path.slice(1)) - 1e-9)
              seen++
            }
          }
    expect(seen).toBeGreaterThanOrEqual(40)
  })
  it('find it cramped, and then out of reach, where the roof comes down', () => {
    const room = { id: 'r', lengthM: 6, widthM: 6, heightM: 2.4 }
    const edgesOf = (eavesM: number | null) => {
      const attic = { headM: 2.5, hot: false, ...(eavesM === null ? {} : { roof: { ridge: 'east', eavesM } }) }
      const { nodes, edges } = ask(
        { graph: true, from: { board: 'b' }, to: [{ point: 'p' }] },
        {
          rooms: [room],
          points: [{ id: 'p', room: 'r', side: 'east', atM: 1, heightM: 0.4 }],
          boards: [{ id: 'b', room: 'r', side: 'west', atM: 1, heightM: 1.5 }],
          walls: { kind: 'timber', studM: 0.6 },
          attic,
          crawl: null,
        },
      ).graph!
      return edges.flatMap(([a, b, cost, kind]) => (kind === 'attic' ? [{ y: (nodes[a]![1] + nodes[b]![1]) / 2, cost }] : []))
    }
    // Along a line, the dearest edge of a length: near the eaves it is cramped, under the ridge one can stand.
    const dearest = (all: ReturnType<typeof edgesOf>, from: number, to: number) =>
      Math.max(...all.filter(({ y }) => y > from && y < to).map(({ cost }) => cost))
    const sloping = edgesOf(0.2)
    expect(dearest(sloping, 0.3, 1.2)).toBeGreaterThan(dearest(sloping, 2.5, 3.5) * 1.2)
    const level = edgesOf(null)
    expect(dearest(level, 0.3, 1.2)).toBeCloseTo(dearest(level, 2.5, 3.5), 9)
    // Where nothing is left under the rafters nobody reaches.
    expect(edgesOf(0).some(({ y }) => y < 0.1)).toBe(false)
    expect(sloping.some(({ y }) => y < 0.1)).toBe(true)
  })
  it('are the same whether an obstacle came into them or stood there from the first', () => {
    const obstacle = fc.record({
      id: fc.constant('o'),
      space: fc.constantFrom('attic' as const, 'crawl' as const),
      room: fc.constantFrom('kitchen', 'store', 'hall'),
      eastM: fc.double({ min: 0, max: 3, noNaN: true }),
      northM: fc.double({ min: 0, max: 2, noNaN: true }),
      lengthM: fc.double({ min: 0.1, max: 3, noNaN: true }),
      widthM: fc.double({ min: 0.1, max: 3, noNaN: true }),
    })
    const { building } = routeInput.parse({
      building: { ...house, crawl: { headM: 0.6 } },
      from: { board: 'board' },
      to: [{ point: 'urn' }],
    })
    const rooms = placed(building)
    // As text: held against each other number by number, thousands of edges took most of the test.
    const told = ({ at, a, b, cost, labels, label }: ReturnType<typeof waysOf>) =>
      JSON.stringify({ at: [...at], edges: Array.from(a, (from, i) => [from, b[i]!, cost[i]!, labels[label[i]!]]) })
    fc.assert(
      fc.property(fc.array(fc.array(obstacle, { maxLength: 2 }), { minLength: 1, maxLength: 4 }), (lists) => {
        const round = waysRound(building, rooms, usualWeights)
        for (const obstacles of lists) expect(told(round(obstacles))).toEqual(told(waysOf({ ...building, obstacles }, rooms, usualWeights)))
      }),
      { numRuns: 30 },
    )
  })
  it('count the joists of each room as they run there', () => {
    const joists = { runs: 'east', spacingM: 0.4 }
    const long = { id: 'a', lengthM: 6, widthM: 4, heightM: 2.4 }
    const holes = (own: object) =>
      ask(
        { to: [{ point: 'urn' }], forbid: ['surface', 'stud', 'corner', 'attic'] },
        {
          rooms: [{ ...long, ...own }],
          points: [{ id: 'urn', room: 'a', side: 'east', atM: 2, heightM: 0.4 }],
          boards: [{ id: 'board', room: 'a', side: 'west', atM: 2, heightM: 0.5 }],
          walls: { kind: 'timber', studM: 0.4 },
          attic: null,
          crawl: { headM: 0.6 },
          joists,
        },
      ).routes[0]!.elements.find((e) => e.kind === 'crawl')!.holes
    // Six metres along the joists of the building cross none; across its own, every one of them.
    expect(holes({})).toBe(0)
    expect(holes({ joists: { runs: 'north', spacingM: 0.4 } })).toBeGreaterThan(10)
  })
  it('count what a second person takes, and go where one will do when that is dear', () => {
    const roomy = { ...house, attic: { headM: 2, hot: false } }
    const best = (second: number, forbid: string[] = []) => ask({ weights: { second }, forbid }, roomy).routes[0]!
    const minutes = (r: ReturnType<typeof best>) => r.elements.reduce((sum, e) => (takesTwo(e.kind) ? sum + e.minutes : sum), 0)
    // The same way, dearer by half the minutes that take two.
    const inside = ['surface', 'stud', 'corner']
    const [alone, helped] = [best(0, inside), best(0.5, inside)]
    expect(minutes(helped)).toBeGreaterThan(0)
    expect(helped.cost).toBeCloseTo(alone.cost + 0.5 * minutes(helped), 9)
    expect([minutes(best(0)) > 0, minutes(best(1000))]).toEqual([true, 0])
  })
  it('see an opening narrower than a bay', () => {
    const slit = { id: 's', room: 'store', side: 'east', atM: 0.01, what: 'fixed', widthM: 0.1, sillM: 0, headM: 2.4 }
    const edges = (openings: object[]) => ask({ graph: true }, { ...house, openings }).graph!.edges.length
    expect(edges([slit])).toBeLessThan(edges([]))
  })
  it('refuse to forbid or to force what is not there', () => {
    expect(() => ask({ forbid: ['attik'] })).toThrow(/attik/)
    expect(() => ask({ force: ['cellar'] })).toThrow(/cellar/)
    expect(ask({ forbid: ['crawl'] }).routes.length).toBeGreaterThan(0)
    const [best] = ask({}).routes
    const gone = best!.elements.find((e) => e.kind === 'top-plates')!.id
    expect(ask({ forbid: [gone] }).routes[0]!.elements.map((e) => e.id)).not.toContain(gone)
  })
  it('go where they are made to, and through several points in the best order', () => {
    const forced = ask({ force: ['kitchen south'] }).routes[0]!
    expect(places(forced).some((p) => p.endsWith('kitchen south'))).toBe(true)
    const both = ask({ to: [{ point: 'shelf' }, { point: 'urn' }] }).routes[0]!
    expect(both.pieces.map((p) => p.cable)).toEqual(['to urn', 'to shelf'])
  })
  it('cost what the cheapest walk on their graph costs', () => {
    fc.assert(
      fc.property(
        fc.record({
          lengthM: fc.double({ min: 1, max: 6, noNaN: true }),
          shiftM: fc.double({ min: -1, max: 1, noNaN: true }),
          hole: fc.double({ min: 0, max: 30, noNaN: true }),
          attic: fc.boolean(),
          masonry: fc.boolean(),
        }),
        ({ lengthM, shiftM, hole, attic, masonry }) => {
          const building = {
            ...house,
            rooms: [house.rooms[0], { ...house.rooms[1], lengthM, beside: { room: 'kitchen', side: 'east', shiftM } }, house.rooms[2]],
            attic: attic ? house.attic : null,
            walls: masonry ? { kind: 'masonry' } : house.walls,
          }
          const { routes, graph } = ask({ graph: true, weights: { hole } }, building)
          const { nodes, edges, from, to } = graph!
          const least = plainly({ nodes, edges: edges.map(([a, b, cost]) => ({ a, b, cost })) }, from)[to[0]!]!
          if (routes[0]) expect(routes[0].cost).toBeCloseTo(least, 9)
          else expect(least).toBe(Number.POSITIVE_INFINITY)
        },
      ),
      { numRuns: 25 },
    )
  })
})

describe('framing', () => {
  const room = { id: 'r', lengthM: 4, widthM: 4, heightM: 2.4 }
  const asked = (walls: object, more: object = {}, forbid: string[] = ['surface', 'stud']) =>
    route(
      routeInput.parse({
        building: {
          rooms: [room],
          boards: [{ id: 'b', room: 'r', side: 'west', atM: 0.4, heightM: 1.5 }],
          points: [{ id: 'p', room: 'r', side: 'east', atM: 0.4, heightM: 0.3 }],
          walls,
          attic: { headM: 1, hot: false },
          crawl: null,
          ...more,
        },
        from: { board: 'b' },
        to: [{ point: 'p' }],
        forbid,
        alternatives: 1,
      }),
    ).routes[0]!
  const noggings = (r: ReturnType<typeof asked>) => r.elements.filter((e) => e.kind === 'nogging').length
  it('has noggings bored where one is between the attic and what is low in the wall, and nowhere else', () => {
    const timber = { kind: 'timber', studM: 0.4 }
    expect(noggings(asked(timber))).toBe(0)
    expect(noggings(asked({ ...timber, noggingM: null }))).toBe(0)
    const bored = asked({ ...timber, noggingM: 1.2 })
    // The board is above it; the point is below.
    expect(bored.elements.filter((e) => e.kind === 'nogging').map((e) => [e.room, e.side, e.holes, e.openings])).toEqual([
      ['r', 'east', 1, 1],
    ])
    expect(noggings(asked({ ...timber, noggingM: 1.6 }))).toBe(2)
    expect(noggings(asked({ ...timber, noggingM: 0.2 }))).toBe(0)
  })
  it('goes by what was found of a wall where that differs from the rest', () => {
    const timber = { kind: 'timber', studM: 0.4, noggingM: 1.2 }
    expect(noggings(asked(timber, { found: [{ room: 'r', side: 'east', noggingM: null }] }))).toBe(0)
    expect(noggings(asked(timber, { found: [{ room: 'r', side: 'west', noggingM: 1.8 }] }))).toBe(2)
  })
  it('leads inside a hollow wall among solid ones, from whichever side it was found, and on the face of a solid one among hollow', () => {
    const solid = { kind: 'masonry' }
    const timber = { kind: 'timber', studM: 0.4 }
    const kinds = (walls: object, found: object[]) =>
      new Set(
        asked(walls, { found }, [])
          .elements.filter((e) => e.side === 'east')
          .map((e) => e.kind),
      )
    expect(kinds(solid, []).has('cavity')).toBe(false)
    expect(kinds(solid, [{ room: 'r', side: 'east', built: timber }]).has('cavity')).toBe(true)
    expect(kinds(timber, []).has('cavity')).toBe(true)
    expect(kinds(timber, [{ room: 'r', side: 'east', built: solid }]).has('cavity')).toBe(false)
  })
  it('bores each joist that it crosses under a floor, and none along which it runs', () => {
    const under = (joists: object | null, foundJoists: object[] = []) =>
      asked({ kind: 'timber', studM: 0.4 }, { attic: null, crawl: { headM: 0.8 }, joists, foundJoists }).elements.find(
        (e) => e.kind === 'crawl',
      )!
    // From the board at the west wall straight to the east wall, between bays that lie 3.6 to 4 m apart.
    const span = under(null)
    const [from, to] = [span.path[0]![0], span.path.at(-1)![0]]
    const across = (start: number) =>
      Array.from({ length: 12 }, (_, i) => start + i * 0.5).filter((m) => m > from && m < to && m < 4 && m > 0).length
    expect(span.holes).toBe(0)
    expect(under({ runs: 'north', spacingM: 0.5 }).holes).toBe(across(0))
    expect(under({ runs: 'north', spacingM: 0.5 }, [{ room: 'r', atM: 0.2 }]).holes).toBe(across(0.2))
    expect(under({ runs: 'east', spacingM: 0.5 }).holes).toBe(0)
    expect(across(0)).toBeGreaterThan(5)
  })
  it('ends a wall where it is open, so that what is left of it bears what is there', () => {
    const open = {
      rooms: [room, { ...room, id: 's', beside: { room: 'r', side: 'north', shiftM: 0.2, open: true } }],
      points: [{ id: 'p', room: 's', side: 'south', atM: 3.9, heightM: 0.3 }],
    }
    expect(asked({ kind: 'masonry' }, open, []).elements.length).toBeGreaterThan(0)
  })
})

describe('what lies above a suspended ceiling, and under an appliance', () => {
  const rooms = [
    { id: 'a', lengthM: 6, widthM: 4, heightM: 2.6, voidM: 0.4 },
    { id: 'b', lengthM: 5, widthM: 4, heightM: 2.6, voidM: 0.4, beside: { room: 'a', side: 'east' } },
  ]
  const asked = (points: object[], more: object = {}) =>
    route(
      routeInput.parse({
        building: {
          rooms,
          boards: [{ id: 'board', room: 'a', side: 'west', atM: 2, heightM: 1.6 }],
          points,
          walls: { kind: 'timber', studM: 0.6 },
          attic: null,
          crawl: null,
          ...more,
        },
        from: { board: 'board' },
        to: [{ point: 'p' }],
        alternatives: 1,
      }),
    )
  const kinds = (out: ReturnType<typeof asked>) => out.routes[0]?.elements.map((e) => e.kind)
  const light = { id: 'p', room: 'b', eastM: 3, northM: 2 }
  it('is led up past a tile, over the ceiling, and through the wall between two such rooms', () => {
    const out = asked([light])
    expect(kinds(out)).toEqual(['cavity', 'into-void', 'ceiling-void', 'void-wall', 'ceiling-void', 'into-void'])
    // From head height of one wall to the light: straight across both rooms.
    expect(out.routes[0]!.elements.filter((e) => e.kind === 'ceiling-void').reduce((sum, e) => sum + e.lengthM, 0)).toBeCloseTo(9, 0)
  })
  it('is not there where a ceiling is none of that kind', () => {
    const solid = rooms.map(({ voidM: _, ...r }) => r)
    expect(kinds(asked([light], { rooms: solid }))).not.toContain('ceiling-void')
    // With one of the two rooms only it ends at the wall between them.
    expect(kinds(asked([light], { rooms: [rooms[0]!, solid[1]!] }))).not.toContain('void-wall')
  })
  it('comes up out of the floor where there is a space beneath, and nowhere else', () => {
    const under = { ...light, underfoot: true }
    expect(asked([under]).findings[0]?.rule).toBe('no-way')
    const out = asked([under], { crawl: { headM: 0.7 }, rooms: rooms.map(({ voidM: _, ...r }) => r) })
    expect(kinds(out)!.at(-1)).toBe('floor-hole')
    expect(out.routes[0]!.elements.at(-1)!.to[2]).toBe(0)
  })
})
