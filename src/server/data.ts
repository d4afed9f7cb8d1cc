import 'server-only'
import path from 'node:path'
import { openStore, type Store } from '@/store/open'
import { loadSettings } from '@/store/settings'
import type { Hand } from '@/store/jobs'

const holder = globalThis as typeof globalThis & { synthemaStore?: Store }

/** The one open database of this process. */
export function store(): Store {
  holder.synthemaStore ??= openStore(path.resolve(process.env.SYNTHEMA_DATA ?? 'data'))
  return holder.synthemaStore
}

/** The hand that makes a change now. */
export function hand(): Hand {
  return { by: loadSettings(store()).name || 'somebody at this desk', at: new Date().toISOString() }
}
