import { existsSync, readFileSync } from 'node:fs'
import path from 'node:path'
import type { DemoAct, DemoJob } from '@/core/demo/kit'
import { read } from '@/core/installation/installation'
import { newJob } from '@/core/job/schema'
import { takenOn } from '@/core/verify/taken-on'
import { digestOf } from './chain'
import { addReading, createJob, editJob, type Hand, loadJob } from './jobs'
import type { Store } from './open'
import { addPhotograph } from './photographs'

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
  finish(store, demo)
}

/** What was done to the end of a demo job, each act at its moment; a signature is put under the record as it then is. */
function finish(store: Store, { id, by, finish: acts }: DemoJob): void {
  for (const [i, act] of (acts?.(loadJob(store, id).job) ?? []).entries()) {
    const hand = { by, at: act.at }
    const { job, readings, revision } = loadJob(store, id)
    if ('edit' in act) editJob(store, id, revision, act.edit, hand)
    else if ('signature' in act)
      editJob(store, id, revision, { kind: 'issue.sign', signature: act.signature, digest: digestOf(job, readings) }, hand)
    else if ('photograph' in act) takePicture(store, id, act, hand)
    else {
      const on = takenOn(read(job).circuits.find((c) => c.id === act.reading.circuit)!)
      addReading(store, id, { instrument: '', note: '', corrects: null, point: null, on, ...act.reading, id: `${id}-f${i + 1}`, ...hand })
    }
  }
}

/** The drawn pictures that come with the application. */
const PICTURES = path.resolve('public', 'demo')
function takePicture(store: Store, id: string, { photograph, picture }: Extract<DemoAct, { photograph: unknown }>, hand: Hand): void {
  const file = picture === null ? null : path.join(PICTURES, picture)
  if (file !== null && !existsSync(file)) return
  addPhotograph(
    store,
    id,
    {
      photograph: photograph.id,
      out: false,
      moment: null,
      mark: null,
      unmarked: null,
      ...photograph,
      ...(file === null ? {} : { data: readFileSync(file) }),
    },
    hand,
  )
}
