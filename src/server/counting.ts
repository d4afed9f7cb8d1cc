import 'server-only'
import { countJobs } from '@/store/jobs'
import { storageTroubleHere, store } from './data'

/** So long nobody must have changed anything before what was changed is counted. */
const QUIET_MS = 1000
const holder = globalThis as typeof globalThis & { synthemaCounting?: NodeJS.Timeout }

/** Counts what is wrong and open in the jobs that changed, one after another, once nobody has changed anything for a while. */
export function countWhenQuiet(): void {
  clearTimeout(holder.synthemaCounting)
  holder.synthemaCounting = setTimeout(() => {
    try {
      if (countJobs(store(), 1) > 0) countWhenQuiet()
    } catch (e) {
      // Who looks at the list next is told what befell the storage.
      if (!storageTroubleHere(e)) throw e
    }
  }, QUIET_MS)
  holder.synthemaCounting.unref()
}
