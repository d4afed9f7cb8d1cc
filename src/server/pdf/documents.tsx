import { seenBy } from '@/core/design/fed'
import 'server-only'
import { Text, View } from '@react-pdf/renderer'
import { fitnessFor } from '@/core/catalogue/fitness'
import { compareDesigns } from '@/core/choose/compare'
import { endingWords } from '@/core/design/endings'
import { designWorkings } from '@/core/documents/sheet'
import { type Working, workingKeys } from '@/core/design/working'
import { boxDrawing } from '@/core/drawing/box'
import { chainDrawing } from '@/core/drawing/chain'
import { labelDrawing } from '@/core/drawing/label'
import { wiringDrawing } from '@/core/drawing/wiring'
import { type CircuitReport, type EndReport, evaluate } from '@/core/evaluate'
import type { Finding } from '@/core/finding'
import { type Circuit, type Installation, read } from '@/core/installation/installation'
import { formatA, formatOhm, formatSize, type UnitSystem } from '@/core/quantity/format'
import { circuitLabels } from '@/core/documents/labels'
import { expectedWords, readingWords } from '@/core/record/words'
import { wiringPlan } from '@/core/wiring/plan'
import type { StoredJob } from '@/store/jobs'
import { Pairs, type Paper, PaperPage, pdf, PdfDrawing, PdfTable, styles } from './kit'
import { worlds } from '@/core/region/worlds'

export const paperOf = ({ job, revision }: StoredJob, date: string): Paper => ({
  region: job.region,
  title: job.title,
  place: job.place,
  date,
  revision,
})
const WIDTH = 500

const severityWords = { error: 'ERROR', warning: 'Warning', unknown: 'Unknown', note: 'Note' }

export function Findings({ findings, empty }: { findings: readonly Finding[]; empty: string }) {
  if (findings.length === 0) return <Text>{empty}</Text>
  return <Pairs first={70} rows={findings.map((f) => [severityWords[f.severity], `${f.message} (${f.clause})`] as const)} />
}

export function WorkingText({ w }: { w: Working }) {
  return (
    <View style={{ marginBottom: 5 }} wrap={false}>
      <Text>
        <Text style={{ fontWeight: 700 }}>
          {w.title}: {w.result}.
        </Text>{' '}
        {w.formula}. {w.numbers}
        {w.remark ? ` ${w.remark}` : ''}
      </Text>
      <Text style={styles.quiet}>{w.clauses.join('; ')}</Text>
    </View>
  )
}

/** Box and wiring of one kind of accessory. */
function EndText({ job, circuit, end, units }: { job: Installation; circuit: Circuit; end: EndReport; units: UnitSystem }) {
  const { fitted, where, size, feed, boxReport } = end
  const of = where && fitted ? `, ${fitted.name}: ${where}` : ''
  return (
    <>
      <View wrap={false}>
        <Text style={styles.heading} minPresenceAhead={70}>
          Box{of}
        </Text>
        {boxReport.kind ? <PdfDrawing drawing={boxDrawing(boxReport, units)} width={380} /> : <Text>Not chosen.</Text>}
      </View>
      {fitted && (
        <View wrap={false}>
          <Text style={styles.heading} minPresenceAhead={70}>
            Wiring{of}
          </Text>
          <PdfDrawing
            drawing={wiringDrawing(
              job.region,
              fitted,
              wiringPlan(job.region, fitted, circuit.colours, size, units, job.brief.schools),
              size,
              feed,
            )}
            width={330}
          />
        </View>
      )}
    </>
  )
}

function CircuitPages({ stored, report, paper, units }: { stored: StoredJob; report: CircuitReport; paper: Paper; units: UnitSystem }) {
  const job = seenBy(read(stored.job), report)
  const { circuit, chosen } = report
  const { result, design } = chosen
  const all = designWorkings(job, circuit, chosen)
  const differing = report.designs.length > 1 ? compareDesigns(job.region, report.designs, units).filter((r) => r.differs) : []
  return (
    <PaperPage paper={paper}>
      <Text style={{ ...styles.title, fontSize: 17 }}>{circuit.name}</Text>
      <Pairs
        rows={[
          [
            'Fed from',
            [job.supply.board || worlds[job.region].words.board, circuit.way && `way ${circuit.way}`].filter(Boolean).join(', '),
          ],
          ['Why from there', circuit.source ? `${circuit.source.words}${circuit.source.reason ? `: ${circuit.source.reason}` : ''}` : ''],
          ['Powers', circuit.load.name],
          [
            'Load',
            result
              ? `${formatA(result.loadA)} at ${circuit.load.volts} V${circuit.load.continuous ? ', three hours or more' : ''}`
              : 'not known',
          ],
          ['Ends on', endingWords(circuit, design)],
          ['Cable', result?.size ? `${formatSize(result.size)}, protective ${formatSize(result.protectiveSize!)}` : 'not worked out'],
          [
            'Ze at the board',
            worlds[job.region].metric === null ? '' : job.supply.zeOhm === null ? 'not known' : formatOhm(job.supply.zeOhm),
          ],
        ]}
      />
      <View style={{ marginTop: 8 }} wrap={false}>
        <PdfDrawing drawing={chainDrawing(job, circuit, chosen, units)} width={WIDTH} />
      </View>
      <Text style={styles.heading} minPresenceAhead={70}>
        Findings
      </Text>
      <Findings findings={report.findings} empty="None in circuit and box as described." />
      {workingKeys.some((k) => all[k]) && (
        <>
          <Text style={styles.heading} minPresenceAhead={70}>
            How the figures came about
          </Text>
          {workingKeys.flatMap((k) => (all[k] ? [<WorkingText key={k} w={all[k]} />] : []))}
        </>
      )}
      {differing.length > 0 && (
        <>
          <Text style={styles.heading} minPresenceAhead={70}>
            Alternatives considered
          </Text>
          <PdfTable
            columns={[
              { name: ' ', flex: 2 },
              ...report.designs.map((d) => ({ name: `${d.design.name}${d.design.id === circuit.chosen ? ' (chosen)' : ''}`, flex: 3 })),
            ]}
            rows={differing.map((r) => [r.name, ...r.values])}
          />
          {circuit.reason && <Text style={{ marginTop: 4 }}>Why: {circuit.reason}</Text>}
        </>
      )}
      {report.ends.map((e) => (
        <EndText key={e.points.join()} job={job} circuit={circuit} end={e} units={units} />
      ))}
      <Text style={styles.heading} minPresenceAhead={70}>
        Tests
      </Text>
      {report.testReport.judged.length === 0 ? (
        <Text>Not worked out: the circuit is not complete.</Text>
      ) : (
        <PdfTable
          columns={[
            { name: 'Test', flex: 5 },
            { name: 'Expected', flex: 3 },
            { name: 'Reading', flex: 2 },
            { name: 'Verdict', flex: 2 },
            { name: 'By, when', flex: 3 },
          ]}
          rows={report.testReport.judged.map((j) => [
            j.test.title,
            expectedWords(j.test),
            j.reading ? readingWords(j.reading) : '',
            j.verdict === 'met' ? 'as expected' : j.verdict === 'off' ? `OFF: ${j.message}` : 'not measured',
            j.reading
              ? `${j.reading.by}, ${j.reading.at.slice(0, 16).replace('T', ' ')}${j.earlier.length ? `; corrects ${j.earlier.length}` : ''}`
              : '',
          ])}
        />
      )}
    </PaperPage>
  )
}

/** What was asked, decided, done and measured: for the customer and for the next electrician. */
export function recordPdf(stored: StoredJob, date: string, units: UnitSystem): Promise<Buffer> {
  const { job } = stored
  const report = evaluate(job, stored.readings)
  const paper = paperOf(stored, date)
  const { brief } = job
  const open = report.stages.filter((s) => s.id !== 'handover').flatMap((s) => s.open)
  return pdf(
    [
      <PaperPage key="front" paper={paper}>
        <Text style={styles.title}>{job.title}</Text>
        <Text>{[job.place, date, `revision ${stored.revision}`].filter(Boolean).join(', ')}</Text>
        {report.stop && (
          <Text style={{ marginTop: 8, padding: 6, borderWidth: 2, borderColor: '#000000', fontWeight: 700 }}>STOPPED. {report.stop}</Text>
        )}
        <Text style={styles.heading} minPresenceAhead={70}>
          What was asked for
        </Text>
        <Pairs
          rows={[
            ['Request', brief.request],
            ['Asked by', [brief.askedBy, brief.through && `through ${brief.through}`].filter(Boolean).join(', ')],
            ['Found there', brief.existing],
            ['Finish expected', brief.finish],
            ['Wishes for later', brief.later],
            ['The place is', brief.environment ?? 'not said'],
          ]}
        />
        <Text style={styles.heading} minPresenceAhead={70}>
          Before anything was opened
        </Text>
        <PdfTable
          columns={[
            { name: 'Question', flex: 6 },
            { name: 'Answer', flex: 1 },
          ]}
          rows={fitnessFor(job.region).map((q) => [
            q.ask,
            brief.fitness[q.id] === 'unknown' ? 'not known' : (brief.fitness[q.id] ?? 'not answered'),
          ])}
        />
        <Text style={styles.heading} minPresenceAhead={70}>
          Still open
        </Text>
        {open.length === 0 ? (
          <Text>Nothing asked for is missing from this record.</Text>
        ) : (
          <Pairs
            first={70}
            rows={open.map(
              (o) =>
                [
                  o.stage,
                  `${o.circuit && report.circuits.length > 1 ? `${report.byCircuit.get(o.circuit)!.circuit.name}: ` : ''}${o.ask}`,
                ] as const,
            )}
          />
        )}
        <Text style={{ ...styles.quiet, marginTop: 14 }}>
          This record says what was decided and measured, and what was not. It does not say that the installation is safe. Local code, the
          inspector and licensed practice come first. Figures rest on the clauses named beside them; verify the edition in force.
        </Text>
      </PaperPage>,
      ...report.circuits.map((c) => <CircuitPages key={c.circuit.id} stored={stored} report={c} paper={paper} units={units} />),
    ],
    `${job.title}, record`,
  )
}

/** One page a circuit, type no smaller than 11 pt, to stick up in front while terminating. */
export function wiringPdf(stored: StoredJob, date: string, units: UnitSystem, circuitId: string | null): Promise<Buffer> {
  const { job } = stored
  const report = evaluate(job, stored.readings)
  const paper = paperOf(stored, date)
  const chosen = report.circuits.filter((c) => circuitId === null || c.circuit.id === circuitId)
  const ends = chosen.flatMap((c) => c.ends.flatMap((e) => (e.fitted ? [{ ...e, c, fitted: e.fitted }] : [])))
  const pages = ends.map(({ c, fitted, points, where, size, feed }) => {
    const plan = wiringPlan(job.region, fitted, c.circuit.colours, size, units, job.brief.schools)
    return (
      <PaperPage key={`${c.circuit.id} ${points[0]}`} paper={paper} large>
        <Text style={{ ...styles.title, fontSize: 19 }}>
          {c.circuit.name}: {fitted.name}
        </Text>
        {where && <Text>At {where}.</Text>}
        {fitted.caution && <Text style={{ fontWeight: 700, marginTop: 2 }}>{fitted.caution}</Text>}
        <View style={{ alignItems: 'center', marginVertical: 2 }}>
          <PdfDrawing drawing={wiringDrawing(job.region, fitted, plan, size, feed)} width={435} />
        </View>
        {plan.steps.map((s, i) => (
          <View key={s.id} style={{ flexDirection: 'row', marginBottom: 1.5 }}>
            <Text style={{ width: 20, fontSize: 11 }}>{i + 1}</Text>
            <Text style={{ flex: 1, fontSize: 11, lineHeight: 1.22 }}>
              {s.text} {s.clause ? `(${s.clause})` : ''}
            </Text>
          </View>
        ))}
      </PaperPage>
    )
  })
  const none = (
    <PaperPage key="none" paper={paper} large>
      <Text>No accessory is chosen yet, so there is nothing to wire.</Text>
    </PaperPage>
  )
  return pdf(pages.length ? pages : [none], `${job.title}, wiring`)
}

const POINTS_PER_MM = 72 / 25.4

export const allLabels = (stored: StoredJob, date: string, units: UnitSystem) =>
  evaluate(stored.job, stored.readings).circuits.flatMap((c) => circuitLabels(seenBy(read(stored.job), c), c, date, units))

/** Every label at its real size, to cut out. */
export function labelsPdf(stored: StoredJob, date: string, units: UnitSystem): Promise<Buffer> {
  return pdf(
    <PaperPage paper={paperOf(stored, date)}>
      <Text style={{ ...styles.quiet, marginBottom: 6 }}>At real size: print at 100 %. Check one against a rule before cutting.</Text>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
        {allLabels(stored, date, units).map((l) => (
          <View key={l.id} wrap={false}>
            <Text style={styles.quiet}>{l.where}</Text>
            <PdfDrawing drawing={labelDrawing(l)} width={l.widthMm * POINTS_PER_MM} />
          </View>
        ))}
      </View>
    </PaperPage>,
    `${stored.job.title}, labels`,
  )
}
