import 'server-only'
import { existsSync } from 'node:fs'
import path from 'node:path'
import { Piscina } from 'piscina'
import { calculate, calculators } from '@/core/contract/calculators'
import { TooManyError } from './too-many'

const WAITING = 6
/** Inputs at once of a calculator that takes seconds for one. */
export const MOST_AT_ONCE = 50

const holder = globalThis as typeof globalThis & { synthemaCalculators?: Piscina }
// Built beside the application; from the sources, where nothing is built, it is worked out where it is asked for.
const worker = path.join(/* turbopackIgnore: true */ process.cwd(), '.next', 'workers', 'calculators.mjs')

/**
 * Works out what takes seconds in a worker, one at a time, so that nobody waits for it; whoever asked and went away is not served.
 * @throws TooManyError, AbortError
 */
export async function calculateAside(name: string, input: unknown, signal: AbortSignal): Promise<unknown> {
  if (!existsSync(/* turbopackIgnore: true */ worker)) return calculate(calculators[name]!, input)
  const pool = (holder.synthemaCalculators ??= new Piscina({ filename: worker, minThreads: 0, maxThreads: 1, idleTimeout: 30_000 }))
  if (pool.queueSize >= WAITING) throw new TooManyError('Many plans are being worked out')
  return pool.run({ name, input }, { signal })
}
