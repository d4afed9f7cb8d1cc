import 'server-only'
import { boardDrawing } from '@/core/drawing/board'
import type { Drawing } from '@/core/drawing/shape'
import { evaluate } from '@/core/evaluate/evaluate'
import { formatA } from '@/core/base/format'
import { boardName, plannedIn } from '@/core/survey/board'
import { read } from '@/core/installation/installation'
import { doorSchedule } from '@/core/documents/door'
import { defectKind } from '@/core/catalogue/defects'
import { MAIN_BOARD } from '@/core/job/board'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { columns, figure, pdf, quietly, title, words } from './kit'

/** The tree on one page, as large as it goes. */
export function tracePdf(stored: StoredJob, date: string, drawing: Drawing): Promise<Buffer> {
  const [wide, tall] = [505, 610]
  return pdf(
    { ...paperOf(stored, date), large: true },
    [
      [
        title('What feeds what, as traced', 17),
        words('Labels on the board are as found and not to be trusted; prove dead before work.', { margin: [0, 0, 0, 8] }),
        figure(drawing, Math.min(wide, (tall * drawing.width) / drawing.height)),
      ],
    ],
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
  const pages = boards.map((report) => [
    title(boardName(job.region, report.board, report.board.id === MAIN_BOARD ? job.supply.board : ''), 17),
    words(
      `${report.board.mainA === null ? 'Main not read' : `Main ${formatA(report.board.mainA)}`}. What stays live with the main off: ` +
        `${report.liveWithMainOff.join('; ')}.`,
      { margin: [0, 0, 0, 6] },
    ),
    columns(
      job.region,
      [
        { name: 'Way', flex: 1.4 },
        { name: 'Rating', flex: 1.8 },
        { name: 'Feeds, as proved', flex: 6 },
        { name: 'Label found', flex: 3 },
        { name: 'Behind', flex: 2.4 },
      ],
      doorSchedule(job, report, evaluated).map((l) => [l.place, l.rating, l.feeds, l.label, l.behind]),
    ),
    words('“Not proved”: nobody has switched it off and looked. Prove dead before any work, whatever stands here.', {
      margin: [0, 8, 0, 10],
    }),
    figure(
      boardDrawing({ job, report, loads: survey.loads, proved: survey.proved, planned: plannedIn(job, report.board.id) }, 'paper'),
      report.ways.length + report.newWays.length > MANY_WAYS ? 400 : 415,
    ),
  ])
  return pdf({ ...paperOf(stored, date), large: true }, pages, `${job.title}, schedule`)
}

const stateWords = { open: 'Not answered yet', work: 'Accepted; not done yet', declined: 'Declined', done: 'Put right' } as const

/** The reply to whoever wrote the report: each finding with what was done about it, or why not. */
export function replyPdf(stored: StoredJob, date: string): Promise<Buffer> {
  const { job } = stored
  const { defects, reportBy } = job
  const count = (state: keyof typeof stateWords) => defects.filter((d) => d.state === state).length
  const answered = defects.map((d, i) => {
    const kind = defectKind(job.region, d.kind)
    const then = d.state === 'declined' ? ` Because: ${d.reason}` : d.state === 'open' ? '' : ` ${kind?.cure ?? ''}`
    return {
      stack: [
        words(`${i + 1}. ${d.code ? `${d.code}: ` : ''}${d.text}`, { bold: true }),
        quietly([d.place, kind?.name, kind?.clause[job.region]].filter(Boolean).join(' · ')),
        words(`${stateWords[d.state]}.${then}`),
      ],
      unbreakable: true,
      margin: [0, 5, 0, 5] as [number, number, number, number],
    }
  })
  const summary =
    `${defects.length} ${defects.length === 1 ? 'finding' : 'findings'}: ${count('done')} put right, ${count('work')} accepted and not ` +
    `done yet, ${count('declined')} declined, ${count('open')} not answered yet.`
  const page = [
    title('Reply to the inspection report'),
    words([job.place, reportBy && `report by ${reportBy}`, date].filter(Boolean).join(', ')),
    words(summary, { margin: [0, 8, 0, 8] }),
    ...answered,
  ]
  return pdf(paperOf(stored, date), [page], `${job.title}, reply`)
}
