import 'server-only'
import { existsSync } from 'node:fs'
import path from 'node:path'
import { Piscina } from 'piscina'
import answer from './calculator-worker'
import { TooManyError } from './too-many'

const WAITING = 6
/** One who asks has so many under way; the next waits until one of them is answered. */
const EACH = 3
/** So long one question may take, in milliseconds. */
const MOST_MS = 30_000
/** An input that is longer, in bytes, may take long whatever it is of. */
export const SHORT_BYTES = 16_000

const holder = globalThis as typeof globalThis & { synthemaCalculators?: Piscina; synthemaAsking?: Map<string, number> }
// Built beside the application; from the sources, where nothing is built, it is worked out where it is asked for.
const worker = path.join(/* turbopackIgnore: true */ process.cwd(), '.next', 'workers', 'calculators.mjs')
const asking = (holder.synthemaAsking ??= new Map())

type Asked = Parameters<typeof answer>[0]
/**
 * Works out what may take long in a worker, one at a time, so that nobody waits for it; a caller that went away is not served, and what
 * takes too long is given up. `source`: who asks.
 * @throws TooManyError, AbortError
 */
export async function calculateAside(asked: Asked, signal: AbortSignal, source: string): ReturnType<typeof answer> {
  if (!existsSync(/* turbopackIgnore: true */ worker)) return answer(asked)
  const pool = (holder.synthemaCalculators ??= new Piscina({ filename: worker, minThreads: 0, maxThreads: 1, idleTimeout: 30_000 }))
  const own = asking.get(source) ?? 0
  if (pool.queueSize >= WAITING || (source !== 'here' && own >= EACH)) throw new TooManyError('Much is being worked out')
  asking.set(source, own + 1)
  const late = AbortSignal.timeout(MOST_MS)
  try {
    return (await pool.run(asked, { signal: AbortSignal.any([signal, late]) })) as Awaited<ReturnType<typeof answer>>
  } catch (e) {
    if (late.aborted && !signal.aborted)
      throw new TooManyError(`It took more than ${MOST_MS / 1000} s and was cancelled: ask for less at once. Much is being worked out`)
    throw e
  } finally {
    const left = asking.get(source)! - 1
    if (left > 0) asking.set(source, left)
    else asking.delete(source)
  }
}
