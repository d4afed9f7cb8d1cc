import type { DesignReport } from '../evaluate/evaluate'
import type { Circuit, Installation } from '../installation/installation'
import { feetFromMetres } from '../base/units'
import { formatA, formatLength, formatOhm, formatPercent, formatSize, trim, type UnitSystem } from '../base/format'
import { naClauses, naOhmPerKft } from '../region/north-america/awg'
import { unitedKingdomTables } from '../region/united-kingdom/tables'
import { isMeasured, type MeasuredPoint, type PointReport } from '../design/layout'
import { stretchName } from '../design/stretch-names'
import { type Working, type WorkingKey, workings } from '../design/working'
import { worlds } from '../region/worlds'
import { dataOf } from '../region/metric'

const exact = (n: number): string => trim(n, 4)

/** The workings of a design, its allowances and points counted in; a key is absent where the number has no value. */
export function designWorkings(job: Installation, circuit: Circuit, report: DesignReport): Partial<Record<WorkingKey, Working>> {
  const { input, result, load, layout } = report
  if (!input || !result) return {}
  const out = workings(input, result, load?.quarterMore ?? null, report.loopLimit)
  if (load && out.loadA) {
    const drawn = circuit.points.length ? { ...out.loadA, ...sumWorking(circuit, load.nameplateA) } : out.loadA
    out.loadA = {
      ...drawn,
      ...(load.amps === load.nameplateA
        ? {}
        : { numbers: `${exact(load.nameplateA)} A by the nameplate, ${exact(load.amps)} A after its allowance` }),
      clauses: [...drawn.clauses, ...load.steps.map((s) => s.clause)],
      ...(load.steps.length ? { remark: load.steps.map((s) => s.words).join(' ') } : {}),
    }
  }
  if (layout?.worstDrop && out.dropPercent)
    out.dropPercent = {
      ...dropWorking(job, report, layout.worstDrop, circuit),
      title: `Voltage drop at ${layout.worstDrop.point.name}, the worst point`,
    }
  if (layout?.worstLoop && out.zsOhm)
    out.zsOhm = {
      ...loopWorking(job, report, layout.worstLoop)!,
      title: `Earth fault loop at ${layout.worstLoop.point.name}, the worst point`,
    }
  const ahead = report.fed?.dropPercent
  if (ahead != null && out.dropPercent && result.dropPercent !== null)
    out.dropPercent = {
      ...out.dropPercent,
      remark: `With ${exact(ahead)} % lost in ${report.fed!.name}: ${exact(ahead + result.dropPercent)} % from the supply.`,
    }
  if (report.enlargedFrom && out.size)
    out.size = {
      ...out.size,
      remark:
        `Its own run asks for ${formatSize(report.enlargedFrom)}; with what ${report.fed!.name} loses, this is the smallest that ` +
        'keeps to the limit.',
    }
  if (circuit.kind === 'ring' && layout?.legsA) ringWorkings(report, layout.legsA, out)
  return out
}

/** How the points add up: all of them, or the heavier of two lines. */
function sumWorking(circuit: Circuit, amps: number): Pick<Working, 'formula' | 'numbers'> {
  const counted = ({ name, watts, fuseA }: Circuit['points'][number]) => {
    const mostW =
      fuseA === null || circuit.load.volts === null || circuit.kind === 'shared-neutral'
        ? Number.POSITIVE_INFINITY
        : fuseA * circuit.load.volts
    return watts !== null && watts > mostW ? `${name}, by its fuse ${trim(mostW, 1)} W` : `${name} ${watts ?? '?'} W`
  }
  const list = (points: Circuit['points']) => points.map(counted).join(' + ') || 'nothing'
  if (circuit.kind !== 'shared-neutral')
    return {
      formula: 'Ib = Σ P / U, each no more than its fuse',
      numbers: `(${list(circuit.points)}) / ${circuit.load.volts} V = ${exact(amps)} A`,
    }
  const on = (leg: 'A' | 'B') => list(circuit.points.filter((p) => p.leg === leg || p.leg === 'AB'))
  return {
    formula: 'Ib = the heavier line, Σ P / 120 V, what is across both counted at 240 V',
    numbers: `A: ${on('A')}; B: ${on('B')}; the heavier carries ${exact(amps)} A`,
  }
}

/** A ring is chosen by rules of its own: its device, and what each leg carries. */
function ringWorkings(
  { result, layout }: DesignReport,
  legs: { readonly out: number; readonly back: number },
  out: Partial<Record<WorkingKey, Working>>,
): void {
  const { ring } = unitedKingdomTables
  const heavier = Math.max(Math.abs(legs.out), Math.abs(legs.back))
  if (out.breakerA)
    out.breakerA = {
      ...out.breakerA,
      formula: `a ring is protected at ${ring.deviceA.join(' or ')} A`,
      numbers: `${result!.breakerA} A ≥ ${exact(result!.requiredA)} A`,
      clauses: [ring.clause],
    }
  if (out.size)
    out.size = {
      ...out.size,
      formula:
        `smallest size from ${formatSize(ring.minSize)} with Iz ≥ ${ring.minCapacityA} A and ≥ the heavier leg, drop and Zs within ` +
        'their limits at every point',
      numbers:
        `Iz ${exact(result!.ampacityA!)} A ≥ ${ring.minCapacityA} A; heavier leg ${exact(heavier)} A; drop ` +
        `${exact(layout!.worstDrop?.dropPercent ?? 0)} ` +
        `%${layout!.worstLoop ? `; Zs ${exact(layout!.worstLoop.zsOhm!)} Ω ≤ ${exact(layout!.loopLimit!.ohm)} Ω` : ''}`,
      inputs: [
        { name: 'Leg that leaves first', value: formatA(Math.abs(legs.out)) },
        { name: 'Leg that comes back', value: formatA(Math.abs(legs.back)) },
      ],
      clauses: [ring.clause, 'Appendix 15'],
    }
  if (out.weakest) out.weakest = { ...out.weakest, remark: 'The ring as a whole is good for its device where each leg carries its share.' }
}

function dropWorking(job: Installation, { design }: DesignReport, p: MeasuredPoint, circuit: Circuit): Working {
  const volts = (100 * p.dropV) / p.dropPercent
  const common = { title: `Voltage drop at ${p.point.name}`, result: formatPercent(p.dropPercent) }
  const of = Number.isFinite(volts) ? `, of ${trim(volts, 0)} V` : ''
  const region = worlds[job.region].metric
  if (region === null) {
    const ohm = naOhmPerKft(design.conductor, p.size)!
    const shared = circuit.kind === 'shared-neutral'
    return {
      ...common,
      formula: shared
        ? p.point.leg === 'AB'
          ? 'before + L × R × (I of both lines)'
          : 'before + L × R × (I line + I neutral)'
        : 'before + 2 × L × I × R',
      numbers:
        `${exact(p.beforeV)} V + ${shared ? '' : '2 × '}${exact(feetFromMetres(p.spanM))} ft × ${ohm} Ω/kft / 1000` +
        (shared
          ? ` × (${exact(p.throughA)} ${p.neutralA! < 0 ? '−' : '+'} ${exact(Math.abs(p.neutralA!))}) A`
          : ` × ${exact(p.throughA)} A`) +
        ' ' +
        `= ${exact(p.dropV)} V${of}`,
      inputs: [
        { name: 'Cable that reaches it', value: `${p.size}, ${ohm} Ω per 1000 ft` },
        { name: 'Current through it', value: formatA(p.throughA) },
      ],
      clauses: [naClauses.resistance, '210.19(A) informational note: 3 %'],
    }
  }
  const data = dataOf(region, design.cable)
  const mv = data.milliVoltPerAmpereMetre[p.size]!
  return {
    ...common,
    formula:
      circuit.kind === 'ring' && p.point.from === null
        ? 'before ± mV/A/m × L × I / 1000, from the first leg'
        : 'before + mV/A/m × L × I / 1000',
    numbers:
      `${exact(p.beforeV)} V ${p.alongA < 0 ? '−' : '+'} ${mv} × ${exact(p.spanM)} m × ${exact(p.throughA)} A / 1000 = ` +
      `${exact(p.dropV)} V${of}`,
    inputs: [
      { name: 'Cable that reaches it', value: `${formatSize(p.size)}, ${mv} mV/A/m` },
      { name: 'Current through it', value: formatA(p.throughA) },
    ],
    clauses: [data.voltDropClause, region.voltDropLimit.clause],
  }
}

function loopWorking(job: Installation, { design }: DesignReport, p: PointReport): Working | null {
  const region = worlds[job.region].metric
  if (p.zsOhm === null || region === null) return null
  const data = dataOf(region, design.cable)
  return {
    title: `Earth fault loop at ${p.point.name}`,
    result: formatOhm(p.zsOhm),
    formula: `Ze + (r1 + r2) hot (× ${data.operatingMultiplier.toFixed(2)}) along the way; in a ring both ways in parallel`,
    numbers: `${exact(job.supply.zeOhm!)} + ${p.loopWords} = ${exact(p.zsOhm)} Ω`,
    inputs: [{ name: 'Ze at the board', value: formatOhm(job.supply.zeOhm!) }],
    clauses: [data.resistanceClause, region.loopClause],
  }
}

/** Drop and loop of every point, in order, for somebody who checks them by hand. */
export const pointWorkings = (job: Installation, circuit: Circuit, report: DesignReport): Working[] =>
  (report.layout?.points ?? []).flatMap((p) =>
    isMeasured(p) ? [dropWorking(job, report, p, circuit), loopWorking(job, report, p)].filter((w) => w !== null) : [],
  )

export interface SheetTable {
  readonly title: string
  readonly columns: readonly string[]
  readonly rows: readonly (readonly string[])[]
}

/** The stretches and the points of a design as tables; a stretch is named by where it lies and, of several cables, of which. */
export function sheetTables(circuit: Circuit, report: DesignReport, units: UnitSystem): SheetTable[] {
  const { stretches, layout, governing, design } = report
  const tables: SheetTable[] = []
  if (stretches.length > 1)
    tables.push({
      title: 'The cable, section by section',
      columns: ['Section', 'Length', 'Ambient', 'Carries', 'Size needed', ' '],
      rows: stretches.map((s, i) => [
        stretchName(circuit, design, s.conditions),
        s.conditions.segment === null && layout ? '' : s.conditions.lengthM === null ? '?' : formatLength(s.conditions.lengthM, units),
        `${trim(s.conditions.ambientC, 1)} °C`,
        formatA(s.ampacityA),
        s.size ? formatSize(s.size) : s.conditions.governs ? 'none serves' : 'own size',
        i === governing ? 'governs' : '',
      ]),
    })
  if (layout)
    tables.push({
      title: 'Every point',
      columns: ['Point', 'From the board', 'Cable', 'Through it', 'Good for', 'Drop', 'Loop'],
      rows: layout.points.map((p) => [
        p.point.name,
        p.distanceM === null ? '?' : formatLength(p.distanceM, units),
        formatSize(p.size),
        p.throughA === null ? '?' : formatA(p.throughA),
        formatA(p.ampacityA),
        p.dropPercent === null ? '?' : formatPercent(p.dropPercent),
        p.zsOhm === null ? (p.distanceM === null && layout.loopLimit !== null ? '?' : '–') : formatOhm(p.zsOhm),
      ]),
    })
  return tables
}
