import { describe, expect, it } from 'vitest'
import { after, newJob } from '../../../tests/support/shorthand'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { asDesigned, type Difference, type Role } from './as-wired'
import { wiringOf } from './wiring-of'
import { type Instrument, instrumentIds, type Probe, shownOn, type Stands } from './instruments'
import { mistakesOf } from '../faults/mistakes'

const job = after(newJob(demoJobs[1]!.region, demoJobs[1]!.title, ''), ...demoJobs[1]!.edits)
const w = wiringOf(
  job,
  evaluate(job, []).circuits.find((c) => c.circuit.name === 'Tea urn')!,
)!
const end = w.places[0]!.id
const lineOhm = w.cores[0]!.conductors.find((c) => c.role === 'line')!.ohm
const at = (role: Role, place = end): Probe => ({ place, role })
const off: Stands = { closed: false, neutralLifted: false, linked: [], load: 'none' }
const on: Stands = { ...off, closed: true }
const fault = (id: string): Difference => mistakesOf(w).find((m) => m.id === id)!.difference
const ask = (instrument: Instrument, s: Stands, a = at('line'), b = at('neutral'), d: Difference = asDesigned) =>
  shownOn(w, d, instrument, a, b, s)
/** Parted at the board, it floats along all of its cable; parted at its end, its terminal alone does. */
const floating = fault('open to-end-c1 a neutral')
const openNeutral = fault('open to-end-c1 b neutral')

describe('instruments', () => {
  it('show a sound circuit live for what it is', () => {
    expect(ask('lamp', on).shown).toBe('lit')
    expect(ask('two-pole', on).value).toBeCloseTo(230, 0)
    expect(ask('multimeter', on)).toMatchObject({ value: expect.closeTo(230, 0), note: null })
    expect(ask('non-contact', on).shown).toBe('alarms')
    expect(ask('lamp', off)).toMatchObject({ shown: 'dark', note: expect.stringContaining('proves nothing') })
    expect(ask('non-contact', off)).toMatchObject({ shown: 'silent', note: expect.stringContaining('no proof') })
  })
  it('of high impedance show what a floating conductor picks up, and those of low impedance do not', () => {
    const line = at('line')
    const ghost = ask('multimeter', on, at('neutral'), at('pe'), floating)
    expect(ghost.value).toBeGreaterThan(20)
    expect(ghost.value).toBeLessThan(200)
    expect(ghost.note).toMatch(/floats/)
    expect(ask('two-pole-loaded', on, at('neutral'), at('pe'), floating).value).toBeLessThan(5)
    // A neutral that is open at its end: line to neutral reads something, and no lamp is lit by it.
    expect(ask('lamp', on, line, at('neutral'), floating).shown).toBe('dark')
    // The longer the cable, the more it holds against the meter.
    const longer = { ...w, cores: w.cores.map((k) => ({ ...k, lengthM: k.lengthM * 0.05 })) }
    expect(shownOn(longer, floating, 'multimeter', at('neutral'), at('pe'), on).value).toBeLessThan(ghost.value as number)
  })
  it('that find voltage without touch alarm at the conductor beside', () => {
    const seen = ask('non-contact', on, at('pe'))
    expect(seen).toMatchObject({ shown: 'alarms', note: expect.stringContaining('cannot tell') })
    expect(ask('non-contact', on, at('line')).note).not.toMatch(/cannot tell/)
  })
  it('that measure dead are not used live', () => {
    for (const i of ['ohmmeter', 'continuity', 'insulation-tester', 'torque-driver'] as const)
      expect(ask(i, on)).toMatchObject({ shown: 'live: not used', value: null })
  })
  it('say where a path is only what is plugged in, or the bars of the board', () => {
    expect(ask('insulation-tester', off)).toMatchObject({ shown: '>200 MΩ', note: null })
    expect(ask('insulation-tester', { ...off, load: 'own' })).toMatchObject({ note: expect.stringContaining('unplug') })
    expect(ask('ohmmeter', off, at('neutral'), at('pe'))).toMatchObject({ note: expect.stringContaining('bars of the board') })
    expect(ask('ohmmeter', { ...off, neutralLifted: true }, at('neutral'), at('pe')).value).toBe('open')
    expect(ask('continuity', off, at('line', 'board'), at('line')).shown).toBe('buzzes')
    expect(ask('continuity', off, at('line'), at('pe')).shown).toBe('silent')
    expect(ask('ohmmeter', off, at('line', 'board'), at('line')).value).toBeCloseTo(lineOhm, 9)
    const loose = fault('loose to-end-c1 b line')
    expect(ask('continuity', off, at('line', 'board'), at('line'), loose)).toMatchObject({
      shown: 'buzzes',
      value: expect.closeTo(1.5 + lineOhm, 6),
    })
    expect(ask('torque-driver', off, at('line'), at('line'), loose).shown).toMatch(/half a turn/)
    expect(ask('torque-driver', off).shown).toBe('clicks at once')
    expect(ask('torque-driver', off, at('neutral'), at('neutral'), openNeutral).shown).toMatch(/no conductor/)
  })
  it('that draw current to earth trip what guards the place, the gentle ones not', () => {
    expect(w.rcdMa).toBe(30)
    expect(ask('loop', on)).toMatchObject({ shown: 'tripped', trips: [expect.stringContaining('consumer unit')] })
    expect(ask('loop-low', on)).toMatchObject({ unit: 'Ω', trips: [] })
    expect(shownOn({ ...w, rcdMa: null }, asDesigned, 'loop', at('line'), at('pe'), on)).toMatchObject({ unit: 'Ω', trips: [] })
    expect(ask('lamp', on, at('line'), at('pe')).trips).toHaveLength(1)
    expect(ask('two-pole', on, at('line'), at('pe')).trips).toHaveLength(0)
    expect(ask('two-pole-loaded', on, at('line'), at('pe')).trips).toHaveLength(1)
    // Half of its rating and more, never less: and of none that guards it says so.
    const ramp = ask('residual-ramp', on)
    expect(ramp.value).toBeGreaterThanOrEqual(15)
    expect(ramp.value).toBeLessThanOrEqual(30)
    expect(ask('residual-time', on)).toMatchObject({ unit: 'ms', trips: [expect.any(String)] })
    for (const i of ['residual-ramp', 'residual-time'] as const)
      expect(shownOn({ ...w, rcdMa: null }, asDesigned, i, at('line'), at('pe'), on)).toMatchObject({ shown: 'does not trip' })
    for (const i of ['loop', 'loop-low', 'residual-ramp'] as const) expect(ask(i, off).shown).toBe('no supply')
  })
  it('of a device whose rating was not read say that they do not know, never that nothing guards', () => {
    const unread = { ...w, rcdMa: null, residualUnread: true }
    for (const i of ['residual-ramp', 'residual-time', 'loop'] as const)
      expect(shownOn(unread, asDesigned, i, at('line'), at('pe'), on)).toMatchObject({
        shown: 'not known',
        note: expect.stringContaining('was not read'),
      })
    expect(shownOn(unread, asDesigned, 'loop-low', at('line'), at('pe'), on).unit).toBe('Ω')
  })
  it('at an outlet of the other line are put to that line', () => {
    const dairy = after(newJob(demoJobs[0]!.region, 'x', ''), ...demoJobs[0]!.edits)
    const two = wiringOf(
      dairy,
      evaluate(dairy, []).circuits.find((c) => c.circuit.kind === 'shared-neutral')!,
    )!
    const [place] = two.outletDevices.filter((d) => two.places.find((p) => p.id === d.place)!.across[0]![0] === 'line-2')
    const there: Probe = { place: place!.place, role: 'line' }
    const name = two.places.find((p) => p.id === place!.place)!.name
    expect(shownOn(two, asDesigned, 'residual-time', there, there, on).trips).toEqual([expect.stringContaining(name)])
  })
  it('that clamp show what flows in one, and around all what does not come back', () => {
    const loaded: Stands = { ...on, load: 1000 }
    expect(ask('clamp', loaded).value).toBeCloseTo(1000 / 230, 0)
    expect(ask('clamp-pair', loaded).value).toBeLessThan(1e-6)
    const joined = fault(`joined-neutral ${end}`)
    const bare = { ...w, rcdMa: null }
    expect(shownOn(bare, joined, 'clamp-pair', at('line'), at('neutral'), loaded).value).toBeGreaterThan(0.5)
    expect(ask('clamp-pair', loaded, at('line'), at('neutral'), joined).shown).toBe('it does not stay on')
  })
  it('show nothing of what does not stay on', () => {
    const shorted = fault('touching to-end-c1 line neutral')
    for (const i of instrumentIds.filter((x) => !['ohmmeter', 'continuity', 'insulation-tester', 'torque-driver'].includes(x)))
      expect(ask(i, on, at('line'), at('neutral'), shorted)).toMatchObject({ shown: 'it does not stay on', trips: [expect.any(String)] })
    expect(ask('continuity', off, at('line'), at('neutral'), shorted).shown).toBe('buzzes')
  })
  it('show something of every mistake, at every place, in every state of the circuit', () => {
    for (const { difference } of mistakesOf(w))
      for (const i of instrumentIds)
        for (const s of [off, on]) {
          const { shown, value } = ask(i, s, at('line'), at('pe'), difference)
          expect(shown).not.toMatch(/NaN|undefined|Infinity/)
          if (typeof value === 'number') expect(Number.isFinite(value)).toBe(true)
        }
  })
})
