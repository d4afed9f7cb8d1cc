import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lieOf, type LaidPicture, type OnGround, type OnPicture } from './picture'

/** Where a place on a picture that lies so is in the building. */
function groundOf({ corner, widthM, turnedDeg }: NonNullable<ReturnType<typeof lieOf>>, [right, down]: OnPicture): OnGround {
  const a = (turnedDeg * Math.PI) / 180
  const [x, y] = [right * widthM, -down * widthM]
  return [corner[0] + x * Math.cos(a) - y * Math.sin(a), corner[1] + x * Math.sin(a) + y * Math.cos(a)]
}

describe('a picture under a plan', () => {
  it('lies as it is where a level line on it is a level wall', () => {
    const laid: LaidPicture = {
      marks: [
        [0.1, 0.5],
        [0.6, 0.5],
      ],
      places: [
        [0, 0],
        [5, 0],
      ],
    }
    expect(lieOf(laid)).toEqual({ corner: [-1, 5], widthM: 10, turnedDeg: 0 })
  })
  it('is turned where the line is a wall that runs another way', () => {
    const lie = lieOf({
      marks: [
        [0, 0],
        [1, 0],
      ],
      places: [
        [0, 0],
        [0, 4],
      ],
    })!
    expect(lie.turnedDeg).toBeCloseTo(90, 9)
    expect(lie.widthM).toBe(4)
  })
  it('has its two marks where they were said to be, whatever they are; of two at one place nothing is said', () => {
    const on = fc.tuple(fc.double({ min: 0, max: 2, noNaN: true }), fc.double({ min: 0, max: 2, noNaN: true }))
    const ground = fc.tuple(fc.double({ min: -50, max: 50, noNaN: true }), fc.double({ min: -50, max: 50, noNaN: true }))
    fc.assert(
      fc.property(on, on, ground, ground, (a, b, p, q) => {
        const lie = lieOf({ marks: [a, b], places: [p, q] })
        if (Math.hypot(a[0] - b[0], a[1] - b[1]) < 0.02 || Math.hypot(p[0] - q[0], p[1] - q[1]) < 0.2) {
          expect(lie).toBeNull()
          return
        }
        for (const [mark, place] of [
          [a, p],
          [b, q],
        ] as const) {
          const at = groundOf(lie!, mark)
          expect(Math.hypot(at[0] - place[0], at[1] - place[1])).toBeLessThan(1e-6)
        }
      }),
    )
    expect(
      lieOf({
        marks: [
          [0, 0],
          [0.02, 0],
        ],
        places: [
          [0, 0],
          [0.2, 0],
        ],
      }),
    ).not.toBeNull()
    expect(
      lieOf({
        marks: [
          [0, 0],
          [0.019, 0],
        ],
        places: [
          [0, 0],
          [0.2, 0],
        ],
      }),
    ).toBeNull()
    expect(
      lieOf({
        marks: [
          [0, 0],
          [0.02, 0],
        ],
        places: [
          [0, 0],
          [0.19, 0],
        ],
      }),
    ).toBeNull()
  })
})
