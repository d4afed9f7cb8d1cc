import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { after, newJob } from '../../../tests/support/shorthand'
import { wiringJobs } from '../../../tests/support/wiring-jobs'
import { evaluate } from '../evaluate/evaluate'
import { testsBesides } from '../faults/besides'
import { campaign } from '../faults/campaign'
import { mistakesOf } from '../faults/mistakes'
import { type Installation, read } from '../installation/installation'
import { readJobFile } from '../job/file'
import { asDesigned, faceOf, type State, type Wiring } from './as-wired'
import { conductorsAt, instrumentIds, shownOn } from './instruments'
import { meets, shownBy, standingAfresh } from './measure'
import { wiringOf } from './wiring-of'

/* What a meter shows of a circuit is read off its boxes as they are built, and agrees with what the test plan expects. */

const folder = 'tests/jobs/'
interface Expected {
  readonly file: string
  readonly sound?: true
}
const sound = (JSON.parse(readFileSync(`${folder}expect.json`, 'utf8')) as Expected[]).filter((x) => x.sound).map((x) => x.file)
const jobs: readonly (readonly [string, Installation])[] = [
  ...Object.entries(wiringJobs).map(([name, job]) => [name, read(job)] as const),
  ...readdirSync(folder)
    .filter((f) => sound.includes(f))
    .map((f) => [f, read(readJobFile(JSON.parse(readFileSync(folder + f, 'utf8'))).job)] as const),
]
const places = (w: Wiring) => w.places.map((p) => p.id)
const live: State = { closed: true, neutralLifted: false, linked: [], load: 'none' }

/** One circuit of a job by the edits that make it. */
function made(region: 'united-kingdom' | 'north-america', ...edits: Parameters<typeof after>[1][]) {
  const job = after(newJob(region, 'x', ''), ...edits)
  const report = evaluate(job, []).circuits[0]!
  return { report, w: wiringOf(job, report)! }
}
const volts = (w: Wiring, place: string, more: Partial<State> = {}) =>
  standingAfresh(w, asDesigned, { ...live, ...more }).volts(faceOf(w, asDesigned, place, 'line')!, faceOf(w, asDesigned, place, 'neutral')!)

describe('the wiring of a circuit', () => {
  it('reads at every point what the test plan expects, in every sound job', () => {
    let held = 0
    for (const [name, job] of jobs)
      for (const report of evaluate(job, []).circuits) {
        const w = wiringOf(job, report)
        for (const t of w ? [...report.tests, ...testsBesides(job, report)] : []) {
          const shown = shownBy(w!, asDesigned, t, places(w!))
          if (shown === null) continue
          held++
          expect([name, report.circuit.name, t.id, shown, meets(t, shown)]).toEqual([name, report.circuit.name, t.id, shown, true])
          if (t.expect.kind !== 'range' || t.unit !== 'Ω' || !t.expect.nominal || typeof shown !== 'number') continue
          // Sockets of a ring read the quarter a little otherwise from place to place.
          expect(Math.abs(shown / t.expect.nominal - 1), `${name} ${t.id}`).toBeLessThan(t.id.startsWith('ring-crossed') ? 0.08 : 0.005)
        }
      }
    expect(held).toBeGreaterThan(700)
  })

  const lights = made(
    'united-kingdom',
    { kind: 'load.set', circuit: 'c1', patch: { name: 'x', volts: 230, basis: 'watts', amount: 100, connection: 'fixed', lighting: true } },
    {
      kind: 'circuit-point.add',
      circuit: 'c1',
      points: [
        { id: 's1', name: 'Door', lengthM: 6, from: null, kind: 'switch', accessory: 'uk-two-way', outlets: 0, watts: 0, controls: ['l'] },
        { id: 'l', name: 'Light', lengthM: 4, from: 's1', kind: 'light', watts: 60 },
        { id: 's2', name: 'Stair', lengthM: 5, from: 'l', kind: 'switch', accessory: 'uk-two-way', outlets: 0, watts: 0, controls: ['l'] },
      ],
    },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-light' } },
  )
  it('has its two-way switches where the light is on, with their travellers as conductors of their own', () => {
    const { w } = lights
    expect(volts(w, 'l')).toBeCloseTo(230, 0)
    const contacts = w.devices.filter((e) => e.id.startsWith('contact '))
    expect(contacts).toHaveLength(2)
    for (const c of contacts) expect(volts({ ...w, devices: w.devices.filter((e) => e !== c) }, 'l')).toBeLessThan(1)
    expect(w.cores.flatMap((k) => k.conductors.map((c) => c.key))).toEqual(expect.arrayContaining(['traveller', 'traveller-2']))
    expect(w.places.filter((p) => p.across.length > 0).map((p) => p.id)).toEqual(['l'])
  })
  it('has the mistakes of its travellers and its switched line among its own, and not an exchange of two travellers', () => {
    const ids = mistakesOf(lights.w).map((m) => m.id)
    expect(ids.some((id) => /^open .* traveller$/.test(id))).toBe(true)
    expect(ids.some((id) => /^open .* switched-line$/.test(id))).toBe(true)
    expect(ids.some((id) => /^swapped .* traveller traveller-2$/.test(id))).toBe(false)
    const { tried } = campaign(lights.w, lights.report.tests)
    expect(tried.find((t) => /^open .* switched-line$/.test(t.id))).toMatchObject({ effect: 'dead' })
  })

  it('lets an instrument be put to what comes to a place, and to nothing else', () => {
    const { w } = lights
    expect(conductorsAt(w, 'l')).toEqual(['line', 'neutral', 'pe'])
    expect(conductorsAt(w, 's2')).not.toContain('neutral')
    for (const p of w.places)
      for (const role of conductorsAt(w, p.id))
        for (const i of instrumentIds)
          for (const s of [live, { ...live, closed: false }])
            expect(shownOn(w, asDesigned, i, { place: p.id, role }, { place: p.id, role: 'pe' }, s).shown).not.toMatch(
              /NaN|undefined|Infinity/,
            )
  })

  const fused = made(
    'united-kingdom',
    { kind: 'load.set', circuit: 'c1', patch: { name: 'x', volts: 230, basis: 'watts', amount: 2000, connection: 'plug' } },
    {
      kind: 'circuit-point.add',
      circuit: 'c1',
      points: [
        { id: 'a', name: 'A', lengthM: 6, from: null, watts: 1000 },
        { id: 'f', name: 'Fan', lengthM: 4, from: 'a', kind: 'fixed', accessory: 'uk-fcu', fuseA: 3, watts: 60 },
      ],
    },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13' } },
  )
  it('has the fuse of a connection unit in series with what it feeds, and puts no more on it for a test than it carries', () => {
    const { w } = fused
    expect(w.places.map((p) => p.mostA)).toEqual([null, 3])
    expect(volts(w, 'f')).toBeCloseTo(230, 0)
    const fuse = w.devices.find((e) => e.kind === 'breaker')!
    expect(volts(w, 'f', { opened: [fuse.id] })).toBeLessThan(1)
    expect(volts(w, 'a', { opened: [fuse.id] })).toBeCloseTo(230, 0)
    expect(standingAfresh(w, asDesigned, { ...live, load: 2300, loadAt: 'f' }).trips()).toEqual([])
  })

  it('brings a thin length with its own protective conductor into the figures of a ring', () => {
    const file = JSON.parse(readFileSync(`${folder}uk-ring-thin-length.json`, 'utf8')) as unknown
    const job = read(readJobFile(file).job)
    const report = evaluate(job, []).circuits[0]!
    const w = wiringOf(job, report)!
    for (const id of ['ring-line', 'ring-neutral', 'ring-protective']) {
      const t = report.tests.find((x) => x.id === id)!
      expect(shownBy(w, asDesigned, t, places(w))).toBeCloseTo(t.expect.kind === 'range' ? t.expect.nominal! : NaN, 6)
    }
  })
})
