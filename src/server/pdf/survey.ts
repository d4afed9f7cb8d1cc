import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { listedWords } from '@/core/base/finding'
import { boardDrawing } from '@/core/drawing/board'
import type { Drawing } from '@/core/drawing/shape'
import { evaluate, type Report } from '@/core/evaluate/evaluate'
import { formatA } from '@/core/base/format'
import { boardName, plannedIn } from '@/core/survey/board'
import { type Installation, read } from '@/core/installation/installation'
import { chartChanges, chartWords, doorSchedule } from '@/core/documents/door'
import { defectKind } from '@/core/catalogue/defects'
import { MAIN_BOARD } from '@/core/job/board'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { columns, figure, type Document, quietly, title, words } from './kit'

/** The tree on one page, as large as it goes. */
export function tracePaper(stored: StoredJob, date: string, drawing: Drawing): Document {
  const [wide, tall] = [505, 610]
  return {
    paper: { ...paperOf(stored, date), large: true },
    sections: [
      [
        title('What feeds what, as traced', 17),
        words('Labels on the board are as found and not to be trusted; prove dead before work.', { margin: [0, 0, 0, 8] }),
        figure(drawing, Math.min(wide, (tall * drawing.width) / drawing.height)),
      ],
    ],
    name: `${stored.job.title}, trace`,
  }
}

/** With more ways than these the drawing under them is made smaller, so that the board keeps to one page. */
const MANY_WAYS = 10

/** A page a board for the inside of its door: every way, the label found on it, and what it was proved to feed. */
export function doorPaper(stored: StoredJob, date: string, signed: StoredJob | null = null): Document {
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
        { name: 'Protected by', flex: 2.4 },
      ],
      doorSchedule(job, report, evaluated).map((l) => [l.place, l.rating, l.feeds, l.label, l.behind]),
    ),
    words('“Not proved”: not switched off and checked. Prove dead before any work, whatever this chart says.', {
      margin: [0, 8, 0, 10],
    }),
    figure(
      boardDrawing({ job, report, loads: survey.loads, proved: survey.proved, planned: plannedIn(job, report.board.id) }, 'paper'),
      report.ways.length + report.newWays.length > MANY_WAYS ? 400 : 415,
    ),
  ])
  const changes = signed ? [chartChangedSince(signed, job, evaluated)] : []
  return { paper: { ...paperOf(stored, date), large: true }, sections: [...pages, ...changes], name: `${job.title}, circuit chart` }
}

/** What the chart says otherwise than it did when the record was signed last: which way, when it was signed and by whom. */
function chartChangedSince(signed: StoredJob, job: Installation, now: Report): Content[] {
  const kept = read(signed.job)
  const then = evaluate(signed.job, signed.readings)
  const issue = signed.job.issues?.at(-1)
  const by = listedWords([...new Set(issue?.signatures.map((s) => s.name) ?? [])])
  const linesOf = (of: Installation, report: Report, board: string) => {
    const found = report.boards.find((b) => b.board.id === board)
    return found ? doorSchedule(of, found, report) : []
  }
  const rows = [...new Set([...then.boards, ...now.boards].map((b) => b.board.id))].flatMap((id) => {
    const board = [...now.boards, ...then.boards].find((b) => b.board.id === id)!.board
    const name = boardName(job.region, board, id === MAIN_BOARD ? job.supply.board : '')
    return chartChanges(linesOf(kept, then, id), linesOf(job, now, id)).map((c) => [
      `${name}, ${c.place}`,
      c.was ? chartWords(c.was) : 'was not there',
      c.now ? chartWords(c.now) : 'is no longer there',
    ])
  })
  return [
    title('Changed since the last issue', 17),
    words(`Issue ${issue?.n ?? '?'}, signed ${signed.updatedAt.slice(0, 10)}${by ? ` by ${by}` : ''}.`, { margin: [0, 0, 0, 8] }),
    rows.length
      ? columns(
          job.region,
          [
            { name: 'Where', flex: 2 },
            { name: 'As issued', flex: 4 },
            { name: 'Now', flex: 4 },
          ],
          rows,
        )
      : words('No change.'),
  ]
}

const stateWords = { open: 'Not answered yet', work: 'Accepted; not done yet', declined: 'Declined', done: 'Put right' } as const

/** The reply to the author of the report: each finding with what was done about it, or why not. */
export function replyPaper(stored: StoredJob, date: string): Document {
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
  return { paper: paperOf(stored, date), sections: [page], name: `${job.title}, reply` }
}
