import type { DemoJob } from '@/core/demo/kit'
import { read } from '@/core/installation/installation'
import { newJob } from '@/core/job/schema'
import { takenOn } from '@/core/verify/taken-on'
import { addReading, createJob, editJob, loadJob } from './jobs'
import type { Store } from './open'

/** Makes a demo job by the same edits and readings that a user makes, each at its minute. */
export function makeDemo(store: Store, demo: DemoJob): void {
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
