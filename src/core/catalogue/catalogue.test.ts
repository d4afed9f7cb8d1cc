import { describe, expect, it } from 'vitest'
import { wiringDrawing } from '../drawing/wiring'
import { hasOldColours } from '../region/colours'
import { regionIds } from '../region/types'
import { wiringPlan } from '../build/plan'
import { accessories, accessoriesFor } from './accessories'
import { applianceKinds } from './appliances'
import { boxesFor, boxKinds } from './boxes'

const unique = (ids: string[]) => expect(new Set(ids).size).toBe(ids.length)

describe('the catalogue', () => {
  it('lists at least 50 kinds of appliance and 30 boxes, each once', () => {
    const kinds = applianceKinds('north-america')
    expect(kinds.length).toBeGreaterThanOrEqual(50)
    expect(boxKinds.length).toBeGreaterThanOrEqual(30)
    unique(kinds.map((k) => k.id))
    unique(boxKinds.map((b) => b.id))
    unique(accessories.map((a) => a.id))
  })
  it.each(regionIds)('has appliances with sensible figures, boxes and accessories for %s', (region) => {
    for (const k of applianceKinds(region)) expect(k.watts / k.volts).toBeLessThan(60)
    expect(boxesFor(region).length).toBeGreaterThan(5)
    expect(accessoriesFor(region).length).toBeGreaterThan(5)
  })
})

const cases = accessories.flatMap((a) =>
  (hasOldColours(a.region) ? (['new', 'old'] as const) : (['new'] as const)).map((colours) => ({ id: a.id, colours, a })),
)

describe.each(cases)('$id in $colours colours', ({ a, colours }) => {
  const plan = wiringPlan(a.region, a, colours, null, 'metric')
  it('puts every conductor of the feed on a terminal or in a joint, and no terminal twice', () => {
    const placed = [...plan.connections.map((c) => c.conductor.id), ...plan.joints.flatMap((j) => j.conductors.map((c) => c.id))]
    expect(placed.toSorted()).toEqual(
      [...plan.feed, ...plan.load]
        .filter((c) => placed.includes(c.id))
        .map((c) => c.id)
        .toSorted(),
    )
    for (const c of plan.feed) expect(placed).toContain(c.id)
    unique(plan.connections.map((c) => `${c.terminal.mark}${c.terminal.at.join()}`))
  })
  it('lands each conductor on a terminal for its own role', () => {
    for (const { terminal, conductor } of plan.connections) expect(conductor.role).toBe(terminal.takes.role)
  })
  it('does earth before neutral before line', () => {
    const order = plan.steps.filter((s) => s.id.startsWith('terminal-')).map((s) => plan.connections[Number(s.id.slice(9))]!.conductor.role)
    const rank = ['pe', 'neutral', 'line-2', 'line', 'switched-line']
    const ranks = order.map((r) => rank.indexOf(r))
    expect(ranks).toEqual(ranks.toSorted((x, y) => x - y))
  })
  it('draws without a number that is none', () => {
    expect(JSON.stringify(wiringDrawing(a.region, a, plan, null))).not.toMatch(/NaN|null|Infinity|undefined/)
  })
})

describe('re-marking', () => {
  it('marks the white conductor of a 240 V circuit as a line', () => {
    const plan = wiringPlan(
      'north-america',
      accessoriesFor('north-america').find((a) => a.id === 'na-30-240')!,
      'new',
      '10 AWG',
      'imperial',
    )
    expect(plan.feed.find((c) => c.role === 'line-2')).toMatchObject({ colour: 'white', remark: 'red' })
    expect(plan.steps.some((s) => s.id === 'remark')).toBe(true)
  })
})
