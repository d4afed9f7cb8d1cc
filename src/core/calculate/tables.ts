import { northAmericaTables as t } from '../region/north-america/tables'

export const racewayKinds = ['emt', 'pvc-40', 'pvc-80', 'fmc'] as const
export type RacewayKind = (typeof racewayKinds)[number]
/** Smallest first; written out, as keys that look like numbers would lead an object's order. */
export const tradeSizes = ['1/2', '3/4', '1', '1-1/4', '1-1/2', '2']

const areas: Record<RacewayKind, Readonly<Record<string, number>>> = t.racewayInternalAreaIn2
/** Chapter 9 Table 4, whole internal area in square inches. */
export const racewayAreaIn2 = (kind: RacewayKind, tradeSize: string): number => areas[kind][tradeSize]!

const conductorAreas: Record<'thwn-2' | 'bare', Readonly<Record<string, number>>> = t.conductorAreaIn2
/** Chapter 9 Tables 5 and 8, square inches; undefined where there is no row. */
export const conductorAreaIn2 = (insulation: 'thwn-2' | 'bare', size: string): number | undefined => conductorAreas[insulation][size]

export const fillLimits = t.racewayFillLimit
const radii: Readonly<Record<string, number>> = t.bends.radiusIn
const takeUps: Readonly<Record<string, number>> = t.bends.takeUpIn
const trade: Readonly<Record<string, { multiplier: number; shrinkPerInch: number }>> = t.bends.tradeOffset
/** Chapter 9 Table 2, inches. */
export const bendRadiusIn = (tradeSize: string): number => radii[tradeSize]!
export const takeUpIn = (tradeSize: string): number | undefined => takeUps[tradeSize]
/** The multiplier and shrink that benders are marked with, by angle in degrees. */
export const tradeOffset = (angleDeg: number): { multiplier: number; shrinkPerInch: number } | undefined => trade[String(angleDeg)]
export const maxDegreesBetweenPulls = t.bends.maxDegreesBetweenPulls
export const pvcExpansionTable = t.pvcExpansion
