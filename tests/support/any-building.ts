import fc from 'fast-check'
import { sides } from '../../src/core/building/house'
import type { WaysAsked } from '../../src/core/building/route'

const metres = (min: number, max: number) => fc.integer({ min: min * 10, max: max * 10 }).map((n) => n / 10)
const side = fc.constantFrom(...sides)

/** A building as somebody might enter it: rooms beside and over each other, doors and windows, points on walls and ceilings. */
export const anyWanted: fc.Arbitrary<WaysAsked> = fc
  .record({
    sizes: fc.array(
      fc.record({
        lengthM: metres(2, 6),
        widthM: metres(2, 6),
        heightM: metres(2.2, 3),
        voidM: fc.constantFrom(undefined, undefined, 0.4),
        by: side,
        shiftM: metres(0, 2),
        open: fc.boolean(),
        flat: fc.constantFrom(undefined, undefined, true),
        slab: fc.constantFrom(undefined, undefined, true),
        joists: fc.constantFrom(undefined, { runs: 'north' as const, spacingM: 0.5 }),
      }),
      {
        minLength: 1,
        maxLength: 4,
      },
    ),
    over: fc.boolean(),
    openings: fc.array(
      fc.record({
        room: fc.nat(9),
        side,
        at: metres(0, 1),
        what: fc.constantFrom('door', 'window', 'fixed', 'hidden', 'cabinets', 'stairs'),
        widthM: metres(0.4, 1),
      }),
      { maxLength: 4 },
    ),
    points: fc.array(
      fc.record({
        room: fc.nat(9),
        side,
        atM: metres(0, 1.9),
        heightM: metres(0.2, 1.8),
        ceiling: fc.boolean(),
        underfoot: fc.nat(5),
        outside: fc.constantFrom(undefined, undefined, true),
      }),
      {
        minLength: 1,
        maxLength: 3,
      },
    ),
    walls: fc.constantFrom(
      { kind: 'timber' as const, studM: 0.4 },
      { kind: 'timber' as const, studM: 0.6, noggingM: 1.2 },
      { kind: 'masonry' as const },
    ),
    joists: fc.constantFrom(null, { runs: 'east' as const, spacingM: 0.45 }, { runs: 'north' as const, spacingM: 0.4 }),
    attic: fc.constantFrom(null, { headM: 1.2, hot: true }, { headM: 2, hot: false, roof: { ridge: 'east' as const, eavesM: 0.15 } }),
    crawl: fc.constantFrom(null, { headM: 0.6 }),
    outside: fc.boolean(),
    weights: fc.record({ hole: metres(0, 9), opening: metres(0, 40), metre: metres(0, 3) }),
    found: fc.array(fc.record({ room: fc.nat(9), side, studM: metres(0, 2), closed: fc.boolean() }), { maxLength: 2 }),
    obstacles: fc.array(
      fc.record({
        room: fc.nat(9),
        space: fc.constantFrom('attic', 'crawl'),
        eastM: metres(0, 3),
        lengthM: metres(0.2, 2),
        hot: fc.boolean(),
      }),
      { maxLength: 2 },
    ),
    forbid: fc.constantFrom(null, 'stud', 'attic', 'surface'),
  })
  .map(({ sizes, over, openings, points, walls, attic, crawl, outside, joists, weights, found, obstacles, forbid }) => {
    const rooms: WaysAsked['building']['rooms'] = sizes.map(({ by, shiftM, open, ...size }, i) => ({
      id: `r${i}`,
      ...size,
      ...(i ? { beside: { room: `r${i - 1}`, side: by, shiftM, open } } : {}),
    }))
    if (over) rooms.push({ id: 'up', floor: 1, lengthM: 3, widthM: 3, heightM: 2.4, beside: { room: 'r0', side: 'over' as const } })
    const at = (n: number) => rooms[n % rooms.length]!.id
    return {
      building: {
        rooms,
        openings: openings.map(({ room, at: atM, ...o }, i) => ({
          id: `o${i}`,
          room: at(room),
          atM,
          ...o,
          ...(o.what === 'window' ? { sillM: 0.9, headM: 2 } : { headM: 2 }),
        })),
        points: points.map(({ room, ceiling, underfoot, outside, ...p }, i) =>
          ceiling
            ? { id: `p${i}`, room: at(room), eastM: 1, northM: p.atM, underfoot: underfoot === 0 }
            : { id: `p${i}`, room: at(room), ...p, outside },
        ),
        boards: [{ id: 'board', room: 'r0', side: 'west' as const, atM: 0.5, heightM: 1.5 }],
        walls,
        attic,
        crawl,
        outside,
        joists,
        found: found.map(({ room, ...f }) => ({ room: at(room), ...f })),
        obstacles: obstacles.map(({ room, ...o }, i) => ({ id: `in${i}`, room: at(room), northM: 0, widthM: 2.5, ...o })),
      },
      from: { board: 'board' },
      to: [{ point: 'p0' }],
      weights,
      forbid: forbid === null ? [] : [forbid],
      graph: true,
    }
  })
