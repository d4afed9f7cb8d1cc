import { seenBy } from '@/core/design/fed'
import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { fitnessFor } from '@/core/catalogue/fitness'
import { compareDesigns } from '@/core/choose/compare'
import { endingWords } from '@/core/design/endings'
import { designWorkings } from '@/core/documents/sheet'
import { type Working, workingKeys } from '@/core/design/working'
import { boxDrawing } from '@/core/drawing/box'
import { chainDrawing } from '@/core/drawing/chain'
import { labelDrawing } from '@/core/drawing/label'
import { benchDrawing } from '@/core/drawing/bench'
import { type CircuitReport, type EndReport, evaluate, type Report } from '@/core/evaluate/evaluate'
import type { Finding } from '@/core/base/finding'
import { type Installation, read } from '@/core/installation/installation'
import { formatA, formatOhm, formatSize, type UnitSystem } from '@/core/base/format'
import type { Box } from '@/core/build/box'
import { type Removed, removalSteps, removedFrom } from '@/core/build/removed'
import { listedWords } from '@/core/base/finding'
import { circuitLabels, otherLabels } from '@/core/documents/labels'
import { signalWords } from '@/core/rules/signal'
import { asPrinted } from '@/core/documents/label-tape'
import { labelFindings } from '@/core/documents/stuck-labels'
import type { Abbreviation } from '@/core/job/label'
import type { Judged } from '@/core/verify/judge'
import { expectedWords, readingWords } from '@/core/verify/words'
import { workSteps } from '@/core/build/steps'
import type { StoredJob } from '@/store/jobs'
import {
  asWritten,
  type Anchor,
  boxed,
  columns,
  drawnOnce,
  figure,
  headed,
  onPageOf,
  pairs,
  type Paper,
  type Document,
  quietly,
  sideBySide,
  title,
  words,
} from './kit'
import { inJob } from '@/core/region/spelling'
import { worlds } from '@/core/region/worlds'

export const paperOf = ({ job, revision }: StoredJob, date: string): Paper => ({
  region: job.region,
  title: job.title,
  place: job.place,
  date,
  revision,
  worded: (text) => inJob(job, text),
})
const WIDTH = 500

const severityWords = { error: 'ERROR', warning: 'Warning', unknown: 'Unknown', note: 'Note' }

export const findingsList = (findings: readonly Finding[], empty: Content, over: string | Anchor = 'Findings'): readonly Content[] =>
  findings.length
    ? [
        pairs(
          findings.map((f) => [severityWords[f.severity], findingWords(f)] as const),
          70,
          over,
        ),
      ]
    : headed(over, empty)
const findingWords = (f: Finding) => `${f.message} (${f.clause})`

/** What is found of every circuit alike is said once, before them; of few circuits, at each. */
function foundOfAll(circuits: readonly CircuitReport[]): readonly Finding[] {
  if (circuits.length < 3) return []
  const [first, ...others] = circuits.map(({ findings }) => findings)
  const said = others.map((findings) => new Set(findings.map(findingWords)))
  return first!.filter((f) => said.every((of) => of.has(findingWords(f))))
}
const OF_ALL: Anchor = { text: 'Findings on every circuit', id: 'of all' }

export const workingText = (w: Working): Content => ({
  stack: [
    {
      text: [words(`${w.title}: ${w.result}. `, { bold: true }), words(`${w.formula}. ${w.numbers}${w.remark ? ` ${w.remark}` : ''}`)],
    },
    quietly(w.clauses.join('; ')),
  ],
  unbreakable: true,
  margin: [0, 0, 0, 5],
})

type Draw = ReturnType<typeof drawnOnce>

/** Box and wiring of one kind of accessory. */
function endText(end: EndReport, units: UnitSystem, draw: Draw): Content[] {
  const { fitted, where, built, boxReport } = end
  const of = where && fitted ? `, ${fitted.name}: ${where}` : ''
  return [
    ...(boxReport.kind ? draw(`Box${of}`, boxDrawing(boxReport, units), 380) : headed(`Box${of}`, words('Not chosen.'))),
    ...(built ? draw(`Wiring${of}`, benchDrawing(built, null), 330) : []),
  ]
}

export function aboutCircuit(job: Installation, { circuit, chosen }: CircuitReport): Content {
  const { result, design } = chosen
  const { metric, words: said } = worlds[job.region]
  return pairs([
    ['Fed from', [job.supply.board || said.board, circuit.way && `${said.space} ${circuit.way}`].filter(Boolean).join(', ')],
    ['Why from there', circuit.source ? `${circuit.source.words}${circuit.source.reason ? `: ${circuit.source.reason}` : ''}` : ''],
    ['Powers', circuit.load.name],
    [
      'Load',
      result ? `${formatA(result.loadA)} at ${circuit.load.volts} V${circuit.load.continuous ? ', three hours or more' : ''}` : 'not known',
    ],
    ['Ends on', endingWords(circuit, design)],
    ['Cable', result?.size ? `${formatSize(result.size)}, ${said.protective} ${formatSize(result.protectiveSize!)}` : 'not worked out'],
    ['Ze at the board', metric === null ? '' : job.supply.zeOhm === null ? 'not known' : formatOhm(job.supply.zeOhm)],
  ])
}

export function alternatives(job: Installation, { circuit, designs }: CircuitReport, units: UnitSystem): Content[] {
  const differing = designs.length > 1 ? compareDesigns(job.region, designs, units).filter((r) => r.differs) : []
  if (differing.length === 0) return []
  const names = designs.map((d) => ({ name: `${d.design.name}${d.design.id === circuit.chosen ? ' (chosen)' : ''}`, flex: 3 }))
  return [
    columns(
      job.region,
      [{ name: ' ', flex: 2 }, ...names],
      differing.map((r) => [r.name, ...r.values]),
      'Alternatives considered',
    ),
    ...(circuit.reason ? [words(`Why: ${circuit.reason}`, { margin: [0, 4, 0, 0] })] : []),
  ]
}

/** A test, or a test at one of its points: what is expected, what was read, and by whom. */
function testRow({ test, reading, earlier, verdict, message }: Judged, title = test.title): string[] {
  const corrected = earlier.length ? `; corrects ${earlier.length}` : ''
  return [
    title,
    expectedWords(test),
    reading ? readingWords(reading) : '',
    { met: 'as expected', off: `OFF: ${message}`, unknown: 'not measured' }[verdict],
    reading
      ? [`${reading.by}, ${reading.at.slice(0, 16).replace('T', ' ')}${corrected}`, reading.instrument].filter(Boolean).join(', ')
      : '',
  ]
}

export function tests({ region }: Installation, { testReport }: CircuitReport): Content[] {
  if (testReport.judged.length === 0) return headed('Tests', words('Not worked out: the circuit is not complete.'))
  return [
    columns(
      region,
      [
        { name: 'Test', flex: 5 },
        { name: 'Expected', flex: 3 },
        { name: 'Reading', flex: 2 },
        { name: 'Verdict', flex: 2 },
        { name: 'By, when', flex: 3 },
      ],
      testReport.judged.flatMap((j) => [testRow(j), ...(j.points ?? []).map((p) => testRow({ ...p, earlier: [] }, `at ${p.name}`))]),
      'Tests',
    ),
  ]
}

/** What is found of this circuit alone, and where the rest is said. */
function ownFindings({ findings }: CircuitReport, ofAll: readonly Finding[]): readonly Content[] {
  if (ofAll.length === 0) return findingsList(findings, words('None in circuit and box as described.'))
  const said = new Set(ofAll.map(findingWords))
  const own = findings.filter((f) => !said.has(findingWords(f)))
  const rest: Content = {
    text: [words(own.length ? 'See also the findings on every circuit, page ' : 'Only those on every circuit, page '), onPageOf(OF_ALL)],
    margin: [0, 3, 0, 0],
  }
  return own.length ? [...findingsList(own, ''), rest] : headed('Findings', rest)
}

interface Paged {
  readonly stored: StoredJob
  readonly units: UnitSystem
  readonly draw: Draw
  readonly ofAll: readonly Finding[]
}

function circuitPages({ stored, units, draw, ofAll }: Paged, report: CircuitReport): Content[] {
  const job = seenBy(read(stored.job), report)
  const { circuit, chosen } = report
  const all = designWorkings(job, circuit, chosen)
  const [first, ...rest] = workingKeys.flatMap((k) => (all[k] ? [workingText(all[k])] : []))
  return [
    title(circuit.name, 17),
    aboutCircuit(job, report),
    figure(chainDrawing(job, circuit, chosen, units), WIDTH),
    ...ownFindings(report, ofAll),
    ...(first ? headed('How the figures came about', first, ...rest) : []),
    ...alternatives(job, report, units),
    ...report.ends.flatMap((e) => endText(e, units, draw)),
    ...tests(job, report),
  ]
}

function frontPage({ stored, units, ofAll }: Paged, date: string, report: Report): Content[] {
  const { job, revision } = stored
  const { brief } = job
  const open = report.stages.filter((s) => s.id !== 'handover').flatMap((s) => s.open)
  const of = (circuit: string | null) => (circuit && report.circuits.length > 1 ? `${report.byCircuit.get(circuit)!.circuit.name}: ` : '')
  return [
    title(job.title),
    words([job.place, date, `revision ${revision}`].filter(Boolean).join(', ')),
    ...(report.stop ? [boxed(`STOPPED. ${report.stop}`)] : []),
    pairs(
      [
        ['Request', brief.request],
        ['Asked by', [brief.askedBy, brief.through && `through ${brief.through}`].filter(Boolean).join(', ')],
        ['Found there', brief.existing],
        ['Finish expected', brief.finish],
        ['Wishes for later', brief.later],
        ['The place is', brief.environment ?? 'not said'],
      ],
      150,
      'What was asked for',
    ),
    columns(
      job.region,
      [
        { name: 'Question', flex: 6 },
        { name: 'Answer', flex: 1 },
      ],
      fitnessFor(job.region).map((q) => [q.ask, brief.fitness[q.id] === 'unknown' ? 'not known' : (brief.fitness[q.id] ?? 'not answered')]),
      'Before anything was opened',
    ),
    ...(open.length
      ? [
          pairs(
            open.map((o) => [o.stage, `${of(o.circuit)}${o.ask}`] as const),
            70,
            'Still open',
          ),
        ]
      : headed('Still open', words('Nothing asked for is missing from this record.'))),
    ...takenOut(read(job)),
    ...lowVoltage(read(job), units),
    ...untrueLabels(stored, report, units),
    ...(ofAll.length ? findingsList(ofAll, '', OF_ALL) : []),
    quietly(
      'This record says what was decided and measured, and what was not. It does not say that the installation is safe. Local code, the ' +
        'inspector and licensed practice come first. Figures rest on the clauses named beside them; verify the edition in force.',
      { margin: [0, 14, 0, 0] },
    ),
  ]
}

const leftWords = {
  capped: 'conductors joined or capped in its box, under a blank cover',
  'pulled-out': 'its cable drawn out',
  'made-good': 'its cable drawn out, its box taken out and the wall made good',
} as const
/** What this job takes out, and what is left behind. */
export function takenOut(job: Installation): readonly Content[] {
  const gone = removedFrom(job)
  if (gone.length === 0) return []
  const rows = gone.map((r) => {
    const on = job.ways.find((w) => w.id === r.way)?.label
    const feeds = r.through.length ? `; goes on to ${listedWords(r.through.map((p) => p.name))}` : ''
    return [
      [r.point.name, r.point.room].filter(Boolean).join(', '),
      `${on ? `was on ${on}` : 'what feeds it was not traced'}; ${r.left ? leftWords[r.left] : 'what is left is not decided'}${feeds}`,
    ] as const
  })
  return [pairs(rows, 150, 'Taken out')]
}

/** Cables of extra-low voltage and telecommunication, found and new, and how they are kept from power. */
export function lowVoltage(job: Installation, units: UnitSystem): readonly Content[] {
  const { kindNames } = worlds[job.region].separation
  const rows = (job.record.signalCables ?? []).map(
    (k) => [k.name, `${kindNames[k.kind]}, ${k.state === 'new' ? 'new' : 'found'}; ${signalWords(job, k, units)}`] as const,
  )
  return rows.length ? [pairs(rows, 150, 'Data and control cables')] : []
}

/** Labels that were stuck and say what is no longer so. */
function untrueLabels({ job }: StoredJob, { circuits }: Report, units: UnitSystem): readonly Content[] {
  if (!job.labels?.stuck.length) return []
  const seen = read(job)
  const found = labelFindings(seen, [...circuits.flatMap((c) => circuitLabels(seenBy(seen, c), c, '', units)), ...otherLabels(seen, '')])
  return found.length ? findingsList(found, '', 'Labels in place') : []
}

/** What was asked, decided, done and measured: for the customer and for the next electrician. */
export function recordPaper(stored: StoredJob, date: string, units: UnitSystem): Document {
  const { job } = stored
  const report = evaluate(job, stored.readings)
  const ofAll = foundOfAll(report.circuits)
  const paged = { stored, units, draw: drawnOnce(), ofAll }
  const circuits = report.circuits.map((c) => circuitPages(paged, c))
  return { paper: paperOf(stored, date), sections: [frontPage(paged, date, report), ...circuits], name: `${job.title}, record` }
}

/** The circuits of a box by name. */
const circuitsIn = ({ byCircuit }: Report, { points }: Box): string =>
  listedWords([...new Set(points.map((p) => byCircuit.get(p.circuit)?.circuit.name ?? ''))].filter(Boolean))
/** What is in a box, in words. */
const inBoxWords = ({ points }: Box): string => listedWords(points.map((p) => p.fitted?.name ?? (p.joint ? 'joint box' : 'nothing chosen')))

/** The order of work where something is taken out. */
const removalPage = (job: Installation, r: Removed): Content[] => [
  title(`Take out: ${r.point.name}`, 19),
  ...(r.left === null ? [words('What is left there is not decided.', { bold: true })] : []),
  ...removalSteps(job, r).map((s, i) => numbered(i + 1, `${s.text}${s.clause ? ` (${s.clause})` : ''}`)),
]
const numbered = (n: number, said: string): Content => ({
  columns: [
    { ...words(String(n)), width: 20 },
    { ...words(said), width: '*' },
  ],
  fontSize: 11,
  lineHeight: 1,
  margin: [0, 0, 0, 1.5] as [number, number, number, number],
})

/** One page a box, type no smaller than 11 pt, to stick up in front while terminating. */
export function wiringPaper(stored: StoredJob, date: string, units: UnitSystem, circuitId: string | null): Document {
  const { job } = stored
  const report = evaluate(job, stored.readings)
  const chosen = report.circuits.filter((c) => circuitId === null || c.circuit.id === circuitId)
  // Of several in one box the first has its page; asked for one circuit, the box is there whichever is first.
  const ends = chosen.flatMap((c) => c.ends.flatMap((e) => (e.built && (e.fitted || e.joint) ? [{ ...e, c, built: e.built }] : [])))
  const once = ends.filter((e, i) => ends.findIndex((o) => o.built.id === e.built.id) === i)
  const pages = once.map(({ c, built }): Content[] => {
    const steps = workSteps(read(job), built, units)
    return [
      title(`${circuitsIn(report, built) || c.circuit.name}: ${inBoxWords(built)}`, 19),
      words(`At ${built.name}.`),
      ...[...new Set(built.points.flatMap((p) => p.fitted?.caution ?? []))].map((caution) => words(caution, { bold: true })),
      { ...(figure(benchDrawing(built, null), 430) as object), alignment: 'center' } as Content,
      ...steps.map((s, i) => numbered(i + 1, `${s.text}${s.clause ? ` (${s.clause})` : ''}`)),
    ]
  })
  const taken = removedFrom(read(job)).filter((r) => circuitId === null || chosen.some((c) => c.circuit.ways.some((w) => w.id === r.way)))
  pages.push(...taken.map((r) => removalPage(read(job), r)))
  const none = [words('No accessory is chosen yet, so there is nothing to wire.')]
  return { paper: { ...paperOf(stored, date), large: true }, sections: pages.length ? pages : [none], name: `${job.title}, wiring` }
}

const POINTS_PER_MM = 72 / 25.4
const LONGEST_PT = 490
const TOO_LONG = 'Too long for its place: use a wider tape.'

export const allLabels = (stored: StoredJob, date: string, units: UnitSystem, abbreviations: readonly Abbreviation[]) => {
  const job = read(stored.job)
  const labels = [
    ...evaluate(stored.job, stored.readings).circuits.flatMap((c) => circuitLabels(seenBy(job, c), c, date, units)),
    ...otherLabels(job, date),
  ]
  return asPrinted(labels, stored.job.labels, stored.id, abbreviations)
}

/** Every label at its real size, to cut out. */
export function labelsPaper(stored: StoredJob, date: string, units: UnitSystem, abbreviations: readonly Abbreviation[] = []): Document {
  const blocks = allLabels(stored, date, units, abbreviations).map((l) => {
    const width = l.widthMm * POINTS_PER_MM
    // Longer than the page is wide: what it says, for a wider tape.
    if (width > LONGEST_PT)
      return { width: LONGEST_PT, block: { stack: [quietly(`${l.where}. ${TOO_LONG}`), asWritten(l.lines.join('; '))] } }
    const where = l.fits === false ? `${l.where}. ${TOO_LONG}` : l.where
    return { width, block: { stack: [quietly(where), figure(labelDrawing(l), width)] } }
  })
  const page = [
    quietly('At real size: print at 100 %. Check one against a rule before cutting.', { margin: [0, 0, 0, 6] }),
    ...sideBySide(stored.job.region, blocks),
  ]
  return { paper: paperOf(stored, date), sections: [page], name: `${stored.job.title}, labels` }
}
