import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { needsTable } from '@/core/documents/needs-table'
import { endingsOf, endingWords } from '@/core/design/endings'
import { seenBy } from '@/core/design/fed'
import { designWorkings, pointWorkings, sheetTables } from '@/core/documents/sheet'
import type { SelectCircuitInput } from '@/core/calculate/select-circuit'
import { workingKeys } from '@/core/design/working'
import { profileDrawing } from '@/core/drawing/profile'
import { type CircuitReport, evaluate } from '@/core/evaluate/evaluate'
import { type Circuit, type Design, type Installation, read } from '@/core/installation/installation'
import { formatA, formatOhm, formatSize, trim, type UnitSystem } from '@/core/base/format'
import { cableNames, methodNames } from '@/core/region/vocabulary'
import { basisNames } from '@/core/job/load'
import type { StoredJob } from '@/store/jobs'
import { findingsList, paperOf, workingText } from './documents'
import { columns, figure, headed, pairs, type Document, title, words } from './kit'
import { worlds } from '@/core/region/worlds'

/** The conditions that were reckoned with: of the stretch that governs, raceways counted in. */
function runWords(input: SelectCircuitInput | null, stretches: number, terminalC: number): string {
  if (!input) return 'not known yet'
  const run =
    'terminalC' in input
      ? `${input.run.loadedConductors} loaded conductors together, ${trim(input.run.ambientC, 1)} °C, terminals ${terminalC} °C`
      : `${methodNames[input.run.method] ?? input.run.method}, ${input.run.groupedCircuits} together, ${trim(input.run.ambientC, 1)} °C`
  return stretches > 1 ? `${run}, on the section that governs` : run
}

/** Each point with its load; of very many what they draw together, as the tables name each. */
function powersWords(points: Circuit['points']): string {
  if (points.length <= LISTED_POINTS) return points.map((p) => `${p.name} ${p.watts ?? '?'} W`).join('; ')
  const unread = points.filter((p) => p.watts === null).length
  return (
    `${points.length} points, ${points.reduce((sum, p) => sum + (p.watts ?? 0), 0)} W ` +
    `together${unread ? `, ${unread} of them not known` : ''}`
  )
}
const LISTED_POINTS = 12

/** Where the residual device is: which one of the board, where that is said. */
function placeOf({ residualDevices }: Installation, { behind }: Circuit, { residual }: Design): string {
  if (residual.at !== 'board') return residual.at === 'first' ? 'in the first outlet' : 'in each outlet'
  return behind === 'own' ? 'at the board, its own' : (residualDevices.find((d) => d.id === behind)?.name ?? 'at the board')
}

/** What residual protection there is, and where. */
function residualWords(job: Installation, circuit: Circuit, design: Design): string {
  const { rcd } = worlds[job.region].words
  const { at, ma, type } = design.residual
  if (at === 'none') return endingsOf(circuit, design).some((e) => e.fitted.residual) ? `${rcd} in the outlet` : `no ${rcd}`
  const marked = !worlds[job.region].typedBreakers ? '' : type ? ` type ${type}` : ', type not known'
  return `${rcd} ${ma} mA${marked}, ${placeOf(job, circuit, design)}`
}

function given(job: Installation, { circuit, chosen }: CircuitReport): Content {
  const { metric, typedBreakers, words: said } = worlds[job.region]
  const { design } = chosen
  const { load } = circuit
  return pairs(
    [
      ['Fed from', [job.supply.board || said.board, circuit.way && `${said.space} ${circuit.way}`].filter(Boolean).join(', ')],
      [
        'Powers',
        circuit.points.length
          ? powersWords(circuit.points)
          : `${load.name} ${load.amount ?? '?'} ${basisNames[load.basis]}, ${load.volts ?? '?'} V`,
      ],
      ['Kind of load', `${load.nature}${load.continuous ? ', three hours or more continuously' : ''}`],
      ['Cable', `${cableNames[design.cable] ?? design.cable}, ${design.conductor}`],
      ['How it is run', runWords(chosen.input, chosen.stretches.length, design.terminalC)],
      ['Ends on', endingWords(circuit, design)],
      [
        'Protection',
        `${typedBreakers ? `breaker type ${design.breakerType}; ` : ''}${residualWords(job, circuit, design)}` +
          `${design.arcFault === 'none' ? '' : `, arc-fault at the ${design.arcFault}`}`,
      ],
      [
        'Supply',
        [
          metric === null ? '' : `Ze ${job.supply.zeOhm === null ? 'not known' : formatOhm(job.supply.zeOhm)}`,
          `fault current ${job.supply.pscKa === null ? 'not known' : `${trim(job.supply.pscKa, 2)} kA`}`,
        ]
          .filter(Boolean)
          .join(', '),
      ],
    ],
    150,
    'Given',
  )
}

const evenly = (region: Installation['region'], over: string, names: readonly string[], rows: readonly (readonly string[])[]): Content =>
  columns(
    region,
    names.map((name, i) => ({ name, flex: i === 0 ? 3 : 2 })),
    rows,
    over,
  )

function sheetOf(stored: StoredJob, one: CircuitReport, units: UnitSystem): Content[] {
  const { circuit, chosen } = one
  const { load, layout, result } = chosen
  const job = seenBy(read(stored.job), one)
  const all = designWorkings(job, circuit, chosen)
  const [firstPoint, ...points] = pointWorkings(job, circuit, chosen)
  const tables = sheetTables(circuit, chosen, units)
  const needs = needsTable(job, circuit, chosen)
  const limit = worlds[job.region].drop.percent(circuit.load.lighting)
  const [first, ...rest] = workingKeys.flatMap((k) => (all[k] ? [workingText(all[k])] : []))
  return [
    title(`Design of ${circuit.name}`, 17),
    given(job, one),
    ...(load?.steps ?? []).map((s) => words(`${s.words} (${s.clause})`, { margin: [0, 3, 0, 0] })),
    ...(layout && layout.points.length > 0 ? [figure(profileDrawing(circuit, layout, limit, units), 480)] : []),
    ...tables.map((t) => evenly(job.region, t.title, t.columns, t.rows)),
    ...(needs.columns.length > 1
      ? [
          evenly(job.region, 'What each point needs', needs.columns, needs.rows),
          words(`${needs.clauses.join('. ')}.`, { margin: [0, 2, 0, 0] }),
        ]
      : []),
    ...headed('Worked out', first ?? words('Nothing can be worked out until what is open is known.'), ...rest),
    ...(firstPoint ? headed('Point by point', workingText(firstPoint), ...points.map(workingText)) : []),
    ...(result?.size
      ? [
          words(
            `Chosen: ${result.breakerA} A, ${formatSize(result.size)} with ${formatSize(result.protectiveSize!)} protective; the cable ` +
              `carries ${formatA(result.ampacityA!)} as it is run.`,
            { bold: true, margin: [0, 6, 0, 0] },
          ),
        ]
      : []),
    ...findingsList(chosen.findings, words('None.')),
    ...(circuit.reason ? [words(`Chosen over others because: ${circuit.reason}`, { margin: [0, 4, 0, 0] })] : []),
  ]
}

/**
 * A sheet a circuit for an inspector to check by hand: what was given, every figure with its formula and numbers, every finding with
 * its clause.
 */
export function designPaper(stored: StoredJob, date: string, units: UnitSystem, circuitId: string | null): Document {
  const sheets = evaluate(stored.job, stored.readings)
    .circuits.filter((c) => circuitId === null || c.circuit.id === circuitId)
    .map((one) => sheetOf(stored, one, units))
  return { paper: paperOf(stored, date), sections: sheets, name: `${stored.job.title}, design` }
}
