import 'server-only'
import { writeFileSync } from 'node:fs'
import path from 'node:path'
import { feetFromMetres, M_PER_FT } from '@/core/base/units'
import dayjs from 'dayjs'
import Papa from 'papaparse'
import type { Drawing } from '@/core/drawing/shape'
import { svgFile, svgSheetMm } from '@/core/drawing/svg'
import { treeDrawing } from '@/core/drawing/tree'
import { labelDrawing } from '@/core/drawing/label'
import { writeJobFile } from '@/core/job/file'
import { evaluateSurvey } from '@/core/survey/traced'
import { type PaperFile, papers } from '@/core/evaluate/papers'
import { chainOf } from '@/store/chain'
import type { StoredJob } from '@/store/jobs'
import { allLabels, labelsPaper, recordPaper, wiringPaper } from './pdf/documents'
import { read } from '@/core/installation/installation'
import { designPaper } from './pdf/design'
import { createEvents, type DateTime, type EventAttributes } from 'ics'
import { materialsOf } from '@/core/workday/materials'
import { againstVan } from '@/core/workday/stock'
import { dayOfJob, dayPaper, offerPaper } from './pdf/day'
import { dxfFile } from './dxf'
import { writeArchive } from './archive'
import type { Made, MadeFile, Wanted } from './paper'
import { pdf } from './pdf/kit'
import { certificatePaper } from './pdf/certificate'
import { changesSinceIssue, packPaper, type Packed } from './pdf/pack'
import { buildingSheets, routePaper } from './pdf/route'
import { bendingPaper } from './pdf/bending'
import { boxesPaper, templatePaper } from './pdf/boxes'
import { houseOf } from '@/core/wired/house'
import { noTrial } from '@/core/wired/laid'
import { evaluate } from '@/core/evaluate/evaluate'
import { spiceOf } from '@/core/network/spice'
import { photographsPaper, printed } from './pdf/photographs'
import { doorPaper, replyPaper, tracePaper } from './pdf/survey'
import { worlds } from '@/core/region/worlds'

/** Readings in the order they were taken. Cells that a spreadsheet would run as a formula are made plain text. */
export function readingsCsv(stored: StoredJob): string {
  const names = new Map(stored.job.circuits.map((c) => [c.id, c.name]))
  const points = new Map(read(stored.job).points.map((p) => [p.id, p.name]))
  const rows = stored.readings.map((r) => ({
    circuit: names.get(r.circuit) ?? r.circuit,
    point: r.point === null ? '' : (points.get(r.point) ?? r.point),
    test: r.test,
    value: r.value ?? '',
    mark: r.mark ?? '',
    unit: r.unit,
    at: r.at,
    by: r.by,
    instrument: r.instrument,
    note: r.note,
    id: r.id,
    corrects: r.corrects ?? '',
  }))
  const columns = ['circuit', 'point', 'test', 'value', 'mark', 'unit', 'at', 'by', 'instrument', 'note', 'id', 'corrects']
  return table(columns, rows)
}
const table = (fields: string[], data: object[]): string => `${Papa.unparse({ fields, data }, { escapeFormulae: /^[=+\-@\t\r]/ })}\r\n`

/** The traced tree as it is known now, for the board's door. */
function tree(stored: StoredJob): Drawing {
  const job = read(stored.job)
  return treeDrawing(job, evaluateSurvey(job), job.supply.board || worlds[job.region].words.board)
}

/** What is needed, a line a kind; a price that is a usual one says so. */
function neededCsv({ stored, units, minutes, van }: Wanted): string {
  const { job, report } = dayOfJob(stored, minutes ?? {})
  const feet = units === 'imperial'
  // Lengths and their prices by the foot where they are bought so; a list to buy from needs no more than a tenth.
  const amount = (n: number, unit: string) => (unit === 'm' && feet ? Math.ceil(feetFromMetres(n) * 10 - 1e-9) / 10 : n)
  const rows = againstVan(materialsOf(job, report).lines, van ?? [], stored.id).map((l) => ({
    what: l.what,
    count: amount(l.count, l.unit),
    unit: l.unit === 'm' && feet ? 'ft' : l.unit,
    taken: amount(l.taken, l.unit),
    van: l.inVan === null ? 'not counted' : amount(l.inVan, l.unit),
    buy: amount(l.toBuy, l.unit),
    where: l.where.join(', '),
    price: l.price === null ? '' : Number((l.unit === 'm' && feet ? l.price * M_PER_FT : l.price).toFixed(4)),
    priced: l.price === null ? '' : l.usual ? 'usual figure' : 'own',
  }))
  return table(['what', 'count', 'unit', 'taken', 'van', 'buy', 'where', 'price', 'priced'], rows)
}

/** The day in the time of the place, whatever zone a calendar is in: each task, and each outage. */
function dayIcs({ stored, minutes }: Wanted): string {
  const { job, day, placed } = dayOfJob(stored, minutes ?? {})
  const [year, month, date] = (day.date ?? stored.updatedAt.slice(0, 10)).split('-').map(Number) as [number, number, number]
  // By the clock on the wall: a day on which the clocks change has its hours all the same.
  const at = (min: number): DateTime => {
    const d = new Date(Date.UTC(year, month - 1, date, 0, Math.round(min)))
    return [d.getUTCFullYear(), d.getUTCMonth() + 1, d.getUTCDate(), d.getUTCHours(), d.getUTCMinutes()]
  }
  const entry = (uid: string, title: string, fromMin: number, toMin: number, description: string): EventAttributes => ({
    uid: `${uid}@synthema`,
    title,
    description,
    location: job.place,
    start: at(fromMin),
    end: at(toMin),
    startInputType: 'local',
    startOutputType: 'local',
    endInputType: 'local',
    endOutputType: 'local',
    productId: 'synthema',
  })
  const { error, value } = createEvents([
    ...placed.map((p, i) => entry(`task-${i}`, p.task.name, p.startMin, p.endMin, p.why)),
    ...(day.planned?.outages ?? []).map((o, i) => entry(`outage-${i}`, `${job.title}: supply off`, o.fromMin, o.toMin, '')),
  ])
  if (error || !value) throw error ?? new Error('The calendar could not be written.')
  return value
}

const dated = (stored: StoredJob): string => dayjs(stored.updatedAt).format('D MMMM YYYY')
const pdfType = 'application/pdf'

/** Circuits from which on whatever is worked out of all of them takes long. */
const MANY_CIRCUITS = 30
const ARCHIVE = 'archive.zip'
/** Copies of what is stored: quickly written, however much it is. */
const copied: ReadonlySet<string> = new Set(['file.json', 'readings.csv'])

export const isCopy = (name: string): boolean => copied.has(name)
/** Whether a paper takes long, and is made aside. */
export const isLong = (name: string, { stored }: Pick<Wanted, 'stored'>): boolean =>
  name.endsWith('.pdf') || name === ARCHIVE || (!copied.has(name) && stored.job.circuits.length > MANY_CIRCUITS)

/** Photographs as they are printed; none where there is no folder to make them in. */
const picturesOf = ({ photographs = [], folder }: Wanted) => (folder === undefined ? [] : printed(photographs, folder))

async function packOf(wanted: Wanted): Promise<Packed> {
  const { stored, units, minutes, history, parts } = wanted
  return {
    stored,
    units,
    minutes: minutes ?? {},
    photographs: await picturesOf(wanted),
    parts: parts ?? null,
    chain: chainOf(stored.job, stored.readings),
    changes: changesSinceIssue(stored, history ?? []),
  }
}

/** How each paper is made. */
const made: Record<Exclude<PaperFile, typeof ARCHIVE>, (w: Wanted) => Promise<Made> | Made> = {
  'pack.pdf': async (wanted) => ({
    body: await pdf(packPaper(await packOf(wanted), dated(wanted.stored))),
    type: pdfType,
    name: 'pack.pdf',
  }),
  'certificate.pdf': async ({ stored }) => ({
    body: await pdf(certificatePaper(stored, dated(stored))),
    type: pdfType,
    name: 'certificate.pdf',
  }),
  'record.pdf': async ({ stored, units }) => ({
    body: await pdf(recordPaper(stored, dated(stored), units)),
    type: pdfType,
    name: 'record.pdf',
  }),
  'wiring.pdf': async ({ stored, units, circuit }) => ({
    body: await pdf(wiringPaper(stored, dated(stored), units, circuit)),
    type: pdfType,
    name: 'wiring.pdf',
  }),
  'boxes.pdf': async ({ stored, units, circuit }) => ({
    body: await pdf(boxesPaper(stored, dated(stored), units, circuit)),
    type: pdfType,
    name: 'boxes.pdf',
  }),
  'template.pdf': async ({ stored, units, point }) => ({
    body: await pdf(templatePaper(stored, dated(stored), units, point ?? null)),
    type: pdfType,
    name: 'template.pdf',
  }),
  'bending.pdf': async ({ stored, units }) => ({
    body: await pdf(bendingPaper(stored, dated(stored), units)),
    type: pdfType,
    name: 'bending.pdf',
  }),
  'netlist.cir': ({ stored }) => {
    const job = read(stored.job)
    const { input } = houseOf(job, evaluate(job, stored.readings).circuits, noTrial)
    return { body: spiceOf(input, stored.job.title), type: 'text/plain; charset=utf-8', name: 'netlist.cir' }
  },
  'route.pdf': async ({ stored, units }) => ({
    body: await pdf(routePaper(stored, dated(stored), units)),
    type: pdfType,
    name: 'route.pdf',
  }),
  'building.dxf': ({ stored, units }) => ({ body: dxfFile(buildingSheets(stored, units)), type: 'image/vnd.dxf', name: 'building.dxf' }),
  'trace.pdf': async ({ stored }) => ({
    body: await pdf(tracePaper(stored, dated(stored), tree(stored))),
    type: pdfType,
    name: 'trace.pdf',
  }),
  'design.pdf': async ({ stored, units, circuit }) => ({
    body: await pdf(designPaper(stored, dated(stored), units, circuit)),
    type: pdfType,
    name: 'design.pdf',
  }),
  'door.pdf': async ({ stored, signed }) => ({
    body: await pdf(doorPaper(stored, dated(stored), signed ?? null)),
    type: pdfType,
    name: 'door.pdf',
  }),
  'reply.pdf': async ({ stored }) => ({ body: await pdf(replyPaper(stored, dated(stored))), type: pdfType, name: 'reply.pdf' }),
  'trace.svg': async ({ stored }) => ({ body: svgFile(tree(stored)), type: 'image/svg+xml', name: 'trace.svg' }),
  'day.pdf': async ({ stored, units, minutes }) => ({
    body: await pdf(dayPaper(stored, dated(stored), units, minutes ?? {})),
    type: pdfType,
    name: 'day.pdf',
  }),
  'offer.pdf': async ({ stored, units, minutes }) => ({
    body: await pdf(offerPaper(stored, dated(stored), units, minutes ?? {})),
    type: pdfType,
    name: 'offer.pdf',
  }),
  'day.ics': (wanted) => ({ body: dayIcs(wanted), type: 'text/calendar; charset=utf-8', name: 'day.ics' }),
  'needed.csv': (wanted) => ({ body: neededCsv(wanted), type: 'text/csv; charset=utf-8', name: 'needed.csv' }),
  'labels.pdf': async ({ stored, units, abbreviations }) => ({
    body: await pdf(labelsPaper(stored, dated(stored), units, abbreviations)),
    type: pdfType,
    name: 'labels.pdf',
  }),
  'labels.svg': ({ stored, units, abbreviations }) => ({
    body: svgSheetMm(allLabels(stored, dated(stored), units, abbreviations ?? []).map(labelDrawing)),
    type: 'image/svg+xml',
    name: 'labels.svg',
  }),
  'photographs.pdf': async (wanted) => ({
    body: await pdf(photographsPaper(wanted.stored, dated(wanted.stored), await picturesOf(wanted), wanted.units)),
    type: pdfType,
    name: 'photographs.pdf',
  }),
  'readings.csv': ({ stored }) => ({ body: readingsCsv(stored), type: 'text/csv; charset=utf-8', name: 'readings.csv' }),
  'file.json': ({ stored }) => ({
    body: `${JSON.stringify(writeJobFile(stored.job, stored.readings), null, 2)}\n`,
    type: 'application/json',
    name: 'synthema-job.json',
  }),
}

/** A paper by its name, in memory; null: there is none of it. */
export function makePaper(name: string, wanted: Wanted): Promise<Made> | Made | null {
  return name !== ARCHIVE && papers.some((p) => p.file === name) ? made[name as keyof typeof made](wanted) : null
}

/** From so many bytes on a paper is sent from a file: it would be copied on its way from the worker. */
const LARGE = 4e6

/** Whatever is asked for by its name: a paper, or the archive; what is large is written into `folder`; null: there is none of it. */
export async function makeAsked(name: string, asked: Wanted, folder: string): Promise<Made | MadeFile | null> {
  const wanted = { ...asked, folder }
  if (name === ARCHIVE) {
    const file = path.join(folder, ARCHIVE)
    await writeArchive(file, wanted, makePaper)
    return { file, type: 'application/zip', name: ARCHIVE }
  }
  const made = await makePaper(name, wanted)
  if (!made || made.body.length < LARGE) return made
  const file = path.join(folder, name)
  writeFileSync(file, made.body, { mode: 0o600 })
  return { file, type: made.type, name: made.name }
}
