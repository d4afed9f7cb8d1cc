import { describe, expect, it } from 'vitest'
import { templateDrawing } from '../drawing/mounting'
import { read } from '../installation/installation'
import { type MountRecord, newMount } from '../job/mount'
import { newBox } from '../job/box'
import type { PlacedPoint } from '../job/point'
import { newJob } from '../job/schema'
import type { RegionId } from '../region/types'
import { laid } from '../../../tests/support/shorthand'
import { longScrews, mountingOf } from './mounting'

const at = (
  region: RegionId,
  box: string | null,
  mount: Partial<MountRecord>,
  more: Partial<PlacedPoint> = {},
  beside: PlacedPoint[] = [],
) => {
  const job = read(newJob(region, 'Wall', ''))
  const held = newBox('p', { kind: box, mount: { ...newMount(), ...mount } })
  return mountingOf(job, { environment: 'dry' }, laid('p', 'Here', { ...more, box: held }), 'metric', beside)
}
const rules = (r: ReturnType<typeof at>) => r.findings.map((f) => f.rule)
const wall: Partial<MountRecord> = { behind: 'finished', layers: [{ what: 'board', mm: 12.5 }], cavityMm: 90, studMm: 100 }
const clamps = 'na-old-20'

describe('which box belongs where', () => {
  it('is not said until somebody looked behind the face', () => {
    const { advice, findings } = at('north-america', clamps, {})
    expect(advice.mounting).toBeNull()
    expect(findings[0]).toMatchObject({ rule: 'mount-not-looked', severity: 'unknown' })
  })
  it.each([
    ['finished', 'clamps to a finished wall'],
    ['open', 'nails to a stud'],
    ['masonry', 'set in masonry'],
    ['surface', 'surface'],
  ] as const)('%s: one that %s', (behind, mounting) => {
    expect(at('north-america', null, { behind }).advice.mounting).toBe(mounting)
  })
  it('out of doors a weatherproof one, at the middle of a ceiling one that may carry a fan', () => {
    expect(at('united-kingdom', null, { behind: 'finished' }, { environment: 'outdoors' }).advice.mounting).toBe('surface')
    const ceiling = (fan: boolean | null, box: string) => rules(at('north-america', box, { behind: 'finished', fan }, { kind: 'light' }))
    expect(ceiling(null, 'na-round-15.5')).toContain('mount-fan')
    expect(ceiling(false, 'na-round-15.5')).not.toContain('mount-fan')
    expect(ceiling(null, 'na-round-21.5')).not.toContain('mount-fan')
  })
})

describe('a box that is put in place of another', () => {
  it.each(['north-america', 'united-kingdom', 'southern-africa'] as const)('is preceded by taking the old one out in %s', (region) => {
    const steps = (planned: boolean) => {
      const kind = region === 'north-america' ? clamps : region === 'united-kingdom' ? 'uk-metal-35' : 'za-surface-50'
      const held = newBox('p', { kind, mount: { ...newMount(), ...wall }, ...(planned ? { planned: { kind } } : {}) })
      return mountingOf(read(newJob(region, 'Wall', '')), { environment: 'dry' }, laid('p', 'Here', { box: held }), 'metric').steps
    }
    const first = steps(true)[0]!.text
    expect(first).toContain('what each splice joins')
    expect(steps(true).findIndex((s) => s.text.startsWith('Trace the new outline'))).toBe(2)
    expect(steps(false).map((s) => s.text)).not.toContain(first)
  })
})

describe('a box behind the finished face', () => {
  const setBack = (region: RegionId, setBackMm: number | null) =>
    at(region, region === 'north-america' ? clamps : 'uk-metal-35', { ...wall, setBackMm })
  it('is within a quarter of an inch in North America, on both sides of the limit', () => {
    expect(rules(setBack('north-america', 6.35))).not.toContain('mount-set-back')
    expect(rules(setBack('north-america', 6.4))).toContain('mount-set-back')
    expect(rules(setBack('north-america', null))).not.toContain('mount-set-back')
  })
  it('takes screws as long as the wall asks, and an extender where none is long enough', () => {
    const length = (mm: number | null) => longScrews({ region: 'united-kingdom' }, mm)
    expect(length(null)).toBeNull()
    expect(length(3)).toBeNull()
    expect(length(4)).toEqual({ thread: 'M3.5', lengthMm: 30 })
    expect(length(25)).toEqual({ thread: 'M3.5', lengthMm: 50 })
    expect(length(25.1)?.lengthMm).toBe(60)
    expect(length(76)?.lengthMm).toBeNull()
    expect(rules(setBack('united-kingdom', 75))).not.toContain('mount-set-back')
    expect(rules(setBack('united-kingdom', 76))).toContain('mount-set-back')
    expect(setBack('united-kingdom', 12).steps.map((s) => s.text)).toContainEqual(expect.stringContaining('M3.5 screws of 40 mm'))
  })
})

describe('what a clamp grips', () => {
  const grip = (mm: number, more: Partial<MountRecord> = {}) =>
    rules(at('north-america', clamps, { ...wall, layers: [{ what: 'board', mm }], gripMm: [6, 32], ...more }))
  it('is held against its range, on each side of both ends', () => {
    expect(grip(32)).toEqual([])
    expect(grip(32.2)).toEqual(['mount-too-thick'])
    expect(grip(6)).toEqual([])
    expect(grip(5.8)).toEqual(['mount-too-thin'])
  })
  it('is asked for where no layer was entered, and a gap is where the clamp may slip in', () => {
    expect(rules(at('north-america', clamps, { ...wall, layers: [] }))).toContain('mount-thickness')
    const layers: MountRecord['layers'] = [
      { what: 'cabinet', mm: 16 },
      { what: 'gap', mm: 12 },
      { what: 'board', mm: 12.5 },
    ]
    const { findings, thickMm } = at('north-america', clamps, { ...wall, layers })
    expect(thickMm).toBe(40.5)
    expect(findings.map((f) => f.message).join()).toMatch(/gap of 12 mm.*cut what is behind larger/)
  })
})

describe('room for it', () => {
  const deep = (cavityMm: number | null) => rules(at('north-america', clamps, { ...wall, cavityMm }))
  it('behind: the box and the turn of its cables, on each side; not looked is asked', () => {
    // 82.55 mm deep and 6 behind it, 12.5 of board before.
    expect(deep(76.1)).toEqual([])
    expect(deep(75.9)).toEqual(['mount-too-deep'])
    expect(deep(null)).toEqual(['mount-cavity'])
  })
  it('beside: a stud neither in the cut nor, for one that is nailed, out of reach', () => {
    const near = (studMm: number | null, box = clamps, behind: MountRecord['behind'] = 'finished') =>
      rules(at('north-america', box, { ...wall, studMm, behind }))
    // 57 wide: half of it and 12 for the clamp to turn.
    expect(near(40.5)).toEqual([])
    expect(near(40.3)).toEqual(['mount-stud-near'])
    expect(near(null)).toEqual(['mount-stud'])
    expect(near(31, 'na-new-18', 'open')).toEqual([])
    expect(near(32, 'na-new-18', 'open')).toEqual(['mount-stud-far'])
    expect(rules(at('united-kingdom', 'uk-metal-35', { behind: 'masonry' }))).toEqual([])
  })
  it('in line with its neighbours, or clearly not', () => {
    const beside = (heightMm: number | null) =>
      rules(at('north-america', clamps, wall, { heightMm: 450 }, [laid('q', 'Next', { heightMm })]))
    expect(beside(452)).toEqual([])
    expect(beside(455)).toEqual(['mount-out-of-line'])
    expect(beside(509)).toEqual(['mount-out-of-line'])
    expect(beside(510)).toEqual([])
    expect(beside(null)).toEqual([])
  })
})

describe('the template', () => {
  it('is drawn at one to one, a little outside the box, with a rule of 100 mm', () => {
    const report = at('north-america', clamps, { ...wall, outlineMm: [60, 95] })
    expect(report.cutMm).toEqual([63, 98])
    const { shapes, width } = templateDrawing(report, 'Here', 450, 'metric')!
    const [cut, box] = shapes.filter((s) => s.kind === 'rect')
    const mm = (points: number) => (points * 25.4) / 72
    expect(mm(cut!.w)).toBeCloseTo(63)
    expect(mm(cut!.h)).toBeCloseTo(98)
    expect(mm(box!.w)).toBeCloseTo(60)
    const lengths = shapes
      .flatMap((s) => (s.kind === 'path' ? [/^M([\d.]+) ([\d.]+)L([\d.]+) \2$/.exec(s.d)] : []))
      .map((m) => (m ? mm(Number(m[3]) - Number(m[1])) : 0))
    expect(lengths.some((l) => Math.abs(l - 100) < 1e-9)).toBe(true)
    // No wider than the paper between its margins, so that it is never shrunk.
    expect(width).toBeLessThanOrEqual(507)
    expect(templateDrawing(at('north-america', 'na-surface-13', wall), 'Here', null, 'metric')).toBeNull()
    expect(at('north-america', clamps, wall).measured).toBe(false)
  })
})
