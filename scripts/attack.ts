// npm run attack: what a bad day does to the built server. Not part of CI.
// npm run attack -- kills 200     the server is killed with -9 while a device works; the device too, now and then
// npm run attack -- imports 500   malformed files
// npm run attack -- edits 2000    random and malformed edits of a job of 400 circuits
// npm run attack -- calculators   calculators asked for far too much at once, and what others wait meanwhile
// npm run attack -- papers        every paper of a job of 400 circuits at once, and what others wait meanwhile
// npm run attack -- photographs   400 photographs of a job on paper, and the memory it takes
// npm run attack -- older         a database of version 2 with 1,000 jobs, and one that cannot be brought up
// npm run attack -- disk          a photograph that the disk does not take whole
// npm run attack -- rescue        the database deleted while the server runs, and the start after it
// npm run attack -- pages         what a device does without a connection, in a fresh profile, beside another (browser tests)
// npm run attack -- door          proxies, floods of passphrases, instruments, handshakes, methods (browser tests)
// npm run attack -- odd           files, pictures, names and methods that are none
// npm run attack -- backups       backups while somebody writes, each restored
import { AsyncLocalStorage } from 'node:async_hooks'
import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { editBy } from '../tests/support/any-edit'
import { writeJobFile } from '../src/core/job/file'
import type { Job } from '../src/core/job/schema'
import type { LoadedJob } from '../src/features/sync/job-state'
import { createJobStore } from '../src/features/sync/job-store'
import type { Act } from '../src/features/sync/act'
import type { Outbox } from '../src/features/sync/outbox'
import { historyOf } from '../src/store/jobs'
import { openStore } from '../src/store/open'
import { databaseDeleted, fullDisk, inBrowser, olderDatabase, photographsOnPaper } from './attack-storage'
import { backupsMeanwhile, calculatorLoad, oddRequests, paperLoad } from './attack-load'
import { bigJob } from './big-job'
import { type BuiltServer, startBuilt, wait } from './built-server'

const PORT = 3241
const base = `http://127.0.0.1:${PORT}`
const folder = mkdtempSync(path.join(tmpdir(), 'synthema-attack-'))

/** A page, as long as it is open: one that was closed asks nothing more, and hears no answer. */
interface Page {
  open: boolean
}
const pages = new AsyncLocalStorage<Page>()
// A page asks its own server.
const over = globalThis.fetch
globalThis.fetch = async (input, init) => {
  const closed = () => pages.getStore()?.open === false
  const never = () => new Promise<Response>(() => {})
  if (closed()) return never()
  const answer = await over(typeof input === 'string' && input.startsWith('/') ? base + input : input, init)
  return closed() ? never() : answer
}

let seed = 11
/** The same numbers in every run. */
const roll = (below: number): number => {
  seed = (seed * 1103515245 + 12345) % 2147483648
  return Math.floor((seed / 2147483648) * below)
}

let server: BuiltServer
const start = async () => void (server = await startBuilt(folder, PORT))
const kill = () => server.kill()

const post = (url: string, body: string) => fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body })
const load = async (id: string): Promise<LoadedJob> => (await (await fetch(`/api/jobs/${id}`)).json()) as LoadedJob

/** A device whose memory of what it did outlives its pages. */
function device(): Outbox & { readonly acts: Act[] } {
  const acts: Act[] = []
  return {
    acts,
    keep: async (_, act) => void acts.push(act),
    drop: async (_, id) => {
      const i = acts.findIndex((a) => a.id === id)
      if (i >= 0) acts.splice(i, 1)
    },
    left: async () => [...acts],
    setAside: async () => {},
    asides: async () => new Map(),
  }
}

async function kills(times: number) {
  await start()
  const file = writeJobFile(bigJob(3), [])
  const { id } = (await (await post('/api/jobs/import', JSON.stringify(file))).json()) as { id: string }
  const shelf = device()
  let [page, store] = [{ open: true }, createJobStore(await load(id), shelf)]
  const done: string[] = []
  const act = () => pages.run(page, actNow)
  const actNow = () => {
    const n = done.length
    if (roll(3)) {
      store.getState().commit({ kind: 'brief.set', patch: { request: `act ${n}` } })
      done.push(`act ${n}`)
    } else {
      const reading = {
        circuit: 'c1',
        point: null,
        test: 'zs',
        value: n,
        mark: null,
        unit: 'Ω',
        instrument: '',
        note: `act ${n}`,
        corrects: null,
      }
      store.getState().addReading({ id: `r${n}`, on: null, ...reading })
      done.push(`act ${n}`)
    }
  }
  for (let i = 0; i < times; i++) {
    for (let k = 0; k < 4; k++) {
      act()
      await wait(roll(30))
    }
    // At once, or while what waited is being sent again.
    await wait(roll(2) ? roll(120) : 1900 + roll(500))
    await kill()
    // Done while nobody answers.
    act()
    await start()
    // Every tenth time the page is gone too, and is opened again from what the device kept.
    if (i % 10 === 9) {
      page.open = false
      const loaded = await load(id)
      ;[page, store] = [{ open: true }, createJobStore(loaded, shelf)]
      void pages.run(page, () => store.getState().takeUp())
    }
    if (i % 20 === 19) console.log(`  ${i + 1} kills, ${done.length} acts, ${shelf.acts.length} waiting`)
  }
  for (let t = 0; shelf.acts.length && t < 600; t++) await wait(100)
  const stands = await load(id)
  await kill()
  const disk = openStore(folder)
  const history = historyOf(disk, id, 1e6)
  disk.$client.close()
  const edits = history
    .map((h) => /act \d+/.exec(h.label)?.[0])
    .filter((l) => l !== undefined)
    .toReversed()
  const readings = stands.readings.map((r) => r.note)
  const asDone = (list: readonly (string | undefined)[]) => list.map((l) => Number(l!.slice(4)))
  const inOrder = (list: readonly number[]) => list.every((n, i) => i === 0 || n > list[i - 1]!)
  const all = new Set([...edits, ...readings])
  const lost = done.filter((d) => !all.has(d))
  console.log(
    `kills: ${times}; acts ${done.length}; lost ${lost.length}; twice ${edits.length + readings.length - all.size}; ` +
      `in order: edits ${inOrder(asDone(edits))}, readings ${inOrder(asDone(readings))}; waiting ${shelf.acts.length}`,
  )
  return lost.length === 0 && edits.length + readings.length === all.size && shelf.acts.length === 0
}

const junk: readonly unknown[] = [
  null,
  0,
  -1,
  1e308,
  -0.5,
  '',
  'x'.repeat(5000),
  '__proto__',
  'constructor',
  [],
  {},
  [null],
  true,
  { __proto__: 1 },
  '\ud800',
  'nobody',
  { constructor: { prototype: 1 } },
  '2026-13-45',
  NaN,
  [[[[]]]],
  2 ** 53,
  '1e999',
]
/** A value of the same shape with something wrong in it. */
function spoiled(value: unknown): unknown {
  const copy = structuredClone(value)
  for (let times = 1 + roll(3); times > 0; times--) {
    let at = copy as Record<string, unknown>
    for (;;) {
      const keys = Object.keys(at)
      const key = keys[roll(keys.length)]
      if (key === undefined) break
      const next = at[key]
      if (next && typeof next === 'object' && Object.keys(next).length && roll(5)) {
        at = next as Record<string, unknown>
        continue
      }
      const how = roll(4)
      if (how === 0) delete at[key]
      else if (how === 1) at[`${key}x`] = next
      else if (how === 2 && Array.isArray(at)) at.push(structuredClone(next))
      else at[key] = junk[roll(junk.length)]
      break
    }
  }
  return copy
}
/** Text that is no longer JSON, or hardly. */
function broken(text: string): string {
  const at = roll(text.length)
  return [
    text.slice(0, at),
    text.slice(at),
    text.slice(0, at) + '{' + text.slice(at),
    `[${text}]`,
    text.replaceAll('"id"', '"__proto__"'),
    '',
  ][roll(6)]!
}

/** What takes longer is shown. */
const LONG_MS = 200

class Tally {
  readonly statuses = new Map<number, number>()
  readonly times: number[] = []
  lost = 0
  async ask(url: string, body: string): Promise<unknown> {
    const begun = performance.now()
    try {
      const response = await post(url, body)
      const answer: unknown = await response.json()
      const took = performance.now() - begun
      this.times.push(took)
      if (took > LONG_MS) console.log(`  ${took.toFixed(0)} ms, ${response.status}: ${body.slice(0, 160)}`)
      this.statuses.set(response.status, (this.statuses.get(response.status) ?? 0) + 1)
      if (response.status >= 500) console.log(url, body.slice(0, 400), answer)
      return answer
    } catch (e) {
      this.lost++
      console.log('no answer', url, body.slice(0, 300), e)
      return null
    }
  }
  print(what: string): boolean {
    const sorted = this.times.toSorted((a, b) => a - b)
    const q = (p: number) => (sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * p))] ?? 0).toFixed(0)
    const by = [...this.statuses].toSorted(([a], [b]) => a - b).map(([s, n]) => `${s}: ${n}`)
    console.log(`${what}: ${by.join(', ')}; no answer ${this.lost}; p50 ${q(0.5)} ms, p99 ${q(0.99)} ms, longest ${q(1)} ms`)
    return this.lost === 0 && ![...this.statuses.keys()].some((s) => s >= 500)
  }
}

async function imports(times: number) {
  await start()
  const tally = new Tally()
  const files = readdirSync('tests/jobs').filter((f) => f.endsWith('.json') && f !== 'expect.json')
  const whole: unknown[] = files.map((f) => JSON.parse(readFileSync(`tests/jobs/${f}`, 'utf8')))
  whole.push(writeJobFile(bigJob(400), []))
  for (let i = 0; i < times; i++) {
    const file = i % 10 === 9 ? whole.at(-1)! : whole[roll(whole.length)]!
    const text = roll(5) ? JSON.stringify(spoiled(file)) : broken(JSON.stringify(file))
    const answer = (await tally.ask('/api/jobs/import', text)) as { id?: string } | null
    // What was taken can be had again, and read back.
    if (answer?.id) {
      const again = await fetch(`/api/jobs/${answer.id}/file.json`)
      if (!again.ok) console.log('taken and not given back', answer.id, again.status)
      else await tally.ask('/api/jobs/import', await again.text())
    }
  }
  await kill()
  return tally.print(`imports ${times}`)
}

async function edits(times: number) {
  await start()
  const { id } = (await (await post('/api/jobs/import', JSON.stringify(writeJobFile(bigJob(400), [])))).json()) as { id: string }
  const tally = new Tally()
  let { job, revision }: { job: Job; revision: number } = await load(id)
  for (let i = 0; i < times; i++) {
    const edit: unknown = editBy(
      job,
      Array.from({ length: 8 }, () => roll(998)),
    )
    const answer = (await tally.ask(`/api/jobs/${id}/edits`, JSON.stringify({ revision, edit: roll(3) ? edit : spoiled(edit) }))) as {
      revision?: number
    } | null
    if (answer?.revision) ({ job, revision } = await load(id))
  }
  const file = await fetch(`/api/jobs/${id}/file.json`)
  const back = await post('/api/jobs/import', await file.text())
  console.log(`after ${times} edits the job is ${back.ok ? 'exported and read back' : `NOT read back: ${await back.text()}`}`)
  await kill()
  return tally.print(`edits ${times} at 400 circuits`) && back.ok
}

execFileSync(process.execPath, ['-e', "import('./scripts/setup.mjs').then((m) => m.build())"], { stdio: 'inherit' })
/** One of those that ask of a running server. */
const asked = (of: (to: BuiltServer, times: number) => Promise<boolean>) => async (times: number) => {
  await start()
  try {
    return await of(server, times)
  } finally {
    await kill()
  }
}
const attacks = {
  kills,
  imports,
  edits,
  calculators: asked(calculatorLoad),
  papers: asked(paperLoad),
  photographs: asked(photographsOnPaper),
  older: (times: number) => olderDatabase(PORT, times),
  disk: () => fullDisk(PORT),
  rescue: () => databaseDeleted(PORT),
  pages: () => inBrowser(['offline', 'devices', 'working', 'photographs']),
  door: () => inBrowser(['door', 'instrument', 'guard']),
  odd: asked(oddRequests),
  backups: asked(backupsMeanwhile),
}
const [which, times] = process.argv.slice(2)
const wanted =
  which === undefined
    ? ([
        ['kills', 200],
        ['imports', 500],
        ['edits', 2000],
        ['calculators', 30],
        ['papers', 21],
        ['photographs', 400],
        ['older', 1000],
        ['disk', 1],
        ['rescue', 1],
        ['odd', 5],
        ['backups', 5],
        ['pages', 1],
        ['door', 1],
      ] as const)
    : ([[which, Number(times ?? 100)]] as const)
let stood = true
for (const [name, n] of wanted) stood = (await attacks[name as keyof typeof attacks](n)) && stood
rmSync(folder, { recursive: true, force: true })
process.exit(stood ? 0 : 1)
