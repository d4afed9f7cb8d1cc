import 'server-only'
import { createWriteStream, writeFileSync } from 'node:fs'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import yazl from 'yazl'
import { evaluate } from '@/core/evaluate/evaluate'
import { papersFor } from '@/core/evaluate/papers'
import { writeJobFile } from '@/core/job/file'
import { inRegion } from '@/core/region/spelling'
import { chainOf, headOf } from '@/store/chain'
import type { Made, Wanted } from './paper'

/* A job as one zip: papers, tables, drawings, photographs, the job file, its history and the chain of what was measured and signed. */

/** What is larger goes through a file. */
const LARGE = 1e6
const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;')

interface Entry {
  readonly name: string
  readonly title: string
  readonly about: string
}

/** A page that opens with no network and no script. */
function indexPage({ stored }: Wanted, entries: readonly Entry[], head: string): string {
  const { title, place } = stored.job
  const row = (e: Entry) => `<li><a href="${encodeURI(e.name)}">${escaped(e.title)}</a><br>${escaped(e.about)}</li>`
  return `<!doctype html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>${escaped(title)}</title>
<style>body{font:1.05rem/1.5 sans-serif;max-width:44rem;margin:2rem auto;padding:0 1rem}li{margin:.6rem 0}</style>
<h1>${escaped(title)}</h1>
<p>${escaped([place, `revision ${stored.revision}`, stored.updatedAt.slice(0, 10)].filter(Boolean).join(', '))}</p>
<p>Head of the record: <code>${escaped(head || 'nothing is measured or signed')}</code>. The summary of the pack shows it too.
To check this file against it: <code>npm run -s verify -- FILE HEAD</code>.</p>
<ul>
${entries.map(row).join('\n')}
</ul>
</html>
`
}

/** Writes everything of a job into one file, as it comes: its photographs are never in memory together. */
export async function writeArchive(
  to: string,
  wanted: Wanted,
  make: (file: string, wanted: Wanted) => Promise<Made> | Made | null,
): Promise<void> {
  const { stored, photographs = [], history = [] } = wanted
  const zip = new yazl.ZipFile()
  const entries: Entry[] = []
  const mtime = new Date(stored.updatedAt)
  const add = (name: string, body: string | Uint8Array, entry: Omit<Entry, 'name'> | null) => {
    const options = { mtime, compress: !name.endsWith('.pdf') }
    if (wanted.folder !== undefined && body.length > LARGE) {
      // Until the archive is written, what goes into it would stay in memory.
      const file = path.join(wanted.folder, path.basename(name))
      writeFileSync(file, body, { mode: 0o600 })
      zip.addFile(file, name, options)
    } else zip.addBuffer(Buffer.from(body), name, options)
    if (entry) entries.push({ name, ...entry })
  }
  const { region } = stored.job
  const { raceways } = evaluate(stored.job, stored.readings)
  const offered = papersFor({
    defects: stored.job.defects.length,
    photographs: photographs.length,
    measuredRooms: stored.job.rooms.some((r) => r.measured),
    bent: raceways.some((r) => r.bending),
  })
  for (const { file, name, about } of offered) {
    if (file === 'file.json') continue
    const made = await make(file, wanted)
    if (made) add(`papers/${file}`, made.body, { title: inRegion(region, name), about: inRegion(region, about) })
  }
  const chain = chainOf(stored.job, stored.readings)
  add('job.json', `${JSON.stringify(writeJobFile(stored.job, stored.readings), null, 2)}\n`, {
    title: 'Job file',
    about: 'The whole job in an open format; this archive or this file can be brought in elsewhere.',
  })
  add('history.json', `${JSON.stringify(history, null, 2)}\n`, { title: 'History', about: 'Every change of the job, newest first.' })
  add('chain.json', `${JSON.stringify({ format: 'synthema-chain', head: headOf(chain), links: chain }, null, 2)}\n`, {
    title: 'Chain',
    about: 'Readings, signed isolations and signatures, each hashed with the one before it.',
  })
  for (const p of photographs) if (p.file !== null) zip.addFile(p.file, `photographs/${p.hash}.jpg`, { mtime, compress: false })
  const rows = photographs.map(({ file: _, ...p }) => p)
  add('photographs.json', `${JSON.stringify(rows, null, 2)}\n`, {
    title: 'Photographs',
    about: `What each of ${rows.length} shows, when it was taken and by whom; the pictures are in the folder “photographs”.`,
  })
  zip.addBuffer(Buffer.from(indexPage(wanted, entries, headOf(chain))), 'index.html', { mtime })
  zip.end()
  await pipeline(zip.outputStream, createWriteStream(to, { mode: 0o600 }))
}
