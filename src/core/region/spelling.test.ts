import { describe, expect, it } from 'vitest'
import { inRegion } from './spelling'

describe('words that hold in every world', () => {
  it('are spelt and said as the North American trade does', () => {
    const said: [string, string][] = [
      ['Is any of its conductors aluminium?', 'Is any of its conductors aluminum?'],
      ['Aluminium branch wiring', 'Aluminum branch wiring'],
      ['Is there a means of earthing, seen and measured?', 'Is there a means of grounding, seen and measured?'],
      ['Without an earth the protection cannot work.', 'Without a ground the protection cannot work.'],
      ['Earth electrode absent or poor', 'Ground electrode absent or poor'],
      ['Outlet without residual current protection', 'Outlet without GFCI protection'],
      ['Line and neutral reversed', 'Hot and neutral reversed'],
      ['Conductors in the colours before today’s', 'Conductors in the colors before today’s'],
    ]
    for (const [everywhere, there] of said) expect(inRegion('north-america', everywhere)).toBe(there)
  })
  it('are left as they are elsewhere, and where nothing is said otherwise', () => {
    for (const region of ['united-kingdom', 'southern-africa'] as const)
      expect(inRegion(region, 'Earth, aluminium, colour')).toBe('Earth, aluminium, colour')
    expect(inRegion('north-america', 'An earthenware tile, unearthed')).toBe('An earthenware tile, unearthed')
  })
})
