import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readTyped } from './typed'

const value = (text: string, unit: string | null = null) => {
  const read = readTyped(text, unit)
  return 'error' in read ? read.error : read.value
}

describe('numbers as people type them', () => {
  it.each([
    ['1,200', 1200],
    ['12,5', 12.5],
    ['0,375', 0.375],
    ['1,2000', 1.2],
    ['1.200', 1.2],
    ['1 200', 1200],
    ['1 234 567', 1234567],
    ["1'200", 1200],
    ['1.234,5', 1234.5],
    ['1,234.5', 1234.5],
    ['1,234,567', 1234567],
    ['.5', 0.5],
    ['5.', 5],
    [',5', 0.5],
    ['−3', -3],
    ['1e3', 1000],
    ['3/4', 0.75],
    ['9 1/2', 9.5],
    ['9-1/2', 9.5],
    ['9½', 9.5],
    ['½', 0.5],
    ['  7  ', 7],
  ])('%s', (text, wanted) => expect(value(text)).toBe(wanted))

  it.each([
    ['4.5 kW', 'W', 4500],
    ['4,5kw', 'W', 4500],
    ['1,200 W', 'kW', 1.2],
    ['3 kVA', 'W', 3000],
    ['600 VA', 'W', 600],
    ["13' 9 1/2", 'ft', 13.7916666667],
    ['13\' 9 1/2"', 'm', 4.2037],
    ['13 ft 9½ in', 'in', 165.5],
    ["6'", 'm', 1.8288],
    ['9 1/2"', 'mm', 241.3],
    ['2.5 mm²', 'mm²', 2.5],
    ['30 cm', 'mm', 300],
    ['0.37 ohm', 'Ω', 0.37],
    ['370 mΩ', 'Ω', 0.37],
    ['1.2 kΩ', 'Ω', 1200],
    ['0.5 MΩ', 'MΩ', 0.5],
    ['500 kohm', 'MΩ', 0.5],
    ['30 mA', 'mA', 30],
    ['0.03 A', 'mA', 30],
    ['6 kA', 'A', 6000],
    ['86 °F', '°C', 30],
    ['30 C', '°F', 86],
    ['90 min', 'h', 1.5],
    ['0.04 s', 'ms', 40],
    ['1200 Wh', 'kWh', 1.2],
    ['25 %', '%', 25],
    ['100 sq ft', 'm²', 9.290304],
  ])('%s in %s', (text, unit, wanted) => expect(value(text, unit)).toBeCloseTo(wanted, 9))

  it.each([
    ['4 kW', 'm'],
    ['3 m', 'W'],
    ["13' 9", 'W'],
    ['5 bananas', 'W'],
    ['5 W', null],
    ['1,2,3', null],
    ['12,50,000', null],
    ['abc', null],
    ['1/0', null],
    ['--5', null],
    ['1.2.3', null],
    ['>', 'Ω'],
  ])('%s in %s is refused, and why is said', (text, unit) => expect(value(text, unit)).toMatch(/./))

  it('what a meter shows: over its range, and open', () => {
    expect(readTyped('>200', 'MΩ')).toEqual({ value: 200, mark: 'over' })
    expect(readTyped('> 2 GΩ', 'MΩ')).toMatchObject({ error: expect.any(String) })
    expect(readTyped('≥ 500 kΩ', 'MΩ')).toEqual({ value: 0.5, mark: 'over' })
    for (const text of ['OL', 'O.L', 'o.l.', 'open', '---', '∞']) expect(readTyped(text, 'Ω')).toEqual({ value: null, mark: 'open' })
    expect(readTyped('', 'Ω')).toEqual({ value: null, mark: null })
  })

  it('any figure comes back as it is written, with a point, a comma or a unit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 999_999 }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom('W', 'A', 'm', 'Ω', 'V'),
        (n, digits, unit) => {
          const v = n / 10 ** digits
          const text = v.toFixed(digits)
          expect(value(text, unit)).toBe(v)
          expect(value(`${text} ${unit}`, unit)).toBe(v)
          // A comma before three figures is between thousands; with any other number of them it is the decimal one.
          if (digits !== 3) expect(value(text.replace('.', ','), unit)).toBe(v)
          expect(value(Math.trunc(v).toLocaleString('en-US'), unit)).toBe(Math.trunc(v))
        },
      ),
    )
  })
  it('whatever is typed is answered', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 30 }), fc.constantFrom('W', 'm', 'Ω', '°C', null), (text, unit) => {
        const read = readTyped(text, unit)
        if (!('error' in read) && read.value !== null) expect(Number.isFinite(read.value)).toBe(true)
      }),
    )
  })
})
