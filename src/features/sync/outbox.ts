import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import type { Act } from './act'
import type { LoadedJob } from './job-state'

/** What this device did and the server has not answered yet, in the order it was done. */
export interface Outbox {
  readonly keep: (job: string, act: Act) => Promise<void>
  readonly drop: (job: string, id: string) => Promise<void>
  /** What this page, or one that is gone, left unsent of a job; from now on it is this page's. */
  readonly left: (job: string) => Promise<Act[]>
  /** The state of a job by the last answer of the server: kept before what was answered is dropped. */
  readonly stands?: (kept: KeptJob) => Promise<void>
  /** The server would not take it, and why: it stays on the device until a person decides. Null: it is to be sent again. */
  readonly setAside: (job: string, id: string, why: string | null) => Promise<void>
  /** Why acts of a job were not taken, by their ids. */
  readonly asides: (job: string) => Promise<ReadonlyMap<string, string>>
}

interface Kept {
  readonly seq?: number
  readonly job: string
  readonly tab: string
  readonly act: Act
  /** Why the server did not take it. */
  readonly aside?: string
}
/** A job as this device last heard of it from the server, and when. */
export interface KeptJob {
  readonly id: string
  readonly loaded: LoadedJob
  readonly asOf: string
}
interface Shelf extends DBSchema {
  acts: { key: number; value: Kept; indexes: { job: string } }
  jobs: { key: string; value: KeptJob }
}

let shelf: Promise<IDBPDatabase<Shelf>> | null = null
const open = (): Promise<IDBPDatabase<Shelf>> =>
  (shelf ??= openDB<Shelf>('synthema', 2, {
    upgrade: (db, from) => {
      if (from < 1) db.createObjectStore('acts', { keyPath: 'seq', autoIncrement: true }).createIndex('job', 'job')
      if (from < 2) db.createObjectStore('jobs', { keyPath: 'id' })
    },
    // A page of an older build that is still open lets go of it.
    blocking: (_, __, event) => (event.target as IDBDatabase | null)?.close(),
  }))

/** Jobs as this device last heard of them, so that they open without a connection; the page itself holds none. */
export const deviceJobs = {
  keep: async (kept: KeptJob): Promise<void> => {
    await (await open()).put('jobs', kept)
  },
  of: async (id: string): Promise<KeptJob | undefined> => (await open()).get('jobs', id),
  /** Nobody's any more on this device. What waits to be sent stays. */
  forgetAll: async (): Promise<void> => (await open()).clear('jobs'),
}
/** How many acts of all jobs wait on this device. */
export const unsentHere = async (): Promise<number> => (await open()).count('acts')

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
  stands: (kept) => deviceJobs.keep(kept),
  setAside: async (job, id, why) => {
    const tx = (await open()).transaction('acts', 'readwrite')
    for (const { aside: _, ...kept } of await tx.store.index('job').getAll(job))
      if (kept.act.id === id) await tx.store.put(why === null ? kept : { ...kept, aside: why })
    await tx.done
  },
  asides: async (job) =>
    new Map(
      (await (await open()).getAllFromIndex('acts', 'job', job)).flatMap((k) => (k.aside === undefined ? [] : [[k.act.id, k.aside]])),
    ),
}
