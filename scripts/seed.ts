import path from 'node:path'
import { demoJobs } from '../src/core/demo/demo'
import { openStore } from '../src/store/open'
import { listJobs } from '../src/store/jobs'
import { makeDemo } from '../src/store/demo'
import { storageTrouble } from '../src/store/trouble'

/** Puts the demo jobs into an empty database, by the same edits and readings that a user makes. */
const folder = path.resolve(process.env.SYNTHEMA_DATA ?? 'data')
const store = opened()
function opened() {
  try {
    return openStore(folder)
  } catch (e) {
    const trouble = storageTrouble(e, folder)
    if (!trouble) throw e
    console.error(`Synthema: ${trouble.message}`)
    process.exit(1)
  }
}
if (listJobs(store).total > 0 || listJobs(store, { deleted: true }).total > 0) {
  console.log('The data folder has jobs already; they are left as they are.')
} else {
  for (const demo of demoJobs) makeDemo(store, demo)
  console.log(`${demoJobs.length} demo jobs made.`)
}
store.$client.close()
