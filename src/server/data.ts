import 'server-only'
import path from 'node:path'
import { z } from 'zod'
import { getIronSession } from 'iron-session'
import { cookies } from 'next/headers'
import { openStore, type Store } from '@/store/open'
import { loadSettings } from '@/store/settings'
import type { Hand } from '@/store/jobs'
import { door, type Person, personOf, sessionOptions } from './sign-in'

const holder = globalThis as typeof globalThis & { synthemaStore?: Store }

/** The one open database of this process. */
export function store(): Store {
  holder.synthemaStore ??= openStore(path.resolve(/* turbopackIgnore: true */ process.env.SYNTHEMA_DATA ?? 'data'))
  return holder.synthemaStore
}

/** The name chosen at the door; null where there is no door. */
export async function signedIn(): Promise<string | null> {
  const here = door()
  return here ? personOf(await getIronSession<Person>(await cookies(), sessionOptions(here))) : null
}

const YEAR_MS = 366 * 24 * 3600 * 1000
/** When a device says something was done: no clock that was never set, and no act of another age. */
export const doneAt = z.iso.datetime().refine((at) => Date.now() - Date.parse(at) < YEAR_MS, 'the clock of the device is wrong')

/** The hand that makes a change: now, or when the device says it was done, which is never later than now. */
export async function hand(done?: string): Promise<Hand> {
  const now = new Date().toISOString()
  const at = done !== undefined && done < now ? new Date(done).toISOString() : now
  return { by: (await signedIn()) ?? (loadSettings(store()).name || 'somebody at this desk'), at }
}
