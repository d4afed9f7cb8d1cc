import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { type Certificate, certificatesOf } from '@/core/documents/certificate'
import { evaluate } from '@/core/evaluate/evaluate'
import { read } from '@/core/installation/installation'
import type { RegionId } from '@/core/region/types'
import { standingIssue } from '@/store/chain'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { columns, type Document, headed, pairs, quietly, title, words } from './kit'

const BLANK = '……………………'

export function certificateContent(region: RegionId, c: Certificate, size = 18): Content[] {
  return [
    title(c.name, size),
    quietly(c.about, { margin: [0, 2, 0, 4] }),
    ...c.parts.map((p) =>
      pairs(
        p.fields.map((f) => [f.label, f.value ?? BLANK] as const),
        150,
        p.title,
      ),
    ),
    ...c.tables.map((t) =>
      columns(
        region,
        t.columns.map((name, i) => ({ name, flex: i === 0 ? 2.2 : t.title.endsWith('inspections') && i === 1 ? 5 : 1.6 })),
        t.rows.map((row) => row.map((cell) => cell ?? BLANK)),
        t.title,
      ),
    ),
    ...(c.missing.length
      ? headed('Missing before it is signed', words('Blank above:', { bold: true }), { ul: c.missing.map((m) => words(m)) })
      : headed('Missing before it is signed', words('Nothing: every entry is recorded.'))),
  ]
}

/** What the rules ask to be recorded of new and altered circuits, filled from the record; what is not recorded is left blank. */
export function certificatePaper(stored: StoredJob, date: string): Document {
  const job = read(stored.job)
  const signed = standingIssue(stored.job, stored.readings)?.signatures ?? []
  const all = certificatesOf(job, evaluate(job, stored.readings), stored.readings, signed)
  const none = [words('No circuit is altered or added in this job.')]
  return {
    paper: paperOf(stored, date),
    sections: all.length ? all.map((c) => certificateContent(job.region, c)) : [none],
    name: `${stored.job.title}, certificate`,
  }
}
