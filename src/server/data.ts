import 'server-only'
import path from 'node:path'
import { getIronSession } from 'iron-session'
import { cookies } from 'next/headers'
import { openStore, type Store } from '@/store/open'
import { loadSettings } from '@/store/settings'
import type { Hand } from '@/store/jobs'
import { door, type Person, sessionOptions } from './sign-in'

const holder = globalThis as typeof globalThis & { synthemaStore?: Store }

/** The one open database of this process. */
export function store(): Store {
  holder.synthemaStore ??= openStore(path.resolve(/* turbopackIgnore: true */ process.env.SYNTHEMA_DATA ?? 'data'))
  return holder.synthemaStore
}

/** The name chosen at the door; null where there is no door. */
export async function signedIn(): Promise<string | null> {
  const here = door()
  return here ? ((await getIronSession<Person>(await cookies(), sessionOptions(here))).name ?? null) : null
}

/** The hand that makes a change now. */
export async function hand(): Promise<Hand> {
  return { by: (await signedIn()) ?? (loadSettings(store()).name || 'somebody at this desk'), at: new Date().toISOString() }
}
