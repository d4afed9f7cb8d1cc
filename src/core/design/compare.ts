import { accessory } from '../catalogue/accessories'
import type { DesignReport } from '../evaluate'
import type { Design } from '../job/schema'
import { formatA, formatLength, formatOhm, formatPercent, formatSize, formatTemperature, type UnitSystem } from '../quantity/format'
import { cableNames, methodNames } from '../region/vocabulary'

export interface ComparedRow {
  readonly name: string
  readonly values: readonly string[]
  readonly differs: boolean
  /** What comes out, as against what was put in. */
  readonly outcome: boolean
}

type Read = (r: DesignReport, units: UnitSystem) => string

const given: readonly [name: string, read: Read][] = [
  ['Cable', ({ design }) => cableNames[design.cable] ?? design.cable],
  ['Conductor', ({ design }) => design.conductor],
  ['Length', ({ design }, u) => (design.lengthM === null ? '?' : formatLength(design.lengthM, u))],
  ['How it is run', ({ design }) => (design.method === null ? `${design.loadedConductors} loaded conductors` : (methodNames[design.method] ?? design.method))],
  ['Circuits together', ({ design }) => String(design.groupedCircuits)],
  ['In insulation', ({ design }) => `${design.insulationMm} mm`],
  ['Ambient', ({ design }, u) => formatTemperature(design.ambientC, u)],
  ['Terminals', ({ design }) => `${design.terminalC} °C`],
  ['Ends on', ({ design }) => accessory(design.accessory)?.name ?? '?'],
  ['How many', ({ design }) => String(design.accessories)],
  ['Cord', ({ design }) => (design.cordA === null ? 'none' : formatA(design.cordA))],
  ['Breaker type', ({ design }) => design.breakerType],
  ['Residual protection', ({ design }: { design: Design }) => (design.residual.at === 'none' ? 'none' : `${design.residual.ma} mA at the ${design.residual.at}`)],
]
const worked: readonly [name: string, read: Read][] = [
  ['Breaker', ({ result }) => (result?.breakerA ? `${result.breakerA} A` : '?')],
  ['Size', ({ result }) => (result?.size ? formatSize(result.size) : '?')],
  ['Carries', ({ result }) => (result?.ampacityA ? formatA(result.ampacityA) : '?')],
  ['Voltage drop', ({ result }) => (result?.dropPercent == null ? '?' : formatPercent(result.dropPercent))],
  ['Weakest link', ({ result }) => (result?.weakestLink ? `${result.weakestLink.link}, ${formatA(result.weakestLink.ratingA)}` : '?')],
  ['Earth fault loop', ({ result }) => (result?.zsOhm == null ? '–' : formatOhm(result.zsOhm))],
  ['Findings', ({ findings }) => findings.filter((f) => f.severity !== 'note').map((f) => f.rule.replaceAll('-', ' ')).join('; ') || 'none'],
]

/** Alternatives row by row; rows in which all agree are marked so, and need not be read. */
export function compareDesigns(reports: readonly DesignReport[], units: UnitSystem): ComparedRow[] {
  const rows = (list: typeof given, outcome: boolean) =>
    list.map(([name, read]): ComparedRow => {
      const values = reports.map((r) => read(r, units))
      return { name, values, outcome, differs: values.some((v) => v !== values[0]) }
    })
  return [...rows(given, false), ...rows(worked, true)]
}
