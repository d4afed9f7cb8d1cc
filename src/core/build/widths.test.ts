import { describe, expect, it } from 'vitest'
import { accessory } from '../catalogue/accessories'
import { widthsOf } from './choose-box'

const of = (...ids: string[]) => widthsOf(ids.map((id) => accessory(id)!)).reduce<number>((n, w) => n + w, 0)

describe('how wide what is in a box is', () => {
  it('counts up to three plate switches as one gang in the metric worlds, a fourth as another', () => {
    expect(of('uk-switch-1p')).toBe(1)
    expect(of('uk-switch-1p', 'uk-two-way', 'uk-dimmer')).toBe(1)
    expect(of('uk-switch-1p', 'uk-two-way', 'uk-two-way', 'uk-two-way')).toBe(2)
    expect(of('za-switch-1p', 'za-switch-1p')).toBe(1)
    // A sensor takes a plate of its own.
    expect(of('uk-two-way', 'uk-dusk')).toBe(2)
  })
  it('counts each switch on a yoke of its own in North America', () => {
    expect(of('na-switch-1p', 'na-two-way')).toBe(2)
    expect(of('na-switch-15', 'na-duplex-20', 'na-dimmer')).toBe(3)
  })
  it('counts a twin outlet beside a plate of switches, and no light', () => {
    expect(of('uk-socket-13-twin', 'uk-switch-1p', 'uk-two-way')).toBe(3)
    expect(of('uk-light', 'uk-fan-overrun')).toBe(0)
  })
})
