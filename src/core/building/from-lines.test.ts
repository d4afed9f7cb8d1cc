import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { placed } from './house'
import { asEntered, type Line, MOST_ROOMS, roomsFromLines } from './from-lines'
import { routeInput } from './route'

type Corner = readonly [number, number]
const around = (...corners: Corner[]): Line[] => corners.map((a, i) => ({ a, b: corners[(i + 1) % corners.length]! }))
const box = (west: number, south: number, east: number, north: number) => around([west, south], [east, south], [east, north], [west, north])
const sizes = (lines: readonly Line[]) =>
  roomsFromLines(lines)
    .rooms.map((r) => `${r.lengthM.toFixed(2)} x ${r.widthM.toFixed(2)}`)
    .toSorted()

/** What was found, placed as it would be entered. */
const laid = (lines: readonly Line[]) => {
  const { rooms } = roomsFromLines(lines)
  const entered = asEntered(rooms)
  const building = routeInput.shape.building.parse({
    rooms: entered.map(({ found, beside, ...size }) => ({
      id: `r${found}`,
      ...size,
      heightM: 2.4,
      ...(beside ? { beside: { ...beside, room: `r${beside.room}` } } : {}),
    })),
    walls: { kind: 'masonry' },
    attic: null,
    crawl: null,
  })
  return placed(building)
}

describe('rooms out of lines', () => {
  it('are what single lines close in, with walls they share', () => {
    const lines = [...box(0, 0, 4, 3), { a: [4, 0], b: [7, 0] }, { a: [7, 0], b: [7, 3] }, { a: [7, 3], b: [4, 3] }] as Line[]
    expect(sizes(lines)).toEqual(['3.00 x 3.00', '4.00 x 3.00'])
    expect(laid(lines).map((r) => r.west)).toEqual([0, 4])
  })
  it('of walls drawn as two lines are what lies within, and the walls are none', () => {
    const house = [...box(0, 0, 7.5, 3.2), ...box(0.1, 0.1, 4.1, 3.1), ...box(4.25, 0.1, 7.4, 3.1)]
    expect(sizes(house)).toEqual(['3.15 x 3.00', '4.00 x 3.00'])
    // Beside each other, as if the wall had no thickness.
    const [one, other] = laid(house)
    expect(other!.west).toBeCloseTo(one!.east, 9)
  })
  it('are closed where a door is left open, by one line or two, at a corner too, and not across a passage', () => {
    const door: Line[] = [
      ...around([0, 0], [4, 0], [4, 3], [0, 3]).slice(0, 2),
      { a: [4, 3], b: [2.6, 3] },
      { a: [1.8, 3], b: [0, 3] },
      { a: [0, 3], b: [0, 0] },
    ]
    expect(roomsFromLines(door)).toMatchObject({ doorways: 1, wrong: null })
    expect(sizes(door)).toEqual(['4.00 x 3.00'])
    const atCorner: Line[] = [
      { a: [0, 0], b: [4, 0] },
      { a: [4, 0], b: [4, 3] },
      { a: [3.2, 3], b: [0, 3] },
      { a: [0, 3], b: [0, 0] },
    ]
    expect(sizes(atCorner)).toEqual(['4.00 x 3.00'])
    // Two lines with the frame of the door between them.
    const frame: Line[] = [...box(0, 0, 4, 3), { a: [0, 3.1], b: [1, 3.1] }, { a: [1.8, 3.1], b: [4, 3.1] }]
    const doubled: Line[] = [
      ...frame.filter((l) => !(l.a[1] === 3 && l.b[1] === 3)),
      { a: [0, 3], b: [1, 3] },
      { a: [1.8, 3], b: [4, 3] },
      { a: [1, 3], b: [1, 3.1] },
      { a: [1.8, 3], b: [1.8, 3.1] },
      ...box(0, 3.1, 4, 6).filter((l) => l.a[1] !== 3.1 || l.b[1] !== 3.1),
    ]
    expect(sizes(doubled)).toEqual(['4.00 x 2.90', '4.00 x 3.00'])
    // A passage a metre wide between two rooms whose walls are in line stays one passage.
    const passage = [
      ...box(0, 0, 4, 3),
      ...box(5, 0, 9, 3),
      { a: [4, 0], b: [5, 0] },
      { a: [4, 3], b: [4, 5] },
      { a: [5, 3], b: [5, 5] },
      { a: [4, 5], b: [5, 5] },
    ] as Line[]
    expect(sizes(passage)).toContain('1.00 x 5.00')
  })
  it('round a corner are parts that are open to each other', () => {
    const ell = around([0, 0], [5, 0], [5, 2], [2, 2], [2, 4], [0, 4])
    const { rooms } = roomsFromLines(ell)
    expect(rooms.length).toBe(2)
    expect(rooms[1]!.openTo).toBe(0)
    expect(rooms.reduce((sum, r) => sum + r.lengthM * r.widthM, 0)).toBeCloseTo(14, 9)
    expect(asEntered(rooms)[1]!.beside).toMatchObject({ room: 0, open: true })
  })
  it('are found in a moment whatever is around them, and not where an outline is all corners', () => {
    // A room among a thousand short lines that part the sheet at every centimetre.
    const litter = Array.from({ length: 400 }, (_, i) => box(10 + i * 0.02, 10 + i * 0.02, 10.01 + i * 0.02, 10.01 + i * 0.02)).flat()
    expect(sizes([...box(0, 0, 20, 20), ...litter])).toEqual(['20.00 x 20.00'])
    expect(roomsFromLines([...box(0, 0, 20, 20), ...box(5, 5, 6, 6.5)])).toMatchObject({ loose: 1, rooms: [{ lengthM: 20 }] })
    // A room within a room is one, and what is left round it is in parts.
    expect(sizes([...box(0, 0, 20, 20), ...box(5, 5, 8, 8)])).toContain('3.00 x 3.00')
    const saw = Array.from({ length: 60 }, (_, i): Corner[] => [
      [i, 5 + (i % 2)],
      [i + 1, 5 + (i % 2)],
    ]).flat()
    expect(roomsFromLines(around([0, 0], [60, 0], ...saw.toReversed()))).toMatchObject({ rooms: [], jagged: 1 })
  })
  it('are the same when the sheet is turned, and what is askew is counted', () => {
    const turn =
      (degrees: number) =>
      (l: Line): Line => {
        const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
        const at = ([x, y]: Corner): Corner => [x * c - y * s, x * s + y * c]
        return { a: at(l.a), b: at(l.b) }
      }
    const lines = [...box(0, 0, 4, 3), ...box(4, 0, 7, 3)]
    const turned = roomsFromLines(lines.map(turn(20)))
    expect(turned.turned).toBe(20)
    expect(turned.rooms.map((r) => Number(r.lengthM.toFixed(2))).toSorted()).toEqual([3, 4])
    expect(roomsFromLines([...lines, { a: [1, 1], b: [2, 2.2] }]).askew).toBe(1)
  })
  it('say why there are none', () => {
    expect(roomsFromLines([]).wrong).toMatch(/close/)
    expect(roomsFromLines([{ a: [0, 0], b: [5, 0] }]).wrong).toMatch(/close/)
    const many = Array.from({ length: MOST_ROOMS + 1 }, (_, i) => box(2 * i, 0, 2 * i + 1.5, 2)).flat()
    expect(roomsFromLines(many).wrong).toMatch(/layers/)
    expect(roomsFromLines(many.slice(4)).wrong).toBeNull()
    expect(roomsFromLines(Array.from({ length: 20_001 }, (_, i) => ({ a: [i, 0], b: [i, 1] }) as const)).wrong).toMatch(/too many/)
  })
  it('of any house drawn room by room lie where they lay', () => {
    const metres = (least: number, most: number) => fc.integer({ min: least * 10, max: most * 10 }).map((n) => n / 10)
    fc.assert(
      fc.property(fc.array(fc.tuple(metres(1, 6), metres(1, 6)), { minLength: 1, maxLength: 6 }), metres(1, 4), (list, wide) => {
        // A row of rooms along a passage: each is found, where it was.
        let west = 0
        const boxes = list.map(([length, width]) => {
          const b = [west, 0, west + length, width] as const
          west += length
          return b
        })
        const passage = [0, -wide, west, 0] as const
        const lines = [...boxes, passage].flatMap(([w0, s0, e0, n0]) => box(w0, s0, e0, n0))
        const rooms = laid(lines)
        expect(rooms.length).toBe(boxes.length + 1)
        const [w, s] = [Math.min(...rooms.map((r) => r.west)), Math.min(...rooms.map((r) => r.south))]
        const at = (r: { west: number; south: number; east: number; north: number }, x: number, y: number) =>
          [r.west - x, r.south - y, r.east - x, r.north - y].map((v) => Math.round(v * 100)).join()
        expect(new Set(rooms.map((r) => at(r, w, s)))).toEqual(
          new Set([...boxes, passage].map(([a, b, c, d]) => at({ west: a, south: b, east: c, north: d }, 0, -wide))),
        )
      }),
      { numRuns: 150 },
    )
  })
})
