import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { Worker } from 'node:worker_threads'
import { jpeg } from '../tests/support/jpeg'
import { met, whole } from '../tests/support/signed-job'
import { backUp } from '../src/store/backup'
import { createJob, editJob, hitsIn, listJobs, loadJob } from '../src/store/jobs'
import { openStore } from '../src/store/open'
import { addPhotograph } from '../src/store/photographs'

const JOBS = 2000
const hand = { by: 'Ada', at: '2026-11-20T08:00:00.000Z' }

/** A search over many jobs with their readings and photographs, and a backup of all of it while others write. */
export async function benchKept(line: (name: string, value: string, aim?: string) => void): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-bench-'))
  const store = openStore(folder)
  const job = whole()
  const readings = met(job)
  const of = { kind: 'circuit', id: 'c1' } as const
  for (let i = 0; i < JOBS; i++) {
    createJob(store, `j${i}`, { ...job, title: `Hall ${i}`, place: `${i} Mill Lane` }, readings, hand)
    const data = jpeg(40 + (i % 50), 30 + Math.floor(i / 50))
    addPhotograph(store, `j${i}`, { id: 'p', photograph: 'p', of, words: `Wall ${i}`, out: false, data }, hand)
  }
  listJobs(store)
  let slowest = 0
  for (const search of ['counter', 'mill 77', 'tester', 'wall 1999', '0.3'])
    for (let n = 0; n < 3; n++) {
      const start = performance.now()
      for (const r of listJobs(store, { search }).rows) hitsIn(store, r.id, search)
      if (n > 0) slowest = Math.max(slowest, performance.now() - start)
    }
  line(`A search over ${JOBS} jobs, the slowest of five`, `${slowest.toFixed(1)} ms`, 'aim: under 50 ms')
  // Writers meanwhile are another thread, as in the server.
  const begun = performance.now()
  let [longest, writes] = [0, 0]
  const done = new AbortController()
  const backup = copied(folder).finally(() => done.abort())
  while (!done.signal.aborted) {
    const { revision } = loadJob(store, 'j0')
    const start = performance.now()
    const edit = { kind: 'brief.set', patch: { request: `Wish ${writes++}` } } as const
    editJob(store, 'j0', revision, edit, hand, { act: null, seen: revision, over: new Set() })
    longest = Math.max(longest, performance.now() - start)
    await new Promise((r) => setTimeout(r, 5))
  }
  await backup
  line(`A backup of ${JOBS} jobs and ${JOBS} photographs`, `${(performance.now() - begun).toFixed(0)} ms`)
  line('  the longest write meanwhile', `${longest.toFixed(1)} ms`, `aim: under 100 ms; ${writes} writes`)
  store.$client.close()
  rmSync(folder, { recursive: true, force: true })
}

/** A backup in a thread of its own, where the application is built; else in this one. */
function copied(folder: string): Promise<unknown> {
  const file = path.join(folder, 'all.zip')
  const worker = path.resolve('.next/workers/backup.mjs')
  const code = `import(${JSON.stringify(worker)}).then((m) => m.default(${JSON.stringify({ folder, file })})).then(() => process.exit(0))`
  return new Promise((resolve) => {
    const thread = new Worker(code, { eval: true })
    thread.once('error', () => resolve(backUp(folder, file)))
    thread.once('exit', resolve)
  })
}
