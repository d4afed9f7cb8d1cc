import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { feederBoardId } from '../job/cable'
import { EditError } from '../job/edits'
import { readJobFile, writeJobFile } from '../job/file'
import type { Installation as Job } from '../installation/installation'
import type { Load } from '../job/load'
import type { RegionId } from '../region/types'
import { plannedIn } from '../survey/board'
import { designWorkings } from '../documents/sheet'
import { applyShort as applyEdit, type DesignPatch, newJob, type Short as Edit } from '../../../tests/support/shorthand'

const load = (circuit: string, patch: Partial<Load>): Edit => ({ kind: 'load.set', circuit, patch })
const design = (circuit: string, patch: DesignPatch): Edit => ({ kind: 'design.set', circuit, design: 'a', patch })
const hang = (circuit: string, feeder: string | null): Edit => ({ kind: 'circuit.set', circuit, patch: { feeder } })
const outlet: Record<RegionId, string> = {
  'north-america': 'na-single-20',
  'united-kingdom': 'uk-socket-13',
  'southern-africa': 'za-socket-16',
}
/** A feeder f and, on the board at its end, the circuit c1. */
const made = (region: RegionId, ...edits: Edit[]): Job =>
  [
    { kind: 'supply.set', patch: { zeOhm: 0.2, pscKa: 2, upstream: { kind: 'breaker', ratingA: 100 } } } as Edit,
    { kind: 'circuit.add', id: 'f', name: 'Shed feeder', of: 'feeder' } as Edit,
    load('f', { basis: 'amps', amount: 30 }),
    design('f', {
      lengthM: 30,
      wantedBreakerA: 40,
      cable: region === 'north-america' ? 'thwn-2' : 'singles',
      method: region === 'united-kingdom' ? 'conduit-on-wall' : region === 'southern-africa' ? 'B1' : null,
      breakingKa: 6,
    }),
    load('c1', { name: 'Bench', amount: 1500 }),
    design('c1', { lengthM: 15, accessory: outlet[region], breakingKa: 6 }),
    hang('c1', 'f'),
    ...edits,
  ].reduce((job, e) => applyEdit(job, e).job, newJob(region, 'x', ''))
const of = (job: Job, id: string) => evaluate(job, []).byCircuit.get(id)!
const rule = (job: Job, id: string, name: string) => of(job, id).chosen.findings.find((f) => f.rule === name)
const metric = ['united-kingdom', 'southern-africa'] as const

describe('a circuit on the board at the end of a feeder', () => {
  it.each(metric)('has the loop of the feeder ahead of its own (%s)', (region) => {
    const job = made(region)
    const [feeder, bench] = [of(job, 'f').chosen.result!, of(job, 'c1').chosen.result!]
    const alone = of(applyEdit(job, hang('c1', null)).job, 'c1').chosen.result!
    expect(bench.size).toBe(alone.size)
    expect(bench.zsOhm! - alone.zsOhm!).toBeCloseTo(feeder.zsOhm! - 0.2, 9)
  })

  it('is behind the breaker of the feeder, and on its board', () => {
    const { upstream } = of(made('united-kingdom'), 'c1')
    expect(upstream.supply).toMatchObject({ board: 'Shed feeder', upstream: { kind: 'breaker', ratingA: 40 }, pscKa: 2 })
    expect(rule(made('united-kingdom', design('c1', { wantedBreakerA: 40 })), 'c1', 'selectivity')!.message).toContain('through 40 A')
    expect(plannedIn(made('united-kingdom', { kind: 'circuit.set', circuit: 'c1', patch: { way: '3' } })).map((p) => p.id)).not.toContain(
      'c1',
    )
  })

  it.each<[RegionId, string]>([
    ['north-america', 'warning'],
    ['united-kingdom', 'error'],
    ['southern-africa', 'error'],
  ])('may not lose more with it than is allowed from the supply (%s)', (region, severity) => {
    // At its limit by itself, the feeder leaves nothing that any size could save.
    const far = made(
      region,
      design('f', region === 'north-america' ? { lengthM: 40 } : { lengthM: region === 'united-kingdom' ? 135 : 215 }),
      design('c1', { lengthM: region === 'north-america' ? 22 : 60 }),
    )
    const [before, own] = [of(far, 'f').chosen.result!.dropPercent!, of(far, 'c1').chosen.result!.dropPercent!]
    expect(before + own).toBeGreaterThan(5)
    expect(Math.max(before, own)).toBeLessThanOrEqual(5)
    expect(rule(far, 'c1', 'total-drop')).toMatchObject({ severity })
    expect(rule(made(region, design('f', { lengthM: 10 })), 'c1', 'total-drop')).toBeUndefined()
    expect(designWorkings(far, of(far, 'c1').circuit, of(far, 'c1').chosen).dropPercent!.remark).toContain('from the supply')
  })

  it.each(metric)('takes the smallest size with which both keep to the limit (%s)', (region) => {
    const { chosen, upstream, circuit } = of(made(region, design('f', { lengthM: 60 }), design('c1', { lengthM: 30 })), 'c1')
    const alone = of(made(region, design('f', { lengthM: 60 }), design('c1', { lengthM: 30 }), hang('c1', null)), 'c1').chosen.result!.size!
    expect(chosen.enlargedFrom).toBe(alone)
    expect(Number.parseFloat(chosen.result!.size!)).toBeGreaterThan(Number.parseFloat(alone))
    expect(chosen.result!.dropPercent! + upstream.fed!.dropPercent!).toBeLessThanOrEqual(5)
    expect(designWorkings(made(region), circuit, chosen).size!.remark).toContain('this is the smallest that keeps to the limit')
    expect(chosen.findings.map((f) => f.rule)).not.toContain('total-drop')
  })

  it('is not judged by it while the feeder is not worked out, and never said to pass', () => {
    const job = made('united-kingdom', design('f', { lengthM: null }))
    expect(of(job, 'c1').upstream.fed!.dropPercent).toBeNull()
    expect(rule(job, 'c1', 'total-drop')).toMatchObject({ severity: 'unknown' })
    expect(rule(job, 'c1', 'loop-not-known')).toMatchObject({
      severity: 'unknown',
      message: expect.stringContaining('once that is worked out'),
    })
    expect(rule(job, 'c1', 'selectivity')).toMatchObject({ severity: 'unknown' })
  })

  it('counts every feeder of a chain of them', () => {
    const chain = made(
      'united-kingdom',
      { kind: 'circuit.add', id: 'g', name: 'Far feeder', of: 'feeder' },
      load('g', { basis: 'amps', amount: 12 }),
      design('g', { lengthM: 12 }),
      hang('g', 'f'),
      hang('c1', 'g'),
    )
    const [f, g] = ['f', 'g'].map((id) => of(chain, id).chosen.result!.dropPercent!)
    expect(of(chain, 'c1').upstream.fed!.dropPercent).toBeCloseTo(f! + g!, 9)
    expect(of(chain, 'c1').upstream.supply.zeOhm).toBe(of(chain, 'g').chosen.result!.zsOhm)
  })

  it('is worked out again when the feeder changes, and only then', () => {
    const job = made(
      'united-kingdom',
      { kind: 'circuit.add', id: 'x', name: 'Aside' },
      load('x', { amount: 500 }),
      design('x', { lengthM: 5, accessory: 'uk-socket-13' }),
    )
    const before = evaluate(job, [])
    const aside = evaluate(applyEdit(job, load('x', { amount: 600 })).job, [])
    expect(aside.byCircuit.get('c1')).toBe(before.byCircuit.get('c1'))
    const after = evaluate(applyEdit(job, design('f', { lengthM: 45 })).job, [])
    expect(after.byCircuit.get('c1')!.upstream.supply.zeOhm).toBeGreaterThan(before.byCircuit.get('c1')!.upstream.supply.zeOhm!)
    expect(after.byCircuit.get('x')).toBe(before.byCircuit.get('x'))
  })

  it('never has a smaller loop or less to lose for a longer feeder', () => {
    fc.assert(
      fc.property(fc.constantFrom(...metric), fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 10 }), (region, lengthM, more) => {
        const at = (m: number) => of(made(region, design('f', { lengthM: m, minSize: '16 mm2' })), 'c1')
        const [near, far] = [at(lengthM), at(lengthM + more)]
        expect(far.upstream.fed!.dropPercent!).toBeGreaterThanOrEqual(near.upstream.fed!.dropPercent! - 1e-9)
        expect(far.upstream.supply.zeOhm!).toBeGreaterThanOrEqual(near.upstream.supply.zeOhm! - 1e-9)
      }),
      { numRuns: 30 },
    )
  })
})

describe('a feeder', () => {
  it('begins without a residual device, which belongs to the circuits of its board', () => {
    expect(of(made('united-kingdom'), 'f').chosen.design.residual.at).toBe('none')
    expect(of(made('united-kingdom'), 'c1').chosen.design.residual.at).toBe('board')
  })

  it('is held against all that is on its board', () => {
    const job = made('united-kingdom', load('c1', { amount: 2300 }), load('f', { amount: 8 }))
    expect(rule(job, 'f', 'feeder-load')).toMatchObject({ severity: 'warning', message: expect.stringContaining('10 A') })
    expect(rule(applyEdit(job, load('f', { amount: 12 })).job, 'f', 'feeder-load')).toBeUndefined()
    expect(rule(applyEdit(job, load('c1', { amount: null })).job, 'f', 'feeder-load')).toMatchObject({ severity: 'unknown' })
    expect(rule(applyEdit(job, hang('c1', null)).job, 'f', 'feeder-load')).toBeUndefined()
  })

  it('cannot be fed by its own board, nor anything by what is no feeder', () => {
    const two = made('united-kingdom', { kind: 'circuit.add', id: 'g', name: 'Far feeder', of: 'feeder' }, hang('g', 'f'))
    for (const [edit] of [[hang('f', 'g')], [hang('f', 'f')], [hang('f', 'c1')]] as const) {
      expect(() => applyEdit(two, edit)).toThrow(EditError)
      try {
        applyEdit(two, edit)
      } catch (e) {
        expect((e as EditError).path).toBe('board')
      }
    }
    const file = JSON.parse(JSON.stringify(writeJobFile(two.record, [])))
    for (const k of file.job.cables) if (k.circuit === 'f' && k.from.kind === 'board') k.from.id = feederBoardId('g')
    expect(() => readJobFile(file)).toThrow(/fed by its own board/)
  })

  it('that goes, or is one no more, leaves its circuits to the board that is there', () => {
    expect(of(applyEdit(made('united-kingdom'), { kind: 'circuit.remove', circuit: 'f' }).job, 'c1').upstream.fed).toBeNull()
    const turned = applyEdit(made('united-kingdom'), { kind: 'circuit.set', circuit: 'f', patch: { kind: 'radial' } }).job
    expect(turned.circuits.every((c) => c.feeder === null)).toBe(true)
  })

  it('of the pottery feeds the pug mill, which stands within its limits', () => {
    const job = demoJobs[0]!.edits.reduce((j, e) => applyEdit(j, e).job, newJob('north-america', 'x', ''))
    const mill = of(job, 'c6')
    expect(mill.upstream.fed).toMatchObject({ name: 'Feeder, pug mill shed' })
    expect(mill.upstream.fed!.dropPercent! + mill.chosen.result!.dropPercent!).toBeLessThan(5)
    expect(mill.chosen.findings.filter((f) => f.severity === 'error')).toEqual([])
  })
})
