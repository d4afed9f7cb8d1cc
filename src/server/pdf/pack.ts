import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { type PackPart, packParts, usualParts } from '@/core/documents/pack-parts'
import { type Certificate, certificatesOf } from '@/core/documents/certificate'
import { seenBy } from '@/core/design/fed'
import { chainDrawing } from '@/core/drawing/chain'
import type { UnitSystem } from '@/core/base/format'
import { formatA, formatOhm, formatSize, trim } from '@/core/base/format'
import type { CircuitReport, Report } from '@/core/evaluate/evaluate'
import { inRegion } from '@/core/region/spelling'
import { worlds } from '@/core/region/worlds'
import { isolationCards } from '@/core/workday/isolation'
import type { MinutesTable } from '@/core/workday/tasks'
import { headOf, type Link, standingIssue } from '@/store/chain'
import type { ChangeRow, StoredJob } from '@/store/jobs'
import { boxesPaper } from './boxes'
import { certificateContent } from './certificate'
import { dayOfJob, isolationContent, materialsContent } from './day'
import { designPaper } from './design'
import { aboutCircuit, alternatives, findingsList, lowVoltage, paperOf, recordPaper, takenOut, tests, wiringPaper } from './documents'
import { boxed, columns, contents, type Document, figure, headed, pairs, part, quietly, title, together, words } from './kit'
import { photographsPaper, type Pictured } from './photographs'
import { routePaper } from './route'
import { doorPaper } from './survey'

export interface Packed {
  readonly stored: StoredJob
  readonly units: UnitSystem
  readonly minutes: MinutesTable
  readonly photographs: readonly Pictured[]
  /** Parts that are wanted; null: all but those that only the work itself needs. */
  readonly parts: readonly string[] | null
  readonly chain: readonly Link[]
  /** Changes since the last issue but the newest, newest first. */
  readonly changes: readonly Pick<ChangeRow, 'label' | 'at' | 'by' | 'kind'>[]
}

const MOST_LISTED = 3
/** The number a job is called by on paper: the beginning of its id. */
export const jobNumber = ({ id }: Pick<StoredJob, 'id'>): string => `job ${id.slice(0, 8).toUpperCase()}`

const verdictsOf = ({ testReport }: CircuitReport): string => {
  const asked = testReport.judged.filter((j) => !j.test.optional)
  const [met, off] = (['met', 'off'] as const).map((v) => asked.filter((j) => j.verdict === v).length)
  const left = asked.length - met! - off!
  if (asked.length === 0) return 'not worked out'
  return [met ? `${met} as expected` : '', off ? `${off} NOT as expected` : '', left ? `${left} not measured` : '']
    .filter(Boolean)
    .join(', ')
}

/** One page that tells what was done, how it tested, what is open and what to watch for. */
function summary({ stored, chain }: Packed, date: string, report: Report): Content[] {
  const { job } = stored
  const { words: said, typedBreakers } = worlds[job.region]
  const issue = standingIssue(job, stored.readings)
  const before = issue ? null : job.issues?.at(-1)
  const open = report.stages.filter((s) => s.id !== 'handover').flatMap((s) => s.open)
  const found = report.stages.flatMap((s) => s.findings)
  const grave = (['error', 'warning'] as const).flatMap((g) => found.filter((f) => f.severity === g))
  const signed =
    issue?.signatures.map((s) => [s.name, s.qualification, s.registration, `for the ${s.for}`].filter(Boolean).join(', ')) ?? []
  return [
    title(job.title, 26),
    words(
      [
        job.place,
        jobNumber(stored),
        date,
        issue ? `issue ${issue.n}` : before ? `changed since issue ${before.n}` : 'not signed yet',
        `revision ${stored.revision}`,
      ]
        .filter(Boolean)
        .join(', '),
    ),
    ...(report.stop ? [boxed(`STOPPED. ${report.stop}`)] : []),
    pairs([
      ['Asked for', job.brief.request],
      ['By', [job.brief.askedBy, job.brief.through && `through ${job.brief.through}`].filter(Boolean).join(', ')],
    ]),
    columns(
      job.region,
      [
        { name: 'Circuit', flex: 3 },
        { name: 'Points', flex: 1 },
        { name: said.breaker.charAt(0).toUpperCase() + said.breaker.slice(1), flex: 1.6 },
        { name: 'Cable', flex: 2.4 },
        { name: 'Tests', flex: 3.4 },
      ],
      report.circuits.map((c) => {
        const { result, design } = c.chosen
        return [
          `${c.circuit.name}${c.circuit.work === 'altered' ? ' (altered)' : ''}`,
          String(c.circuit.points.length || 1),
          result?.breakerA == null ? 'not known' : `${typedBreakers ? design.breakerType : ''}${trim(result.breakerA, 1)} A`,
          result?.size ? formatSize(result.size) : 'not known',
          verdictsOf(c),
        ]
      }),
      'What was done',
    ),
    ...(open.length
      ? [
          pairs(
            open.slice(0, MOST_LISTED).map((o) => [o.stage, o.ask] as const),
            70,
            `Still open: ${open.length}`,
          ),
          ...(open.length > MOST_LISTED ? [quietly(`And ${open.length - MOST_LISTED} more, under “What was asked and found”.`)] : []),
        ]
      : headed('Still open', words('Nothing.'))),
    ...findingsList(grave.slice(0, MOST_LISTED), words('Nothing was found that needs watching.'), 'To watch for'),
    ...(grave.length > MOST_LISTED ? [quietly(`And ${grave.length - MOST_LISTED} more, in the part at the end.`)] : []),
    pairs(
      [
        [
          'Signed by',
          signed.join('; ') || (before ? `not signed: the record has changed since issue ${before.n} was signed` : 'not signed yet'),
        ],
        ['Head of the record', headOf(chain) || 'nothing is measured or signed yet'],
      ],
      110,
      'Signatures',
    ),
    quietly(
      'The head is computed from every reading, signed isolation and signature. Check a job archive against it with ' +
        'npm run -s verify. This pack says what was decided and measured, and what was not; it does not say that the ' +
        'installation is safe. Local code, the inspector and licensed practice come first.',
      { margin: [0, 6, 0, 0] },
    ),
  ]
}

function designSummary(stored: StoredJob, report: Report): Content[] {
  const { metric, typedBreakers, words: said } = worlds[stored.job.region]
  const rows = report.circuits.map((c) => {
    const { result, design, layout } = c.chosen
    const known = <T>(v: T | null | undefined, say: (x: T) => string) => (v == null ? 'not known' : say(v))
    return [
      c.circuit.name,
      known(result?.loadA, formatA),
      known(result?.breakerA, (a) => `${typedBreakers ? design.breakerType : ''}${trim(a, 1)} A`),
      result?.size ? `${formatSize(result.size)}, ${formatSize(result.protectiveSize!)}` : 'not known',
      known(result?.ampacityA, formatA),
      known(layout?.worstDrop?.dropPercent ?? result?.dropPercent, (p) => `${trim(p, 2)} %`),
      ...(metric ? [known(layout?.worstLoop?.zsOhm, formatOhm), known(layout?.loopLimit?.ohm, formatOhm)] : []),
    ]
  })
  const names = ['Circuit', 'Load', said.breaker, `Line, ${said.protective}`, 'Carries', 'Drop', ...(metric ? ['Zs', 'Greatest Zs'] : [])]
  return [
    columns(
      stored.job.region,
      names.map((name, i) => ({ name: name.charAt(0).toUpperCase() + name.slice(1), flex: i === 0 ? 3 : i === 3 ? 2.6 : 1.6 })),
      rows,
    ),
    quietly('The annex shows each figure with its formula, numbers and clause.', { margin: [0, 4, 0, 0] }),
  ]
}

function changedSince({ changes }: Packed): Content[] {
  if (changes.length === 0) return []
  return [
    pairs(
      changes.map((c) => [`${c.at.slice(0, 16).replace('T', ' ')}, ${c.by}`, c.label] as const),
      150,
    ),
  ]
}

/** Findings that are open: by circuit, gravest first; and the cautions of what was fitted. */
function watchFor(report: Report): Content[] {
  const all = report.stages.flatMap((s) => s.findings)
  const grades = ['error', 'warning', 'unknown', 'note'] as const
  const cautions = [
    ...new Set(report.circuits.flatMap((c) => c.ends.flatMap((e) => (e.fitted?.caution ? [`${e.fitted.name}: ${e.fitted.caution}`] : [])))),
  ]
  return [
    ...findingsList(
      grades.flatMap((g) => all.filter((f) => f.severity === g)),
      words('None.'),
      'Findings',
    ),
    ...(cautions.length ? headed('Of what was fitted', { ul: cautions.map((c) => words(c)) }) : []),
  ]
}

/** Everything of a job that is kept, as one document: a summary of one page, what it contains, and the parts that were asked for. */
export function packPaper(asked: Packed, date: string): Document {
  const { stored, units, minutes, photographs } = asked
  const of = dayOfJob(stored, minutes)
  const { job, report } = of
  const certificates: readonly Certificate[] = certificatesOf(
    job,
    report,
    stored.readings,
    standingIssue(stored.job, stored.readings)?.signatures ?? [],
  )
  const [front] = recordPaper(stored, date, units).sections
  const cards = isolationCards(job, report, of.day, of.tasks)
  const made: Readonly<Record<PackPart, () => Content[][]>> = {
    // The title of the job is on the summary already.
    asked: () => [front!.slice(1, -1)],
    done: () =>
      report.circuits.map((c) => [
        together(
          title(c.circuit.name, 15),
          aboutCircuit(seenBy(job, c), c),
          figure(chainDrawing(seenBy(job, c), c.circuit, c.chosen, units), 430),
        ),
        ...alternatives(job, c, units),
      ]),
    routes: () => (stored.job.cables.some((k) => k.route) ? [...routePaper(stored, date, units).sections] : []).map((s) => [...s]),
    chart: () => doorPaper(stored, date).sections.map((s) => [...s]),
    design: () => [designSummary(stored, report)],
    boxes: () => boxesPaper(stored, date, units, null, PACK_BOX).sections.map((s) => [...s]),
    wiring: () => wiringPaper(stored, date, units, null).sections.map((s) => [...s]),
    materials: () => [materialsContent(of, units), [...takenOut(job), ...lowVoltage(job, units)]].filter((s) => s.length > 0),
    isolation: () => cards.map((c) => isolationContent(of, c)),
    certificate: () => certificates.map((c) => certificateContent(job.region, c, 15)),
    tests: () => report.circuits.map((c) => [title(c.circuit.name, 15), ...tests(job, c)]),
    photographs: () => (photographs.length ? photographsPaper(stored, date, photographs, units).sections.map((s) => [...s]) : []),
    watch: () => [watchFor(report)],
    changes: () => [changedSince(asked)].filter((s) => s.length > 0),
    workings: () => designPaper(stored, date, units, null).sections.map((s) => [...s]),
  }
  const wanted = packParts.filter(({ id }) => (asked.parts ?? usualParts).includes(id))
  const parts = wanted.flatMap(({ id, name }): Content[] => {
    const [first, ...rest] = made[id]()
    if (!first) return []
    // Parts and what is in them follow on the page: none begins one of its own, and no heading stands alone at the foot of one.
    const [head, ...more] = first
    const apart = rest.flatMap((s) => [{ text: ' ', fontSize: 8 } as Content, ...s])
    return [{ text: ' ', fontSize: 14 } as Content, together(part(inRegion(job.region, name)), head ?? ''), ...more, ...apart]
  })
  return {
    paper: { ...paperOf(stored, date), number: jobNumber(stored) },
    sections: [summary(asked, date, report), [contents('What this pack contains'), ...parts]],
    name: `${stored.job.title}, handover pack`,
  }
}
/** Width of the drawing of a box, in points: two boxes to a page. */
const PACK_BOX = 270

/** The changes since the issue before the one that is signed now; of a record that is not signed as it is, since its last issue. */
export function changesSinceIssue(
  { job, readings }: Pick<StoredJob, 'job' | 'readings'>,
  history: readonly ChangeRow[],
): readonly ChangeRow[] {
  const before = job.issues?.at(standingIssue(job, readings) ? -2 : -1)
  const since = before?.signatures.at(-1)?.at
  return since === undefined ? [] : history.filter((h) => h.at > since && !h.label.startsWith('Record signed by'))
}
