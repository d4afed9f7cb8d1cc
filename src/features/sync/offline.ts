import { stageIds } from '@/core/report/stages'

/** Once a while is enough: what is kept is the page without its job. */
const SEEN_KEY = 'synthema.offline.'

/** Whether the application opens on this device without a connection, from now on; where not, it works while it is open. */
export async function keepForOffline(job: string): Promise<boolean> {
  if (process.env.NODE_ENV !== 'production') return true
  if (!('serviceWorker' in navigator)) return false
  try {
    await navigator.serviceWorker.register('/offline.js')
  } catch {
    // The browser does not know who it speaks with, or keeps nothing for anybody.
    return false
  }
  await keepStages(job)
  return true
}

/** The pages of the stages of this job, without the job. */
async function keepStages(job: string): Promise<void> {
  const { active } = await navigator.serviceWorker.ready
  if (sessionStorage.getItem(SEEN_KEY + job)) return
  sessionStorage.setItem(SEEN_KEY + job, '1')
  active?.postMessage({ pages: ['/', ...stageIds.map((s) => `/jobs/${job}/${s}`)] })
}
