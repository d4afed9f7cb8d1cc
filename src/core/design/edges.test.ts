import { describe, expect, it } from 'vitest'
import { applyShort as applyEdit, newJob, placed, type Placed, type Short as Edit } from '../../../tests/support/shorthand'
import { evaluate } from '../evaluate/evaluate'
import { naAmpacityA } from '../region/north-america/awg'
import { startOf } from './load'

const made = (...edits: Edit[]) => edits.reduce((j, e) => applyEdit(j, e).job, newJob('united-kingdom', 'At the edge', ''))
const c1 = { circuit: 'c1' } as const
const load = (patch: Extract<Edit, { kind: 'load.set' }>['patch']): Edit => ({ kind: 'load.set', ...c1, patch })
const design = (patch: Extract<Edit, { kind: 'design.set' }>['patch']): Edit => ({ kind: 'design.set', ...c1, design: 'a', patch })
const points = (...list: [string, Partial<Placed>][]): Edit => ({
  kind: 'circuit-point.add',
  ...c1,
  points: list.map(([id, more]) => placed(id, id, { lengthM: 5, watts: 500, ...more })),
})
const ring: Edit = { kind: 'circuit.set', ...c1, patch: { kind: 'ring' } }
const report = (...edits: Edit[]) => evaluate(made(...edits), []).circuits[0]!
const socket = design({ accessory: 'uk-socket-13-twin', lengthM: 10 })

describe('at the edge', () => {
  it('a load that draws no more at its start than after it has no start', () => {
    const start = (startFactor: number) => startOf(report(load({ amount: 1000, nature: 'motor', startFactor })).circuit, 'united-kingdom')
    expect(start(1)).toBeNull()
    expect(start(1.01)).not.toBeNull()
  })
  it('a motor circuit says what its cable carries by the table, and its weakest link', () => {
    const motor = [
      load({ nature: 'motor', basis: 'hp', amount: 2, volts: 240, connection: 'fixed' }),
      design({ accessory: null, lengthM: 10 }),
    ].reduce((j, e) => applyEdit(j, e).job, newJob('north-america', 'Dust extractor', ''))
    const result = evaluate(motor, []).circuits[0]!.chosen.result!
    expect(result.size).not.toBeNull()
    expect(result.tabulatedA).toBe(naAmpacityA('copper', result.size!, 90))
    // The breaker guards against short circuit alone and may be above the cable, which is then the weakest.
    expect(result.links.map((l) => l.link)).toEqual(['breaker', 'cable'])
    const least = Math.min(...result.links.map((l) => l.ratingA))
    expect(result.weakestLink).toEqual(result.links.findLast((l) => l.ratingA === least))
  })
  it('a cable that the world does not list is not reckoned with, and said', () => {
    const wired = (cable: string) => report(load({ amount: 1000 }), socket, design({ cable })).chosen
    expect(wired('twin-earth')).toMatchObject({ invalid: null, result: { breakerA: 6 } })
    const { invalid, result, findings } = wired('nm-b')
    expect([invalid?.path, result]).toEqual(['cable', null])
    expect(findings.find((f) => f.rule === 'outside-the-tables')?.message).toContain('choose a cable that is listed')
  })
  it('a ring that passes nothing yet is asked for its points, and not for lengths to them', () => {
    const asked = (...edits: Edit[]) => report(ring, socket, ...edits).open.map((o) => o.ask)
    expect(asked()).toContain('Which points does the ring pass?')
    expect(asked().filter((a) => a.startsWith('How long is the cable'))).toEqual([])
    expect(asked(points(['p', {}]))).toContain('How long is the cable to one point?')
  })
  it('a spur as thick as a ring asks is thick enough, and a thinner one is not', () => {
    const spur = (size: string | null) =>
      report(ring, socket, { kind: 'supply.set', patch: { zeOhm: 0.3 } }, points(['p', {}], ['q', {}], ['s', { from: 'p', size }]), {
        kind: 'run.set',
        ...c1,
        patch: { closeM: 5 },
      }).chosen.findings.filter((f) => f.rule === 'spur-too-thin')
    expect(spur('2.5 mm2')).toEqual([])
    expect(spur('4 mm2')).toEqual([])
    expect(spur('1.5 mm2')).toHaveLength(1)
  })
  it('fuses are not spoken of where there is none, whatever else is not known', () => {
    const plain = report(socket, points(['p', { watts: null }], ['q', { watts: null, from: 'p' }]))
    expect(plain.chosen.findings.filter((f) => f.rule === 'fuse-not-right')).toEqual([])
    const fused = report(socket, points(['p', { watts: null, fuseA: 3 }]))
    expect(fused.chosen.findings.filter((f) => f.rule === 'fuse-not-right').length).toBeGreaterThan(0)
  })
  it('an altered circuit of which no way is named is not isolated by a way', () => {
    const off = report(load({ amount: 500 }), socket, { kind: 'circuit.set', ...c1, patch: { work: 'altered' } }).tests[0]!
    expect(off.title).toMatch(/^Switch off the main switch/)
  })
})
