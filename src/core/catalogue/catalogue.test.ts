import { describe, expect, it } from 'vitest'
import { regionIds } from '../region/types'
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
