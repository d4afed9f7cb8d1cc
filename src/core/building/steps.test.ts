import { describe, expect, it } from 'vitest'
import { formatMark } from '../base/format'
import { placed } from './house'
import { route, routeInput } from './route'
import { boringFindings, routeSteps } from './steps'

const building = {
  rooms: [
    { id: 'hall', lengthM: 6, widthM: 4, heightM: 2.4 },
    { id: 'store', lengthM: 3, widthM: 4, heightM: 2.4, beside: { room: 'hall', side: 'east' } },
  ],
  points: [{ id: 'p', room: 'store', side: 'east', atM: 1, heightM: 0.4 }],
  boards: [{ id: 'b', room: 'hall', side: 'north', atM: 0.6, heightM: 1.5 }],
  walls: { kind: 'timber', studM: 0.4 },
  attic: { headM: 1, hot: false },
  crawl: null,
}
const input = routeInput.parse({ building, from: { board: 'b' }, to: [{ point: 'p' }] })
const best = route(input).routes[0]!
const asked = {
  parts: best.elements,
  rooms: placed(input.building),
  names: new Map([
    ['hall', 'Hall'],
    ['store', 'Store'],
  ]),
  region: 'north-america' as const,
  units: 'imperial' as const,
  holeMm: 19.05,
  headAt: (space: 'attic' | 'crawl') => (space === 'attic' ? 1 : null),
  noggingsKnown: () => true,
  joistsKnown: true,
}

describe('the steps of a way', () => {
  it('bore before they pull, from the left as one faces the wall, in the measures of the place', () => {
    const steps = routeSteps(asked)
    expect(steps.map((s) => s.mark)).toEqual(['hole', 'hole', 'cable', 'cable', 'cable'])
    expect(steps[0]!.words).toBe(
      'Bore 3/4 in through both top plates of the north wall of Hall, 1 ft 11-1/2 in from its left corner as you face it, ' +
        'in the middle of the timber (head room 3.3 ft: angle drill).',
    )
    // One metre from the south end of a wall four metres long is three from the left of who faces east.
    expect(steps[1]!.words).toContain(`${formatMark(3, 'imperial')} from its left corner`)
    expect(steps[2]!.words).toMatch(/^Draw up .* Two people:/)
    expect(steps[4]!.words).toMatch(/^Drop /)
  })
  it('say a caution where it is met first, with the clause of the world', () => {
    const cautions = routeSteps(asked).flatMap((s) => (s.caution ? [s.caution.clause] : []))
    expect(cautions).toEqual(['300.4(A)', '334.23'])
    expect(routeSteps({ ...asked, region: 'united-kingdom' })[0]!.caution!.clause).toBe('522.6')
  })
})

describe('what is bored', () => {
  const judged = (depthMm: number | null, holeMm = 20, region: 'north-america' | 'united-kingdom' = 'north-america') =>
    boringFindings({ parts: best.elements, region, holeMm, depthOf: () => depthMm, joistMm: null }).map((f) => `${f.severity} ${f.rule}`)
  it('is not known while nobody measured a stud', () => expect(judged(null)).toEqual(['unknown stud-depth-not-known']))
  it('needs a plate where it comes within 32 mm of the face, and none where it does not', () => {
    expect(judged(83)).toEqual(['warning plate-needed'])
    expect(judged(84)).toEqual([])
    expect(judged(119, 20, 'united-kingdom')).toEqual(['warning plate-needed'])
    expect(judged(120, 20, 'united-kingdom')).toEqual([])
  })
  it('is refused where it takes too much of the timber', () => {
    expect(judged(48)).toContain('error hole-too-large')
    expect(judged(15)).toEqual(['error hole-too-large'])
  })
  it('asks nothing of a way that crosses no timber', () =>
    expect(
      boringFindings({
        parts: best.elements.filter((e) => e.kind === 'attic'),
        region: 'north-america',
        holeMm: 20,
        depthOf: () => null,
        joistMm: null,
      }),
    ).toEqual([]))
})

describe('a mark', () => {
  it.each([
    [0.6096, '2 ft'],
    [1, '3 ft 3-1/2 in'],
    [0.0127, '1/2 in'],
    [0.0381, '1-1/2 in'],
    [0, '0 in'],
    [0.3175, '1 ft 1/2 in'],
  ])('of %d m is %s', (m, words) => expect(formatMark(m, 'imperial')).toBe(words))
  it('is to the centimetre elsewhere', () => expect(formatMark(1.266, 'metric')).toBe('1.27 m'))
})

describe('joists that are crossed under a floor', () => {
  const crawl = { kind: 'crawl' as const, room: null, side: null, beyond: null, lengthM: 3, minutes: 9, openings: 0 }
  const path = [
    [0, 0, -0.3],
    [3, 0, -0.3],
  ] as const
  const judged = (joistMm: number | null, holes = 6, holeMm = 20, region: 'north-america' | 'united-kingdom' = 'north-america') =>
    boringFindings({ parts: [{ ...crawl, holes, path }], region, holeMm, joistMm, depthOf: () => undefined }).map(
      (f) => `${f.severity} ${f.rule}`,
    )
  it('are not judged while nobody measured how deep they are, and not asked for where none is bored', () => {
    expect(judged(null)).toEqual(['unknown joist-depth-not-known'])
    expect(judged(null, 0)).toEqual([])
  })
  it('bear a hole of a third of their depth where that is the code, and no larger one', () => {
    expect(judged(180, 6, 60)).toEqual([])
    expect(judged(180, 6, 61)).toEqual(['error hole-too-large'])
    expect(judged(19, 6, 20)).toEqual(['error hole-too-large'])
  })
  it('are held against the drilling figure of the other world', () => {
    expect(judged(200, 6, 50, 'united-kingdom').filter((f) => f.includes('too-large'))).toEqual([])
    expect(judged(200, 6, 51, 'united-kingdom').some((f) => f.includes('too-large'))).toBe(true)
  })
  it('are bored in a step of their own before the cable is laid through them', () => {
    const steps = routeSteps({ ...asked, parts: [{ ...crawl, holes: 6, path }], joistsKnown: true })
    expect(steps.map((x) => x.mark)).toEqual(['hole', 'cable'])
    expect(steps[0]!.words).toContain('through 6 joists, each in the middle of its depth')
    expect(steps.reduce((sum, x) => sum + x.minutes, 0)).toBeCloseTo(9, 9)
    expect(steps[1]!.words).toMatch(/supports?, .* apart\.$/)
  })
})
