import { describe, expect, it } from 'vitest'
import { plated, zoneFindings } from './guarded'
import { type Room, placed } from './house'
import type { Part } from './steps'
import { supportsOf } from './supports'

const rooms: readonly Room[] = placed({ rooms: [{ id: 'r', floor: 0, lengthM: 5, widthM: 4, heightM: 2.4 }] })
const names = new Map([['r', 'Store']])
const part = (kind: Part['kind'], ...path: Part['path']): Part => ({
  kind,
  room: 'r',
  side: 'north',
  beyond: null,
  lengthM: 1,
  minutes: 1,
  holes: 1,
  openings: 0,
  path,
})
const socket = (atM: number, heightM: number) => ({ id: 's', room: 'r', side: 'north' as const, atM, heightM })

describe('supports', () => {
  it('stand as far apart as the world has them, and go on round a turn', () => {
    const along = part('attic', [0, 0, 2.5], [3, 0, 2.5])
    expect(supportsOf(along, 'north-america').map(([x]) => Number(x.toFixed(2)))).toEqual([1.37, 2.74])
    const turned = supportsOf(part('attic', [0, 0, 2.5], [2, 0, 2.5], [2, 3, 2.5]), 'north-america')
    // 1.37 on the first leg; 0.63 of the next is there too, so that 0.74 is left after the turn.
    expect(turned.map((p) => p.slice(0, 2).map((m) => Number(m.toFixed(2))))).toEqual([
      [1.37, 0],
      [2, 0.74],
      [2, 2.11],
    ])
    expect(supportsOf(along, 'united-kingdom')).toHaveLength(9)
    expect(supportsOf(part('cabinets', [0, 0, 0], [0, 0, 0.9]), 'united-kingdom')).toHaveLength(2)
  })
  it('are none inside a wall, where the cable hangs, nor on a pipe', () => {
    for (const kind of ['cavity', 'stud', 'surface'] as const)
      expect(supportsOf(part(kind, [0, 0, 0], [9, 0, 0]), 'north-america')).toEqual([])
  })
})

describe('plates', () => {
  const crossing = [part('stud', [1, 4, 0.45], [2, 4, 0.45]), part('attic', [1, 1, 2.5], [2, 1, 2.5])]
  const over = (depthMm: number | null | undefined, holeMm: number) => [...plated(crossing, 'north-america', holeMm, () => depthMm)]
  it('go over holes that come within 32 mm of a face, and over no others', () => {
    expect(over(89, 26)).toEqual([0])
    expect(over(89, 25)).toEqual([])
  })
  it('are said of no stud not measured, or that a hole would part', () => {
    expect(over(null, 26)).toEqual([])
    expect(over(undefined, 26)).toEqual([])
    expect(over(20, 26)).toEqual([])
  })
})

describe('zones of hidden cable', () => {
  const found = (
    parts: readonly Part[],
    points: ReturnType<typeof socket>[],
    region: 'united-kingdom' | 'north-america' = 'united-kingdom',
  ) => zoneFindings(parts, { points, boards: [] }, rooms, names, region)
  const level = [
    part('cavity', [1, 4, 2.4], [1, 4, 0.45]),
    part('stud', [1, 4, 0.45], [3, 4, 0.45]),
    part('cavity', [3, 4, 0.45], [3, 4, 0.3]),
  ]
  it('bear a level run at the height of an accessory on its wall, and none elsewhere', () => {
    expect(found(level, [socket(3, 0.45)])).toEqual([])
    expect(found(level, [socket(3, 0.495)])).toEqual([])
    expect(found(level, [socket(3, 0.5)]).map((f) => f.rule)).toEqual(['outside-zones'])
    expect(found(level, [])[0]!.message).toContain('the north wall of Store')
    expect(found(level, [{ ...socket(3, 0.45), side: 'south' as never }])).toHaveLength(1)
  })
  it('bear what is within 150 mm of a corner or a ceiling', () => {
    const high = (m: number) => found([level[0]!, part('stud', [1, 4, m], [3, 4, m]), level[2]!], [])
    expect(high(2.25)).toEqual([])
    expect(high(2.24)).toHaveLength(1)
    const corner = (x: number) => found([level[0]!, part('cavity', [x, 4, 2], [x, 4, 1]), level[2]!], [])
    expect(corner(0.15)).toEqual([])
    expect(corner(0.16)).toHaveLength(1)
    expect(corner(4.85)).toEqual([])
  })
  it('bear what is plumb over an accessory, and what ends at one', () => {
    const middle = (x: number, points: ReturnType<typeof socket>[]) =>
      found([level[0]!, part('cavity', [x, 4, 2], [x, 4, 1]), level[2]!], points)
    expect(middle(2, [socket(2.04, 0.4)])).toEqual([])
    expect(middle(2, [socket(2.05, 0.4)])).toHaveLength(1)
    expect(found([level[0]!], [])).toEqual([])
  })
  it('are said in no world that has none', () => expect(found(level, [], 'north-america')).toEqual([]))
})
