import { describe, expect, it } from 'vitest'
import { applyShort as applyEdit, newJob, placed, type Short as Edit } from '../../../tests/support/shorthand'
import { evaluate } from '../evaluate/evaluate'
import { newBoard, newResidualDevice, newWay, type Way } from '../job/board'
import { blankPoint } from '../job/point'
import type { RegionId } from '../region/types'

const sum = (region: RegionId, ...edits: Edit[]) => {
  const job = edits.reduce((j, e) => applyEdit(j, e).job, newJob(region, 'x', ''))
  const { stages } = evaluate(job, [])
  return stages.flatMap((s) => s.findings).find((f) => f.rule === 'residual-device-sum')
}
const main = (mainA: number | null): Edit => ({ kind: 'board.set', id: 'main', patch: { spaces: 12, mainA, mainSwitch: 'double-pole' } })
const device: Edit = { kind: 'residual-device.add', item: newResidualDevice('g1', 'RCD 1', { ratingA: 40, tripMa: 30 }) }
const way = (id: string, more: Partial<Way>): Edit => ({ kind: 'way.add', way: newWay(id, id, { residual: 'g1', ...more }) })
/** What hangs on a way, seen with it switched off; watts of null are a load not read. */
const seenOn = (breaker: string, instrument: 'contact' | 'told', ...watts: (number | null)[]): Edit[] => [
  { kind: 'point.add', points: watts.map((w, i) => blankPoint(`${breaker}-${i}`, `Point ${i}`, { watts: w })) },
  {
    kind: 'observation.add',
    items: [
      {
        id: `o-${breaker}`,
        at: '2026-11-14T12:00:00.000Z',
        instrument,
        withdrawn: false,
        seen: { kind: 'breaker-off', breaker, dead: watts.map((_, i) => `${breaker}-${i}`) },
      },
    ],
  },
]
const added = (watts: number | null): Edit[] => [
  { kind: 'load.set', circuit: 'c1', patch: { amount: watts, volts: 230 } },
  { kind: 'circuit.set', circuit: 'c1', patch: { behind: 'g1' } },
]

describe.each(['united-kingdom', 'southern-africa'] as const)('what is behind a residual device (%s)', (region) => {
  const of = (...edits: Edit[]) => sum(region, main(100), device, ...edits)
  const old = (ratingA: number | null, more: Partial<Way> = {}) => way('old', { ratingA, ...more })

  it('is too much over its rating by what is known, and then said so whatever else is not', () => {
    expect(of(old(32), ...seenOn('old', 'contact', 4600), ...added(4600))).toBeUndefined()
    const over = of(old(32), ...seenOn('old', 'contact', 4600), ...added(4700))
    expect(over).toMatchObject({ severity: 'warning', message: expect.stringContaining('40.4 A') })
    expect(of(old(32), ...seenOn('old', 'contact', 4600, null), ...added(4700))).toMatchObject({ severity: 'warning' })
  })

  it('is not known where a load was not read, nobody switched it off to look, or a breaker is not held by its rating', () => {
    const notKnown = { severity: 'unknown', message: expect.stringContaining('load on old was not read') }
    expect(of(old(32), ...added(2300))).toMatchObject(notKnown)
    expect(of(old(32), ...seenOn('old', 'contact', 460, null), ...added(2300))).toMatchObject(notKnown)
    expect(of(old(32), ...seenOn('old', 'told', 460), ...added(2300))).toMatchObject(notKnown)
    expect(of(old(null), ...added(2300))).toMatchObject(notKnown)
    expect(of(old(32), ...seenOn('old', 'contact', 460), ...added(2300))).toBeUndefined()
  })

  it('is held by the breakers where they together let no more through, and by a main that does not', () => {
    expect(of(old(32), ...added(1840))).toBeUndefined()
    expect(of(old(32), ...added(1900))).toMatchObject({ severity: 'unknown' })
    expect(sum(region, main(40), device, old(63), ...added(1900))).toBeUndefined()
    expect(sum(region, main(50), device, old(63), ...added(1900))).toMatchObject({ severity: 'unknown' })
    expect(sum(region, main(null), device, old(63), ...added(1900))).toMatchObject({ severity: 'unknown' })
  })

  it('counts what is added to a way that is there once, within the breaker of that way', () => {
    const onOld = (ratingA: number, watts: number | null) =>
      of(old(ratingA, { position: 3 }), ...added(watts), { kind: 'circuit.set', circuit: 'c1', patch: { work: 'altered', way: '3' } })
    expect(onOld(40, null)).toBeUndefined()
    expect(onOld(50, 2300)).toMatchObject({ severity: 'unknown' })
    expect(onOld(32, 9300)).toMatchObject({ severity: 'warning', message: expect.stringContaining('40.4 A') })
  })

  it('may be one whose device was not looked at; not what is elsewhere, is spare, or has its own', () => {
    const perhaps = of(old(40, { residual: 'unknown' }), ...added(1900))
    expect(perhaps).toMatchObject({ severity: 'unknown', message: expect.stringContaining('Whether old is behind it was not checked') })
    expect(perhaps?.message).not.toContain('nobody read')
    for (const more of [{ residual: 'own' }, { residual: 'none' }, { kind: 'spare' }] as const)
      expect(of(old(40, more), ...added(1900))).toBeUndefined()
  })

  it('is not known while what is added is not: its load, or the load of one of its points; nothing is said where nothing is added', () => {
    expect(of(...added(null))).toMatchObject({ severity: 'unknown', message: expect.stringContaining('with') })
    const points = (watts: number | null): Edit => ({
      kind: 'circuit-point.add',
      circuit: 'c1',
      points: [placed('p1', 'One', { watts: 100 }), placed('p2', 'Two', { watts })],
    })
    expect(of(...added(1900), points(null))).toMatchObject({ severity: 'unknown' })
    expect(of(...added(1900), points(200))).toBeUndefined()
    expect(of(old(63))).toBeUndefined()
  })
})

it('is no question of a panel whose devices are in its breakers', () => {
  expect(sum('north-america', main(100), device, way('old', { ratingA: 60 }), ...added(1900))).toBeUndefined()
})

describe('the space a new circuit takes', () => {
  const shed: Edit[] = [
    main(100),
    way('to-shed', { kind: 'feeder', position: 1, ratingA: 40, residual: 'none' }),
    { kind: 'board.add', item: newBoard('shed', { name: 'Shed', spaces: 4, mainA: 40, fedFrom: 'to-shed' }) },
  ]
  const on = (board: string, circuit: string, way: string): Edit => ({ kind: 'circuit.connect', circuit, board, way })
  const said = (...edits: Edit[]) => {
    const job = [...shed, ...edits].reduce((j, e) => applyEdit(j, e).job, newJob('united-kingdom', 'x', ''))
    return evaluate(job, []).circuits.map(({ chosen }) => {
      const found = chosen.findings.find((f) => f.rule === 'way-taken')
      return found && `${found.severity}: ${found.message}`
    })
  }
  const free = (id: string, ...spaces: number[]): Edit => ({ kind: 'board.set', id, patch: { free: spaces } })
  const second: Edit = { kind: 'circuit.add', id: 'c2', name: 'Second' }

  it('is looked for in its own board: what is there, how many there are, and which somebody saw', () => {
    expect(said(free('main', 3), free('shed', 2), on('shed', 'c1', '2'))).toEqual([undefined])
    expect(said(free('main', 3), free('shed', 2), on('shed', 'c1', '3'))).toEqual([expect.stringMatching(/^unknown: .*way 3 is free/)])
    expect(said(way('lamp', { board: 'shed', position: 2, residual: 'none' }), on('shed', 'c1', '2'))).toEqual([
      expect.stringMatching(/^error: lamp is in way 2/),
    ])
    expect(said(free('shed', 4), on('shed', 'c1', '5'))).toEqual([expect.stringMatching(/^error: The board has 4 ways, and 5/)])
  })

  it('may be the same in two boards, and not the same in one', () => {
    const seen = [second, free('main', 2), free('shed', 2), on('shed', 'c1', '2')]
    expect(said(...seen, on('main', 'c2', '2'))).toEqual([undefined, undefined])
    expect(said(...seen, on('shed', 'c2', '2'))).toEqual([
      expect.stringMatching(/^error: Second takes way 2 as well/),
      expect.stringMatching(/^error: .* takes way 2 as well/),
    ])
  })
})
