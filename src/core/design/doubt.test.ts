import { describe, expect, it } from 'vitest'
import { newLoad } from '../job/load'
import { doubtedAmount } from './load'

const load = (more: Partial<ReturnType<typeof newLoad>>) => ({ ...newLoad('united-kingdom'), ...more })

describe('what was likely typed in the wrong unit', () => {
  it('is asked about where a heater would draw a few watts', () => {
    expect(doubtedAmount(load({ nature: 'heating', amount: 4.5 }), 'united-kingdom')).toBe(4500)
    expect(doubtedAmount(load({ kind: 'kiln-medium', nature: 'heating', amount: 5.76 }), 'north-america')).toBe(5760)
  })
  it('is left alone where such a load may be', () => {
    expect(doubtedAmount(load({ nature: 'heating', amount: 15 }), 'united-kingdom')).toBeNull()
    expect(doubtedAmount(load({ nature: 'lighting', amount: 4.5 }), 'united-kingdom')).toBeNull()
    expect(doubtedAmount(load({ nature: 'heating', basis: 'amps', amount: 4.5 }), 'united-kingdom')).toBeNull()
    expect(doubtedAmount(load({ nature: 'heating', amount: null }), 'united-kingdom')).toBeNull()
  })
})
