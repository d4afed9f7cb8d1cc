import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyWanted } from '../../../tests/support/any-building'
import { route, routeInput } from '../building/route'
import { InputError } from '../base/input-error'
import type { BendItem } from './bending'
import { tubesOf } from './from-way'

const legs = (items: readonly BendItem[]): readonly number[] =>
  items.map((i) => (i.kind === 'straight' ? i.lengthMm : i.kind === 'stub-90' ? i.heightMm : Number.NaN))
const room = { id: 'r', lengthM: 4.2, widthM: 3.1, heightM: 2.4 }
const found = (points: readonly object[], openings: readonly object[] = []) =>
  route(
    routeInput.parse({
      building: {
        rooms: [room],
        openings,
        walls: { kind: 'masonry' },
        attic: null,
        crawl: null,
        boards: [{ id: 'b', room: 'r', side: 'west', atM: 2, heightM: 1.4 }],
        points,
      },
      from: { board: 'b' },
      to: [{ point: 'p' }],
    }),
  ).routes[0]!.elements

describe('a pipe along a way', () => {
  it('goes plumb and level between the places of its ends, into the corner between two walls', () => {
    // 60 mm off each wall: down, along the west wall into its corner, along the north wall, and up.
    const [tube, ...more] = tubesOf(found([{ id: 'p', room: 'r', side: 'north', atM: 3, heightM: 0.3 }]))
    expect(more).toEqual([])
    expect(legs(tube!.items)).toEqual([1400, 1040, 2940, 300])
    expect(tube!.bends).toBe(3)
    expect(tube!.lengthM).toBeCloseTo(5.68, 9)
  })
  it('turns twice between two places on one wall, and not at all to one plumb above the other', () => {
    const [level] = tubesOf(found([{ id: 'p', room: 'r', side: 'west', atM: 0.4, heightM: 1.4 }]))
    expect(legs(level!.items)).toEqual([1000, 1600, 1000])
    const [plumb] = tubesOf(found([{ id: 'p', room: 'r', side: 'west', atM: 2, heightM: 0.3 }]))
    expect(legs(plumb!.items)).toEqual([1100])
  })
  it('is none where nothing lies on a face', () => {
    expect(
      tubesOf([
        {
          kind: 'cavity',
          side: 'north',
          beyond: null,
          path: [
            [0, 0, 0],
            [0, 0, 1],
          ],
        },
      ]),
    ).toEqual([])
  })
  it('leads from end to end of what lies on faces, whatever the building: never shorter than plumb and level between the two', () => {
    let tubes = 0
    fc.assert(
      fc.property(anyWanted, (wanted) => {
        const asked = routeInput.parse({ ...wanted, building: { ...wanted.building, walls: { kind: 'masonry' } } })
        const standing = () => {
          try {
            return route(asked).routes
          } catch (e) {
            // A point where there is no wall is on none.
            if (e instanceof InputError) return []
            throw e
          }
        }
        for (const { elements } of standing())
          for (const { from, to, items, lengthM, bends } of tubesOf(elements)) {
            tubes++
            const [a, b] = [elements[from]!.path[0]!, elements[to]!.path.at(-1)!]
            expect(lengthM).toBeGreaterThan([0, 1, 2].reduce((sum, k) => sum + Math.abs(a[k]! - b[k]!), 0) - 0.02)
            expect(legs(items).reduce((sum, m) => sum + m, 0)).toBeCloseTo(1000 * lengthM, -1)
            expect(bends).toBe(items.length - 1)
          }
      }),
      { numRuns: 60, seed: 13 },
    )
    expect(tubes).toBeGreaterThan(40)
  })
})
