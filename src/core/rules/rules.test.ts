import { newDesign } from '../job/design'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../evaluate/evaluate'
import type { Brief } from '../job/brief'
import type { Installation as Job } from '../installation/installation'
import type { Load } from '../job/load'
import type { RegionId } from '../region/types'
import { applyShort as applyEdit, type DesignPatch, newJob, type Short as Edit } from '../../../tests/support/shorthand'

interface Case {
  rule: string
  region: RegionId
  severity: string
  raises: DesignPatch
  quiet: DesignPatch
  load?: Partial<Load>
  /** Where the load itself decides: one that does not raise the rule. */
  quietLoad?: Partial<Load>
  brief?: Partial<Omit<Brief, 'fitness'>>
  supply?: Partial<Job['supply']>
}

const base = { lengthM: 10 } as const
const na240: Partial<Load> = { volts: 240, basis: 'amps', amount: 24, continuous: true }
const uk: Partial<Load> = { basis: 'amps', amount: 12 }

/** Each rule with a design that raises it and one, next to it, that does not. */
const cases: Case[] = [
  {
    rule: 'outlet-below-breaker',
    region: 'north-america',
    severity: 'error',
    load: na240,
    raises: { accessory: 'na-20-240' },
    quiet: { accessory: 'na-30-240' },
  },
  {
    rule: 'outlet-not-allowed-on-circuit',
    region: 'north-america',
    severity: 'error',
    load: { amount: 1200 },
    raises: { accessory: 'na-duplex-20' },
    quiet: { accessory: 'na-duplex-15' },
  },
  {
    rule: 'cord-below-load',
    region: 'north-america',
    severity: 'error',
    load: na240,
    raises: { accessory: 'na-30-240', cordA: 20 },
    quiet: { accessory: 'na-30-240', cordA: 30 },
  },
  {
    rule: 'cord-below-breaker',
    region: 'north-america',
    severity: 'warning',
    load: na240,
    raises: { accessory: 'na-30-240', cordA: 25 },
    quiet: { accessory: 'na-30-240', cordA: 30 },
  },
  {
    rule: 'breaker-held-to-cord',
    region: 'north-america',
    severity: 'note',
    load: { amount: 1400 },
    raises: { accessory: 'na-duplex-15', cordA: 15, wantedBreakerA: 20 },
    quiet: { accessory: 'na-duplex-15', cordA: 15 },
  },
  {
    rule: 'voltage-drop-over-3-percent',
    region: 'north-america',
    severity: 'warning',
    load: { amount: 1400 },
    raises: { accessory: 'na-duplex-15', lengthM: 40 },
    quiet: { accessory: 'na-duplex-15', lengthM: 10 },
  },
  {
    rule: 'no-breaker-serves',
    region: 'north-america',
    severity: 'error',
    load: { ...na240, amount: 180 },
    raises: { cable: 'thwn-2', terminalC: 75 },
    quiet: { cable: 'thwn-2', terminalC: 75 },
    quietLoad: { ...na240, amount: 100 },
  },
  {
    rule: 'no-size-serves',
    region: 'north-america',
    severity: 'error',
    load: { ...na240, amount: 75, continuous: false },
    raises: { cable: 'thwn-2', terminalC: 75, loadedConductors: 100, minSize: '3/0 AWG', conductor: 'aluminium', ambientC: 60 },
    quiet: { cable: 'thwn-2', terminalC: 75 },
  },
  {
    rule: 'voltage-mismatch',
    region: 'north-america',
    severity: 'error',
    load: na240,
    raises: { accessory: 'na-duplex-20' },
    quiet: { accessory: 'na-30-240' },
  },
  {
    rule: 'terminal-too-small',
    region: 'north-america',
    severity: 'error',
    load: { amount: 1200 },
    raises: { accessory: 'na-duplex-15', minSize: '8 AWG' },
    quiet: { accessory: 'na-duplex-15', minSize: '10 AWG' },
  },
  {
    rule: 'plug-needs-outlet',
    region: 'north-america',
    severity: 'warning',
    load: { amount: 600, connection: 'plug' },
    raises: { accessory: 'na-switch-1p' },
    quiet: { accessory: 'na-single-15' },
  },
  {
    rule: 'residual-protection-needed',
    region: 'north-america',
    severity: 'error',
    brief: { environment: 'damp' },
    load: { amount: 600 },
    raises: { accessory: 'na-duplex-15' },
    quiet: { accessory: 'na-gfci-15' },
  },
  {
    rule: 'residual-protection-needed',
    region: 'north-america',
    severity: 'unknown',
    load: { amount: 600 },
    raises: { accessory: 'na-duplex-15' },
    quiet: { accessory: 'na-duplex-15', residual: { at: 'board', ma: 5, type: 'A' } },
  },
  {
    rule: 'outside-the-tables',
    region: 'north-america',
    severity: 'unknown',
    load: { amount: 600 },
    raises: { cable: 'uf-b', ambientC: 60 },
    quiet: { cable: 'uf-b', ambientC: 40 },
  },
  {
    rule: 'socket-residual-protection',
    region: 'united-kingdom',
    severity: 'error',
    load: uk,
    raises: { accessory: 'uk-socket-13', residual: { at: 'none', ma: 30, type: 'A' } },
    quiet: { accessory: 'uk-socket-13' },
  },
  {
    rule: 'socket-residual-protection',
    region: 'united-kingdom',
    severity: 'error',
    load: uk,
    raises: { accessory: 'uk-socket-13', residual: { at: 'board', ma: 100, type: 'A' } },
    quiet: { accessory: 'uk-socket-13-rcd', residual: { at: 'board', ma: 100, type: 'A' } },
  },
  {
    rule: 'socket-residual-protection',
    region: 'southern-africa',
    severity: 'error',
    load: uk,
    raises: { accessory: 'za-socket-16', residual: { at: 'none', ma: 30, type: 'A' } },
    quiet: { accessory: 'za-isolator-20', residual: { at: 'none', ma: 30, type: 'A' } },
  },
  {
    rule: 'outlet-below-load',
    region: 'united-kingdom',
    severity: 'error',
    load: { ...uk, amount: 15 },
    raises: { accessory: 'uk-socket-13' },
    quiet: { accessory: 'uk-socket-16' },
  },
  {
    rule: 'cord-needs-fuse',
    region: 'united-kingdom',
    severity: 'note',
    load: uk,
    raises: { accessory: 'uk-fcu', cordA: 13 },
    quiet: { accessory: 'uk-fcu', cordA: 16 },
  },
  {
    rule: 'loop-not-known',
    region: 'united-kingdom',
    severity: 'unknown',
    load: uk,
    raises: { accessory: 'uk-fcu' },
    quiet: { accessory: 'uk-fcu' },
  },
  {
    rule: 'zs-too-high',
    region: 'united-kingdom',
    severity: 'warning',
    load: uk,
    supply: { zeOhm: 0.8 },
    raises: { accessory: 'uk-fcu', breakerType: 'C', lengthM: 40 },
    quiet: { accessory: 'uk-fcu', breakerType: 'B', lengthM: 10 },
  },
  {
    rule: 'no-size-serves',
    region: 'united-kingdom',
    severity: 'error',
    load: { ...uk, amount: 28 },
    supply: { zeOhm: 2.5 },
    raises: { residual: { at: 'none', ma: 30, type: 'A' } },
    quiet: { residual: { at: 'board', ma: 30, type: 'A' } },
  },
  // A residual device at the outlet does not guard the cable that feeds it.
  {
    rule: 'no-size-serves',
    region: 'united-kingdom',
    severity: 'error',
    load: { ...uk, amount: 28 },
    supply: { zeOhm: 2.5 },
    raises: { residual: { at: 'outlet', ma: 30, type: 'A' } },
    quiet: { residual: { at: 'board', ma: 30, type: 'A' } },
  },
  {
    rule: 'tt-needs-residual-device',
    region: 'southern-africa',
    severity: 'error',
    load: uk,
    supply: { earthing: 'tt', zeOhm: 80 },
    raises: { accessory: 'za-socket-16', residual: { at: 'outlet', ma: 30, type: 'A' } },
    quiet: { accessory: 'za-socket-16' },
  },
  {
    rule: 'cord-needs-fuse',
    region: 'southern-africa',
    severity: 'note',
    load: uk,
    raises: { accessory: 'za-socket-16', cordA: 13, wantedBreakerA: 20 },
    quiet: { accessory: 'za-socket-16', cordA: 20, wantedBreakerA: 20 },
  },
]

function job({ region, load, brief, supply }: Case, patch: Case['raises']): Job {
  const edits: Edit[] = [
    { kind: 'load.set', circuit: 'c1', patch: { name: 'x', amount: 600, ...load } },
    { kind: 'brief.set', patch: brief ?? {} },
    { kind: 'supply.set', patch: supply ?? {} },
    { kind: 'circuit.connect', circuit: 'c1', way: '5', residual: 'own' },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { residual: patch.residual ?? newDesign(region, 'a', 'A').residual } },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { ...base, ...patch } },
  ]
  return edits.reduce((j, e) => applyEdit(j, e).job, newJob(region, 'A', ''))
}

const findingsOf = (j: Job) => evaluate(j, []).circuits[0]!.chosen.findings

describe.each(cases.map((c, i) => ({ name: `${c.rule}, ${c.region} ${i}`, c })))('$name', ({ c }) => {
  it('is raised, with its clause and a remedy', () => {
    const found = findingsOf(job(c, c.raises)).find((f) => f.rule === c.rule)
    expect(found).toMatchObject({ severity: c.severity })
    expect(found!.clause.length).toBeGreaterThan(2)
    expect(found!.message.length).toBeGreaterThan(20)
    expect(found!.message).not.toMatch(/NaN|undefined|null/)
  })
  it('is not raised next to it', () => {
    const quiet = c.rule === 'loop-not-known' ? { ...c, supply: { zeOhm: 0.35 } } : { ...c, load: c.quietLoad ?? c.load }
    expect(findingsOf(job(quiet, c.quiet)).map((f) => f.rule)).not.toContain(c.rule)
  })
})
