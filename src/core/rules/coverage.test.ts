import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../evaluate'
import { applyEdit, type Edit } from '../job/edits'
import { type Circuit, type Design, type Job, type Load, newCircuitPoint, newJob } from '../job/schema'
import type { RegionId } from '../region/types'
import { newWay } from '../survey/schema'
import { rules } from './index'
import { rulesDocument } from './list'

const c1 = { circuit: 'c1' } as const
const design = (patch: Partial<Omit<Design, 'id'>>): Edit => ({ kind: 'design.set', ...c1, design: 'a', patch })
const load = (patch: Partial<Load>): Edit => ({ kind: 'load.set', ...c1, patch })
const circuit = (patch: Partial<Pick<Circuit, 'kind' | 'work' | 'place' | 'way'>>): Edit => ({ kind: 'circuit.set', ...c1, patch })
const supply = (patch: Partial<Job['supply']>): Edit => ({ kind: 'supply.set', patch })
const brief = (patch: Partial<Omit<Job['brief'], 'fitness'>>): Edit => ({ kind: 'brief.set', patch })
const old = (question: string, answer: 'yes' | 'no'): Edit => ({ kind: 'old.answer', ...c1, question, answer })
const guard = (id: string): Edit => ({ kind: 'guard.add', item: { id, board: 'main', name: `RCD ${id}`, ratingA: 63, tripMa: 30 } })
const way = (position: number): Edit => ({ kind: 'way.add', way: newWay('w', 'Old', { position, ratingA: 20 }) })

const outlet: Record<RegionId, string> = { 'north-america': 'na-duplex-20', 'united-kingdom': 'uk-socket-13', 'southern-africa': 'za-socket-16' }
/** A circuit that every rule is content with, as far as one circuit can be. */
const base = (region: RegionId): Edit[] => [
  brief({ environment: 'dry', premises: 'workshop' }),
  supply({ zeOhm: 0.3, pscKa: 1, upstream: { kind: 'breaker', ratingA: 100 } }),
  circuit({ place: 'workshop', way: '5' }),
  load({ name: 'x', amount: 1200 }),
  design({ lengthM: 10, accessory: outlet[region], breakingKa: 6, arcFault: 'board', residual: { at: 'board', ma: region === 'north-america' ? 5 : 30 }, wantedBreakerA: region === 'north-america' ? 20 : 16 }),
]
type Verdict = 'error' | 'warning' | 'note' | 'unknown'
/** Rule, world, what raises it and how gravely, and what it is silent on. */
type Case = readonly [rule: string, region: RegionId, severity: Verdict, raises: readonly Edit[], quiet: readonly Edit[]]
const na = 'north-america'
const uk = 'united-kingdom'
const za = 'southern-africa'
const altered = circuit({ work: 'altered' })
const fcu = design({ accessory: 'uk-fcu', cordA: 13, fuseA: null })
const shared = circuit({ kind: 'shared-neutral', way: '5-7' })
const stops = (legs: readonly ('A' | 'B')[]): Edit => ({ kind: 'stop.add', ...c1, points: legs.map((leg, i) => newCircuitPoint(`s${i}`, `S${i}`, { lengthM: 5, watts: 1000, leg })) })

const cases: readonly Case[] = [
  ['voltage-mismatch', na, 'error', [load({ volts: 240 })], [load({ volts: 120 })]],
  ['plug-needs-outlet', uk, 'warning', [design({ accessory: 'uk-switch-1p' })], [load({ connection: 'fixed' }), design({ accessory: 'uk-switch-1p' })]],
  ['terminal-too-small', na, 'error', [design({ minSize: '6 AWG' })], []],
  ['loop-not-known', uk, 'unknown', [supply({ zeOhm: null })], []],
  ['outlet-larger-than-breaker', na, 'note', [load({ volts: 240 }), design({ accessory: 'na-30-240', wantedBreakerA: 15 }), circuit({ way: '5-7' })], [load({ volts: 240 }), design({ accessory: 'na-30-240', wantedBreakerA: 30 }), circuit({ way: '5-7' })]],
  ['start-trips', uk, 'warning', [load({ nature: 'motor', startFactor: 12 })], [load({ nature: 'motor', startFactor: 6 })]],
  ['start-trips', uk, 'error', [load({ nature: 'motor', startFactor: 20 })], [load({ nature: 'motor', startFactor: 20 }), design({ breakerType: 'D' })]],
  ['duty-not-known', na, 'unknown', [load({ nature: 'duty' })], [load({ nature: 'duty', duty: 0.3 })]],
  ['fuse-not-right', uk, 'unknown', [fcu], [fcu, design({ fuseA: 13 })]],
  ['fuse-not-right', uk, 'error', [fcu, design({ fuseA: 3 })], [fcu, load({ amount: 500 }), design({ fuseA: 3 })]],
  ['fuse-not-right', uk, 'note', [fcu, load({ amount: 500 }), design({ fuseA: 13 })], [fcu, design({ fuseA: 13 })]],
  ['extension-as-wiring', uk, 'error', [design({ extension: { ratingA: 3, lengthM: 5, size: '1.5 mm2' } })], [design({ extension: { ratingA: 13, lengthM: 5, size: '1.5 mm2' } })]],
  ['extension-as-wiring', na, 'warning', [design({ extension: { ratingA: 13, lengthM: 60, size: '14 AWG' } })], [design({ extension: { ratingA: 13, lengthM: 5, size: '14 AWG' } })]],
  ['shared-neutral-tie', na, 'error', [shared, stops(['A', 'B']), circuit({ way: '5-6' })], [shared, stops(['A', 'B'])]],
  ['shared-neutral-overloaded', na, 'warning', [shared, stops(['A', 'A'])], [shared, stops(['A', 'B'])]],
  ['feeder-four-wire', na, 'note', [circuit({ kind: 'feeder' })], []],
  ['beyond-scope', na, 'unknown', [load({ basis: 'amps', amount: 110, connection: 'fixed' }), design({ accessory: null, cable: 'thwn-2', terminalC: 75 })], []],
  ['residual-protection-needed', na, 'error', [circuit({ place: 'kitchen' }), design({ residual: { at: 'none', ma: 5 } })], [design({ residual: { at: 'none', ma: 5 } })]],
  ['residual-protection-needed', na, 'unknown', [circuit({ place: null }), design({ residual: { at: 'none', ma: 5 } })], [circuit({ place: null })]],
  ['socket-residual-protection', za, 'error', [design({ residual: { at: 'none', ma: 30 } })], []],
  ['lighting-residual-protection', uk, 'error', [load({ lighting: true }), brief({ premises: 'dwelling' }), design({ residual: { at: 'none', ma: 30 }, accessory: 'uk-switch-1p' })], [load({ lighting: true }), design({ residual: { at: 'none', ma: 30 }, accessory: 'uk-switch-1p' })]],
  ['tt-needs-residual-device', uk, 'error', [supply({ earthing: 'tt' }), design({ residual: { at: 'outlet', ma: 30 } })], [supply({ earthing: 'tt' })]],
  ['arc-fault-protection', na, 'error', [brief({ premises: 'dwelling' }), circuit({ place: 'bedroom' }), design({ arcFault: 'none' })], [design({ arcFault: 'none' })]],
  ['arc-fault-protection', na, 'unknown', [circuit({ place: null }), design({ arcFault: 'none' })], [circuit({ place: null })]],
  ['tamper-resistant', na, 'error', [brief({ premises: 'dwelling' })], [brief({ premises: 'dwelling' }), design({ fitted: ['tamper'] })]],
  ['weather-resistant', uk, 'error', [brief({ environment: 'outdoors' })], [brief({ environment: 'outdoors' }), design({ fitted: ['weather'] })]],
  ['surge-protection', uk, 'note', [load({ nature: 'electronic', startFactor: 1 })], [load({ nature: 'electronic', startFactor: 1 }), design({ fitted: ['surge'] })]],
  ['breaking-capacity', za, 'error', [supply({ pscKa: 8 })], []],
  ['breaking-capacity', za, 'unknown', [supply({ pscKa: null })], []],
  ['discrimination', uk, 'warning', [supply({ upstream: { kind: 'breaker', ratingA: 16 } })], [supply({ pscKa: 0.2 })]],
  ['discrimination', uk, 'unknown', [supply({ upstream: { kind: 'fuse', ratingA: 100 } })], [supply({ pscKa: 0.2 })]],
  ['neutral-bar', uk, 'note', [guard('g1')], []],
  ['neutral-bar', uk, 'unknown', [guard('g1'), guard('g2')], []],
  ['cooking-ahead-of-residual', uk, 'warning', [load({ nature: 'cooking' }), design({ residual: { at: 'none', ma: 30 } })], [load({ nature: 'cooking' })]],
  ['first-outlet-guards', uk, 'note', [design({ residual: { at: 'first', ma: 30 }, accessories: 3 })], [design({ accessories: 3 })]],
  ['first-outlet-guards', uk, 'warning', [design({ residual: { at: 'first', ma: 30 } })], []],
  ['two-pole-space', na, 'error', [load({ volts: 240 }), design({ accessory: 'na-20-240' })], [load({ volts: 240 }), design({ accessory: 'na-20-240' }), circuit({ way: '5-7' })]],
  ['way-taken', uk, 'error', [way(5)], [way(4)]],
  ['old-work-not-known', uk, 'unknown', [altered], [altered, ...['no-earth', 'rubber', 'aluminium', 'old-colours', 'borrowed'].map((q) => old(q, 'no'))]],
  ['old-no-earth', za, 'error', [altered, old('no-earth', 'yes')], [altered, old('no-earth', 'no')]],
  ['old-three-wire', na, 'error', [altered, old('three-wire', 'yes')], [altered, old('three-wire', 'no')]],
  ['old-rubber', uk, 'error', [altered, old('rubber', 'yes')], [altered, old('rubber', 'no')]],
  ['old-aluminium', na, 'error', [altered, old('aluminium', 'yes')], [altered, old('aluminium', 'no')]],
  ['old-colours', uk, 'note', [altered, old('old-colours', 'yes')], [altered, old('old-colours', 'no')]],
  ['old-borrowed-neutral', za, 'error', [altered, old('borrowed', 'yes')], [old('borrowed', 'yes')]],
]

const findingsAfter = (region: RegionId, edits: readonly Edit[]) => evaluate([...base(region), ...edits].reduce((job, e) => applyEdit(job, e).job, newJob(region, 'x', '')), []).circuits[0]!.chosen.findings

describe('each rule', () => {
  it.each(cases.map((c) => [`${c[0]}, ${c[1]}, ${c[2]}`, c] as const))('%s is raised by what raises it and by nothing near it', (_, [rule, region, severity, raises, quiet]) => {
    const found = findingsAfter(region, raises).find((f) => f.rule === rule)
    expect(found).toMatchObject({ severity })
    expect(found!.clause.length).toBeGreaterThan(2)
    expect(found!.message).not.toMatch(/NaN|undefined|null/)
    expect(findingsAfter(region, quiet).filter((f) => f.rule === rule && f.severity === severity)).toEqual([])
  })

  it('has such a case', () => {
    expect(rules.map((r) => r.id).filter((id) => !cases.some(([rule]) => rule === id))).toEqual([])
  })

  it('is content with a plain circuit of which everything is known', () => {
    for (const region of [na, uk, za] as const) expect(findingsAfter(region, []).filter((f) => f.severity !== 'note')).toEqual([])
  })

  it('says unknown, and never nothing, while a fact it looks at is missing', () => {
    for (const region of [na, uk, za] as const) {
      const bare = evaluate([load({ name: 'x', amount: 600 }), design({ lengthM: 10, accessory: outlet[region] })].reduce((job, e) => applyEdit(job, e).job, newJob(region, 'x', '')), []).circuits[0]!.chosen.findings
      for (const rule of ['breaking-capacity', 'discrimination']) expect(bare.find((f) => f.rule === rule)).toMatchObject({ severity: 'unknown' })
    }
  })
})

it('docs/rules.md is what the rules say', () => {
  expect(readFileSync('docs/rules.md', 'utf8')).toBe(rulesDocument())
})
