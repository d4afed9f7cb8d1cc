import { z } from 'zod'
import { JobFileError, readJobFile } from '../core/job/file'
import { chainOf, headOf, sameHead } from './chain'
import { BackupError, readEntries } from './backup'

/* An archive held against its own chain, and against the head as it was typed from paper. */

const chainSchema = z.object({
  format: z.literal('synthema-chain'),
  head: z.string(),
  links: z.array(z.object({ kind: z.enum(['reading', 'isolation', 'signature']), id: z.string(), hash: z.string() })),
})

export interface Verified {
  readonly links: number
  readonly head: string
  /** What is wrong, in words; none: nothing. The first broken link is named first. */
  readonly wrong: readonly string[]
}

const PARTS = ['job.json', 'chain.json'] as const
const MOST_BYTES = 200_000_000

/** Reads an archive and recalculates its chain. `typed` is the head from the paper; null: only the chain in the file is looked at. */
export async function verifyArchive(file: string, typed: string | null): Promise<Verified> {
  const found = await readEntries(file, PARTS, MOST_BYTES)
  const lost = PARTS.find((p) => !found.has(p))
  if (lost) throw new BackupError(`${file} is no archive of a job: it has no ${lost}.`)
  const { links } = parsed('chain.json', found.get('chain.json')!, (x) => chainSchema.parse(x))
  const { job, readings } = parsed('job.json', found.get('job.json')!, readJobFile)
  const now = chainOf(job, readings)
  const wrong: string[] = []
  const at = Array.from({ length: Math.max(now.length, links.length) }, (_, i) => i).find(
    (i) => now[i]?.hash !== links[i]?.hash || now[i]?.id !== links[i]?.id,
  )
  if (at !== undefined) {
    const link = links[at] ?? now[at]!
    const why = !now[at] ? 'is gone' : !links[at] ? 'was put in later' : 'is not what was recorded'
    wrong.push(`Link ${at + 1} of ${links.length}, ${kindWords[link.kind]} ${link.id}, ${why}.`)
  }
  const head = headOf(now)
  if (typed !== null && !sameHead(typed, head))
    wrong.push(`The head of this file is ${head || 'empty'}, and ${typed} was typed: it is not the record that was printed.`)
  return { links: now.length, head, wrong }
}
const kindWords = { reading: 'reading', isolation: 'signed isolation', signature: 'signature' } as const

function parsed<T>(name: string, bytes: Uint8Array, read: (value: unknown) => T): T {
  try {
    return read(JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes)))
  } catch (e) {
    const where = e instanceof JobFileError ? `${e.path}: ` : ''
    throw new BackupError(`${name} is damaged: ${where}${e instanceof Error ? e.message : String(e)}`)
  }
}
