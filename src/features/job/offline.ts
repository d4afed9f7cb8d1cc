import { stageIds } from '@/core/stages'

/** Once a while is enough: what is cached is the page as last seen, whatever it says. */
const SEEN_KEY = 'synthema.offline.'

/** Makes the application open without a connection, with the stages of this job; where a browser allows none, it works while open. */
export async function keepForOffline(job: string): Promise<void> {
  if (!('serviceWorker' in navigator) || process.env.NODE_ENV !== 'production') return
  await navigator.serviceWorker.register('/offline.js')
  const { active } = await navigator.serviceWorker.ready
  if (sessionStorage.getItem(SEEN_KEY + job)) return
  sessionStorage.setItem(SEEN_KEY + job, '1')
  active?.postMessage({ pages: ['/', ...stageIds.map((s) => `/jobs/${job}/${s}`)] })
}
