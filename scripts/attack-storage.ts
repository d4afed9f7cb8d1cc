import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import Database from 'better-sqlite3'
import sharp from 'sharp'
import { writeJobFile } from '../src/core/job/file'
import { newJob } from '../src/core/job/schema'
import { createJob } from '../src/store/jobs'
import { openStore } from '../src/store/open'
import { bigJob } from './big-job'
import { type BuiltServer, startBuilt, wait } from './built-server'

/* What befalls the folder in which everything is kept, and how much memory and time it takes then. */

const post = (url: string, body: unknown) =>
  fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
const importBig = async (base: string, circuits: number): Promise<string> =>
  ((await (await post(`${base}/api/jobs/import`, writeJobFile(bigJob(circuits), []))).json()) as { id: string }).id
/** A folder of its own for as long as something is done in it. */
async function within<T>(act: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-attack-'))
  try {
    return await act(folder)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
const photograph = (id: string, data: Buffer) => ({
  id,
  photograph: id,
  of: { kind: 'circuit', id: 'c1' },
  words: `Number ${id}`,
  out: false,
  data: data.toString('base64'),
})
/** A picture that hardly gets smaller as a JPEG, as one of a board full of conductors; no two are alike. */
function noisy(width: number, height: number, nth: number, quality = 75): Promise<Buffer> {
  const raw = Buffer.alloc(width * height * 3)
  let seed = nth + 1
  for (let i = 0; i < raw.length; i++) {
    seed = (seed * 1103515245 + 12345) & 0x7fffffff
    raw[i] = 96 + ((seed >> 16) & 63)
  }
  return sharp(raw, { raw: { width, height, channels: 3 } })
    .jpeg({ quality })
    .toBuffer()
}

/** The most memory a process and its children had at once, in MB, looked at while something goes on. */
async function mostMemory<T>(pid: number, going: () => Promise<T>): Promise<{ value: T; mostMB: number }> {
  let mostMB = 0
  const look = () => {
    const rows = execFileSync('ps', ['-eo', 'pgid=,rss='], { encoding: 'utf8' }).trim().split('\n')
    const ours = rows.map((r) => r.trim().split(/\s+/).map(Number)).filter(([group]) => group === pid)
    mostMB = Math.max(mostMB, ours.reduce((sum, [, rss]) => sum + rss!, 0) / 1024)
  }
  look()
  const looking = setInterval(look, 50)
  try {
    return { value: await going(), mostMB }
  } finally {
    clearInterval(looking)
  }
}

/** A paper may take so much more memory than the server at rest, in MB; the archive makes all of them. */
const MOST_MB = { 'photographs.pdf': 400, 'archive.zip': 700 }
/** All photographs of a job on paper, and in the archive. */
export async function photographsOnPaper({ base, pid }: BuiltServer, times: number): Promise<boolean> {
  const id = await importBig(base, 3)
  let sent = 0
  for (let i = 0; i < times; i++) {
    const data = await noisy(1600, 1200, i)
    sent += data.length
    const { status } = await post(`${base}/api/jobs/${id}/photographs`, photograph(`p${i}`, data))
    if (status !== 200) throw new Error(`photograph ${i} was answered ${status}`)
  }
  const { mostMB: atRest } = await mostMemory(pid, () => wait(500))
  let held = true
  for (const paper of ['photographs.pdf', 'archive.zip'] as const) {
    const bound = MOST_MB[paper]
    const begun = performance.now()
    const { value, mostMB } = await mostMemory(
      pid,
      async () => (await (await fetch(`${base}/api/jobs/${id}/${paper}`)).arrayBuffer()).byteLength,
    )
    const more = mostMB - atRest
    held &&= more < bound
    const took = ((performance.now() - begun) / 1000).toFixed(1)
    const of = `${times} of ${(sent / 1e6).toFixed(0)} MB in ${paper}, ${(value / 1e6).toFixed(0)} MB`
    const most = more < bound ? '' : ` (at most ${bound} MB)`
    console.log(`photographs: ${of}: ${more.toFixed(0)} MB of memory more than at rest, ${took} s${most}`)
  }
  return held
}

/** Puts so many jobs of version 2 into a folder, the last of which nobody can read. */
function fillOlder(folder: string, times: number): void {
  const store = openStore(folder)
  createJob(store, 'first', newJob('southern-africa', 'Wax melter', 'Honey house'), [], { by: 'A', at: '2026-11-20T08:00:00.000Z' })
  const client = store.$client
  const { job } = JSON.parse(readFileSync('tests/support/job-file-2.json', 'utf8')) as { job: object }
  const columns = (client.pragma('table_info(jobs)') as { name: string }[]).map((c) => c.name).join(', ')
  client.exec('CREATE TABLE kept AS SELECT * FROM jobs')
  for (let i = 0; i < times; i++) {
    const stored = i === times - 1 ? { ...job, region: 'nowhere' } : job
    client.prepare('UPDATE kept SET id = ?, search_row = NULL, version = 0, job = ?').run(`old-${i}`, JSON.stringify(stored))
    client.exec(`INSERT INTO jobs (${columns}) SELECT ${columns} FROM kept`)
  }
  client.exec('DROP TABLE kept')
  client.pragma('user_version = 2')
  client.close()
}
/** The first answer and the first list of an older database may take so long, in milliseconds. */
const [FIRST_MS, LIST_MS] = [5000, 2000]
/** A database of an older version: how soon it is served, and whether all but the one that cannot be brought up are. */
export function olderDatabase(port: number, times: number): Promise<boolean> {
  return within(async (folder) => {
    fillOlder(folder, times)
    const begun = performance.now()
    const server = await startBuilt(folder, port)
    const taken = async (to: string) => {
      const from = performance.now()
      const { status } = await fetch(server.base + to)
      return { status, ms: performance.now() - from }
    }
    try {
      const first = performance.now() - begun
      const [list, job, broken] = [await taken('/'), await taken('/api/jobs/old-0'), await taken(`/api/jobs/old-${times - 1}`)]
      const client = new Database(path.join(folder, 'synthema.db'), { readonly: true })
      const left = () =>
        client.prepare('SELECT count(*) - count(set_aside) AS n, count(set_aside) AS aside FROM jobs WHERE version < 4').get() as {
          n: number
          aside: number
        }
      while (left().n > 0) await wait(100)
      const { aside } = left()
      client.close()
      console.log(
        `older: ${times} jobs of version 2: first answer after ${first.toFixed(0)} ms, the list in ${list.ms.toFixed(0)} ms, a job in ` +
          `${job.ms.toFixed(0)} ms (${job.status}), the broken one ${broken.status}; all brought up after ` +
          `${((performance.now() - begun) / 1000).toFixed(1)} s, ${aside} set aside`,
      )
      return first < FIRST_MS && list.ms < LIST_MS && job.status === 200 && broken.status === 422 && aside === 1
    } finally {
      await server.kill()
    }
  })
}

/** A photograph that the disk does not take whole is refused, leaves nothing, and what is small enough is taken after it. */
export function fullDisk(port: number): Promise<boolean> {
  return within(async (folder) => {
    openStore(folder).$client.close()
    const server = await startBuilt(folder, port, { largestKiB: 1500 })
    try {
      const id = await importBig(server.base, 3)
      const large = await post(`${server.base}/api/jobs/${id}/photographs`, photograph('large', await noisy(1600, 1600, 1, 97)))
      const small = await post(`${server.base}/api/jobs/${id}/photographs`, photograph('small', await noisy(200, 200, 2)))
      const kept = await fetch(`${server.base}/api/jobs/${id}/photographs/small`)
      const files = readdirSync(path.join(folder, 'photographs'))
      console.log(
        `disk: a photograph it does not take whole was answered ${large.status}, a small one after it ${small.status}; files kept: ` +
          files.length,
      )
      return large.status === 507 && small.status === 200 && kept.ok && files.length === 1
    } finally {
      await server.kill()
    }
  })
}

/** The database deleted while the server runs: nothing more is acknowledged, and at the next start the rescued copy is not passed over. */
export function databaseDeleted(port: number): Promise<boolean> {
  return within(async (folder) => {
    const server = await startBuilt(folder, port)
    const id = await importBig(server.base, 3)
    for (const end of ['', '-wal', '-shm']) rmSync(path.join(folder, `synthema.db${end}`), { force: true })
    const edit = { kind: 'brief.set', patch: { request: 'After it was gone' } }
    const gone = await post(`${server.base}/api/jobs/${id}/edits`, { revision: 1, edit })
    await server.kill()
    const asked = await startBuilt(folder, port)
    const before = await fetch(`${asked.base}/api/jobs/${id}`)
    await asked.kill()
    const used = await startBuilt(folder, port, { env: { RESCUED: 'use' } })
    const after = await fetch(`${used.base}/api/jobs/${id}`)
    await used.kill()
    console.log(
      `rescue: deleted, an edit was answered ${gone.status}; started again ${before.status}, with RESCUED=use ${after.status} for the job`,
    )
    return gone.status === 503 && before.status === 503 && after.status === 200
  })
}

/** What only a browser shows. */
export function inBrowser(specs: readonly string[]): Promise<boolean> {
  const { status } = spawnSync('npx', ['playwright', 'test', '--no-deps', ...specs.map((s) => `${s}.spec`)], { stdio: 'inherit' })
  return Promise.resolve(status === 0)
}
