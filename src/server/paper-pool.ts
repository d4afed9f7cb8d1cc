import 'server-only'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import path from 'node:path'
import { MessageChannel } from 'node:worker_threads'
import { Piscina } from 'piscina'
import type { Made, MadeFile, Wanted } from './paper'
import { isCopy, isLong, makeAsked } from './papers'
import { PICTURES } from './pdf/kit'
import { TooManyError } from './too-many'

/** Papers made at once; more would take both cores from everybody else at work. */
const AT_ONCE = 1
const WAITING = 6

const holder = globalThis as typeof globalThis & { synthemaPapers?: Piscina; synthemaAsked?: Map<string, { written: number }> }
// Built beside the application; from the sources, where nothing is built, papers are made where they are asked for.
const worker = path.join(/* turbopackIgnore: true */ process.cwd(), '.next', 'workers', 'papers.mjs')

const ready = (): Piscina =>
  (holder.synthemaPapers ??= new Piscina({
    filename: worker,
    maxThreads: AT_ONCE,
    minThreads: AT_ONCE,
    // A paper is many small things for a short time; room for them spares a tenth of its time.
    resourceLimits: { maxYoungGenerationSizeMb: 96 },
  }))

/** A person who opens a job will want a paper of it: the worker is got ready meanwhile, which takes longer than a paper. */
export function readyPapers(): void {
  if (existsSync(/* turbopackIgnore: true */ worker)) ready()
}

/** How far a paper is: how many are made before it, and the part of it that is written, from 0 to 1. */
export interface HowFar {
  readonly before: number
  readonly written: number
}
const asked = (holder.synthemaAsked ??= new Map())

/** How far the paper is that was asked for by this name; one that is made, or was never asked for, is written. */
export function howFar(ask: string): HowFar {
  const names = [...asked.keys()]
  const place = names.indexOf(ask)
  return place < 0 ? { before: 0, written: 1 } : { before: Math.max(0, place - AT_ONCE + 1), written: asked.get(ask)!.written }
}

/** Whether one more paper is taken on: asked before the job is read for it, which takes its time too. @throws TooManyError */
export function mayBeMade(name: string): void {
  if (!isCopy(name) && (holder.synthemaPapers?.queueSize ?? 0) >= WAITING) throw new TooManyError('Many papers are being made')
}

/**
 * Makes a paper in a worker, a few at a time, so that nobody waits for another's. A caller that went away is not served, and what was
 * begun is left. `ask` is the name by which the asker looks how far it is.
 * @throws TooManyError, AbortError
 */
export async function paperInPool(name: string, wanted: Wanted, signal: AbortSignal, ask: string): Promise<Made | MadeFile | null> {
  const folder = mkdtempSync(PICTURES)
  const leave = () => rmSync(folder, { recursive: true, force: true })
  try {
    const made = await inPool(name, wanted, folder, signal, ask)
    // What is in a file is sent from there, and goes then.
    if (!made || !('file' in made)) leave()
    return made
  } catch (e) {
    leave()
    throw e
  }
}

async function inPool(name: string, wanted: Wanted, folder: string, signal: AbortSignal, ask: string): Promise<Made | MadeFile | null> {
  // What is quickly written waits for no paper that is not.
  if (!isLong(name, wanted) || !existsSync(/* turbopackIgnore: true */ worker)) return makeAsked(name, wanted, folder)
  mayBeMade(name)
  const pool = ready()
  const { port1, port2 } = new MessageChannel()
  const far = { written: 0 }
  asked.set(ask, far)
  port1.on('message', (written: number) => (far.written = written))
  try {
    return (await pool.run({ name, wanted, folder, port: port2 }, { signal, transferList: [port2] })) as Made | MadeFile | null
  } finally {
    asked.delete(ask)
    port1.close()
  }
}
