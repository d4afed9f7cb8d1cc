import fc from 'fast-check'
import type { BendItem } from '../../src/core/calculate/bending'

const item: fc.Arbitrary<BendItem> = fc.oneof(
  fc.record({ kind: fc.constant('straight' as const), lengthMm: fc.double({ min: 300, max: 4000, noNaN: true }) }),
  fc.record({
    kind: fc.constant('offset' as const),
    riseMm: fc.double({ min: 120, max: 600, noNaN: true }),
    angleDeg: fc.constantFrom(10, 22.5, 30, 45, 60),
  }),
  fc.record({ kind: fc.constant('stub-90' as const), heightMm: fc.double({ min: 300, max: 900, noNaN: true }) }),
)
/** Bends of any kinds in any order, with straight pipe between any two and at both ends. */
export const anyBends: fc.Arbitrary<readonly BendItem[]> = fc.array(item, { minLength: 1, maxLength: 7 }).map((list) => {
  const straight = { kind: 'straight' as const, lengthMm: 700 }
  return [straight, ...list.flatMap((i) => [i, straight])]
})
