import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import yazl from 'yazl'
import { afterEach, describe, expect, it } from 'vitest'
import { jpeg } from '../../tests/support/jpeg'
import { linesOf, textOf } from '../../tests/support/pdf'
import { met, whole } from '../../tests/support/signed-job'
import type { Edit } from '../core/job/edits'
import { evaluate } from '../core/evaluate/evaluate'
import { whyNotSigned } from '../core/documents/signing'
import { readJobFile } from '../core/job/file'
import { makeAsked, makePaper } from '../server/papers'
import type { MadeFile } from '../server/paper'
import { changesSinceIssue } from '../server/pdf/pack'
import { readArchive } from './archived'
import { readEntries } from './backup'
import { chainOf, digestOf, headOf, standingIssue } from './chain'
import { addReading, createJob, editJob, historyOf, jobAtIssue, lastSigned, loadJob } from './jobs'
import { openStore, type Store } from './open'
import { addPhotograph, bringBack, pictures } from './photographs'
import { mayBeSigned } from './signing'
import { verifyArchive } from './verify'

const made: string[] = []
const place = (): string => {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-archive-'))
  made.push(folder)
  return folder
}
afterEach(() => {
  for (const f of made.splice(0)) rmSync(f, { recursive: true, force: true })
})
const hand = (minute = 0) => ({ by: 'Ada', at: `2026-11-20T08:${String(minute).padStart(2, '0')}:00.000Z` })

function stored(): { store: Store; id: string } {
  const store = openStore(path.join(place(), 'data'))
  createJob(store, 'j', whole(), [], hand())
  return { store, id: 'j' }
}
const sign = (store: Store, id: string, name: string, minute: number): void => {
  const { job, readings, revision } = loadJob(store, id)
  const signature = { id: `s-${name}`, for: 'work' as const, name, qualification: 'Electrician', registration: '12', at: hand(minute).at }
  const edit: Extract<Edit, { kind: 'issue.sign' }> = { kind: 'issue.sign', signature, digest: digestOf(job, readings) }
  mayBeSigned(store, id, edit)
  editJob(store, id, revision, edit, hand(minute), { act: null, seen: revision, over: new Set() })
}
const archive = async (store: Store, id: string): Promise<string> => {
  const asked = {
    stored: loadJob(store, id),
    units: 'metric' as const,
    circuit: null,
    photographs: pictures(store, id),
    history: historyOf(store, id),
  }
  return ((await makeAsked('archive.zip', asked, place())) as MadeFile).file
}

async function zipTo(file: string, entries: Readonly<Record<string, string>>): Promise<void> {
  const zip = new yazl.ZipFile()
  for (const [name, text] of Object.entries(entries)) zip.addBuffer(Buffer.from(text), name)
  zip.end()
  const parts: Buffer[] = []
  for await (const p of zip.outputStream) parts.push(p as Buffer)
  writeFileSync(file, Buffer.concat(parts))
}

describe('a signature', () => {
  it('is refused with its reasons while tests are missing, and while what is signed is not what is kept', () => {
    const { store, id } = stored()
    expect(() => sign(store, id, 'Ben', 20)).toThrow(/^Not signed\. .*isolation/)
    const { job } = loadJob(store, id)
    expect(whyNotSigned(evaluate(job, [])).join(' ')).toMatch(/isolation step.*dead test step.*live test step/)
    for (const r of met(job)) addReading(store, id, r)
    expect(whyNotSigned(evaluate(job, met(job)))).toEqual([])
    const signature = { id: 'x', for: 'work' as const, name: 'Ben', qualification: '', registration: '', at: hand().at }
    expect(() => mayBeSigned(store, id, { kind: 'issue.sign', signature, digest: 'a'.repeat(64) })).toThrow(
      /changed while it was being signed/,
    )
    sign(store, id, 'Ben', 20)
    expect(loadJob(store, id).job.issues).toMatchObject([{ n: 1, signatures: [{ name: 'Ben' }] }])
    store.$client.close()
  })
  it('freezes an issue: a second person signs the same, and what changes later is the next', () => {
    const { store, id } = stored()
    for (const r of met(loadJob(store, id).job)) addReading(store, id, r)
    sign(store, id, 'Ben', 20)
    sign(store, id, 'Cleo', 21)
    const { revision } = loadJob(store, id)
    editJob(store, id, revision, { kind: 'brief.set', patch: { request: 'And a light' } }, hand(30), {
      act: null,
      seen: revision,
      over: new Set(),
    })
    const now = loadJob(store, id)
    // What was signed is another record: nobody has signed this one.
    expect(standingIssue(now.job, now.readings)).toBeNull()
    expect(changesSinceIssue(now, historyOf(store, id)).map((c) => c.at)).toEqual([hand(30).at])
    sign(store, id, 'Ben again', 40)
    const signed = loadJob(store, id)
    expect(standingIssue(signed.job, signed.readings)?.n).toBe(2)
    expect(changesSinceIssue(signed, historyOf(store, id)).map((c) => c.at)).toEqual([hand(30).at])
    const { job } = loadJob(store, id)
    expect(job.issues!.map((i) => [i.n, i.signatures.map((s) => s.name)])).toEqual([
      [1, ['Ben', 'Cleo']],
      [2, ['Ben again']],
    ])
    expect(jobAtIssue(store, id, 1).job.brief.request).toBe('')
    expect(jobAtIssue(store, id, 1).job.issues).toHaveLength(1)
    expect(jobAtIssue(store, id, 2).job.brief.request).toBe('And a light')
    store.$client.close()
  })
})

describe('the circuit chart', () => {
  it('says what is otherwise than when it was signed, and by whom', async () => {
    const { store, id } = stored()
    for (const r of met(loadJob(store, id).job)) addReading(store, id, r)
    expect(lastSigned(store, id)).toBeNull()
    sign(store, id, 'Ben', 20)
    sign(store, id, 'Cleo', 21)
    const chart = async () => {
      const asked = { stored: loadJob(store, id), signed: lastSigned(store, id), units: 'metric', circuit: null } as const
      return linesOf(await textOf((await makePaper('door.pdf', asked))!.body as Buffer))
        .flat()
        .join('\n')
    }
    expect(await chart()).toMatch(/Issue 1, signed 2026-11-20 by Ben and Cleo[^]*No change/)
    const { revision } = loadJob(store, id)
    const edit: Edit = { kind: 'circuit.connect', circuit: 'c1', way: '7' }
    editJob(store, id, revision, edit, hand(31), { act: null, seen: revision, over: new Set() })
    expect(await chart()).toMatch(/consumer unit, 7\s+was not there/)
    store.$client.close()
  })
})

describe('an archive', () => {
  it('brings a job back whole: readings, photographs, signatures and what became of it', async () => {
    const { store, id } = stored()
    for (const r of met(loadJob(store, id).job)) addReading(store, id, r)
    const data = jpeg(30, 20)
    const photograph = { id: 'p', photograph: 'p', of: { kind: 'circuit', id: 'c1' }, words: 'Before', out: false } as const
    addPhotograph(store, id, { ...photograph, moment: 'before', data }, hand(12))
    const mark = { id: 'm', kind: 'ring', words: 'scorched', from: [0.1, 0.1], to: [0.3, 0.4] } as const
    addPhotograph(store, id, { ...photograph, id: 'q', mark: { ...mark, from: [...mark.from], to: [...mark.to] } }, hand(13))
    sign(store, id, 'Ben', 20)
    const before = loadJob(store, id)
    const back = await readArchive(await archive(store, id))
    expect(back.job).toEqual(before.job)
    expect(back.readings).toEqual(before.readings)
    expect(back.pictures).toMatchObject([{ photograph: 'p', words: 'Before', by: 'Ada' }])
    expect(Buffer.from(back.pictures[0]!.jpeg!)).toEqual(Buffer.from(data))
    createJob(store, 'k', back.job, back.readings, hand(50), 'Job brought in', back.history.toReversed())
    bringBack(store, 'k', back.pictures)
    expect(pictures(store, 'k')).toMatchObject([{ words: 'Before', moment: 'before', marks: [mark] }])
    const labels = historyOf(store, 'k').map((h) => h.label)
    expect(labels).toEqual(['Job brought in', ...historyOf(store, id).map((h) => h.label)])
    expect(loadJob(store, 'k').job).toEqual(before.job)
    store.$client.close()
  })
  it('is verified against its chain and the head on paper, and the first broken link is named', async () => {
    const { store, id } = stored()
    for (const r of met(loadJob(store, id).job)) addReading(store, id, r)
    sign(store, id, 'Ben', 20)
    const { job, readings } = loadJob(store, id)
    const head = headOf(chainOf(job, readings))
    const file = await archive(store, id)
    expect(await verifyArchive(file, head)).toMatchObject({ links: readings.length + 1, head, wrong: [] })
    expect((await verifyArchive(file, head.replaceAll(' ', '').toUpperCase())).wrong).toEqual([])
    expect((await verifyArchive(file, `${head.slice(0, -1)}${head.endsWith('0') ? '1' : '0'}`)).wrong[0]).toMatch(
      /not the record that was printed/,
    )
    // A reading made better afterwards, with the old chain beside it.
    const parts = await readEntries(file, ['job.json', 'chain.json'], 1e7)
    const text = Buffer.from(parts.get('job.json')!).toString('utf8')
    const better = JSON.parse(text) as { readings: { note: string }[] }
    better.readings[3]!.note = 'better'
    const forged = path.join(place(), 'forged.zip')
    await zipTo(forged, { 'job.json': JSON.stringify(better), 'chain.json': Buffer.from(parts.get('chain.json')!).toString('utf8') })
    const found = await verifyArchive(forged, head)
    expect(found.wrong[0]).toBe(`Link 4 of ${readings.length + 1}, reading r3, is not what was recorded.`)
    expect(found.wrong[1]).toMatch(/not the record that was printed/)
    // With the chain rebuilt too, the head on paper still tells.
    const { job: again, readings: changed } = readJobFile(better)
    const links = chainOf(again, changed)
    await zipTo(forged, {
      'job.json': JSON.stringify(better),
      'chain.json': JSON.stringify({ format: 'synthema-chain', head: headOf(links), links }),
    })
    expect((await verifyArchive(forged, null)).wrong).toEqual([])
    expect((await verifyArchive(forged, head)).wrong).toHaveLength(1)
    store.$client.close()
  })
})
