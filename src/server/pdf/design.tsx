import 'server-only'
import { Text, View } from '@react-pdf/renderer'
import { needsTable } from '@/core/documents/needs-table'
import { endingsOf, endingWords } from '@/core/design/endings'
import { seenBy } from '@/core/design/fed'
import { designWorkings, pointWorkings, sheetTables } from '@/core/documents/sheet'
import type { SelectCircuitInput } from '@/core/calculate/select-circuit'
import { workingKeys } from '@/core/design/working'
import { profileDrawing } from '@/core/drawing/profile'
import { evaluate } from '@/core/evaluate'
import { type Circuit, type Design, type Installation, read } from '@/core/installation/installation'
import { formatA, formatOhm, formatSize, trim, type UnitSystem } from '@/core/quantity/format'
import { cableNames, methodNames } from '@/core/region/vocabulary'
import type { StoredJob } from '@/store/jobs'
import { Findings, paperOf, WorkingText } from './documents'
import { Pairs, PaperPage, pdf, PdfDrawing, styles, TitledTable } from './kit'
import { worlds } from '@/core/region/worlds'

const runPlaces: Record<string, string> = {
  surface: 'along a wall, clipped',
  wall: 'in a wall',
  insulation: 'in insulation',
  attic: 'in the attic',
  underfloor: 'under the floor',
  conduit: 'in conduit with others',
  buried: 'buried',
  outdoors: 'outdoors',
}

/** The conditions that were reckoned with: of the stretch that governs, raceways counted in. */
function runWords(input: SelectCircuitInput | null, stretches: number, terminalC: number): string {
  if (!input) return 'not known yet'
  const run =
    'terminalC' in input
      ? `${input.run.loadedConductors} loaded conductors together, ${trim(input.run.ambientC, 1)} °C, terminals ${terminalC} °C`
      : `${methodNames[input.run.method] ?? input.run.method}, ${input.run.groupedCircuits} together, ${trim(input.run.ambientC, 1)} °C`
  return stretches > 1 ? `${run}, on the stretch that governs` : run
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

/**
 * A sheet a circuit for an inspector to check by hand: what was given, every figure with its formula and numbers, every finding with
 * its clause.
 */
export function designPdf(stored: StoredJob, date: string, units: UnitSystem, circuitId: string | null): Promise<Buffer> {
  const report = evaluate(stored.job, stored.readings)
  const paper = paperOf(stored, date)
  const words = worlds[stored.job.region].words
  const { drop, metric, typedBreakers } = worlds[stored.job.region]
  const pages = report.circuits
    .filter((c) => circuitId === null || c.circuit.id === circuitId)
    .map((one) => {
      const { circuit, chosen } = one
      const job = seenBy(read(stored.job), one)
      const { design, load, layout } = chosen
      const all = designWorkings(job, circuit, chosen)
      const points = pointWorkings(job, circuit, chosen)
      const tables = sheetTables(chosen, units, (id) => runPlaces[design.stretches.find((s) => s.id === id)?.place ?? ''] ?? 'the run')
      const needs = needsTable(job, circuit, chosen)
      const limit = drop.percent(circuit.load.lighting)
      return (
        <PaperPage key={circuit.id} paper={paper}>
          <Text style={{ ...styles.title, fontSize: 17 }}>Design of {circuit.name}</Text>
          <Text style={styles.heading} minPresenceAhead={70}>
            Given
          </Text>
          <Pairs
            rows={[
              ['Fed from', [job.supply.board || words.board, circuit.way && `way ${circuit.way}`].filter(Boolean).join(', ')],
              [
                'Powers',
                circuit.points.length
                  ? powersWords(circuit.points)
                  : `${circuit.load.name} ${circuit.load.amount ?? '?'} ` +
                    `${{ watts: 'W', va: 'VA', amps: 'A', kwh: 'kWh' }[circuit.load.basis]}, ${circuit.load.volts ?? '?'} V`,
              ],
              ['Kind of load', `${circuit.load.nature}${circuit.load.continuous ? ', three hours or more at a stretch' : ''}`],
              ['Cable', `${cableNames[design.cable] ?? design.cable}, ${design.conductor}`],
              ['How it is run', runWords(chosen.input, design.stretches.length, design.terminalC)],
              ['Ends on', endingWords(circuit, design)],
              [
                'Protection',
                `${typedBreakers ? `type ${design.breakerType}, ` : ''}${residualWords(job, circuit, design)}` +
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
            ]}
          />
          {(load?.steps ?? []).map((s) => (
            <Text key={s.words} style={{ marginTop: 3 }}>
              {s.words} ({s.clause})
            </Text>
          ))}
          {layout && layout.points.length > 0 && (
            <View style={{ marginTop: 6 }} wrap={false}>
              <PdfDrawing drawing={profileDrawing(circuit, layout, limit, units)} width={480} />
            </View>
          )}
          {tables.map((t) => (
            <TitledTable key={t.title} title={t.title} columns={t.columns} rows={t.rows} />
          ))}
          {needs.columns.length > 1 && (
            <TitledTable title="What each point needs" columns={needs.columns} rows={needs.rows}>
              <Text style={{ marginTop: 2 }}>{needs.clauses.join('. ')}.</Text>
            </TitledTable>
          )}
          <Text style={styles.heading} minPresenceAhead={70}>
            Worked out
          </Text>
          {workingKeys.some((k) => all[k]) ? (
            workingKeys.flatMap((k) => (all[k] ? [<WorkingText key={k} w={all[k]} />] : []))
          ) : (
            <Text>Nothing can be worked out until what is open is known.</Text>
          )}
          {points.length > 0 && (
            <>
              <View wrap={false}>
                <Text style={styles.heading}>Point by point</Text>
                <WorkingText w={points[0]!} />
              </View>
              {points.slice(1).map((w) => (
                <WorkingText key={w.title} w={w} />
              ))}
            </>
          )}
          {chosen.result?.size && (
            <Text style={{ marginTop: 6, fontWeight: 700 }}>
              Chosen: {chosen.result.breakerA} A, {formatSize(chosen.result.size)} with {formatSize(chosen.result.protectiveSize!)}{' '}
              protective; the cable carries {formatA(chosen.result.ampacityA!)} as it is run.
            </Text>
          )}
          <Text style={styles.heading} minPresenceAhead={70}>
            Findings
          </Text>
          <Findings findings={chosen.findings} empty="None." />
          {circuit.reason && <Text style={{ marginTop: 4 }}>Chosen over others because: {circuit.reason}</Text>}
        </PaperPage>
      )
    })
  return pdf(pages, `${stored.job.title}, design`)
}
