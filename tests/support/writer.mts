// Writes edits as fast as it can and says each one's revision once the store has acknowledged it. Meant to be killed.
import { writeSync } from 'node:fs'
import { createJob, editJob, loadJob, NotFoundError } from '../../src/store/jobs'
import { newJob } from '../../src/core/job/schema'
import { openStore } from '../../src/store/open'

const store = openStore(process.argv[2]!)
const hand = { by: 'writer', at: '2026-11-20T08:00:00.000Z' }
try {
  loadJob(store, 'j')
} catch (e) {
  if (!(e instanceof NotFoundError)) throw e
  createJob(store, 'j', newJob('north-america', 'Killed while writing', ''), [], hand)
}
for (;;) {
  const { revision } = loadJob(store, 'j')
  const saved = editJob(store, 'j', revision, { kind: 'load.set', circuit: 'c1', patch: { amount: revision } }, hand)
  // Written at once, so that it throws and ends the writer when nobody listens any more.
  writeSync(1, `${saved.revision}\n`)
}
