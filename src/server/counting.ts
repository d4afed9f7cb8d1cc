import 'server-only'
import { bringUpSome, howMany } from '@/store/bring-up'
import { countJobs, listJobs, type Listed, uncounted } from '@/store/jobs'
import type { Store } from '@/store/open'
import { storageTroubleHere, store } from './data'

/** So long nobody must have changed anything before what was changed is counted. */
const QUIET_MS = 1000
/** So long the list of jobs may count before it answers; the rest is counted later. */
const LIST_MS = 250
/** So long others wait at most for older jobs that are brought up, and so long they then have for themselves. */
const [TURN_MS, PAUSE_MS] = [40, 20]
const holder = globalThis as typeof globalThis & { synthemaCounting?: NodeJS.Timeout; synthemaBringingUp?: NodeJS.Timeout }

/** Whether so many milliseconds have gone by. */
function after(ms: number): () => boolean {
  const end = performance.now() + ms
  return () => performance.now() >= end
}

/** Counts what is wrong and open in the jobs that changed, one after another, once nobody has changed anything for a while. */
export function countWhenQuiet(quietMs = QUIET_MS): void {
  clearTimeout(holder.synthemaCounting)
  holder.synthemaCounting = setTimeout(() => {
    try {
      if (countJobs(store(), (done) => done === 1) > 0) countWhenQuiet(uncounted(store()) > 1 ? PAUSE_MS : QUIET_MS)
    } catch (e) {
      // The next look at the list shows what befell the storage.
      if (!storageTroubleHere(e)) throw e
    }
  }, quietMs)
  holder.synthemaCounting.unref()
}

/** Brings up the jobs of an older version, a few at a time, so that nobody waits for them; each that is asked for comes first. */
export function bringUpMeanwhile(of: Store): void {
  if (holder.synthemaBringingUp || howMany(of.$client).left === 0) return
  const turn = (): void => {
    try {
      if (bringUpSome(of.$client, after(TURN_MS)) > 0) holder.synthemaBringingUp = setTimeout(turn, PAUSE_MS).unref()
      else countWhenQuiet()
    } catch (e) {
      if (!storageTroubleHere(e)) throw e
    }
  }
  holder.synthemaBringingUp = setTimeout(turn, PAUSE_MS).unref()
}

/** What is still to be done with jobs before all that the list says is up to date. */
export interface Pending {
  /** Jobs of an older version. */
  readonly toBringUp: number
  readonly toCount: number
}

/** A page of the list of jobs, in short time: what is not counted yet is counted meanwhile. */
export function listed(options: Listed): ReturnType<typeof listJobs> & { readonly pending: Pending } {
  const list = listJobs(store(), options, after(LIST_MS))
  const pending = { toBringUp: howMany(store().$client).left, toCount: uncounted(store()) }
  if (pending.toCount > 0) countWhenQuiet(PAUSE_MS)
  return { ...list, pending }
}
