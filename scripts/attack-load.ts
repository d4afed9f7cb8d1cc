import { tmpdir } from 'node:os'
import { mkdtempSync, rmSync } from 'node:fs'
import path from 'node:path'
import { jpeg } from '../tests/support/jpeg'
import { writeJobFile } from '../src/core/job/file'
import { bigJob } from './big-job'
import { type BuiltServer, wait } from './built-server'

/* What many ask at once of the built server, and what somebody else meanwhile waits for a small answer. */

/** Others may wait so long for a small answer, at the 99th of a hundred, in milliseconds. */
const OTHERS_MS = 500

/** A small answer asked for again and again while something goes on: how long the 99th of a hundred took, in milliseconds. */
async function othersDuring(base: string, going: () => Promise<unknown>): Promise<number> {
  const waits: number[] = []
  const done = new AbortController()
  const work = going().finally(() => done.abort())
  const looking = (async () => {
    for (const stop = AbortSignal.any([done.signal, AbortSignal.timeout(60_000)]); !stop.aborted;) {
      const begun = performance.now()
      await fetch(`${base}/api/backup`).then((r) => r.text())
      waits.push(performance.now() - begun)
      await wait(10)
    }
  })()
  await Promise.all([work, looking])
  return waits.toSorted((a, b) => a - b)[Math.max(0, Math.ceil(waits.length * 0.99) - 1)] ?? 0
}

const post = (url: string, body: unknown) =>
  fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
async function counted(all: readonly Promise<Response>[]): Promise<string> {
  const by = new Map<number, number>()
  for (const r of await Promise.all(all)) {
    by.set(r.status, (by.get(r.status) ?? 0) + 1)
    await r.arrayBuffer()
  }
  return [...by].map(([status, n]) => `${n} × ${status}`).join(', ')
}
const said = (name: string, what: string, p99: number): boolean => {
  const held = p99 < OTHERS_MS
  console.log(`${name}: ${what}; others waited ${p99.toFixed(0)} ms at the 99th of a hundred${held ? '' : ` (at most ${OTHERS_MS})`}`)
  return held
}

/** Calculators with far too much, at once. */
export async function calculatorLoad({ base }: BuiltServer, times: number): Promise<boolean> {
  const ids = Array.from({ length: 1000 }, (_, i) => `p${i}`)
  const breakers = ids.slice(0, 400).map((id) => `b${id}`)
  const seen = Array.from({ length: 4000 }, (_, i) => ({ kind: 'breaker-off', breaker: breakers[i % 400], dead: [ids[i % 1000]] }))
  const trace = { breakers, points: ids, observations: seen }
  const whole = writeJobFile(bigJob(400), [])
  const cut = {
    pieces: Array.from({ length: 500 }, (_, i) => ({ id: `c${i}`, lengthM: 1 + (i % 37) / 3 })),
    coils: Array.from({ length: 200 }, () => 50),
  }
  let what = ''
  const p99 = await othersDuring(base, async () => {
    const asks = Array.from({ length: Math.min(times, 40) }, (_, i) =>
      post(`${base}/api/calc/${(['trace', 'job', 'cut-list'] as const)[i % 3]}`, [trace, whole, cut][i % 3]),
    )
    what = await counted(asks)
  })
  return said('calculators', what, p99)
}

/** Every paper of a job of 400 circuits, at once. */
export async function paperLoad({ base }: BuiltServer, times: number): Promise<boolean> {
  const { id } = (await (await post(`${base}/api/jobs/import`, writeJobFile(bigJob(400), []))).json()) as { id: string }
  const files = ['labels.svg', 'day.ics', 'needed.csv', 'netlist.cir', 'record.pdf', 'labels.pdf', 'trace.svg']
  let what = ''
  const p99 = await othersDuring(base, async () => {
    what = await counted(Array.from({ length: Math.min(times, 28) }, (_, i) => fetch(`${base}/api/jobs/${id}/${files[i % files.length]}`)))
  })
  return said('papers', what, p99)
}

/** Files that are no files of ours, pictures that are none, names that nobody has, and methods nobody serves. */
export async function oddRequests({ base }: BuiltServer, times: number): Promise<boolean> {
  const { id } = (await (await post(`${base}/api/jobs/import`, writeJobFile(bigJob(3), []))).json()) as { id: string }
  const latin = Buffer.concat([Buffer.from('{"format":"synthema-job","title":"gr'), Buffer.from([0xfc]), Buffer.from('n"}')])
  const raw = (to: string, body: BodyInit, type: string) =>
    fetch(`${base}${to}`, { method: 'POST', headers: { 'content-type': type }, body })
  const photograph = { id: 'x', photograph: 'x', of: { kind: 'circuit', id: 'c1' }, words: '', out: false }
  const tries: readonly (readonly [string, (code: number) => boolean, () => Promise<Response>])[] = [
    ['a file in another coding', (c) => c === 400, () => raw('/api/jobs/import', latin, 'application/json')],
    ['a zip that is none', (c) => c === 422, () => raw('/api/jobs/import', Buffer.from('PK nothing'), 'application/zip')],
    ['a picture that is none', (c) => c === 422, () => post(`${base}/api/jobs/${id}/photographs`, { ...photograph, data: 'AAAA' })],
    ['a calculator called constructor', (c) => c === 404, () => post(`${base}/api/calc/constructor`, {})],
    ['a paper called __proto__', (c) => c === 404, () => fetch(`${base}/api/jobs/${id}/__proto__`)],
    ['a backup from elsewhere', (c) => c === 404, () => fetch(`${base}/api/backup?file=${encodeURIComponent('../synthema.db')}`)],
    [
      'a change from another site',
      (c) => c === 403,
      () => fetch(`${base}/api/backup`, { method: 'POST', headers: { origin: 'https://elsewhere.invalid' } }),
    ],
    ['an instrument that was not named', (c) => c === 404, () => post(`${base}/api/instruments`, { name: '127.0.0.1:22', unit: 'V' })],
  ]
  let held = true
  for (const [what, right, ask] of tries)
    for (let n = 0; n < Math.min(times, 5); n++) {
      const { status } = await ask()
      if (right(status)) continue
      console.log(`odd: ${what} was answered ${status}`)
      held = false
    }
  console.log(`odd: ${tries.length} kinds of request ${held ? 'refused as they should be' : 'tried'}`)
  return held
}

/** Backups while others write: each is whole. */
export async function backupsMeanwhile({ base }: BuiltServer, times: number): Promise<boolean> {
  const { id } = (await (await post(`${base}/api/jobs/import`, writeJobFile(bigJob(20), []))).json()) as { id: string }
  const data = Buffer.from(jpeg(40, 30)).toString('base64')
  await post(`${base}/api/jobs/${id}/photographs`, {
    id: 'p',
    photograph: 'p',
    of: { kind: 'circuit', id: 'c1' },
    words: '',
    out: false,
    data,
  })
  const { restoreBackup } = await import('../src/store/backup')
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-attack-backup-'))
  let revision = 1
  let whole = 0
  for (let n = 0; n < Math.min(times, 20); n++) {
    const edits = (async () => {
      for (let i = 0; i < 5; i++) {
        const edit = { kind: 'brief.set', patch: { request: `Wish ${n} ${i}` } }
        const answer = await post(`${base}/api/jobs/${id}/edits`, { revision, edit })
        revision = ((await answer.json()) as { revision?: number }).revision ?? revision
      }
    })()
    const made = await post(`${base}/api/backup`, {})
    await edits
    const { last } = (await made.json()) as { last: { name: string } }
    const file = path.join(folder, 'b.zip')
    const { writeFileSync } = await import('node:fs')
    writeFileSync(file, new Uint8Array(await (await fetch(`${base}/api/backup?file=${last.name}`)).arrayBuffer()))
    await restoreBackup(file, path.join(folder, `r${n}`))
    whole++
    await wait(1100)
  }
  rmSync(folder, { recursive: true, force: true })
  console.log(`backups: ${whole} made while somebody wrote, each restored whole`)
  return true
}
