import { describe, expect, it } from 'vitest'
import { type Accessory, accessoriesFor } from '../catalogue/accessories'
import { boxesFor, boxKind } from '../catalogue/boxes'
import { laid, newJob } from '../../../tests/support/shorthand'
import { newBox } from '../job/box'
import { cableConductors } from '../region/colours'
import { regionIds } from '../region/types'
import { evaluateBox, wettestOf } from './choose-box'

const sizes = { 'north-america': '12 AWG', 'united-kingdom': '2.5 mm2', 'southern-africa': '2.5 mm2' } as const
const box = (kind: string | null) => newBox('b', { kind })
const holding = (fitted: Accessory, size: string, protectiveSize: string, cables: number) => ({
  fitted: [fitted],
  unknown: [],
  gangs: [fitted.gangs],
  size,
  protectiveSize,
  cables: Array.from({ length: cables }, () => ({
    size,
    conductors: cableConductors(fitted.region, fitted.system, 'new').filter((c) => c.role !== 'pe').length,
  })),
})

describe.each(regionIds)('boxes in %s', (region) => {
  const job = newJob(region, 'A', '')
  const size = sizes[region]
  const cases = accessoriesFor(region).flatMap((fitted) =>
    [1, 2, 3].map((cables) => ({ name: `${fitted.name}, ${cables} cables`, fitted, cables })),
  )

  it.each(cases)('$name: the smallest named fits, nothing smaller of its kind does, and the roomy one has room', ({ fitted, cables }) => {
    const contents = holding(fitted, size, size, cables)
    const judged = (kind: string) => evaluateBox(job, box(kind), contents)
    const { smallest, withRoom } = evaluateBox(job, box(null), contents)
    if (smallest) {
      expect(judged(smallest.id).findings).toEqual([])
      for (const b of boxesFor(region))
        if (b.volumeCm3 < smallest.volumeCm3 && b.mounting !== 'ceiling' && b.gangs >= fitted.gangs)
          expect(judged(b.id).findings.length).toBeGreaterThan(0)
    }
    if (withRoom) {
      const { fill, depth } = judged(withRoom.id)
      expect(fill?.output.fillFraction ?? depth!.neededMm / depth!.availableMm).toBeLessThanOrEqual(0.8 + 1e-9)
    }
  })

  it('outdoors only a weatherproof one will do', () => {
    const wet = { ...job, brief: { ...job.brief, environment: 'outdoors' as const } }
    const contents = holding(accessoriesFor(region)[0]!, size, size, 1)
    expect(evaluateBox(wet, box(null), contents).smallest!.weatherproof).toBe(true)
    const dryBox = boxesFor(region).find((b) => !b.weatherproof && b.volumeCm3 > 300)!
    expect(evaluateBox(wet, box(dryBox.id), contents).findings.map((f) => f.rule)).toContain('box-not-weatherproof')
  })
})

describe('what is counted', () => {
  const job = newJob('north-america', 'A', '')
  const [duplex] = accessoriesFor('north-america').filter((a) => a.id === 'na-duplex-15')
  const one = holding(duplex!, '12 AWG', '12 AWG', 2)
  const needs = (contents: typeof one) => evaluateBox(job, box('na-sq-42'), contents).fill!.output.requiredCm3
  const perConductor = 2.25 * 16.387064
  it('a second device takes two more conductors of room, and a wider box; a joint box has none', () => {
    const two = { ...one, gangs: [1 as const, 1 as const] }
    expect(needs(two) - needs(one)).toBeCloseTo(2 * perConductor)
    expect(evaluateBox(job, box('na-old-20'), two).findings.map((f) => f.rule)).toContain('box-too-narrow')
    expect(needs(one) - needs({ ...one, fitted: [], gangs: [] })).toBeCloseTo(2 * perConductor)
  })
  it('a cable of three cores brings one conductor more', () => {
    const three = { ...one, cables: one.cables.map((k, i) => (i ? k : { ...k, conductors: 3 })) }
    expect(needs(three) - needs(one)).toBeCloseTo(perConductor)
  })
  it('fifteen conductors do not go where ten do, and what does is named', () => {
    const cables = Array.from({ length: 5 }, () => ({ size: '14 AWG', conductors: 3 }))
    const { findings } = evaluateBox(job, box('na-new-20.3'), { ...one, size: '14 AWG', protectiveSize: '14 AWG', cables })
    expect(findings[0]).toMatchObject({ rule: 'box-overfilled', severity: 'error' })
    expect(findings[0]!.message).toMatch(/is the smallest that fits/)
  })
})

describe('the wettest place of a circuit', () => {
  const job = newJob('north-america', 'A', '')
  const circuit = job.circuits[0]!
  const at = (...places: ('dry' | 'damp' | 'wet' | 'outdoors' | null)[]) =>
    wettestOf(job, { ...circuit, points: places.map((environment, i) => laid(`p${i}`, `P${i}`, { environment })) })
  it('is that of any point that is wet, and unknown before it is dry', () => {
    expect(at('dry', 'wet', null)).toBe('wet')
    expect(at('dry', 'outdoors')).toBe('outdoors')
    expect(at('dry', null)).toBeNull()
    expect(at('dry', 'damp')).toBe('damp')
    expect(at('dry', 'dry')).toBe('dry')
  })
  it('is what the circuit says, or else the brief', () => {
    const said = { ...job, brief: { ...job.brief, environment: 'damp' as const } }
    expect(wettestOf(said, circuit)).toBe('damp')
    expect(wettestOf(said, { ...circuit, environment: 'dry' })).toBe('dry')
  })
})

describe('a box of the kind that was chosen', () => {
  it('is offered before one of another', () => {
    const job = newJob('north-america', 'A', '')
    const fitted = accessoriesFor('north-america').find((a) => a.id === 'na-duplex-20')!
    const { smallest, findings } = evaluateBox(job, box('na-device-12.5'), holding(fitted, '12 AWG', '12 AWG', 2))
    expect(findings[0]!.rule).toBe('box-overfilled')
    expect(smallest!.mounting).toBe(boxKind('na-device-12.5')!.mounting)
    expect(smallest!.id).toBe('na-device-18')
  })
  it('says unknown for conductors that box fill does not list', () => {
    const job = newJob('north-america', 'A', '')
    const fitted = accessoriesFor('north-america').find((a) => a.id === 'na-50-4w')!
    expect(evaluateBox(job, box('na-sq-42'), holding(fitted, '4 AWG', '8 AWG', 1)).findings[0]).toMatchObject({
      rule: 'box-fill-not-listed',
      severity: 'unknown',
    })
  })
})
