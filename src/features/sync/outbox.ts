import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import type { Edit } from '@/core/job/edits'
import type { StockMove } from '@/core/workday/stock'
import type { PhotographRow } from '@/core/verify/photograph'
import type { Reading } from '@/core/job/reading'

/** A row of a photograph as this device makes it, with the picture where it was just taken: a JPEG in base 64. */
export type SentPhotograph = Pick<PhotographRow, 'id' | 'photograph' | 'of' | 'words' | 'out'> & { readonly data?: string }

/** One thing a hand did, by a name of its own, with the time it was done and the revision it was done on. */
export type Act = { readonly id: string; readonly at: string; readonly seen: number } & (
  | { readonly kind: 'edit'; readonly edit: Edit }
  | { readonly kind: 'reading'; readonly reading: Omit<Reading, 'at' | 'by'> }
  | { readonly kind: 'photograph'; readonly row: SentPhotograph }
  | { readonly kind: 'stock'; readonly move: Omit<StockMove, 'at' | 'by'> }
)

/** What this device did and the server has not answered yet, in the order it was done. */
export interface Outbox {
  readonly keep: (job: string, act: Act) => Promise<void>
  readonly drop: (job: string, id: string) => Promise<void>
  /** What this page, or one that is gone, left unsent of a job; from now on it is this page's. */
  readonly left: (job: string) => Promise<Act[]>
}

interface Kept {
  readonly seq?: number
  readonly job: string
  readonly tab: string
  readonly act: Act
}
interface Shelf extends DBSchema {
  acts: { key: number; value: Kept; indexes: { job: string } }
}

let shelf: Promise<IDBPDatabase<Shelf>> | null = null
const open = (): Promise<IDBPDatabase<Shelf>> =>
  (shelf ??= openDB<Shelf>('synthema', 1, {
    upgrade: (db) => void db.createObjectStore('acts', { keyPath: 'seq', autoIncrement: true }).createIndex('job', 'job'),
  }))

const lockOf = (tab: string): string => `synthema-page-${tab}`
let page: Promise<string> | null = null
/**
 * This page by name, over reloads. It holds a lock by that name as long as it is open, so that others know whether it is gone; a copy of
 * the page, which a browser gives the same name, takes another.
 */
const pageName = (): Promise<string> =>
  (page ??= (async () => {
    const known = sessionStorage.getItem('synthema.page') ?? crypto.randomUUID()
    const name = (await holds(known)) ? known : crypto.randomUUID()
    if (name !== known) await holds(name)
    sessionStorage.setItem('synthema.page', name)
    return name
  })())
function holds(name: string): Promise<boolean> {
  if (!('locks' in navigator)) return Promise.resolve(true)
  return new Promise((resolve) => {
    void navigator.locks.request(lockOf(name), { ifAvailable: true }, (lock) => {
      resolve(lock !== null)
      // Held until the page is closed.
      return lock === null ? undefined : new Promise(() => {})
    })
  })
}

async function openPages(): Promise<ReadonlySet<string>> {
  if (!('locks' in navigator)) return new Set()
  const { held } = await navigator.locks.query()
  return new Set((held ?? []).flatMap((l) => (l.name ? [l.name] : [])))
}

/** The outbox of this device, in its own database. */
export const deviceOutbox: Outbox = {
  keep: async (job, act) => {
    await (await open()).add('acts', { job, tab: await pageName(), act }, undefined)
  },
  drop: async (job, id) => {
    const tx = (await open()).transaction('acts', 'readwrite')
    for (const kept of await tx.store.index('job').getAll(job)) if (kept.act.id === id) await tx.store.delete(kept.seq!)
    await tx.done
  },
  left: async (job) => {
    const [mine, others] = [await pageName(), await openPages()]
    const tx = (await open()).transaction('acts', 'readwrite')
    const found: Act[] = []
    for (const kept of await tx.store.index('job').getAll(job)) {
      if (kept.tab !== mine && others.has(lockOf(kept.tab))) continue
      if (kept.tab !== mine) await tx.store.put({ ...kept, tab: mine })
      found.push(kept.act)
    }
    await tx.done
    return found
  },
}
