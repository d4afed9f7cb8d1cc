import { createHash, scryptSync } from 'node:crypto'
import { afterEach, describe, expect, it } from 'vitest'
import { demoJobs } from '@/core/demo/demo'
import { after } from '../../tests/support/shorthand'
import { newJob } from '@/core/job/schema'
import type { StoredJob } from '@/store/jobs'
import { listeningHosts, refusal } from './guards'
import { makePaper } from './papers'
import { door, passes, sessionOptions } from './sign-in'

const stored = (i: number): StoredJob => {
  const demo = demoJobs[i]!
  return {
    id: demo.id,
    revision: 7,
    job: after(newJob(demo.region, demo.title, demo.place), ...demo.edits).record,
    readings: [],
    undo: null,
    redo: null,
    updatedAt: demo.start,
  }
}
const pages = (pdf: Buffer): number => (pdf.toString('latin1').match(/\/Type \/Page\b/g) ?? []).length

describe('papers of the survey and the design', () => {
  it.each([
    [0, 'door.pdf', 2],
    [1, 'door.pdf', 1],
    [2, 'door.pdf', 1],
    [0, 'trace.pdf', 1],
    [1, 'trace.pdf', 1],
    [1, 'reply.pdf', 1],
  ] as const)('%i %s is %i page', async (i, name, count) => {
    const made = (await makePaper(name, { stored: stored(i), units: 'metric', circuit: null }))!
    expect(made.type).toBe('application/pdf')
    expect(pages(made.body as Buffer)).toBe(count)
  })

  it('hold a sheet or more for every circuit, or for one alone', async () => {
    const all = (await makePaper('design.pdf', { stored: stored(1), units: 'metric', circuit: null }))!
    const one = (await makePaper('design.pdf', { stored: stored(1), units: 'metric', circuit: 'c2' }))!
    expect(pages(all.body as Buffer)).toBeGreaterThanOrEqual(4)
    expect(pages(one.body as Buffer)).toBeLessThan(pages(all.body as Buffer))
  })

  it('draw a tree of sixty points on one page', async () => {
    const big = stored(0)
    const points = Array.from({ length: 60 }, (_, i) => ({ ...big.job.points[0]!, id: `n${i}`, name: `Point ${i}` }))
    const seen = { kind: 'breaker-off' as const, breaker: 'w3', dead: points.map((p) => p.id) }
    const job = {
      ...big.job,
      points,
      observations: [{ id: 's', at: '2026-11-14T10:00:00.000Z', instrument: 'contact' as const, withdrawn: false, seen, later: [] }],
    }
    const made = (await makePaper('trace.pdf', { stored: { ...big, job }, units: 'metric', circuit: null }))!
    expect(pages(made.body as Buffer)).toBe(1)
  })
})

describe('the door', () => {
  afterEach(() => {
    delete process.env.SYNTHEMA_DOOR
    delete process.env.HOSTS
  })
  const open = (passphrase: string) => {
    const salt = 'ab12'
    const hash = scryptSync(passphrase, salt, 32).toString('hex')
    process.env.SYNTHEMA_DOOR = `${salt}:${hash}:${createHash('sha256').update(hash).digest('hex')}`
    return door()!
  }

  it('appears only where the starter put it', () => {
    expect(door()).toBeNull()
    process.env.SYNTHEMA_DOOR = 'half:a'
    expect(door()).toBeNull()
    expect(open('clay and honey')).toMatchObject({ salt: 'ab12' })
  })

  it('opens to the passphrase, however its letters are composed, and to nothing else', async () => {
    const here = open('café au lait')
    expect(await passes(here, 'café au lait')).toBe(true)
    expect(await passes(here, 'cafe\u0301 au lait')).toBe(true)
    for (const wrong of ['', 'cafe au lait', 'café au lait ', 'x'.repeat(1000)]) expect(await passes(here, wrong)).toBe(false)
  })

  it('gives a cookie that scripts and other sites do not get', () => {
    expect(sessionOptions(open('clay and honey')).cookieOptions).toMatchObject({ httpOnly: true, sameSite: 'strict' })
  })

  it('answers to the names it was told to listen at, and to no other', () => {
    process.env.HOSTS = '192.0.2.7, Barn.Local'
    expect(listeningHosts()).toEqual(['192.0.2.7', 'barn.local'])
    const at = (host: string) => refusal('GET', new Headers({ host }))
    expect(at('192.0.2.7:3000')).toBeNull()
    expect(at('barn.local')).toBeNull()
    expect(at('192.0.2.8:3000')).not.toBeNull()
  })
})
