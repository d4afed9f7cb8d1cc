import { accessory } from '../catalogue/accessories'
import type { DesignReport } from '../evaluate/evaluate'
import type { Design } from '../installation/installation'
import { formatA, formatLength, formatOhm, formatPercent, formatSize, formatTemperature, trim, type UnitSystem } from '../base/format'
import { inRegion } from '../region/spelling'
import type { RegionId } from '../region/types'
import { cableNames, methodNames } from '../region/vocabulary'
import { worlds } from '../region/worlds'

export interface ComparedRow {
  readonly name: string
  readonly values: readonly string[]
  readonly differs: boolean
  /** What comes out, as against what was put in. */
  readonly outcome: boolean
}

type Read = (r: DesignReport, units: UnitSystem, region: RegionId) => string
type Row = readonly [name: string | ((region: RegionId) => string), read: Read, where?: (region: RegionId) => boolean]
const american = (region: RegionId): boolean => worlds[region].metric === null
const metric = (region: RegionId): boolean => !american(region)

const given: readonly Row[] = [
  ['Cable', ({ design }) => cableNames[design.cable] ?? design.cable],
  ['Conductor', ({ design }, _, region) => inRegion(region, design.conductor)],
  [
    'Length',
    ({ design: { lengthM, stretches } }, u) =>
      stretches.length > 0 ? `in ${stretches.length} sections` : lengthM === null ? '?' : formatLength(lengthM, u),
  ],
  [
    'How it is run',
    ({ design }) =>
      design.method === null ? `${design.loadedConductors} loaded conductors` : (methodNames[design.method] ?? design.method),
  ],
  ['Circuits together', ({ design }) => String(design.groupedCircuits), metric],
  ['In insulation', ({ design }) => `${trim(design.insulationMm, 0)} mm`, metric],
  ['Ambient', ({ design }, u) => formatTemperature(design.ambientC, u)],
  ['Terminals', ({ design }) => `${design.terminalC} °C`, american],
  ['Ends on', ({ design }) => accessory(design.accessory)?.name ?? '?'],
  ['How many', ({ design }) => String(design.accessories)],
  ['Cord', ({ design }) => (design.cordA === null ? 'none' : formatA(design.cordA))],
  ['Breaker type', ({ design }) => design.breakerType, metric],
  [
    (region) => `${worlds[region].words.rcd} protection`,
    ({ design }: { design: Design }) => (design.residual.at === 'none' ? 'none' : `${design.residual.ma} mA at the ${design.residual.at}`),
  ],
]
const worked: readonly Row[] = [
  ['Breaker', ({ result }) => (result?.breakerA ? `${result.breakerA} A` : '?')],
  ['Size', ({ result }) => (result?.size ? formatSize(result.size) : '?')],
  ['Carries', ({ result }) => (result?.ampacityA ? formatA(result.ampacityA) : '?')],
  ['Voltage drop', ({ result }) => (result?.dropPercent == null ? '?' : formatPercent(result.dropPercent))],
  ['Weakest link', ({ result }) => (result?.weakestLink ? `${result.weakestLink.link}, ${formatA(result.weakestLink.ratingA)}` : '?')],
  ['Earth fault loop', ({ result }) => (result?.zsOhm == null ? '–' : formatOhm(result.zsOhm)), metric],
  [
    'Findings',
    ({ findings }) =>
      findings
        .filter((f) => f.severity !== 'note')
        .map((f) => f.rule.replaceAll('-', ' '))
        .join('; ') || 'none',
  ],
]

/** Alternatives row by row; rows in which all agree are marked so, and need not be read. */
export function compareDesigns(region: RegionId, reports: readonly DesignReport[], units: UnitSystem): ComparedRow[] {
  const rows = (list: typeof given, outcome: boolean) =>
    list
      .filter(([, , where]) => where?.(region) !== false)
      .map(([name, read]): ComparedRow => {
        const values = reports.map((r) => read(r, units, region))
        return { name: typeof name === 'string' ? name : name(region), values, outcome, differs: values.some((v) => v !== values[0]) }
      })
  return [...rows(given, false), ...rows(worked, true)]
}
