import 'server-only'
import { format } from 'date-fns'
import Papa from 'papaparse'
import Elk from 'elkjs/lib/elk.bundled.js'
import type { Drawing } from '@/core/drawing/shape'
import { svgFile, svgSheetMm } from '@/core/drawing/svg'
import { treeDrawing, treeGraph } from '@/core/drawing/tree'
import { labelDrawing } from '@/core/drawing/label'
import { writeJobFile } from '@/core/job/file'
import type { UnitSystem } from '@/core/quantity/format'
import { evaluateSurvey } from '@/core/survey/traced'
import { type PaperFile, papers } from '@/core/papers'
import type { StoredJob } from '@/store/jobs'
import { allLabels, labelsPdf, recordPdf, wiringPdf } from './pdf/documents'
import { read } from '@/core/installation/installation'
import { designPdf } from './pdf/design'
import { doorPdf, replyPdf, tracePdf } from './pdf/survey'
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
  return `${Papa.unparse({ fields: columns, data: rows }, { escapeFormulae: /^[=+\-@\t\r]/ })}\r\n`
}

/** The traced tree as it is known now, for the board's door. */
async function tree(stored: StoredJob): Promise<Drawing> {
  const job = read(stored.job)
  const report = evaluateSurvey(job)
  const laid = await new Elk().layout(treeGraph(job, report))
  return treeDrawing(job, report, laid, job.supply.board || worlds[job.region].words.board)
}

export interface Made {
  readonly body: string | Uint8Array
  readonly type: string
  readonly name: string
}
export interface Wanted {
  readonly stored: StoredJob
  readonly units: UnitSystem
  readonly circuit: string | null
}

const dated = (stored: StoredJob): string => format(new Date(stored.updatedAt), 'd MMMM yyyy')
const pdfType = 'application/pdf'

/** How each paper is made. */
const made: Record<PaperFile, (w: Wanted) => Promise<Made> | Made> = {
  'record.pdf': async ({ stored, units }) => ({ body: await recordPdf(stored, dated(stored), units), type: pdfType, name: 'record.pdf' }),
  'wiring.pdf': async ({ stored, units, circuit }) => ({
    body: await wiringPdf(stored, dated(stored), units, circuit),
    type: pdfType,
    name: 'wiring.pdf',
  }),
  'trace.pdf': async ({ stored }) => ({
    body: await tracePdf(stored, dated(stored), await tree(stored)),
    type: pdfType,
    name: 'trace.pdf',
  }),
  'design.pdf': async ({ stored, units, circuit }) => ({
    body: await designPdf(stored, dated(stored), units, circuit),
    type: pdfType,
    name: 'design.pdf',
  }),
  'door.pdf': async ({ stored }) => ({ body: await doorPdf(stored, dated(stored)), type: pdfType, name: 'door.pdf' }),
  'reply.pdf': async ({ stored }) => ({ body: await replyPdf(stored, dated(stored)), type: pdfType, name: 'reply.pdf' }),
  'trace.svg': async ({ stored }) => ({ body: svgFile(await tree(stored)), type: 'image/svg+xml', name: 'trace.svg' }),
  'labels.pdf': async ({ stored, units }) => ({ body: await labelsPdf(stored, dated(stored), units), type: pdfType, name: 'labels.pdf' }),
  'labels.svg': ({ stored, units }) => ({
    body: svgSheetMm(allLabels(stored, dated(stored), units).map(labelDrawing)),
    type: 'image/svg+xml',
    name: 'labels.svg',
  }),
  'readings.csv': ({ stored }) => ({ body: readingsCsv(stored), type: 'text/csv; charset=utf-8', name: 'readings.csv' }),
  'file.json': ({ stored }) => ({
    body: `${JSON.stringify(writeJobFile(stored.job, stored.readings), null, 2)}\n`,
    type: 'application/json',
    name: 'synthema-job.json',
  }),
}

export function makePaper(name: string, wanted: Wanted): Promise<Made> | Made | null {
  const paper = papers.find((p) => p.file === name)
  return paper ? made[paper.file](wanted) : null
}
