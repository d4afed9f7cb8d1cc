/*
 * What miniature circuit-breakers to EN 60898-1 of energy limiting class 3 let through, and the protective conductors that go behind them.
 * A breaker without a class, another kind, and a fuse: the maker's data.
 */

type Curve = 'B' | 'C'
interface Row {
  /** Breakers rated up to this, in amperes. */
  readonly upToA: number
  /** By the fault level up to which it holds, in amperes, lowest first. */
  readonly levels: readonly (readonly [upToFaultA: number, of: Readonly<Record<Curve, number>>])[]
}

/** Smallest protective conductor, mm² of copper. OSG, minimum protective conductor sizes for energy limiting class 3 breakers. */
const smallestMm2: readonly Row[] = [
  {
    upToA: 16,
    levels: [
      [3000, { B: 1, C: 1.5 }],
      [6000, { B: 2.5, C: 2.5 }],
    ],
  },
  {
    upToA: 40,
    levels: [
      [3000, { B: 1.5, C: 1.5 }],
      [6000, { B: 2.5, C: 2.5 }],
    ],
  },
]
/** Greatest let-through energy, A²s. EN 60898-1, energy limiting class 3, by the rated short-circuit capacity. */
const letThroughA2s: readonly Row[] = [
  {
    upToA: 16,
    levels: [
      [3000, { B: 15_000, C: 18_000 }],
      [4500, { B: 25_000, C: 30_000 }],
      [6000, { B: 35_000, C: 42_000 }],
      [10_000, { B: 70_000, C: 84_000 }],
    ],
  },
  {
    upToA: 32,
    levels: [
      [3000, { B: 18_000, C: 22_000 }],
      [4500, { B: 32_000, C: 39_000 }],
      [6000, { B: 45_000, C: 55_000 }],
      [10_000, { B: 90_000, C: 110_000 }],
    ],
  },
]

function listed(rows: readonly Row[], curve: string, ratingA: number, faultA: number): number | null {
  if (curve !== 'B' && curve !== 'C') return null
  const row = rows.find((r) => ratingA <= r.upToA)
  return row?.levels.find(([upTo]) => faultA <= upTo)?.[1][curve] ?? null
}

/**
 * The smallest protective conductor behind a breaker that clears a fault at once, in mm²; null where no published figure covers it.
 * @param ratingA rated current of the breaker
 * @param faultA prospective line to earth fault current where the circuit begins
 * @param k factor of the conductor (BS 7671 Table 54.3; IEC 60364-5-54 Table A.54)
 */
export const smallestBehindBreaker = (curve: string, ratingA: number, faultA: number, k: number): number | null => {
  const size = listed(smallestMm2, curve, ratingA, faultA)
  if (size !== null) return size
  const energy = listed(letThroughA2s, curve, ratingA, faultA)
  return energy === null ? null : Math.sqrt(energy) / k
}
