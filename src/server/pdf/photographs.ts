import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import dayjs from 'dayjs'
import { grouped } from '@/core/base/grouped'
import { read } from '@/core/installation/installation'
import { type Photograph, subjectWords } from '@/core/verify/photograph'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { pdf, quietly, sideBySide, title, words } from './kit'

/** A photograph with its file; null where the file is gone. */
export interface Pictured extends Photograph {
  readonly jpeg: Uint8Array | null
}

/** Two stand beside each other; neither is higher than this, in points. */
const [WIDE, HIGH] = [245, 300]

function framed(p: Pictured): Content {
  const said: Content[] = [
    words(p.words || 'Nothing was said of it.', p.words ? {} : { color: '#444444' }),
    quietly([dayjs(p.at).format('D MMM YYYY, HH:mm'), p.by].filter(Boolean).join(', ')),
  ]
  if (!p.jpeg) return { stack: [words('Its file is no longer there.', { bold: true }), ...said] }
  return { stack: [{ image: `data:image/jpeg;base64,${Buffer.from(p.jpeg).toString('base64')}`, fit: [WIDE, HIGH] }, ...said] }
}

/** Every photograph that was not put away, by what it shows. */
export function photographsPdf(stored: StoredJob, date: string, photographs: readonly Pictured[]): Promise<Buffer> {
  const job = read(stored.job)
  const bySubject = grouped(photographs, (p) => subjectWords(job, p.of))
  const page = [...bySubject].flatMap(([subject, list]) => {
    const [first, ...rest] = sideBySide(
      job.region,
      list.map((p) => ({ width: WIDE, block: framed(p) })),
    )
    // What is shown is never told alone at the foot of a page.
    return [{ stack: [title(subject, 14), first!], unbreakable: true, margin: [0, 8, 0, 0] } as Content, ...rest]
  })
  const none = [words('No photograph was taken.')]
  return pdf(paperOf(stored, date), [page.length ? page : none], `${job.title}, photographs`)
}
