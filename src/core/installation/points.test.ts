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
  it('is what was read where somebody read it', () => {
    expect(watts('switch', 'uk-two-way', 40)).toBe(40)
  })
})
