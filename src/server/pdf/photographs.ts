import 'server-only'
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

/** A photograph as it is printed; null where its file is gone or cannot be read. */
export interface Pictured extends Photograph {
  readonly jpeg: Uint8Array | null
}

/** Its longer side, in pixels: at most 240 to the inch as large as it is printed. What the camera took is in the archive. */
const [PRINTED_PX, QUALITY] = [1000, 80]

/** Photographs as they are printed, made one after another: those of a job may be more than a gigabyte as they were taken. */
export async function printed(photographs: readonly Filed[]): Promise<readonly Pictured[]> {
  if (photographs.length === 0) return []
  const { default: sharp } = await import('sharp')
  // One after another, and nothing kept of those before.
  sharp.concurrency(1)
  sharp.cache(false)
  const list: Pictured[] = []
  for (const { file, ...p } of photographs) {
    const small =
      file === null ? null : sharp(file, { failOn: 'error' }).resize(PRINTED_PX, PRINTED_PX, { fit: 'inside', withoutEnlargement: true })
    list.push({
      ...p,
      jpeg:
        (await small
          ?.jpeg({ quality: QUALITY })
          .toBuffer()
          .catch(() => null)) ?? null,
    })
  }
  return list
}

/** Two stand beside each other; neither is higher than this, in points. */
const [WIDE, HIGH] = [235, 300]

const momentWords = { before: 'Before', after: 'After' } as const

function framed(p: Pictured, units: UnitSystem): Content {
  const said: Content[] = [
    ...(p.moment ? [words(momentWords[p.moment], { bold: true })] : []),
    p.words ? asWritten(p.words) : words('No caption.', { color: '#444444' }),
    quietly([dayjs(p.at).format('D MMM YYYY, HH:mm'), p.by].filter(Boolean).join(', ')),
  ]
  if (!p.jpeg) return { stack: [words('Its file is no longer there, or cannot be read.', { bold: true }), ...said] }
  const scale = Math.min(WIDE / p.widthPx, HIGH / p.heightPx)
  const [width, height] = [p.widthPx * scale, p.heightPx * scale]
  const image = { image: `data:image/jpeg;base64,${Buffer.from(p.jpeg).toString('base64')}`, width, height }
  if (p.marks.length === 0) return { stack: [image, ...said] }
  const marks = photographMarks(p.marks, p.heightPx / p.widthPx, units)
  // Drawn over the picture, and taking no room of its own.
  const over = { ...(figure(marks, width) as object), margin: [0, 0, 0, 0], relativePosition: { x: 0, y: -height } } as Content
  return { stack: [image, over, ...said] }
}

/** Before and after stand beside each other, one pair to a row; the others follow. */
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
    // What is shown is never told alone at the foot of a page.
    return [{ stack: [title(subject, 14), first!], unbreakable: true, margin: [0, 8, 0, 0] } as Content, ...rest]
  })
  const none = [words('No photograph was taken.')]
  return { paper: paperOf(stored, date), sections: [page.length ? page : none], name: `${job.title}, photographs` }
}
