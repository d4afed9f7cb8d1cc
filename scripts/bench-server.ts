// The built server under load, for npm run bench. Sizes are measured in turn and not one after the other, so that warming up does not
// pass for growth.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { gzipSync } from 'node:zlib'
import { stageIds } from '../src/core/report/stages'
import { writeJobFile } from '../src/core/job/file'
import { countJobs, createJob } from '../src/store/jobs'
import { openStore } from '../src/store/open'
import { bigJob } from './big-job'
import { type BuiltServer, startBuilt, wait } from './built-server'

type Line = (name: string, value: string, aim?: string) => void
const hand = { by: 'bench', at: '2026-11-20T08:00:00.000Z' }
const now = () => performance.now()
const at = (list: readonly number[], part: number) =>
  list.toSorted((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * part))]!
const ms = (n: number) => `${n.toFixed(1)} ms`

async function took(ask: () => Promise<unknown>): Promise<number> {
  const begun = now()
  await ask()
  return now() - begun
}
async function get(url: string): Promise<string> {
  const response = await fetch(url)
  if (!response.ok) throw new Error(`${url}: ${response.status}`)
  return response.text()
}
async function post<T>(url: string, body: unknown): Promise<T> {
  const response = await fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  if (!response.ok) throw new Error(`${url}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

/** Servers over data folders that are thrown away afterwards. */
async function withServers<T>(
  fill: readonly ((folder: string) => void)[],
  use: (servers: readonly BuiltServer[]) => Promise<T>,
): Promise<T> {
  const folders = fill.map(() => mkdtempSync(path.join(tmpdir(), 'synthema-bench-')))
  const servers: BuiltServer[] = []
  try {
    for (const [i, make] of fill.entries()) {
      make(folders[i]!)
      servers.push(await startBuilt(folders[i]!, 3301 + i))
    }
    return await use(servers)
  } finally {
    for (const s of servers) await s.kill()
    for (const f of folders) rmSync(f, { recursive: true, force: true })
  }
}
const nothing = () => undefined

/** A job that is edited again and again, each time on its last revision. */
function edited(base: string, id: string) {
  let [revision, watts] = [1, 1000]
  return async () => {
    const edit = { kind: 'load.set', circuit: 'c1', patch: { amount: watts++ } }
    revision = (await post<{ revision: number }>(`${base}/api/jobs/${id}/edits`, { revision, edit })).revision
  }
}
const brought = async (base: string, circuits: number, readings = 0) => {
  const taken = Array.from({ length: readings }, (_, i) => ({
    id: `r${i}`,
    circuit: `c${i % circuits}`,
    point: null,
    test: 'zs',
    value: 0.5,
    mark: null,
    unit: 'Ω',
    at: new Date(Date.parse(hand.at) + i * 1000).toISOString(),
    by: 'bench',
    instrument: '',
    note: '',
    corrects: null,
    on: null,
  }))
  return (await post<{ id: string }>(`${base}/api/jobs/import`, writeJobFile(bigJob(circuits), taken))).id
}

async function edits(line: Line) {
  const sizes = [10, 100, 400]
  await withServers([nothing], async ([server]) => {
    const { base, pid } = server!
    const jobs = [...(await Promise.all(sizes.map((n) => brought(base, n)))), await brought(base, 100, 20_000)].map((id) =>
      edited(base, id),
    )
    const times: number[][] = jobs.map(() => [])
    for (let round = 0; round < 160; round++)
      for (const [i, edit] of jobs.entries()) {
        const t = await took(edit)
        if (round >= 20) times[i]!.push(t)
      }
    const p50 = times.map((t) => at(t, 0.5))
    for (const [i, n] of sizes.entries())
      line(`  an edit at ${n} circuits, p50`, ms(p50[i]!), n === 400 ? `${(p50[2]! / p50[0]!).toFixed(2)} × 10, aim: at most 2` : '')
    line('  an edit at 100 circuits and 20,000 readings, p50', ms(p50[3]!), `${(p50[3]! / p50[1]!).toFixed(2)} × without them`)
    const before = memory(pid)
    for (let i = 0; i < 1000; i++) await jobs[1]!()
    line('  memory of the server, before and after 1,000 edits', `${before} → ${memory(pid)} MB`)
  })
}

/** Megabytes that the server and what it started hold. */
function memory(pid: number): number {
  const held = execFileSync('ps', ['-o', 'rss=', '-g', String(pid)], { encoding: 'utf8' })
  return Math.round(
    held
      .split('\n')
      .map(Number)
      .reduce((a, b) => a + b, 0) / 1024,
  )
}

async function papers(line: Line) {
  await withServers([nothing], async ([server]) => {
    const { base } = server!
    const [small, large] = [await brought(base, 3), await brought(base, 100)]
    const ask = () => get(`${base}/api/jobs/${small}`)
    const asked = async (until: () => boolean) => {
      const times: number[] = []
      while (!until()) {
        times.push(await took(ask))
        await wait(4)
      }
      return times
    }
    // The worker is there, as it is once a job was opened.
    await get(`${base}/api/jobs/${small}/record.pdf`)
    const work = await took(() => get(`${base}/api/jobs/${large}/record.pdf`))
    for (let i = 0; i < 50; i++) await ask()
    const end = now() + 3000
    const alone = await asked(() => now() > end)
    let made = 0
    const paper = took(() => get(`${base}/api/jobs/${large}/record.pdf`)).then((t) => (made = t))
    const meanwhile = await asked(() => made > 0)
    await paper
    line('  the record of 100 circuits', `${(work / 1000).toFixed(1)} s`, 'aim: under 5 s')
    line('  the same while others ask without a pause', `${(made / 1000).toFixed(1)} s`)
    line('  others meanwhile, longest answer', ms(at(meanwhile, 1)), `alone ${ms(at(alone, 1))}; aim: at most 50 ms`)
    line(
      '  others meanwhile, p95',
      ms(at(meanwhile, 0.95)),
      `${(at(meanwhile, 0.95) / at(alone, 0.95)).toFixed(2)} × alone, aim: at most 1.5`,
    )
  })
}

const minute = (n: number) => new Date(Date.parse(hand.at) + n * 60_000).toISOString()
/** A database of so many jobs, every hundredth of them about a kiln. */
const holding = (count: number) => (folder: string) => {
  const store = openStore(folder)
  const job = bigJob(3)
  store.transaction(() => {
    for (let i = 0; i < count; i++)
      createJob(store, `j${i}`, { ...job, title: i % 100 ? `Job ${i}` : `Kiln ${i}` }, [], { by: 'bench', at: minute(i) })
  })
  countJobs(store)
  store.$client.close()
}

async function lists(line: Line) {
  const sizes = [10, 5000]
  await withServers(sizes.map(holding), async (servers) => {
    const views: readonly (readonly [string, string])[] = [
      ['the list of jobs', '/'],
      ['a search', '/?q=kiln'],
      ['a job', '/jobs/j5/circuit'],
    ]
    for (const [name, url] of views) {
      const times: number[][] = servers.map(() => [])
      for (let round = 0; round < 60; round++)
        for (const [i, s] of servers.entries()) {
          const t = await took(() => get(s.base + url))
          if (round >= 15) times[i]!.push(t)
        }
      const [few, many] = times.map((t) => at(t, 0.5)) as [number, number]
      line(`  ${name}, 10 jobs and 5,000`, `${few.toFixed(1)}, ${ms(many)}`, `ratio ${(many / few).toFixed(2)}, aim: at most 1.5`)
    }
    const found = new Set<string>()
    for (let page = 1; page <= 3; page++)
      for (const m of (await get(`${servers[1]!.base}/?q=kiln&page=${page}`)).matchAll(/href="\/jobs\/(j\d+)/g)) found.add(m[1]!)
    line('  found of 50 among 5,000', String(found.size), 'aim: none left out')
  })
}

const READERS = 50
async function readers(line: Line) {
  await withServers([nothing], async ([server]) => {
    const { base } = server!
    const id = await brought(base, 30)
    const end = now() + 10_000
    const times = await Promise.all(
      Array.from({ length: READERS }, async () => {
        const mine: number[] = []
        while (now() < end) mine.push(await took(() => get(`${base}/jobs/${id}/circuit`)))
        return mine
      }),
    )
    const all = times.flat()
    line(`  ${READERS} readers for 10 s, pages a second`, (all.length / 10).toFixed(0), `p50 ${ms(at(all, 0.5))}, p99 ${ms(at(all, 0.99))}`)
  })
}

/** JavaScript that a browser of today asks for before anything is done on a page, gzipped; what is marked for older ones it leaves. */
const scriptBytes = (html: string): number =>
  [...new Set([...html.replaceAll(/<script[^>]*\bnomodule\b[^>]*>/gi, '').matchAll(/\/_next\/static\/[^"'\\]+\.js/g)].map((m) => m[0]))]
    .map((s) => path.join('.next', s.replace('/_next/', '')))
    .filter((f) => statSync(f, { throwIfNoEntry: false }))
    .reduce((sum, f) => sum + gzipSync(readFileSync(f)).length, 0)

async function weights(line: Line) {
  await withServers([holding(1)], async ([server]) => {
    const kb = async (url: string) => scriptBytes(await get(server!.base + url)) / 1024
    line('  JavaScript of the first view, gzipped', `${(await kb('/')).toFixed(0)} kB`, 'aim: at most 200 kB')
    const stages: number[] = []
    for (const s of stageIds) stages.push(await kb(`/jobs/j0/${s}`))
    line('  of a stage, the heaviest', `${Math.max(...stages).toFixed(0)} kB`, 'aim: at most 350 kB')
  })
}

/** What is measured on the built server, by name. */
export const serverParts: Readonly<Record<string, (line: Line) => Promise<void>>> = { weights, edits, papers, lists, readers }
