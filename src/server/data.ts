import 'server-only'
import path from 'node:path'
import { getIronSession } from 'iron-session'
import { cookies } from 'next/headers'
import { holdFolder, onDisk, openStore, type Store } from '@/store/open'
import { type StorageError, storageTrouble } from '@/store/trouble'
import { loadSettings } from '@/store/settings'
import type { Hand } from '@/store/jobs'
import { door, type Person, personOf, sessionOptions } from './sign-in'

const holder = globalThis as typeof globalThis & { synthemaStore?: Store; synthemaLock?: object; synthemaTold?: string }
/** The data folder. */
export const folder = (): string => path.resolve(/* turbopackIgnore: true */ process.env.SYNTHEMA_DATA ?? 'data')

/**
 * The one open database of this process, which holds its folder.
 * @throws StorageError
 */
export function store(): Store {
  try {
    holder.synthemaLock ??= holdFolder(folder())
    holder.synthemaStore ??= openStore(folder())
    onDisk(holder.synthemaStore, folder())
    return holder.synthemaStore
  } catch (e) {
    throw storageTroubleHere(e) ?? e
  }
}

/** Before anything is acknowledged: that what was written is in the folder. @throws StorageError */
export function written(): void {
  if (holder.synthemaStore) onDisk(holder.synthemaStore, folder())
}

/** What befell the storage, where that is why something failed; the terminal is told too, once for each that is new. */
export function storageTroubleHere(e: unknown): StorageError | null {
  const trouble = storageTrouble(e, folder())
  if (trouble && trouble.message !== holder.synthemaTold) {
    holder.synthemaTold = trouble.message
    console.error(`Synthema: ${trouble.message}`)
  }
  return trouble
}

/** The name chosen at the door; null where there is no door. */
export async function signedIn(): Promise<string | null> {
  const here = door()
  return here ? personOf(await getIronSession<Person>(await cookies(), sessionOptions(here))) : null
}

/**
 * Who makes a change, and when: now, or when the device says it was made, which is never later than now; the person who is signed in, and
 * the one who made it on the device where that is another.
 */
export async function hand(done?: string, by?: string): Promise<Hand> {
  const now = new Date().toISOString()
  const at = done !== undefined && done < now ? new Date(done).toISOString() : now
  const person = await signedIn()
  if (person !== null) return { by: by && by !== person ? `${by} (sent by ${person})`.slice(0, 120) : person, at }
  return { by: by || loadSettings(store()).name || 'name not entered', at }
}
