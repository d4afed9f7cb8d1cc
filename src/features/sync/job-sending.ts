'use client'
import type { StoreApi } from 'zustand'
import type { StockItem } from '@/core/workday/stock'
import { api, ApiError } from '@/ui/api'
import {
  afterChange,
  afterEdit,
  type ChangeLine,
  type Changed,
  type JobState,
  type Lacking,
  later,
  type LoadedJob,
  onlyAdds,
  type Rows,
  withLacking,
} from './job-state'
import type { Act } from './act'
import type { Outbox } from './outbox'

/** The store of one job as its parts see it. */
export interface Here {
  readonly id: string
  /** The address of the job on the server. */
  readonly base: string
  readonly outbox: Outbox
  readonly get: StoreApi<JobState>['getState']
  readonly set: StoreApi<JobState>['setState']
  /** Sets what is given, and works out again what follows from it. */
  readonly refresh: (patch: Partial<JobState>) => void
}

const RETRY_MS = 2000

/** Takes rows of photographs that this device lacked. */
export function takeRows({ get, set }: Here, { from, rows }: Rows): void {
  const { photographs } = get()
  if (from + rows.length > photographs.length) set({ photographs: [...photographs.slice(0, from), ...rows] })
}

/** Sends one act, and gives the state of the job after it. A reading's answer speaks of readings alone, a photograph's of photographs. */
async function sent(here: Here, act: Act, saved: LoadedJob): Promise<LoadedJob> {
  const { base, get, set } = here
  const { id, at, seen } = act
  const by = act.by ? { by: act.by } : {}
  if (act.kind === 'edit') {
    const done = { revision: saved.revision, seen, edit: act.edit, act: id, at, ...by, ...(act.over ? { over: act.over } : {}) }
    return afterChange(saved, await api<Changed>('POST', `${base}/edits`, done), afterEdit(saved.job, act.edit))
  }
  if (act.kind === 'photograph') {
    takeRows(here, await api<Rows>('POST', `${base}/photographs`, { ...act.row, at, ...by, held: get().photographs.length }))
    return saved
  }
  if (act.kind === 'stock') {
    set({ stock: await api<readonly StockItem[]>('POST', '/api/stock', { ...act.move, at, ...by }) })
    return saved
  }
  const lacking = await api<Lacking>('POST', `${base}/readings`, { ...act.reading, at, ...by, held: saved.readings.length })
  return { ...saved, readings: withLacking(saved.readings, lacking) }
}

/** The state of what was done while so many acts wait. */
const standingOf = ({ get }: Here, waiting: number): JobState['saving'] =>
  get().conflict ? 'conflict' : waiting ? 'saving' : get().refused.length ? 'refused' : 'saved'
/** The server was heard now. */
const heard = () => ({ asOf: new Date().toISOString(), connected: true })

/** Sends the first that waits; once it is answered the device need not keep it. */
async function sendOne(here: Here, act: Act): Promise<void> {
  const { id, outbox, get, refresh } = here
  const kept = await sent(here, act, get().saved)
  const rest = get().pending.filter((a) => a.id !== act.id)
  refresh({
    saved: later(get().saved, kept),
    // What waits was done on what its hand had seen; this answer may bring what others did since.
    pending: rest,
    saving: standingOf(here, rest.length),
    problem: null,
    ...heard(),
  })
  const { saved: loaded, photographs, asOf } = get()
  await outbox.stands?.({ id, loaded: { ...loaded, photographs }, asOf }).catch(() => {})
  await outbox.drop(id, act.id)
}

/** Not reached, not let in, asked too often, or not well: it is sent again after a while. */
const passes = (status: number): boolean => status === 0 || status === 401 || status === 429 || status >= 500

/**
 * What follows where an act was not taken; says whether there is any use in going on. Nothing is given up that a person did not give up:
 * what clashes with what others did waits for a decision, what the server will not take is set aside, and what comes after goes on.
 */
async function notTaken(here: Here, act: Act, e: ApiError): Promise<'on' | 'gone'> {
  const { id, outbox, get, set, refresh } = here
  const { current, since } = (e.body ?? {}) as { current?: LoadedJob; since?: ChangeLine[] }
  const { conflict } = get()
  // Asked for again after each wait: more may be done meanwhile.
  const rest = () => get().pending.filter((a) => a.id !== act.id)
  if (e.status === 409 && current) {
    if (onlyAdds(act)) refresh({ saved: current, pending: [{ ...act, seen: current.revision }, ...rest()] })
    else refresh({ saving: 'conflict', conflict: { mine: [...(conflict?.mine ?? []), act], current, since: since! }, pending: rest() })
  } else if (e.status === 404) {
    // Deleted elsewhere: what was done is kept until the job is brought back.
    set({ gone: true, saving: 'unreachable' })
    return 'gone'
  } else if (passes(e.status)) {
    set({ saving: 'unreachable', problem: e.message, ...(e.status === 0 ? { connected: false } : {}) })
    await new Promise((r) => setTimeout(r, RETRY_MS))
  } else if (act.kind === 'stock' && e.path !== '') {
    // The van has none left: nothing was taken, and asking again takes nothing.
    await outbox.drop(id, act.id)
    refresh({ pending: rest(), saving: standingOf(here, rest().length), problem: e.message })
  } else if (conflict && act.kind === 'edit') {
    // It may rest on what waits for a decision, and waits with it.
    refresh({ conflict: { ...conflict, mine: [...conflict.mine, act] }, pending: rest() })
  } else {
    await outbox.setAside(id, act.id, e.message).catch(() => {})
    refresh({ pending: rest(), refused: [...get().refused, { act, why: e.message }], saving: rest().length ? 'saving' : 'refused' })
  }
  return 'on'
}

export interface Sending {
  /** Does an act here, keeps it on the device, and sends it. */
  readonly put: (act: Act) => void
  /** Kept when nothing waits any more that can be sent. */
  readonly flush: () => Promise<void>
  /** What is being sent now. */
  readonly underWay: () => Promise<void> | null
  /** Sends what a reload or a lost connection left unsent on this device; what is done now waits for it. */
  readonly takeUp: () => Promise<void>
}

/** Sends what was done here, one act after another in the order it was done. */
export function sendingOf(here: Here): Sending {
  const { id, outbox, get, set, refresh } = here
  /** What was left on the device goes before what is done now. */
  let takingUp: Promise<void> = Promise.resolve()
  /** Acts being put on the shelf of this device; none is sent before it is there. */
  const keeping = new Map<string, Promise<void>>()
  let sending: Promise<void> | null = null

  const send = async () => {
    await takingUp
    for (;;) {
      const act = get().pending[0]
      // What does not clash need not wait until a person has decided about what does.
      if (act === undefined) {
        // At once: what is done from now on is sent again.
        sending = null
        return
      }
      await keeping.get(act.id)
      set({ saving: 'saving' })
      try {
        await sendOne(here, act)
      } catch (e) {
        if (!(e instanceof ApiError)) throw e
        if ((await notTaken(here, act, e)) === 'gone') return
      }
    }
  }
  const flush = () => {
    sending ??= send().finally(() => {
      sending = null
    })
    return sending
  }
  const lookOnShelf = async () => {
    const left = await outbox.left(id).catch(() => [])
    const asides = await outbox.asides(id).catch(() => new Map<string, string>())
    const known = new Set([...get().pending, ...get().refused.map((r) => r.act)].map((a) => a.id))
    const refused = left.flatMap((act) => (asides.has(act.id) && !known.has(act.id) ? [{ act, why: asides.get(act.id)! }] : []))
    if (refused.length) refresh({ refused: [...get().refused, ...refused], saving: 'refused' })
    const fresh = left.filter((a) => !known.has(a.id) && !asides.has(a.id))
    if (fresh.length) refresh({ pending: [...fresh, ...get().pending], saving: 'saving' })
    else if (get().saving === 'looking') set({ saving: 'saved' })
  }
  return {
    put: (act) => {
      const kept = outbox.keep(id, act).catch(() => {
        set({ problem: 'This device cannot keep what is done on it: stay on this page until it says “Saved”.' })
      })
      keeping.set(
        act.id,
        kept.finally(() => void keeping.delete(act.id)),
      )
      refresh({ pending: [...get().pending, act], preview: null, said: null, saving: 'saving' })
      void flush()
    },
    flush,
    underWay: () => sending,
    takeUp: () => {
      takingUp = lookOnShelf()
      return takingUp.then(() => void flush())
    },
  }
}
