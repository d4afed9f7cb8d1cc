import 'server-only'
import { existsSync } from 'node:fs'
import path from 'node:path'
import type { Content } from 'pdfmake/interfaces'
import dayjs from 'dayjs'
import { grouped } from '@/core/base/grouped'
import { read } from '@/core/installation/installation'
import { type Photograph, subjectWords } from '@/core/verify/photograph'
import type { StoredJob } from '@/store/jobs'
import type { Filed } from '@/store/photographs'
import { paperOf } from './documents'
import { asWritten, type Document, figure, quietly, sideBySide, title, words } from './kit'
import { photographMarks } from '@/core/drawing/photograph-marks'
import type { UnitSystem } from '@/core/base/format'

/** A photograph as it is printed, with the path of its picture; null where its file is gone or cannot be read. */
export interface Pictured extends Photograph {
  readonly small: string | null
}

/** The longer side of a picture in pixels: at most 240 to the inch as large as it is printed. What the camera took is in the archive. */
const [PRINTED_PX, QUALITY] = [1000, 80]

/** Writes the picture as it is printed into a folder, where it is not there yet. Null where it cannot be read. */
async function smallOf({ file, hash }: Filed, folder: string): Promise<string | null> {
  const small = path.join(folder, `${hash}.jpg`)
  if (file === null || existsSync(small)) return file && small
  const { default: sharp } = await import('sharp')
  // Nothing is kept of those before.
  sharp.concurrency(1)
  sharp.cache(false)
  const made = sharp(file, { failOn: 'error' }).resize(PRINTED_PX, PRINTED_PX, { fit: 'inside', withoutEnlargement: true })
  return made
    .jpeg({ quality: QUALITY })
    .toFile(small)
    .then(
      () => small,
      () => null,
    )
}

/** Photographs as they are printed, made one after another: those of a job may be more than a gigabyte as they were taken. */
export async function printed(photographs: readonly Filed[], folder: string): Promise<readonly Pictured[]> {
  const list: Pictured[] = []
  for (const p of photographs) list.push({ ...p, small: await smallOf(p, folder) })
  return list
}

/** Two are next to each other; neither is higher than this, in points. */
const [WIDE, HIGH] = [235, 300]

const momentWords = { before: 'Before', after: 'After' } as const

function framed(p: Pictured, units: UnitSystem): Content {
  const said: Content[] = [
    ...(p.moment ? [words(momentWords[p.moment], { bold: true })] : []),
    p.words ? asWritten(p.words) : words('No caption.', { color: '#444444' }),
    quietly([dayjs(p.at).format('D MMM YYYY, HH:mm'), p.by].filter(Boolean).join(', ')),
  ]
  if (p.small === null) return { stack: [words('Its file is no longer there, or cannot be read.', { bold: true }), ...said] }
  const scale = Math.min(WIDE / p.widthPx, HIGH / p.heightPx)
  const [width, height] = [p.widthPx * scale, p.heightPx * scale]
  const image = { image: p.small, width, height }
  if (p.marks.length === 0) return { stack: [image, ...said] }
  const marks = photographMarks(p.marks, p.heightPx / p.widthPx, units)
  // Drawn over the picture, and taking no room of its own.
  const over = { ...(figure(marks, width) as object), margin: [0, 0, 0, 0], relativePosition: { x: 0, y: -height } } as Content
  return { stack: [image, over, ...said] }
}

/** Before and after are next to each other, one pair to a row; the others follow. */
function paired(list: readonly Pictured[]): readonly (readonly Pictured[])[] {
  const of = (moment: Pictured['moment']) => list.filter((p) => p.moment === moment)
  const [before, after, others] = [of('before'), of('after'), of(null)]
  const pairs = Array.from({ length: Math.max(before.length, after.length) }, (_, i) =>
    [before[i], after[i]].filter((p) => p !== undefined),
  )
  return [...pairs, ...(others.length ? [others] : [])]
}

/** Every photograph that was not put away, by what it shows. */
export function photographsPaper(stored: StoredJob, date: string, photographs: readonly Pictured[], units: UnitSystem): Document {
  const job = read(stored.job)
  const bySubject = grouped(photographs, (p) => subjectWords(job, p.of))
  const page = [...bySubject].flatMap(([subject, list]) => {
    const [first, ...rest] = paired(list).flatMap((row) =>
      sideBySide(
        job.region,
        row.map((p) => ({ width: WIDE, block: framed(p, units) })),
      ),
    )
    // A caption never stands alone at the foot of a page.
    return [{ stack: [title(subject, 14), first!], unbreakable: true, margin: [0, 8, 0, 0] } as Content, ...rest]
  })
  const none = [words('No photograph was taken.')]
  return { paper: paperOf(stored, date), sections: [page.length ? page : none], name: `${job.title}, photographs` }
}
