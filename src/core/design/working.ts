import { naCableFacts, naClauses, naGroundingSize, naOhmPerKft, naSmallConductorLimitA } from '../region/north-america/awg'
import { dataOf, metricRegions } from '../region/metric'
import { fahrenheitFromCelsius, feetFromMetres } from '../base/units'
import { sentence } from '../job/part'
import { formatA, formatOhm, formatPercent, formatSize, trim } from '../base/format'
import type { LoopLimit } from './loop-limit'
import type { QuarterMore } from './load'
import { methodNames } from '../region/vocabulary'
import { ampacity, limitColumnC } from '../calculate/ampacity'
import { CONTINUOUS_FACTOR, type SelectCircuitInput, type SelectedCircuit } from '../calculate/select-circuit'
import { worlds } from '../region/worlds'

/** How one number came about: the formula, the same with its numbers in, and the tables and clauses behind it. */
export interface Working {
  readonly title: string
  readonly result: string
  readonly formula: string
  readonly numbers: string
  readonly inputs: readonly { readonly name: string; readonly value: string }[]
  readonly clauses: readonly string[]
  readonly remark?: string
}

export const workingKeys = [
  'loadA',
  'requiredA',
  'breakerA',
  'size',
  'ampacityA',
  'dropPercent',
  'protectiveSize',
  'zsOhm',
  'maxZsOhm',
  'weakest',
] as const
export type WorkingKey = (typeof workingKeys)[number]

const quarterMoreWords: Record<QuarterMore, string> = {
  continuous: 'it runs three hours or more',
  motor: 'it is a motor',
  charging: 'it charges a vehicle',
}

const exact = (n: number): string => trim(n, 4)

/** The workings of a selected circuit; a key is absent where the number has no value. */
export function workings(
  input: SelectCircuitInput,
  r: SelectedCircuit,
  quarterMore: QuarterMore | null = input.load.continuous ? 'continuous' : null,
  limit: LoopLimit | null = null,
): Partial<Record<WorkingKey, Working>> {
  const { load } = input
  const { cites, continuousShare, metric } = worlds[input.region]
  const allows = continuousShare < 1 && quarterMore !== null
  const out: Partial<Record<WorkingKey, Working>> = {
    loadA: {
      title: 'Load current',
      result: formatA(r.loadA),
      formula: load.watts === undefined ? 'I = nameplate current' : 'I = P / U',
      numbers: load.watts === undefined ? `${exact(r.loadA)} A` : `${exact(load.watts)} W / ${exact(load.volts)} V = ${exact(r.loadA)} A`,
      inputs: [
        { name: 'Nameplate', value: load.watts === undefined ? `${exact(load.amps!)} A` : `${exact(load.watts)} W` },
        { name: 'Voltage', value: `${exact(load.volts)} V` },
      ],
      clauses: [cites.load],
    },
    requiredA: {
      title: 'Current the circuit must carry',
      result: formatA(r.requiredA),
      formula: allows ? `I × ${CONTINUOUS_FACTOR}` : 'I',
      numbers: allows ? `${exact(r.loadA)} A × ${CONTINUOUS_FACTOR} = ${exact(r.requiredA)} A` : `${exact(r.requiredA)} A`,
      inputs: [{ name: 'Why a quarter more', value: quarterMore === null ? 'nothing asks for it' : quarterMoreWords[quarterMore] }],
      clauses: [quarterMore === 'motor' ? cites.motor : quarterMore === 'charging' ? cites.charging : cites.required],
      ...(continuousShare < 1
        ? {}
        : { remark: 'Here a continuous load needs no allowance of its own; the breaker carries its rating continuously.' }),
    },
  }
  if (r.breakerA === null) return out
  const held = r.findings.some((f) => f.rule === 'breaker-held-to-cord')
  out.breakerA = {
    title: 'Breaker',
    result: `${r.breakerA} A`,
    formula: held
      ? 'largest standard rating from the required current to the cord’s rating'
      : 'smallest standard rating ≥ the greater of required and wanted',
    numbers: held
      ? `${exact(r.requiredA)} A ≤ ${r.breakerA} A ≤ ${exact(input.cord!.ratingA)} A`
      : `${r.breakerA} A ≥ max(${exact(r.requiredA)}, ${exact(input.wantedBreakerA ?? 0)}) A`,
    inputs: [
      { name: 'Required', value: formatA(r.requiredA) },
      { name: 'Wanted', value: input.wantedBreakerA === undefined ? 'none' : formatA(input.wantedBreakerA) },
    ],
    clauses: [cites.overcurrent],
  }
  if (r.size === null) return out
  out.size = sizeWorking(input, r)
  out.ampacityA = ampacityWorking(input, r)
  if (r.dropPercent !== null) out.dropPercent = dropWorking(input, r)
  out.protectiveSize = {
    title: sentence(worlds[input.region].words.protective),
    result: formatSize(r.protectiveSize!),
    formula:
      metric === null
        ? 'table by breaker rating, enlarged with the line’s circular mils, never above the line'
        : 'as made up with the line, or equal to it',
    numbers:
      metric === null
        ? `${naGroundingSize(r.breakerA)} for ${r.breakerA} A → ${r.protectiveSize}`
        : `${formatSize(r.size)} line, ${formatSize(r.protectiveSize!)} protective`,
    inputs: [{ name: 'Line', value: formatSize(r.size) }],
    clauses: [cites.protectiveSize],
  }
  if (!('terminalC' in input) && r.zsOhm != null) loopWorkings(input, r, limit, out)
  if (r.weakestLink)
    out.weakest = {
      title: 'Weakest link',
      result: `${r.weakestLink.link}, ${formatA(r.weakestLink.ratingA)}`,
      formula: 'lowest rating along the chain; on a tie the one nearest the appliance',
      numbers: r.links.map((l) => `${l.link} ${formatA(l.ratingA)}`).join(' · '),
      inputs: [],
      clauses: [cites.cord],
    }
  return out
}

function sizeWorking(input: SelectCircuitInput, r: SelectedCircuit): Working {
  const base = { title: 'Cable size', result: formatSize(r.size!) }
  if ('terminalC' in input) {
    const small = naSmallConductorLimitA(input.conductor, r.size!)
    return {
      ...base,
      formula:
        'smallest size with limit column ≥ required, ampacity ≥ load, breaker ≤ ampacity (or the next rating up), ' +
        'small-conductor limit kept',
      numbers:
        `ampacity ${exact(r.ampacityA!)} A ≥ ${exact(r.loadA)} A; breaker ${r.breakerA} ` +
        `A${r.breakerA! > r.ampacityA! ? `, the next rating above ${exact(r.ampacityA!)} A` : ''}` +
        `${small ? `; limit for ${r.size} is ${small} A` : ''}`,
      inputs: [
        { name: 'Terminals', value: `${input.terminalC} °C` },
        { name: 'Smallest size wanted', value: input.minSize ?? 'none' },
      ],
      clauses: ['240.4(B), (D)', '110.14(C)', naCableFacts[input.cable].clause],
    }
  }
  const region = metricRegions[input.region]
  const limit = input.load.lighting ? region.voltDropLimit.lighting : region.voltDropLimit.other
  return {
    ...base,
    formula: 'smallest size with Iz ≥ In, voltage drop within its limit, and Zs within its limit where the supply is known',
    numbers:
      `Iz ${exact(r.ampacityA!)} A ≥ In ${r.breakerA} A` +
      (r.dropPercent === null ? '; drop not known' : `; drop ${exact(r.dropPercent)} % ≤ ${limit * 100} %`) +
      `${r.zsOhm == null ? '' : `; Zs ${exact(r.zsOhm)} Ω ≤ ${exact(r.maxZsOhm!)} Ω`}`,
    inputs: [
      {
        name: 'Smallest size wanted',
        value: input.minSize
          ? formatSize(input.minSize)
          : `${formatSize(input.load.lighting ? region.minSize.lighting : region.minSize.power)} (${region.minSize.clause})`,
      },
    ],
    clauses: ['433.1.1', region.voltDropLimit.clause, region.loopClause],
  }
}

function ampacityWorking(input: SelectCircuitInput, r: SelectedCircuit): Working {
  const size = r.size!
  if ('terminalC' in input) {
    const a = ampacity({
      region: input.region,
      cable: input.cable,
      size,
      conductor: input.conductor,
      ambientC: input.run.ambientC,
      loadedConductors: input.run.loadedConductors,
      terminalC: input.terminalC,
    })
    const column = limitColumnC(input.cable, input.terminalC)
    const corrected = a.tabulatedA * a.ambientFactor * a.groupingFactor
    return {
      title: 'What the cable may carry',
      result: formatA(a.ampacityA),
      formula: 'min(I table × ambient × grouping, limit column)',
      numbers:
        `min(${a.tabulatedA} × ${a.ambientFactor} × ${a.groupingFactor} = ${exact(corrected)} A, ${column} °C column) = ` +
        `${exact(a.ampacityA)} A`,
      inputs: [
        { name: `Table at ${naCableFacts[input.cable].insulationC} °C insulation`, value: `${a.tabulatedA} A` },
        { name: `Ambient ${trim(fahrenheitFromCelsius(input.run.ambientC), 0)} °F`, value: `× ${a.ambientFactor}` },
        { name: `${input.run.loadedConductors} loaded conductors`, value: `× ${a.groupingFactor}` },
        { name: 'Held to column', value: `${column} °C` },
      ],
      clauses: [naClauses.ampacity, naClauses.ambient, naClauses.grouping, naCableFacts[input.cable].clause],
    }
  }
  const { lengthM: _, ...run } = input.run
  const a = ampacity({ region: input.region, cable: input.cable, size, conductor: 'copper', ...run } as Parameters<typeof ampacity>[0])
  const region = metricRegions[input.region]
  const data = dataOf(region, input.cable)
  return {
    title: 'What the cable may carry',
    result: formatA(a.ampacityA),
    formula: 'Iz = It × Ca × Cg × Ci',
    numbers: `${a.tabulatedA} × ${a.ambientFactor} × ${a.groupingFactor} × ${a.insulationFactor} = ${exact(a.ampacityA)} A`,
    inputs: [
      { name: methodNames[input.run.method] ?? input.run.method, value: `It ${a.tabulatedA} A` },
      { name: `Ambient ${trim(input.run.ambientC, 1)} °C`, value: `Ca ${a.ambientFactor}` },
      { name: `Circuits together: ${input.run.groupedCircuits}`, value: `Cg ${a.groupingFactor}` },
      ...(data.insulation ? [{ name: 'Length in insulation', value: `Ci ${a.insulationFactor}` }] : []),
    ],
    clauses: [
      region.cables[input.cable]!.clause,
      data.ambient.clause,
      data.grouping.clause,
      ...(data.insulation ? [data.insulation.clause] : []),
    ],
  }
}

function dropWorking(input: SelectCircuitInput, r: SelectedCircuit): Working {
  const size = r.size!
  const common = { title: 'Voltage drop', result: formatPercent(r.dropPercent!) }
  if ('terminalC' in input) {
    const ohm = naOhmPerKft(input.conductor, size)!
    return {
      ...common,
      formula: '2 × L × I × R / U',
      numbers:
        `2 × ${exact(feetFromMetres(input.run.lengthM))} ft × ${exact(r.loadA)} A × ${ohm} Ω/kft / 1000 = ` +
        `${exact((r.dropPercent! / 100) * input.load.volts)} V, of ${input.load.volts} V`,
      inputs: [{ name: `${size} ${input.conductor}`, value: `${ohm} Ω per 1000 ft` }],
      clauses: [naClauses.resistance, '210.19(A) informational note: 3 %'],
    }
  }
  const region = metricRegions[input.region]
  const data = dataOf(region, input.cable)
  const mv = data.milliVoltPerAmpereMetre[size]!
  return {
    ...common,
    formula: 'mV/A/m × L × I / 1000 / U',
    numbers:
      `${mv} × ${exact(input.run.lengthM)} m × ${exact(r.loadA)} A / 1000 = ${exact((r.dropPercent! / 100) * input.load.volts)} V, ` +
      `of ${input.load.volts} V`,
    inputs: [{ name: formatSize(size), value: `${mv} mV/A/m` }],
    clauses: [
      data.voltDropClause,
      `${region.voltDropLimit.clause}: ${(input.load.lighting ? region.voltDropLimit.lighting : region.voltDropLimit.other) * 100} %`,
    ],
  }
}

function loopWorkings(
  input: Exclude<SelectCircuitInput, { region: 'north-america' }>,
  r: SelectedCircuit,
  limit: LoopLimit | null,
  out: Partial<Record<WorkingKey, Working>>,
) {
  const region = metricRegions[input.region]
  const data = dataOf(region, input.cable)
  const r1 = data.milliOhmPerMetre20C[r.size!]!
  const r2 = data.milliOhmPerMetre20C[r.protectiveSize!]!
  const ze = input.supply!.zeOhm
  out.zsOhm = {
    title: 'Earth fault loop',
    result: formatOhm(r.zsOhm!),
    formula: `Zs = Ze + (r1 + r2) × L × ${data.operatingMultiplier.toFixed(2)} / 1000`,
    numbers: `${exact(ze)} + (${r1} + ${r2}) × ${exact(input.run.lengthM)} × ${data.operatingMultiplier} / 1000 = ${exact(r.zsOhm!)} Ω`,
    inputs: [
      { name: 'Ze at the board', value: formatOhm(ze) },
      { name: `r1, ${formatSize(r.size!)}`, value: `${r1} mΩ/m` },
      { name: `r2, ${formatSize(r.protectiveSize!)}`, value: `${r2} mΩ/m` },
    ],
    clauses: [data.resistanceClause, region.loopClause],
  }
  if (limit !== null) out.maxZsOhm = limitWorking(input, r.breakerA!, limit)
}

/** The highest loop allowed: by the breaker, by the residual device, and which of them governs. */
function limitWorking(
  input: Exclude<SelectCircuitInput, { region: 'north-america' }>,
  breakerA: number,
  { breakerOhm, residualOhm, governs, ohm, clause }: LoopLimit,
): Working {
  const region = metricRegions[input.region]
  const multiple = region.magneticMultiple[input.breakerType]
  const byBreaker = `${region.nominalV} × ${region.cmin} / (${multiple} × ${breakerA}) = ${exact(breakerOhm)} Ω`
  const byResidual = residualOhm === null ? '' : `${region.rcdTouchVoltageV} / ${input.supply!.rcdMa! / 1000} = ${exact(residualOhm)} Ω`
  const inputs = [{ name: `Breaker, type ${input.breakerType}: ${multiple} × In`, value: formatOhm(breakerOhm) }]
  if (residualOhm !== null) inputs.push({ name: `Residual device, ${input.supply!.rcdMa} mA`, value: formatOhm(residualOhm) })
  return {
    title: 'Highest loop allowed',
    result: formatOhm(ohm),
    formula: governs === 'breaker' ? 'U0 × Cmin / (multiple × In)' : '50 V / residual current',
    numbers: governs === 'breaker' ? byBreaker : byResidual,
    inputs,
    clauses: [clause],
    ...(residualOhm === null
      ? {}
      : {
          remark:
            governs === 'breaker'
              ? 'The breaker governs: it clears an earth fault in time, whatever the residual device does.'
              : clause.startsWith('411.4.5')
                ? 'The residual device governs: the loop is over what the breaker needs, and only it clears an earth fault in time.'
                : 'The residual device governs: the installation is earthed by an electrode (TT).',
        }),
  }
}
