import { describe, expect, it } from 'vitest'
import { after, newJob } from '../../../tests/support/shorthand'
import { route, routeInput } from '../building/route'
import { demoJobs } from '../demo/demo'
import { legsOf, orderWanted, waysWanted } from './building'

const dairy = after(newJob(demoJobs[0]!.region, 'x', ''), ...demoJobs[0]!.edits)

describe('points in their best order', () => {
  // The bench of the kiln and wheel room, on the south wall of the wheel room, chained from its far end back.
  const put = (id: string, atM: number) => ({
    kind: 'place.put' as const,
    what: 'point' as const,
    id,
    room: 'room-wheel-room',
    spot: { side: 'south' as const, atM, heightMm: 1100, wall: `w-${id}` },
  })
  const placed = after(dairy, { kind: 'circuit.set', circuit: 'c4', patch: { kind: 'radial' } }, put('b1', 1), put('b2', 8), put('b3', 3.5))
  it('are asked for once all of them are in the building, and there is a choice', () => {
    expect(orderWanted(dairy.record, 'c4')).toBeNull()
    expect(orderWanted(placed.record, 'c1')).toBeNull()
    expect(orderWanted(placed.record, 'c4')?.to).toHaveLength(3)
    const shared = after(placed, { kind: 'circuit.set', circuit: 'c4', patch: { kind: 'shared-neutral' } })
    expect(orderWanted(shared.record, 'c4')).toBeNull()
  })
  it('cost no more than as they are, and chained so cost just that', () => {
    const costOf = (job: typeof placed) =>
      waysWanted(job.record, 'c4')!.reduce((sum, w) => sum + route(routeInput.parse(w)).routes[0]!.cost, 0)
    const best = route(routeInput.parse(orderWanted(placed.record, 'c4'))).routes[0]!
    const order = best.pieces.map((p) => p.cable.slice(3))
    expect(order.toSorted()).toEqual(['b1', 'b2', 'b3'])
    expect(best.cost).toBeLessThan(costOf(placed) - 1)
    const chained = after(placed, { kind: 'circuit-point.chain', circuit: 'c4', order })
    expect(legsOf(chained.record, 'c4').map((l) => l.to)).toEqual(order)
    expect(costOf(chained)).toBeCloseTo(best.cost, 6)
    // What leads elsewhere now has no length until it is measured, or routed.
    const kept = (job: typeof placed) => job.record.cables.filter((k) => k.circuit === 'c4')
    const asBefore = kept(chained).filter((k) => kept(placed).some((o) => o.from.id === k.from.id && o.to.id === k.to.id))
    for (const k of kept(chained)) expect(k.lengthM === null).toBe(!asBefore.includes(k))
  })
})
