import 'server-only'
import { Text, View } from '@react-pdf/renderer'
import { boardDrawing } from '@/core/drawing/board'
import type { Drawing } from '@/core/drawing/shape'
import { evaluate } from '@/core/evaluate'
import { formatA } from '@/core/quantity/format'
import { boardName, plannedIn } from '@/core/survey/board'
import { read } from '@/core/installation/installation'
import { doorSchedule } from '@/core/documents/door'
import { defectKind } from '@/core/catalogue/defects'
import { MAIN_BOARD } from '@/core/job/board'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { PaperPage, pdf, PdfDrawing, PdfTable, styles } from './kit'

/** The tree on one page, as large as it goes. */
export function tracePdf(stored: StoredJob, date: string, drawing: Drawing): Promise<Buffer> {
  const [wide, tall] = [520, 620]
  return pdf(
    <PaperPage paper={paperOf(stored, date)} large>
      <Text style={{ ...styles.title, fontSize: 17 }}>What feeds what, as traced</Text>
      <Text style={{ marginBottom: 8 }}>Labels on the board are as found and not to be trusted; prove dead before work.</Text>
      <PdfDrawing drawing={drawing} width={Math.min(wide, (tall * drawing.width) / drawing.height)} />
    </PaperPage>,
    `${stored.job.title}, trace`,
  )
}

/** With more ways than these the drawing under them is made smaller, so that the board keeps to one page. */
const MANY_WAYS = 10

/** A page a board for the inside of its door: every way, the label found on it, and what it was proved to feed. */
export function doorPdf(stored: StoredJob, date: string): Promise<Buffer> {
  const job = read(stored.job)
  const evaluated = evaluate(stored.job, stored.readings)
  const { boards, survey } = evaluated
  const paper = paperOf(stored, date)
  return pdf(
    boards.map((report) => (
      <PaperPage key={report.board.id} paper={paper} large>
        <Text style={{ ...styles.title, fontSize: 17 }}>
          {boardName(job.region, report.board, report.board.id === MAIN_BOARD ? job.supply.board : '')}
        </Text>
        <Text style={{ marginBottom: 6 }}>
          {report.board.mainA === null ? 'Main not read' : `Main ${formatA(report.board.mainA)}`}. What stays live with the main off:{' '}
          {report.liveWithMainOff.join('; ')}.
        </Text>
        <PdfTable
          columns={[
            { name: 'Way', flex: 1.4 },
            { name: 'Rating', flex: 1.8 },
            { name: 'Feeds, as proved', flex: 6 },
            { name: 'Label found', flex: 3 },
            { name: 'Behind', flex: 2.4 },
          ]}
          rows={doorSchedule(job, report, evaluated).map((l) => [l.place, l.rating, l.feeds, l.label, l.behind])}
        />
        <Text style={{ marginTop: 8 }}>
          “Not proved”: nobody has switched it off and looked. Prove dead before any work, whatever stands here.
        </Text>
        <View style={{ marginTop: 10 }} wrap={false}>
          <PdfDrawing
            drawing={boardDrawing({ job, report, loads: survey.loads, proved: survey.proved, planned: plannedIn(job, report.board.id) })}
            width={report.ways.length + report.newWays.length > MANY_WAYS ? 400 : 430}
          />
        </View>
      </PaperPage>
    )),
    `${job.title}, schedule`,
  )
}

const stateWords = { open: 'Not answered yet', work: 'Accepted; not done yet', declined: 'Declined', done: 'Put right' } as const

/** The reply to whoever wrote the report: each finding with what was done about it, or why not. */
export function replyPdf(stored: StoredJob, date: string): Promise<Buffer> {
  const { job } = stored
  const { defects, reportBy } = job
  const count = (state: keyof typeof stateWords) => defects.filter((d) => d.state === state).length
  return pdf(
    <PaperPage paper={paperOf(stored, date)}>
      <Text style={styles.title}>Reply to the inspection report</Text>
      <Text>{[job.place, reportBy && `report by ${reportBy}`, date].filter(Boolean).join(', ')}</Text>
      <Text style={{ marginVertical: 8 }}>
        {defects.length} {defects.length === 1 ? 'finding' : 'findings'}: {count('done')} put right, {count('work')} accepted and not done
        yet, {count('declined')} declined, {count('open')} not answered yet.
      </Text>
      {defects.map((d, i) => {
        const kind = defectKind(job.region, d.kind)
        return (
          <View key={d.id} style={{ borderTopWidth: 0.5, borderTopColor: '#000000', paddingVertical: 5 }} wrap={false}>
            <Text style={{ fontWeight: 700 }}>
              {i + 1}. {d.text}
            </Text>
            <Text style={styles.quiet}>{[d.place, kind?.name, kind?.clause[job.region]].filter(Boolean).join(' · ')}</Text>
            <Text>
              {stateWords[d.state]}. {d.state === 'declined' ? `Because: ${d.reason}` : d.state === 'open' ? '' : (kind?.cure ?? '')}
            </Text>
          </View>
        )
      })}
    </PaperPage>,
    `${job.title}, reply`,
  )
}
