import path from 'node:path'
import { read } from '../src/core/installation/installation'
import { takenOn } from '../src/core/record/taken-on'
import { demoJobs } from '../src/core/demo/demo'
import { openStore } from '../src/store/open'
import { addReading, createJob, editJob, listJobs, loadJob } from '../src/store/jobs'
import { newJob } from '../src/core/job/schema'
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
  for (const demo of demoJobs) {
    const minute = (n: number) => new Date(Date.parse(demo.start) + n * 60_000).toISOString()
    createJob(store, demo.id, newJob(demo.region, demo.title, demo.place), [], { by: demo.by, at: minute(0) })
    demo.edits.forEach((edit, i) => editJob(store, demo.id, loadJob(store, demo.id).revision, edit, { by: demo.by, at: minute(i + 1) }))
    const { circuits } = read(loadJob(store, demo.id).job)
    demo.readings.forEach((r, i) =>
      addReading(store, demo.id, {
        instrument: '',
        note: '',
        corrects: null,
        point: null,
        on: takenOn(circuits.find((c) => c.id === r.circuit)!),
        ...r,
        id: `${demo.id}-r${i + 1}`,
        at: minute(demo.edits.length + 60 + i),
        by: demo.by,
      }),
    )
  }
  console.log(`${demoJobs.length} demo jobs made.`)
}
store.$client.close()
