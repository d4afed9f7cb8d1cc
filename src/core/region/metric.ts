import { atMost } from '../base/tolerance'
import type { BreakerType, MetricRegionId } from './types'
import { southernAfricaTables as za } from './southern-africa/tables'
import { unitedKingdomTables as uk } from './united-kingdom/tables'

interface StepTable {
  readonly clause: string
  readonly upTo: readonly number[]
  readonly factor: readonly number[]
}

/** What a cable's insulation and conductors decide: its factors, its drop, its resistance, what a fault may do to it. */
export interface CableData {
  readonly ambient: StepTable
  readonly grouping: StepTable
  /** Length of cable wholly surrounded by insulation; null where this world's methods alone count it. */
  readonly insulation: (StepTable & { readonly beyond: number; readonly method: string }) | null
  readonly milliVoltPerAmpereMetre: Readonly<Record<string, number>>
  readonly voltDropClause: string
  readonly milliOhmPerMetre20C: Readonly<Record<string, number>>
  readonly resistanceClause: string
  readonly operatingMultiplier: number
  readonly adiabaticK: number
  readonly adiabaticClause: string
}

export interface MetricCable {
  readonly clause: string
  readonly methods: readonly string[]
  /** Amperes by size, then by method in the order of `methods`. */
  readonly rows: Readonly<Record<string, readonly (number | undefined)[]>>
  /** The protective conductor made up with each line size; absent: as large as the line. */
  readonly protective?: Readonly<Record<string, string>>
  readonly data: CableData
}

/** What the 230 V worlds have in common; a world is a value of this type. */
export interface MetricRegion {
  readonly id: MetricRegionId
  readonly nominalV: number
  readonly cmin: number
  readonly breakerRatingsA: readonly number[]
  readonly magneticMultiple: Readonly<Record<BreakerType, number>>
  readonly cables: Readonly<Record<string, MetricCable>>
  /** The 70 °C thermoplastic copper cable of every day, for a question that names no cable. */
  readonly usual: CableData
  readonly voltDropLimit: { readonly clause: string; readonly lighting: number; readonly other: number }
  readonly minSize: { readonly clause: string; readonly lighting: string; readonly power: string }
  readonly loopClause: string
  readonly rcdTouchVoltageV: number
  readonly rcdClause: string
  readonly cordClause: string
  readonly plugFusesA: readonly number[]
}

const withoutClause = <T extends Record<string, unknown>>(table: T): Readonly<Record<string, number>> =>
  Object.fromEntries(Object.entries(table).filter(([, v]) => typeof v === 'number')) as Record<string, number>

const sizeRows = (table: object, columns?: readonly number[]): Record<string, readonly (number | undefined)[]> =>
  Object.fromEntries(
    Object.entries(table)
      .filter(([k]) => k.endsWith(' mm2'))
      .map(([k, row]: [string, readonly number[]]) => [k, columns ? columns.map((c) => row[c]) : row]),
  )

const ukData: CableData = {
  ambient: { clause: uk.ambientFactor.clause, upTo: uk.ambientFactor.C, factor: uk.ambientFactor.factor },
  grouping: { clause: uk.groupingFactor.clause, upTo: uk.groupingFactor.circuits, factor: uk.groupingFactor.factor },
  insulation: {
    clause: uk.insulationFactor.clause,
    upTo: uk.insulationFactor.lengthMm,
    factor: uk.insulationFactor.factor,
    beyond: uk.insulationFactor.over500,
    method: 'clipped-direct',
  },
  milliVoltPerAmpereMetre: withoutClause(uk.voltDropMvPerAm),
  voltDropClause: uk.voltDropMvPerAm.clause,
  milliOhmPerMetre20C: withoutClause(uk.resistanceMilliohmPerM20C),
  resistanceClause: uk.resistanceMilliohmPerM20C.clause,
  operatingMultiplier: uk.operatingTemperatureMultiplier.value,
  adiabaticK: uk.adiabaticK.value,
  adiabaticClause: `543.1.3; ${uk.adiabaticK.clause}`,
}

export const unitedKingdom: MetricRegion = {
  id: 'united-kingdom',
  nominalV: uk.nominalV,
  cmin: uk.cmin,
  breakerRatingsA: uk.circuitBreakerRatingsA,
  magneticMultiple: uk.magneticMultiple,
  cables: {
    'twin-earth': {
      clause: uk.ampacityTwinEarth.clause,
      methods: uk.ampacityTwinEarth.methods,
      rows: sizeRows(uk.ampacityTwinEarth),
      protective: uk.twinEarthProtectiveConductor,
      data: ukData,
    },
    singles: { clause: uk.ampacitySingles.clause, methods: uk.ampacitySingles.methods, rows: sizeRows(uk.ampacitySingles), data: ukData },
  },
  usual: ukData,
  voltDropLimit: uk.voltDropLimit,
  minSize: uk.minSize,
  loopClause: '411.4.4; Table 41.3 with Cmin 0.95',
  rcdTouchVoltageV: uk.rcdTouchVoltageV.value,
  rcdClause: uk.rcdTouchVoltageV.clause,
  cordClause: '533.1; the plug or connection unit fuse protects the cord',
  plugFusesA: uk.plugAndSpurFusesA,
}

const zaData: CableData = {
  ambient: { clause: za.ambientFactor.clause, upTo: za.ambientFactor.C, factor: za.ambientFactor.factor },
  grouping: { clause: za.groupingFactor.clause, upTo: za.groupingFactor.circuits, factor: za.groupingFactor.factor },
  insulation: null,
  milliVoltPerAmpereMetre: withoutClause(za.voltDropMvPerAm),
  voltDropClause: `SANS 10142-1 voltage drop; ${za.voltDropMvPerAm.clause}`,
  milliOhmPerMetre20C: withoutClause(za.resistanceMilliohmPerM20C),
  resistanceClause: za.resistanceMilliohmPerM20C.clause,
  operatingMultiplier: za.operatingTemperatureMultiplier.value,
  adiabaticK: za.adiabaticK.value,
  adiabaticClause: za.adiabaticK.clause,
}

const zaColumns = (methods: readonly string[]) => methods.map((m) => za.ampacity.methods.indexOf(m as (typeof za.ampacity.methods)[number]))

const zaCable = (methods: readonly string[]): MetricCable => ({
  clause: za.ampacity.clause,
  methods,
  rows: sizeRows(za.ampacity, zaColumns(methods)),
  data: zaData,
})

export const southernAfrica: MetricRegion = {
  id: 'southern-africa',
  nominalV: za.nominalV,
  cmin: za.cmin,
  breakerRatingsA: za.circuitBreakerRatingsA,
  magneticMultiple: za.magneticMultiple,
  cables: { 'flat-twin-earth': zaCable(['A2', 'B2', 'C']), singles: zaCable(['A1', 'B1']) },
  usual: zaData,
  voltDropLimit: za.voltDropLimit,
  minSize: { clause: 'IEC 60364-5-52 Table B.52.2, smallest listed', lighting: '1.5 mm2', power: '1.5 mm2' },
  loopClause: 'IEC 60364-4-41 clause 411.4.4, Cmin 0.95; SANS 10142-1 governs',
  rcdTouchVoltageV: 50,
  rcdClause: 'IEC 60364-4-41 clause 411.5.3: 50 V / rated residual current; SANS 10142-1 governs',
  cordClause: 'SANS 10142-1: flexible cords are protected at their own rating',
  plugFusesA: [],
}

export const metricRegions: Record<MetricRegionId, MetricRegion> = {
  'united-kingdom': unitedKingdom,
  'southern-africa': southernAfrica,
}

/** What a cable's own make decides; of a cable that is not listed, the usual one's. */
export const dataOf = (region: MetricRegion, cable: string): CableData => region.cables[cable]?.data ?? region.usual

/** The factor for the next listed step at or above `value`; undefined past the end. */
export function stepFactor(table: StepTable, value: number): number | undefined {
  return table.factor[table.upTo.findIndex((bound) => atMost(value, bound))]
}
