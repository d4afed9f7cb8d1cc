import { atMost } from '../../base/tolerance'
import type { ConductorMetal } from '../types'
import { northAmericaTables as t } from './tables'

/** Metres in 1000 ft, the length by which resistance is published. */
export const M_PER_KFT = 304.8

type Row = readonly [number, number, number]

export const naCables = ['nm-b', 'uf-b', 'mc-thhn', 'thwn-2'] as const
export type NaCable = (typeof naCables)[number]
export const naSizes = Object.keys(t.ampacity.copper)
const ampacityRows: Record<ConductorMetal, Readonly<Record<string, Row>>> = t.ampacity

interface NaCableFacts {
  readonly insulationC: 60 | 75 | 90
  readonly limitColumnC: 60 | 75 | 90 | 'terminal'
  readonly largest?: string
  readonly clause: string
}
export const naCableFacts: Record<NaCable, NaCableFacts> = t.cables

/** Sizes that are made for this cable and metal, smallest first. NFPA 70 Table 310.16 and 334.104. */
export function naCableSizes(cable: NaCable, metal: ConductorMetal): string[] {
  const sizes = Object.keys(ampacityRows[metal])
  const largest = naCableFacts[cable].largest
  return largest ? sizes.slice(0, sizes.indexOf(largest) + 1) : sizes
}

/** Table 310.16 at one temperature column, in amperes; undefined where the table has no row. */
export function naAmpacityA(metal: ConductorMetal, size: string, columnC: 60 | 75 | 90): number | undefined {
  return ampacityRows[metal][size]?.[t.ampacity.columnsC.indexOf(columnC)]
}

/** Table 310.15(B)(1)(1); undefined above the last row or where the insulation has no factor. */
export function naAmbientFactor(ambientC: number, insulationC: 60 | 75 | 90): number | undefined {
  const row = t.ambientFactor.upperBoundC.findIndex((bound) => atMost(ambientC, bound))
  const factors: readonly number[] = t.ambientFactor[`insulation${insulationC}C`]
  return row < 0 ? undefined : factors[row]
}

/** Table 310.15(C)(1), by number of current-carrying conductors. */
export function naGroupingFactor(loadedConductors: number): number {
  const row = t.groupingFactor.upperBound.findIndex((bound) => bound === null || atMost(loadedConductors, bound))
  return t.groupingFactor.factor[row]!
}

const resistance: Record<ConductorMetal, Readonly<Record<string, number>>> = t.dcResistanceOhmPerKft
/** Chapter 9 Table 8, ohms per 1000 ft at 75 °C. */
export const naOhmPerKft = (metal: ConductorMetal, size: string): number | undefined => resistance[metal][size]

/** Temperature coefficients of resistance at 75 °C. NFPA 70 Chapter 9 Table 8 note 2. */
export const naAlpha75C: Readonly<Record<ConductorMetal, number>> = { copper: 0.00323, aluminium: 0.0033 }

export const naBreakerRatingsA: readonly number[] = t.standardOvercurrentRatingsA.values

const smallConductor: Record<ConductorMetal, Readonly<Record<string, number>>> = t.smallConductorLimitA
/** 240.4(D): the largest breaker for a small conductor; undefined where none is set. */
export const naSmallConductorLimitA = (metal: ConductorMetal, size: string): number | undefined => smallConductor[metal][size]

/** Table 250.122: the copper equipment grounding conductor for a breaker rating. */
export function naGroundingSize(breakerA: number): string {
  const row = t.equipmentGroundingConductor.upperBoundA.findIndex((bound) => atMost(breakerA, bound))
  return t.equipmentGroundingConductor.copper[row]!
}

const mils: Readonly<Record<string, number | string>> = t.circularMils
/** Chapter 9 Table 8, area in circular mils. */
export const naCircularMils = (size: string): number => mils[size] as number

const receptacles: Readonly<Record<string, readonly number[]>> = t.receptacleOnBranchCircuit.allowedReceptacleA
/** Table 210.21(B)(3): receptacle ratings allowed on a circuit that supplies two or more. */
export const naReceptaclesOnBreaker = (breakerA: number): readonly number[] => receptacles[breakerA] ?? []

const boxFill: Readonly<Record<string, number | string>> = t.boxFillAllowanceIn3
export const naBoxFillSizes = Object.keys(t.boxFillAllowanceIn3).filter((k) => k !== 'clause')
/** Table 314.16(B)(1), cubic inches for one conductor. */
export const naBoxFillIn3 = (size: string): number => boxFill[size] as number

export const naClauses = {
  ampacity: t.ampacity.clause,
  ambient: t.ambientFactor.clause,
  grouping: t.groupingFactor.clause,
  resistance: t.dcResistanceOhmPerKft.clause,
  breakerRatings: t.standardOvercurrentRatingsA.clause,
  smallConductor: t.smallConductorLimitA.clause,
  grounding: t.equipmentGroundingConductor.clause,
  receptacle: t.receptacleOnBranchCircuit.clause,
  boxFill: t.boxFillAllowanceIn3.clause,
  freeConductor: t.freeConductor.clause,
} as const
export const naFreeConductor = t.freeConductor
