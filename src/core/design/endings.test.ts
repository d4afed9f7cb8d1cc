import { describe, expect, it } from 'vitest'
import { accessory } from '../catalogue/accessories'
import { evaluate } from '../evaluate/evaluate'
import { describeEdit, EditError } from '../job/edits'

import { materialsOf } from '../workday/materials'
import { circuitLabels } from '../documents/labels'
import { chainDrawing } from '../drawing/chain'
import type { RegionId } from '../region/types'
import { pointNeeds } from '../rules'
import { guardingDevices } from './guards'
import { endingsOf, endingWords } from './endings'
import { costOf } from '../choose/options'
import { applyShort as applyEdit, newJob, placed, type Placed, type Short as Edit, spell } from '../../../tests/support/shorthand'

const c1 = { circuit: 'c1' } as const
const stops = (...points: (Partial<Placed> & { id: string })[]): Edit => ({
  kind: 'circuit-point.add',
  ...c1,
  points: points.map((p) => placed(p.id, p.id, { lengthM: 5, watts: 300, ...p })),
})
const design = (patch: Extract<Edit, { kind: 'design.set' }>['patch']): Edit => ({ kind: 'design.set', ...c1, design: 'a', patch })
const edited = (region: RegionId, ...edits: Edit[]) => edits.reduce((job, e) => applyEdit(job, e).job, newJob(region, 'x', ''))
const reported = (region: RegionId, ...edits: Edit[]) => {
  const job = edited(region, ...edits)
  return { job, ...evaluate(job, []).circuits[0]! }
}

const kitchen = [
  design({ accessory: 'uk-socket-13-twin', wantedBreakerA: 20 }),
  stops({ id: 'left' }, { id: 'fan', from: 'left', accessory: 'uk-fcu', fuseA: 3, outlets: 0 }, { id: 'right', from: 'fan' }),
]

describe('what a circuit ends on', () => {
  it('is its own accessory where no point says otherwise', () => {
    const { circuit, chosen } = reported('united-kingdom', design({ accessory: 'uk-socket-13' }), stops({ id: 'a' }, { id: 'b' }))
    expect(endingsOf(circuit, chosen.design)).toEqual([{ fitted: accessory('uk-socket-13'), points: circuit.points }])
    expect(endingWords(circuit, chosen.design)).toBe('13 A socket-outlet, single switched')
  })

  it('is listed by kind, its own first, and each with its points', () => {
    const { circuit, chosen } = reported('united-kingdom', ...kitchen)
    expect(endingsOf(circuit, chosen.design).map((e) => [e.fitted.id, e.points.map((p) => p.id)])).toEqual([
      ['uk-socket-13-twin', ['left', 'right']],
      ['uk-fcu', ['fan']],
    ])
    expect(endingWords(circuit, chosen.design)).toBe(
      '13 A socket-outlet, twin switched (left; right); 13 A switched fused connection unit, flex outlet (fan)',
    )
  })

  it('buys a fused connection unit ahead of an accessory, and says that its box is not chosen', () => {
    const of = (fuseA: number | null) => {
      const { job } = reported(
        'united-kingdom',
        design({ accessory: 'uk-socket-13' }),
        stops({ id: 'left' }, { id: 'fan', from: 'left', fuseA }),
      )
      const { lines, unknown } = materialsOf(job, evaluate(job, []))
      return { bought: lines.map((l) => l.what), unknown: unknown.filter((u) => u.includes('fused connection unit')) }
    }
    expect(of(3).bought.join()).toContain('fused connection unit')
    expect(of(3).unknown).toHaveLength(1)
    expect(of(3).unknown[0]).toMatch(/^fan: /)
    expect(of(null).unknown).toHaveLength(0)
  })

  it('buys longer screws for a box behind the finished face, and asks of one that was there', () => {
    const of = (setBackMm: number | null) => {
      const { job } = reported('united-kingdom', design({ accessory: 'uk-socket-13' }), stops({ id: 'a' }, { id: 'b' }), {
        kind: 'mount.set',
        boxes: ['a'],
        patch: { setBackMm },
      })
      return materialsOf(job, evaluate(job, [])).lines.find((l) => l.id.startsWith('screws '))
    }
    expect(of(18)).toMatchObject({ what: 'M3.5 screws, 50 mm', count: 2 })
    expect(of(2)).toBeUndefined()
    expect(of(null)).toBeUndefined()
  })

  it('is a joint box where nothing is fed yet, and then no running current is asked for', () => {
    const asked = (kind: 'box' | 'outlet') =>
      reported('southern-africa', stops({ id: 'hatch', kind, watts: kind === 'box' ? null : 100 }), design({ accessory: 'za-socket-16' }), {
        kind: 'supply.set',
        patch: { zeOhm: 0.4 },
      })
    const parked = asked('box')
    expect(endingWords(parked.circuit, parked.chosen.design)).toBe('a joint box: nothing is fed from it yet')
    expect(parked.tests.map((t) => t.id)).toContain('continuity-protective')
    expect(parked.tests.map((t) => t.id)).not.toContain('load-current')
    expect(asked('outlet').tests.map((t) => t.id)).toContain('load-current')
    const words = JSON.stringify(chainDrawing(parked.job, parked.circuit, parked.chosen, 'metric'))
    expect(words).toMatch(/ends in a/)
    expect(words).toMatch(/, 1 point"/)
    expect(words).not.toMatch(/not chosen/)
  })

  it('does not hold what is at none of its points', () => {
    const { circuit, chosen } = reported('united-kingdom', design({ accessory: 'uk-socket-13' }), stops({ id: 'a', accessory: 'uk-fcu' }))
    expect(endingsOf(circuit, chosen.design).map((e) => e.fitted.id)).toEqual(['uk-fcu'])
  })

  it('is open while one point has nothing, and is known once each has something, whatever the circuit says', () => {
    const asks = (...edits: Edit[]) =>
      reported('united-kingdom', ...edits).open.filter((o) => o.stage === 'circuit' && o.field === 'accessory').length
    expect(asks(stops({ id: 'a', accessory: 'uk-fcu' }, { id: 'b' }))).toBe(1)
    expect(asks(stops({ id: 'a', accessory: 'uk-fcu' }, { id: 'b', accessory: 'uk-socket-13' }))).toBe(0)
  })

  it('costs more with a residual device in an outlet', () => {
    const cost = (kind: string | null) => {
      const { job, circuit, chosen } = reported(
        'north-america',
        design({ accessory: 'na-duplex-20', lengthM: 10 }),
        stops({ id: 'a', accessory: kind }, { id: 'b' }),
      )
      return costOf(job, circuit, chosen.design, chosen, false)!
    }
    expect(cost('na-gfci-20')).toBeGreaterThan(cost(null))
    expect(cost('na-duplex-15')).toBe(cost(null))
  })

  it('of another world is refused at its field', () => {
    expect(() => edited('united-kingdom', stops({ id: 'a', accessory: 'na-duplex-15' }))).toThrow(EditError)
    expect(() =>
      edited('united-kingdom', stops({ id: 'a' }), { kind: 'circuit-point.set', ...c1, id: 'a', patch: { accessory: 'za-socket-16' } }),
    ).toThrow('not listed')
  })
})

describe('each kind of accessory', () => {
  const box = (kind: string, end?: string): Edit => ({ kind: 'box.set', ...c1, ...(end ? { end } : {}), patch: { kind } })

  it('has a box of its own, judged by what is in it', () => {
    const { ends, findings } = reported('united-kingdom', ...kitchen, box('uk-metal-2g-35'), box('uk-metal-25', 'uk-fcu'))
    expect(ends.map((e) => [e.fitted?.id, e.where, e.boxReport.kind?.id])).toEqual([
      // Two cables enter the first of the chain and one the last: their boxes are counted apart.
      ['uk-socket-13-twin', 'left', 'uk-metal-2g-35'],
      ['uk-fcu', 'fan', 'uk-metal-25'],
      ['uk-socket-13-twin', 'right', 'uk-metal-2g-35'],
    ])
    expect(findings.filter((f) => f.stage === 'boxes').map((f) => [f.rule, f.message.slice(0, 5)])).toEqual([['box-too-shallow', 'fan: ']])
  })

  it('asks for its box and its wiring while they are open, and names itself', () => {
    const asked = reported('united-kingdom', ...kitchen).open.map((o) => `${o.stage} ${o.ask}`)
    expect(asked).toContain('boxes fan: which box does it go in?')
    // Boxes of one accessory are asked for together; wiring that differs is asked for apart.
    expect(asked).toContain('boxes left; right: which box does it go in?')
    expect(asked.filter((a) => /^wiring (left|right|fan)/.test(a)).length).toBeGreaterThanOrEqual(2)
  })

  it('is wired step by step apart from the others', () => {
    const { ends } = reported(
      'united-kingdom',
      ...kitchen,
      { kind: 'wiring.step', ...c1, step: 'dead', done: true },
      { kind: 'wiring.step', ...c1, end: 'uk-fcu', step: 'strip', done: true },
    )
    expect(ends.map((e) => e.done)).toEqual([['dead'], ['strip'], ['dead']])
    expect(ends[1]!.steps).not.toEqual(ends[0]!.steps)
  })

  it('is judged by the wettest of its own points', () => {
    const { findings } = reported(
      'united-kingdom',
      { kind: 'brief.set', patch: { environment: 'dry' } },
      ...kitchen,
      { kind: 'circuit-point.set', ...c1, id: 'fan', patch: { environment: 'wet' } },
      box('uk-metal-2g-35'),
      box('uk-metal-35', 'uk-fcu'),
    )
    expect(findings.filter((f) => f.rule === 'box-not-weatherproof').map((f) => f.message.split(':')[0])).toEqual(['fan'])
  })

  it('with poles is tested open and closed, by name where there are several kinds', () => {
    const { tests } = reported('united-kingdom', ...kitchen, {
      kind: 'circuit-point.set',
      ...c1,
      id: 'right',
      patch: { accessory: 'uk-switch-1p' },
    })
    expect(tests.filter((t) => t.id.startsWith('switch-open')).map((t) => [t.id, t.title])).toEqual([
      ['switch-open', 'fan: open: no path through either pole'],
      ['switch-open-uk-switch-1p', 'right: open: no path through the pole'],
    ])
  })

  it('has a label inside its cover', () => {
    const report = reported('united-kingdom', ...kitchen)
    const inside = circuitLabels(report.job, report, '2026-11-20', 'metric').filter((l) => l.place === 'cover-inside')
    expect(inside.map((l) => [l.id, l.where])).toEqual([
      ['c1-cover-inside', 'Inside of the cover, left'],
      ['c1-cover-inside-2', 'Inside of the cover, fan'],
      ['c1-cover-inside-3', 'Inside of the cover, right'],
    ])
  })

  it('is named in the history', () => {
    const job = edited('united-kingdom', ...kitchen)
    expect(describeEdit(job.record, spell(job.record, box('uk-metal-25', 'uk-fcu'))[0]!)).toMatch(/^Box of fan: kind /)
    expect(describeEdit(job.record, { kind: 'circuit-point.set', ...c1, id: 'fan', patch: { accessory: null } })).toBe(
      'fan: accessory as the circuit says',
    )
    expect(describeEdit(job.record, { kind: 'circuit-point.set', ...c1, id: 'fan', patch: { accessory: 'uk-fcu', guardsOn: true } })).toBe(
      'fan: accessory 13 A switched fused connection unit, flex outlet, protects the points downstream yes',
    )
  })
})

describe('a residual device in an outlet along the circuit', () => {
  const guards = (region: RegionId, kind: string, guardsOn: boolean) => {
    const { job, circuit, chosen } = reported(
      region,
      design({ accessory: region === 'north-america' ? 'na-duplex-20' : 'uk-socket-13', residual: { at: 'none', ma: 30, type: null } }),
      stops(
        { id: 'before' },
        { id: 'it', from: 'before', accessory: kind, guardsOn },
        { id: 'beyond', from: 'it' },
        { id: 'further', from: 'beyond' },
        { id: 'aside', from: 'before' },
      ),
    )
    return pointNeeds({ job, circuit, design: chosen.design, result: chosen.result, worked: chosen }).rows.map((r) => r.site.residual)
  }
  it('darkens itself when it trips, and those beyond only where it is said to protect them', () => {
    const lost = (guardsOn: boolean) => {
      const { job, circuit, chosen } = reported(
        'north-america',
        design({ accessory: 'na-duplex-20', residual: { at: 'none', ma: 5, type: null } }),
        stops({ id: 'before' }, { id: 'it', from: 'before', accessory: 'na-gfci-20', guardsOn }, { id: 'beyond', from: 'it' }),
      )
      return guardingDevices(job, circuit, chosen.design).map((d) => [d.point?.id, d.atBoard, d.guards.map((p) => p.id).join()])
    }
    expect(lost(false)).toEqual([['it', false, 'it']])
    expect(lost(true)).toEqual([['it', false, 'it,beyond']])
  })
  it('and every other type is a column of the table where one of the points alone needs it', () => {
    const { job, circuit, chosen } = reported(
      'north-america',
      design({ accessory: 'na-duplex-20' }),
      stops({ id: 'outlet' }, { id: 'light', from: 'outlet', kind: 'light', outlets: 0 }),
    )
    const { types, rows } = pointNeeds({ job, circuit, design: chosen.design, result: chosen.result, worked: chosen })
    const asked = new Set(rows.flatMap((r) => Object.keys(r.needs)))
    expect(rows.some((r) => [...asked].some((type) => !(type in r.needs)))).toBe(true)
    expect(new Set<string>(types)).toEqual(asked)
  })
  it('guards what is plugged in there, and what is fed beyond only on its load side', () => {
    expect(guards('north-america', 'na-gfci-20', false)).toEqual([null, 'own', null, null, null])
    expect(guards('north-america', 'na-gfci-20', true)).toEqual([null, 'own', 'ahead', 'ahead', null])
  })
  it('guards nothing beyond where it has no load side, or is none', () => {
    expect(guards('united-kingdom', 'uk-socket-13-rcd', true)).toEqual([null, 'own', null, null, null])
    expect(guards('north-america', 'na-duplex-15', true)).toEqual([null, null, null, null, null])
  })
})

describe('the residual devices of a circuit', () => {
  const of = (region: RegionId, ...edits: Edit[]) => reported(region, ...edits).tests.filter((t) => t.id.startsWith('residual-'))
  it('are tested one by one, each with the points it guards', () => {
    const tests = of(
      'north-america',
      design({ accessory: 'na-duplex-20', wantedBreakerA: 20 }),
      stops(
        { id: 'a' },
        { id: 'b', from: 'a', accessory: 'na-gfci-20', guardsOn: true },
        { id: 'c', from: 'b', accessory: 'na-gfci-15' },
        { id: 'd', from: 'b' },
      ),
    )
    expect(tests.map((t) => t.id)).toEqual(['residual-button', 'residual-button-c'])
    expect(tests[0]!.title).toBe('GFCI at b: test button trips it, reset restores it')
    expect(tests[0]!.how).toMatch(/^Then b, c, d went dead, and nothing else;/)
    expect(tests[1]!.how).toMatch(/^Then c went dead, and nothing else;/)
  })
  it('are tested at a point without outlets too, whether it or its circuit says what is fitted there', () => {
    const tests = (accessory?: 'na-gfci-20') =>
      of(
        'north-america',
        design({ accessory: 'na-gfci-20', wantedBreakerA: 20 }),
        stops({ id: 'a', outlets: 0, ...(accessory ? { accessory } : {}) }),
      )
    expect(tests().map((t) => t.id)).toEqual(['residual-button'])
    expect(tests()).toEqual(tests('na-gfci-20'))
  })
  it('are timed where the world asks for it, at their rating, and at five times of it for who wants to know', () => {
    const tests = of(
      'united-kingdom',
      design({ accessory: 'uk-socket-13-rcd', residual: { at: 'board', ma: 30, type: 'A' } }),
      stops({ id: 'a' }, { id: 'b', from: 'a' }),
    )
    expect(tests.map((t) => t.id)).toEqual(
      ['', '-a', '-b'].flatMap((at) => ['button', 'time', 'time-five'].map((kind) => `residual-${kind}${at}`)),
    )
    const max = (id: string) => {
      const t = tests.find((x) => x.id === id)!
      return [t.expect.kind === 'range' && t.expect.max, t.optional ?? false]
    }
    expect(max('residual-time')).toEqual([300, false])
    expect(max('residual-time-five-b')).toEqual([40, true])
    expect(tests[0]!.title).toContain('at the consumer unit')
    expect(tests[0]!.how).toMatch(/^Then a, b went dead/)
  })
  it('are none where there is none, and one where one is counted on that nobody said the place of', () => {
    expect(
      of('united-kingdom', design({ accessory: 'uk-socket-13', residual: { at: 'none', ma: 30, type: null } }), stops({ id: 'a' })),
    ).toEqual([])
    expect(
      of('united-kingdom', design({ accessory: 'uk-socket-13', residual: { at: 'outlet', ma: 30, type: 'A' } }), stops({ id: 'a' })).map(
        (t) => t.id,
      ),
    ).toEqual(['residual-button', 'residual-time', 'residual-time-five'])
  })
})

describe('two lines with a shared neutral', () => {
  it('are tested between both lines and the neutral, whatever is at one point', () => {
    const { tests } = reported(
      'north-america',
      { kind: 'circuit.set', ...c1, patch: { kind: 'shared-neutral' } },
      design({ accessory: 'na-duplex-20', wantedBreakerA: 20 }),
      stops({ id: 'a' }, { id: 'b', from: 'a', leg: 'B' }),
    )
    const dead = tests.filter((t) => t.id.startsWith('iso-dead')).map((t) => t.id)
    for (const pair of ['l1-l2', 'l1-n', 'l2-n', 'l1-e', 'l2-e']) expect(dead).toContain(`iso-dead-${pair}`)
  })
})
