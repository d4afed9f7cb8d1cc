import { listed } from '../base/finding'
import { grouped } from '../base/grouped'
import { formatA, formatOhm, formatSize, trim } from '../base/format'
import { guardingDevices } from '../design/guards'
import { systemOf } from '../design/endings'
import { loopLimit } from '../design/loop-limit'
import type { CircuitReport, Report } from '../evaluate/evaluate'
import type { Circuit, Installation } from '../installation/installation'
import type { IssueSignature } from '../job/issue'
import type { Reading } from '../job/reading'
import { worlds } from '../region/worlds'
import { metricRegions } from '../region/metric'
import type { Judged } from '../verify/judge'
import { readingWords } from '../verify/words'

/*
 * What the rules of a world ask to be recorded of new and altered circuits, filled from the record: BS 7671 Appendix 6, the test report of
 * SANS 10142-1, the close-out of a permit in North America. The layout is ours; the official form is the authority's.
 */

export interface Field {
  readonly label: string
  /** Null: not recorded, and left blank. */
  readonly value: string | null
}
export interface CertificatePart {
  readonly title: string
  readonly fields: readonly Field[]
}
export interface CertificateTable {
  readonly title: string
  readonly columns: readonly string[]
  readonly rows: readonly (readonly (string | null)[])[]
}
export interface Certificate {
  readonly id: 'installation' | 'minor-works' | 'test-report' | 'close-out'
  readonly name: string
  readonly about: string
  readonly parts: readonly CertificatePart[]
  readonly tables: readonly CertificateTable[]
  /** What is not recorded and has to be before it is signed. */
  readonly missing: readonly string[]
}

const names: Readonly<Record<Certificate['id'], readonly [name: string, about: string]>> = {
  installation: [
    'Installation certificate: new circuits',
    'What BS 7671 Appendix 6 asks to be recorded of a new circuit, with schedules of inspections and of test results. The certificate ' +
      'itself is issued on the form of the body that the electrician is registered with.',
  ],
  'minor-works': [
    'Minor works: additions to circuits',
    'What BS 7671 Appendix 6 asks to be recorded of an addition or alteration that is not a new circuit. The certificate itself is ' +
      'issued on the form of the body that the electrician is registered with.',
  ],
  'test-report': [
    'Test report for the certificate of compliance',
    'What SANS 10142-1 asks to be recorded of the work. The certificate of compliance itself is issued by a registered person on the ' +
      'prescribed form.',
  ],
  'close-out': [
    'Permit close-out sheet',
    'What an inspector usually asks for when a permit is closed. NFPA 70 prescribes no form: the authority having jurisdiction ' +
      'has its own.',
  ],
}

const earthings: Readonly<Record<string, string>> = { 'tn-s': 'TN-S', 'tn-c-s': 'TN-C-S', tt: 'TT' }
const text = (value: string): string | null => (value.trim() === '' ? null : value)
const figure = <T>(value: T | null | undefined, say: (v: T) => string): string | null => (value == null ? null : say(value))

/** The certificates that the work of a job asks for. `signed`: the signatures under the record as it is now, and under no earlier one. */
export function certificatesOf(
  job: Installation,
  report: Pick<Report, 'circuits'>,
  readings: readonly Reading[],
  signed: readonly IssueSignature[],
): readonly Certificate[] {
  const { metric, splitPhase } = worlds[job.region]
  const of = (id: Certificate['id'], circuits: readonly CircuitReport[]) =>
    circuits.length ? [certificate(job, id, circuits, readings, signed)] : []
  if (splitPhase) return of('close-out', report.circuits)
  if (metric === metricRegions['southern-africa']) return of('test-report', report.circuits)
  const altered = (c: CircuitReport) => c.circuit.work === 'altered'
  return [
    ...of(
      'installation',
      report.circuits.filter((c) => !altered(c)),
    ),
    ...of('minor-works', report.circuits.filter(altered)),
  ]
}

function certificate(
  job: Installation,
  id: Certificate['id'],
  circuits: readonly CircuitReport[],
  readings: readonly Reading[],
  signed: readonly IssueSignature[],
): Certificate {
  const parts = [aboutWork(job, circuits), supply(job), instrumentsUsed(circuits, readings), declaration(signed)]
  const tables = [schedule(job, circuits), ...inspections(circuits), results(job, circuits)]
  const blank = parts.flatMap((p) => p.fields.flatMap((f) => (f.value === null ? [`${p.title}: ${f.label.toLowerCase()}`] : [])))
  const blanks = tables.flatMap((t) =>
    t.rows.flatMap((row) => row.flatMap((cell, i) => (cell === null ? [{ circuit: row[0] ?? '', what: blankWords(t, row, i) }] : []))),
  )
  const cells = [...grouped(blanks, (x) => x.circuit)].map(
    ([circuit, list]) => `${circuit}: ${listed([...new Set(list.map((x) => x.what))], Number.POSITIVE_INFINITY)}`,
  )
  const [name, about] = names[id]
  return { id, name, about, parts, tables, missing: [...blank, ...cells] }
}

/** A blank cell in words; what was not looked at by what it is, and not by who should have. */
const blankWords = (t: CertificateTable, row: readonly (string | null)[], i: number): string =>
  t.title === INSPECTIONS ? `“${row[1] ?? ''}”` : t.columns[i]!

const aboutWork = (job: Installation, circuits: readonly CircuitReport[]): CertificatePart => ({
  title: 'The work',
  fields: [
    { label: 'Address', value: text(job.place) },
    { label: 'Done for', value: text(job.brief.askedBy) },
    { label: 'Description', value: text(job.brief.request) },
    { label: 'Circuits', value: circuits.map((c) => c.circuit.name).join(', ') },
    { label: 'What was there', value: text(job.brief.existing) },
    ...nextDue(job),
  ],
})

/** When it is recommended to be inspected or tested again, where somebody said so. */
const nextDue = (job: Installation): readonly Field[] =>
  (job.record.due ?? []).filter((d) => d.doneOn === null).map((d) => ({ label: 'Recommended again', value: `${d.what}, by ${d.on}` }))

function supply(job: Installation): CertificatePart {
  const { metric, splitPhase, lineV, words } = worlds[job.region]
  const [board] = job.boards
  const main = { 'double-pole': 'opens all poles', 'single-pole': 'opens one pole', none: 'there is none', unknown: null }[
    board!.mainSwitch
  ]
  return {
    title: `Supply and ${words.board}`,
    fields: [
      { label: 'Voltage', value: splitPhase ? `${lineV}/${2 * lineV} V, 60 Hz` : `${lineV} V, 50 Hz` },
      ...(metric ? [{ label: 'Earthing arrangement', value: figure(job.supply.earthing, (e) => earthings[e] ?? e) }] : []),
      ...(metric ? [{ label: 'Ze', value: figure(job.supply.zeOhm, formatOhm) }] : []),
      { label: 'Prospective fault current', value: figure(job.supply.pscKa, (k) => `${trim(k, 2)} kA`) },
      { label: 'Called', value: job.supply.board || words.board },
      { label: 'Main device', value: figure(board!.mainA, formatA) },
      { label: 'Main switch', value: main },
    ],
  }
}

function instrumentsUsed(circuits: readonly CircuitReport[], readings: readonly Reading[]): CertificatePart {
  const own = new Set(circuits.map((c) => c.circuit.id))
  const measured = readings.filter((r) => own.has(r.circuit) && r.value !== null)
  const used = [...new Set(measured.map((r) => r.instrument).filter(Boolean))]
  return { title: 'Test instruments', fields: [{ label: 'Used, by name and serial number', value: used.length ? used.join('; ') : null }] }
}

const signedAs = { design: 'Design', work: 'Work', tests: 'Inspection and tests' } as const
function declaration(signed: readonly IssueSignature[]): CertificatePart {
  return {
    title: 'Declaration',
    fields: (Object.keys(signedAs) as (keyof typeof signedAs)[]).map((what) => {
      const by = signed.filter((s) => s.for === what)
      const said = by.map((s) => [s.name, s.qualification, s.registration, s.at.slice(0, 10)].filter(Boolean).join(', '))
      return { label: `${signedAs[what]} signed by`, value: said.length ? said.join('; ') : null }
    }),
  }
}

/** What protects a circuit and what it is wired in. */
function schedule(job: Installation, circuits: readonly CircuitReport[]): CertificateTable {
  const { metric, typedBreakers, words } = worlds[job.region]
  return {
    title: 'Schedule of circuits',
    columns: ['Circuit', 'Points', words.breaker, words.rcd, 'Line and neutral', words.protective, ...(metric ? ['Greatest Zs'] : [])].map(
      capital,
    ),
    rows: circuits.map(({ circuit, chosen, ends }) => {
      const { result, design } = chosen
      const device = result?.breakerA == null ? null : `${typedBreakers ? `${design.breakerType}` : ''}${trim(result.breakerA, 1)} A`
      return [
        circuit.name,
        String(circuit.points.length || 1),
        device === null ? null : `${device}${polesWords(job, circuit, ends)}`,
        residualWords(job, circuit, chosen.design),
        figure(result?.size, formatSize),
        figure(result?.protectiveSize, formatSize),
        ...(metric ? [figure(result?.breakerA, (a) => formatOhm(loopLimit(job, design, a, result?.zsOhm ?? null)!.ohm))] : []),
      ]
    }),
  }
}
const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1)
const polesWords = (job: Installation, circuit: Circuit, ends: CircuitReport['ends']): string =>
  systemOf(job.region, circuit, ends) === 'line-neutral' ? '' : ', 2 poles'

function residualWords(job: Installation, circuit: Circuit, design: CircuitReport['chosen']['design']): string | null {
  const devices = guardingDevices(job, circuit, design)
  if (devices.length === 0) return 'none'
  const said = devices.map((d) => {
    const where = d.atBoard ? 'board' : (d.point?.name ?? 'outlet')
    const type = d.atBoard && design.residual.type ? ` type ${design.residual.type}` : ''
    return d.tripMa === null ? null : `${trim(d.tripMa, 0)} mA${type}, ${where}`
  })
  return said.includes(null) ? null : said.join('; ')
}

const INSPECTIONS = 'Schedule of inspections'
/** What was looked at and ticked, and by whom. */
function inspections(circuits: readonly CircuitReport[]): readonly CertificateTable[] {
  const rows = circuits.flatMap(({ circuit, testReport }) =>
    testReport.judged
      .filter((j) => j.test.expect.kind === 'confirm' && j.test.phase !== 'isolation' && !j.test.optional)
      .map((j) => [circuit.name, j.test.title, outcome(j), j.reading ? `${j.reading.by}, ${j.reading.at.slice(0, 10)}` : null]),
  )
  return rows.length ? [{ title: INSPECTIONS, columns: ['Circuit', 'Inspected', 'Result', 'By'], rows }] : []
}
const outcome = ({ verdict, message }: Judged): string | null =>
  ({ met: 'as it should be', off: `not: ${message}`, unknown: null })[verdict]

/** The figures that are asked for of each circuit, by the tests that give them. */
const columnsOf: readonly (readonly [title: string, fits: (id: string) => boolean])[] = [
  ['r1', (id) => id === 'ring-line'],
  ['rn', (id) => id === 'ring-neutral'],
  ['r2', (id) => id === 'ring-protective'],
  ['R1 + R2', (id) => id === 'continuity-protective'],
  ['Insulation, lines to neutral', (id) => /^insulation-(l\d?-n|l1-l2)$/.test(id)],
  ['Insulation to earth', (id) => /^insulation-.*-e$/.test(id)],
  ['Polarity', (id) => id === 'polarity'],
  ['Zs', (id) => id === 'zs'],
  ['Trip time', (id) => id.startsWith('residual-time') || id.startsWith('residual-trip')],
  ['Test button', (id) => id.startsWith('residual-button')],
]
function results(job: Installation, circuits: readonly CircuitReport[]): CertificateTable {
  const asked = columnsOf.filter(([, fits]) => circuits.some((c) => c.tests.some((t) => fits(t.id))))
  return {
    title: 'Schedule of test results',
    columns: [
      'Circuit',
      ...asked.map(([title]) => (title === 'R1 + R2' && worlds[job.region].splitPhase ? 'Line and ground loop' : title)),
    ],
    rows: circuits.map(({ circuit, tests, testReport }) => [
      circuit.name,
      ...asked.map(([, fits]) => {
        if (!tests.some((t) => fits(t.id))) return 'not asked for'
        const own = testReport.judged.filter((j) => fits(j.test.id) && !j.test.optional)
        // One that was not made leaves the cell blank, and so does one that no longer counts.
        if (own.length === 0 || own.some((j) => !j.reading || j.verdict === 'unknown')) return own.length === 0 ? 'not asked for' : null
        return [...new Set(own.map((j) => readingWords(j.reading!)))].join(' / ')
      }),
    ]),
  }
}
