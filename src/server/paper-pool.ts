import 'server-only'
import { existsSync } from 'node:fs'
import path from 'node:path'
import { Piscina } from 'piscina'
import { type Made, makePaper, type Wanted } from './papers'

/** Papers made at once; more would take both cores from whoever else is at work. */
const AT_ONCE = 1
const WAITING = 6

/** More papers wait than will be made soon. */
export class TooManyPapersError extends Error {
  constructor() {
    super('Many papers are being made just now. Ask again in a moment.')
    this.name = 'TooManyPapersError'
  }
}

const holder = globalThis as typeof globalThis & { synthemaPapers?: Piscina }
// Built beside the application; from the sources, where nothing is built, papers are made where they are asked for.
const worker = path.join(/* turbopackIgnore: true */ process.cwd(), '.next', 'workers', 'papers.mjs')

const ready = (): Piscina => (holder.synthemaPapers ??= new Piscina({ filename: worker, maxThreads: AT_ONCE, minThreads: AT_ONCE }))

/** Whoever opens a job will want a paper of it: the worker is got ready meanwhile, which takes longer than a paper. */
export function readyPapers(): void {
  if (existsSync(/* turbopackIgnore: true */ worker)) ready()
}

/**
 * Makes a paper in a worker, a few at a time, so that nobody waits for another's. Whoever asked and went away is not served.
 * @throws TooManyPapersError, AbortError
 */
export async function paperInPool(name: string, wanted: Wanted, signal: AbortSignal): Promise<Made | null> {
  // What is quickly written waits for no paper that is not.
  if (!name.endsWith('.pdf') || !existsSync(/* turbopackIgnore: true */ worker)) return makePaper(name, wanted)
  const pool = ready()
  if (pool.queueSize >= WAITING) throw new TooManyPapersError()
  return (await pool.run({ name, wanted }, { signal })) as Made | null
}
