import { describe, expect, it } from 'vitest'
import { made, placed, type Short } from '../../../tests/support/shorthand'
import { circuitLabels } from '../documents/labels'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { newWay } from '../job/board'
import { endPointId } from '../job/cable'
import { blankPoint } from '../job/point'
import type { RegionId } from '../region/types'

/** An old outlet taken out and another put into its box, on a circuit without a ground. */
const swap = (accessory: string, ...more: Short[]): Short[] => [
  { kind: 'brief.set', patch: { premises: 'dwelling' } } as Short,
  { kind: 'point.add', points: [blankPoint('old', 'Old outlet', { state: 'existing', room: 'Wheel room' })] },
  { kind: 'point.set', id: 'old', patch: { state: 'removed' } },
  { kind: 'circuit.set', circuit: 'c1', patch: { work: 'altered' } },
  { kind: 'old.answer', circuit: 'c1', question: 'no-earth', answer: 'yes' } as Short,
  { kind: 'circuit-point.add', circuit: 'c1', points: [{ ...placed('a', 'New outlet', { lengthM: 8, watts: 300 }), box: 'old' }] },
  { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory } },
  ...more,
]
const findings = (region: RegionId, edits: Short[]) =>
  evaluate(made(region, ...edits), []).circuits[0]!.chosen.findings.filter((f) => /^(old-no-earth|replacement-outlet)$/.test(f.rule))
const labels = (edits: Short[]) => {
  const job = read(made('north-america', ...edits).record)
  return circuitLabels(job, evaluate(job, []).circuits[0]!, '', 'imperial').filter((l) => l.lines.includes('No Equipment Ground'))
}

describe('an outlet put in place of one without a ground', () => {
  it('is an error while no GFCI protects it, and says what may be fitted', () => {
    const [first] = findings('north-america', swap('na-duplex-15')).filter((f) => f.rule === 'old-no-earth')
    expect(first).toMatchObject({ severity: 'error', clause: '250.114; 406.4(D)(2)' })
    expect(first!.message).toMatch(/New outlet replaces an outlet where there is no ground.*without a ground slot.*GFCI/)
    expect(labels(swap('na-duplex-15'))).toEqual([])
  })
  it('behind a GFCI is a warning, and its cover takes a label', () => {
    const [first] = findings('north-america', swap('na-gfci-15')).filter((f) => f.rule === 'old-no-earth')
    expect(first).toMatchObject({ severity: 'warning' })
    expect(first!.message).toContain('“GFCI Protected” and “No Equipment Ground”')
    expect(labels(swap('na-gfci-15')).map((l) => [l.where, l.at])).toEqual([['Cover of New outlet', 'old']])
  })
  it('behind the board is judged by what its device trips at, and is not known while nothing is known of that', () => {
    const at = (patch: object): Short => ({ kind: 'design.set', circuit: 'c1', design: 'a', patch }) as Short
    const verdict = (...edits: Short[]) =>
      findings('north-america', swap('na-duplex-15', ...edits))
        .filter((f) => f.rule === 'old-no-earth')
        .map((f) => f.severity)
        .join()
    expect(verdict(at({ residual: { at: 'none', ma: 5, type: null } }))).toBe('error')
    const onWay = (residual: string): Short[] => [
      { kind: 'way.add', way: newWay('w', 'Old outlets', { position: 9, ratingA: 15, residual }) },
      { kind: 'circuit.set', circuit: 'c1', patch: { way: '9' } },
      at({ residual: { at: 'board', ma: 5, type: null } }),
    ]
    expect(verdict(...onWay('own'))).toBe('warning')
    expect(verdict(...onWay('unknown'))).toBe('unknown')
    expect(verdict(...onWay('own'), at({ residual: { at: 'board', ma: 30, type: null } }))).toBe('error')
    expect(verdict(...onWay('none'))).toBe('error')
  })
  it('is one too where the circuit ends on it without a name', () => {
    const ended: Short[] = [
      ...swap('na-gfci-15').filter((e) => e.kind !== 'circuit-point.add'),
      { kind: 'box.share', point: endPointId('c1'), box: 'old' },
    ]
    const [first] = findings('north-america', ended).filter((f) => f.rule === 'old-no-earth')
    expect(first).toMatchObject({ severity: 'warning', message: expect.stringMatching(/^Circuit 1 replaces an outlet/) })
    expect(labels(ended).map((l) => l.where)).toEqual(['Cover of Circuit 1'])
  })
  it('may not be extended from', () => {
    const beyond: Short = {
      kind: 'circuit-point.add',
      circuit: 'c1',
      points: [placed('b', 'Further', { from: 'a', lengthM: 3, watts: 100 })],
    }
    const [first] = findings('north-america', swap('na-gfci-15', beyond)).filter((f) => f.rule === 'old-no-earth')
    expect(first).toMatchObject({ severity: 'error' })
    expect(first!.message).toMatch(/^Nothing is extended/)
  })
  it('is asked for what a new one there must have', () => {
    expect(findings('north-america', swap('na-gfci-15')).find((f) => f.rule === 'replacement-outlet')!.message).toMatch(
      /New outlet takes the place of an old outlet.*tamper/,
    )
    const unchanged: Short = { kind: 'point.set', id: 'old', patch: { state: 'existing' } }
    expect(findings('north-america', swap('na-gfci-15', unchanged)).map((f) => f.rule)).toEqual(['old-no-earth'])
  })
  it('stays an error where the world has no such outlet', () => {
    const found = findings('united-kingdom', swap('uk-socket-13'))
    expect(found.map((f) => [f.rule, f.severity])).toEqual([['old-no-earth', 'error']])
  })
})
