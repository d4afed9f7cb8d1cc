import { inRegion } from '@/core/region/spelling'
import { clock } from '@/core/job/day'
import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { isolationCards, isolationFound, NOTHING_ISOLATES, stepTitle } from '@/core/workday/isolation'
import { agreedOf, amountWords, materialsOf, offerOf } from '@/core/workday/materials'
import { sideBySide } from '@/core/choose/alternatives'
import { daylightOn } from '@/core/workday/daylight'
import { daysOf } from '@/core/workday/days'
import { placedOn } from '@/core/workday/plan'
import { toolsOf } from '@/core/workday/tools'
import { type MinutesTable, tasksOf } from '@/core/workday/tasks'
import { timelineDrawing } from '@/core/drawing/timeline'
import { evaluate } from '@/core/evaluate/evaluate'
import { read } from '@/core/installation/installation'
import { newDay } from '@/core/job/day'
import { trim, type UnitSystem } from '@/core/base/format'
import { expectedWords } from '@/core/verify/words'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { boxed, columns, figure, headed, pairs, type Document, quietly, title, words } from './kit'

/** The day as papers are made of it. */
export function dayOfJob(stored: StoredJob, minutes: MinutesTable) {
  const job = read(stored.job)
  const report = evaluate(job, stored.readings)
  const day = job.day ?? newDay()
  const tasks = tasksOf(job, report, minutes)
  return { job, report, day, tasks, placed: day.planned ? placedOn(day.planned, tasks, day) : [] }
}
const none = new Set<string>()
type DayOfJob = ReturnType<typeof dayOfJob>

/** The clock and the tasks, a day each. */
function planContent({ job, day, placed }: DayOfJob): Content[] {
  const head = title(day.date === null ? 'The day' : `The day: ${day.date}`)
  if (placed.length === 0) return [head, quietly('No plan has been accepted yet: the isolation cards and the materials follow.')]
  const people = (list: readonly number[]) => list.map((i) => day.people[i]?.name || `person ${i + 1}`).join(', ')
  const { people: who, startMin, endMin } = day
  const light = daylightOn(day)
  return [
    head,
    ...daysOf(placed, day.planned!.outages).flatMap((one, n, all): Content[] => [
      ...(all.length > 1 ? [words(`Day ${n + 1}`, { bold: true })] : []),
      figure(timelineDrawing({ ...one, people: who, light, startMin, endMin, done: none, doing: none, format: 'wide' }), 510),
    ]),
    columns(
      job.region,
      [
        { name: '', flex: 0.5 },
        { name: 'When', flex: 2 },
        { name: 'What', flex: 5 },
        { name: 'Who', flex: 2 },
        { name: 'Supply', flex: 1.2 },
        { name: 'Why then', flex: 4 },
      ],
      placed.map((p, i) => [
        String(i + 1),
        `${clock(p.startMin)} to ${clock(p.endMin)}`,
        p.task.name,
        people(p.people),
        p.task.power === 'any' ? '' : p.task.power,
        p.why,
      ]),
      'Tasks',
    ),
  ]
}

/** A card for one outage: what is opened, what stays live, what is proved dead and by whom it was signed. */
export function isolationContent({ job, report }: DayOfJob, c: ReturnType<typeof isolationCards>[number]): Content[] {
  const found = isolationFound(job, report.circuits, c.places)
  return [
    title(c.span ? `Isolation, ${clock(c.span.fromMin)} to ${clock(c.span.toMin)}` : 'Isolation', 18),
    ...(c.unknown.length ? [boxed(c.unknown.join(' '))] : []),
    pairs([
      ['Opened, locked, tagged', c.unknown.length ? '' : (found.opens?.join('; ') ?? NOTHING_ISOLATES)],
      ['Not in the wiring, and not judged', found.notJudged.join(', ')],
      ['Stays live there', found.staysLive.join('; ')],
      ['Also loses power', found.loses.join(', ')],
      ['Must stay on, but goes off', found.mustHold.join(', ')],
      ['Must stay on, but may trip', found.mayTrip.join('; ')],
      ['Proved again after', c.breaks.join(', ')],
    ]),
    ...c.circuits.map((x) =>
      columns(
        job.region,
        [
          { name: 'Step', flex: 5 },
          { name: 'Should read', flex: 2 },
          { name: 'Read', flex: 1.5 },
          { name: 'Time', flex: 1.2 },
        ],
        x.testReport.judged
          .filter((j) => j.test.phase === 'isolation')
          .map((j) => [stepTitle(j.test, found), expectedWords(j.test), '', '']),
        x.circuit.name,
      ),
    ),
    pairs([['Signed', c.signatures.map((s) => `${s.name}${s.told ? ` (told: ${s.told})` : ''}`).join('; ') || ' ']]),
  ]
}

export function materialsContent({ job, report }: DayOfJob, units: UnitSystem): Content[] {
  const { lines, unknown } = materialsOf(job, report)
  if (lines.length === 0) return [...headed('Materials', quietly('Nothing can be counted yet.'))]
  return [
    columns(
      job.region,
      [
        { name: 'What', flex: 6 },
        { name: 'How many', flex: 2 },
        { name: 'Where', flex: 4 },
      ],
      lines.map((l) => [l.what, amountWords(l, units), l.where.join(', ')]),
      'Materials',
    ),
    ...unknown.map((u) => quietly(`Not counted: ${u}`)),
  ]
}

function toolsContent({ job, report, tasks }: DayOfJob): Content[] {
  const tools = toolsOf(job, report, tasks)
  if (tools.length === 0) return []
  return [
    columns(
      job.region,
      [
        { name: 'Tool', flex: 5 },
        { name: 'Or', flex: 5 },
      ],
      tools.map((t) => [t.name, t.second ?? '']),
      'Tools',
    ),
  ]
}

/** One paper for the van: the clock, the tasks, a card for each outage, and what is taken along. */
export function dayPaper(stored: StoredJob, date: string, units: UnitSystem, minutes: MinutesTable): Document {
  const of = dayOfJob(stored, minutes)
  const { job, report, day, tasks } = of
  const cards = isolationCards(job, report, day, tasks)
  return {
    paper: paperOf(stored, date),
    sections: day.planned
      ? [planContent(of), ...cards.map((c) => isolationContent(of, c)), [...materialsContent(of, units), ...toolsContent(of)]]
      : [
          [...planContent(of), ...cards.flatMap((c) => isolationContent(of, c))],
          [...materialsContent(of, units), ...toolsContent(of)],
        ],
    name: `The day: ${job.title}`,
  }
}

/** What the work comes to, for the person who asked for it. What rests on usual figures, or is not known, is marked. */
export function offerPaper(stored: StoredJob, date: string, units: UnitSystem, minutes: MinutesTable): Document {
  const { job, report, day, tasks } = dayOfJob(stored, minutes)
  const materials = materialsOf(job, report)
  const offer = offerOf(job, materials, tasks)
  const options = sideBySide(job, report, minutes)
  const agreed = agreedOf(day, offer)
  const money = (n: number) => n.toFixed(2)
  return {
    paper: paperOf(stored, date),
    sections: [
      [
        title(inRegion(job.region, 'Quotation')),
        words(job.brief.request || job.title, { margin: [0, 4, 0, 8] }),
        ...(offer.usual
          ? [boxed(inRegion(job.region, 'This uses typical prices, not the firm’s own: it is an estimate, not a quotation.'))]
          : []),
        columns(
          job.region,
          [
            { name: 'What', flex: 6 },
            { name: 'How many', flex: 2 },
            { name: 'Sum', flex: 2 },
          ],
          [
            ...materials.lines.map((l) => [l.what, amountWords(l, units), l.price === null ? 'no price' : money(l.count * l.price)]),
            ['Work', `${trim(offer.labourH, 1)} h`, money(offer.labour)],
            ...(day.marginPercent === null ? [] : [['Markup', `${trim(day.marginPercent, 1)} %`, money(offer.margin)]]),
            ...(day.taxPercent === null ? [] : [['Tax', `${trim(day.taxPercent, 1)} %`, money(offer.tax)]]),
            ['Total', '', money(offer.total)],
          ],
        ),
        ...(agreed && day.accepted
          ? headed(
              'Accepted',
              columns(
                job.region,
                [
                  { name: 'What', flex: 6 },
                  { name: 'Agreed with', flex: 3 },
                  { name: 'Sum', flex: 2 },
                ],
                [
                  ['As quoted', `${day.accepted.by}, ${day.accepted.at.slice(0, 10)}`, money(day.accepted.total)],
                  ...(day.variations ?? []).map((v) => [v.words, `${v.agreedBy}, ${v.at.slice(0, 10)}`, money(v.amount)]),
                  ['Agreed total', '', money(agreed.total)],
                  ...(Math.abs(agreed.notAgreed) >= 0.005 ? [['Not agreed yet', '', money(agreed.notAgreed)]] : []),
                ],
              ),
            )
          : []),
        ...(options.length
          ? headed(
              'Options',
              columns(
                job.region,
                [
                  { name: 'Instead', flex: 4 },
                  { name: 'What it changes', flex: 6 },
                  { name: 'Total', flex: 2 },
                ],
                options.map((o) => [
                  `${o.circuit}: ${o.name}`,
                  [...o.changes, ...(o.worse ? [`${o.worse} more wrong or not known`] : [])].join('; '),
                  o.more === null ? 'not known' : money(offer.total + o.more),
                ]),
              ),
            )
          : []),
        ...(offer.unknown.length ? headed('Not known, and not included', { stack: offer.unknown.map((u) => quietly(u)) }) : []),
      ],
    ],
    name: inRegion(job.region, `Quotation: `) + job.title,
  }
}
