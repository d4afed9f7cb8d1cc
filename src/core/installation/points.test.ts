import { describe, expect, it } from 'vitest'
import { made, placed } from '../../../tests/support/shorthand'

describe('what a point draws', () => {
  const watts = (kind: 'outlet' | 'switch' | 'box' | 'fixed', accessory: string | null = null, own: number | null = null) =>
    made('united-kingdom', {
      kind: 'circuit-point.add',
      circuit: 'c1',
      points: [placed('p', 'P', { kind, accessory, watts: own, outlets: 0, lengthM: 5 })],
    }).circuits[0]!.points[0]!.watts
  it('is nothing for a joint and for a plain switch, and unknown elsewhere until it is read', () => {
    expect([watts('switch'), watts('switch', 'uk-two-way'), watts('box')]).toEqual([0, 0, 0])
    expect([watts('outlet'), watts('fixed'), watts('switch', 'uk-fcu')]).toEqual([null, null, null])
  })
  it('is nothing for an isolator with a point behind it, and unknown where its appliance is its own', () => {
    const isolator = placed('i', 'I', { kind: 'switch', accessory: 'uk-fan-isolator', outlets: 0, lengthM: 5 })
    const fan = placed('f', 'F', { kind: 'light', from: 'i', accessory: 'uk-fan', watts: 20, outlets: 0, lengthM: 2 })
    const of = (...points: ReturnType<typeof placed>[]) =>
      made('united-kingdom', { kind: 'circuit-point.add', circuit: 'c1', points }).circuits[0]!.points[0]!.watts
    expect(of(isolator, fan)).toBe(0)
    expect(of(isolator)).toBeNull()
    expect(of({ ...isolator, kind: 'fixed' }, fan)).toBeNull()
    expect(of({ ...isolator, accessory: 'uk-cooker-45' }, fan)).toBeNull()
  })
  it('is what was read where somebody read it', () => {
    expect(watts('switch', 'uk-two-way', 40)).toBe(40)
  })
})
