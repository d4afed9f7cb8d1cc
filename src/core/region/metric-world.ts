import { dataOf, type MetricRegion } from './metric'
import type { BreakerType } from './types'
import { methodNames } from './vocabulary'
import type { WayToRun, World } from './world'

/** Least current, in times its rating, at which the magnetic release of a type may act: the lower end of its band (IEC 60898-1). */
const magneticFrom: Readonly<Record<BreakerType, number>> = { B: 3, C: 5, D: 10 }

/** A cable drawn or laid in one of the methods its current-carrying capacity is listed for. */
export const wayOf = (cable: string, method: string): WayToRun => ({
  words: methodNames[method]!,
  cable,
  method,
  raceway: true,
  dryOnly: false,
})

/** Clauses of the international structure that both 230 V worlds cite alike. */
export const metricCites = {
  load: '311.1',
  required: '433.1.1: Ib ≤ In ≤ Iz',
  overcurrent: '433.1.1',
  protectiveSize: '543.1; Table 54.7; checked against 543.1.3',
  cord: '433.1.1; 533.1',
  carries: '433.1.1',
  branch: '433.2; 434.2',
  joints: '526.1',
  torque: '134.1.1; 526.1',
  workmanship: '134.1.1',
  labels: '514.1.1; 514.8.1',
} as const

/** What cables that carry no power are called alike in both 230 V worlds. */
export const metricSignalNames = {
  thermostat: 'Thermostat cable',
  bell: 'Bell cable',
  telephone: 'Telephone cable',
  data: 'Data cable',
  aerial: 'Aerial cable, coaxial',
} as const

type Common = Omit<
  World,
  | 'words'
  | 'says'
  | 'cites'
  | 'letter'
  | 'currencySign'
  | 'pointFusesA'
  | 'rings'
  | 'fusedUnits'
  | 'separation'
  | 'start'
  | 'waysToRun'
  | 'demandMethod'
  | 'racewayFill'
  | 'socketHeightMm'
  | 'boredHoles'
  | 'supports'
  | 'hiddenZones'
  | 'bends'
  | 'bathZone'
  | 'nearHeat'
  | 'guarded'
  | 'thermal'
  | 'fitness'
>

/** What the 230 V worlds share; each adds its own words, clauses and customs. */
export const metricWorld = (metric: MetricRegion): Common => ({
  deviceScrews: { thread: 'M3.5', suppliedMm: 25, lengthsMm: [30, 35, 40, 50, 60, 75, 100] },
  id: metric.id,
  units: 'metric',
  lineV: metric.nominalV,
  serviceV: metric.nominalV,
  splitPhase: false,
  boardManner: 'rail',
  typedBreakers: true,
  breakerRatingsA: metric.breakerRatingsA,
  magnetic: (type) => ({ from: magneticFrom[type], sure: metric.magneticMultiple[type] }),
  checkedToA: 63,
  sharedNeutrals: false,
  neutralAtSwitches: false,
  cables: Object.keys(metric.cables),
  cordSizes: Object.keys(metric.usual.milliVoltPerAmpereMetre).slice(0, 4),
  personMa: 30,
  continuousShare: 1,
  reportCodes: null,
  recordedFactor: 1,
  drop: {
    percent: (lighting) => 100 * metric.voltDropLimit[lighting ? 'lighting' : 'other'],
    totalPercent: (lighting) => 100 * metric.voltDropLimit[lighting ? 'lighting' : 'other'],
    severity: 'error',
    rule: 'point-voltage-drop',
    clause: metric.voltDropLimit.clause,
  },
  demandUnit: 'A',
  boxesBy: 'depth',
  outletsBy: 'height',
  sizes: (cable) => Object.keys(metric.cables[cable]?.rows ?? {}),
  protectiveSize: (cable, size) => metric.cables[cable]!.protective?.[size] ?? size,
  smallConductorA: () => Number.POSITIVE_INFINITY,
  dropPerAm: (size, _, cable) => dataOf(metric, cable).milliVoltPerAmpereMetre[size]! / 1000,
  metric,
})
