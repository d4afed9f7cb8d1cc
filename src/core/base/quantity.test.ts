import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatLength, formatOhm, formatSmallLength, formatVolume, trim } from './format'
import { atLeast, atMost } from './tolerance'
import {
  celsiusFromFahrenheit,
  cm3FromIn3,
  fahrenheitFromCelsius,
  feetFromMetres,
  in3FromCm3,
  inchesFromMillimetres,
  metresFromFeet,
  millimetresFromInches,
} from './units'

describe('units', () => {
  const pairs: [string, (v: number) => number, (v: number) => number][] = [
    ['feet', metresFromFeet, feetFromMetres],
    ['inches', millimetresFromInches, inchesFromMillimetres],
    ['cubic inches', cm3FromIn3, in3FromCm3],
    ['fahrenheit', celsiusFromFahrenheit, fahrenheitFromCelsius],
  ]
  it.each(pairs)('%s convert both ways', (_, to, from) => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (v) => {
        expect(from(to(v))).toBeCloseTo(v, 6)
      }),
    )
  })
  it('are exact where they are defined to be', () => {
    expect(metresFromFeet(100)).toBe(30.48)
    expect(millimetresFromInches(1)).toBe(25.4)
    expect(cm3FromIn3(1)).toBe(16.387064)
  })
})

describe('tolerance', () => {
  it('takes a billionth as equal and a millionth as not', () => {
    expect(atMost(20 * (1 + 5e-10), 20)).toBe(true)
    expect(atMost(20 * (1 + 1e-6), 20)).toBe(false)
    expect(atLeast(20 * (1 - 5e-10), 20)).toBe(true)
    expect(atMost(Number.POSITIVE_INFINITY, 1)).toBe(false)
  })
})

describe('formats', () => {
  it('show what a person can use', () => {
    expect(trim(12.5, 2)).toBe('12.5')
    expect(trim(-0.001, 2)).toBe('0')
    expect(formatLength(4.2672, 'imperial')).toBe('14 ft')
    expect(formatLength(4.27, 'metric')).toBe('4.27 m')
    expect(formatSmallLength(15.875, 'imperial')).toBe('5/8 in')
    expect(formatSmallLength(152.4, 'imperial')).toBe('6 in')
    expect(formatSmallLength(16, 'metric')).toBe('16 mm')
    expect(formatVolume(cm3FromIn3(20.3), 'imperial')).toBe('20.3 in³')
    expect(formatOhm(1.18)).toBe('1.18 Ω')
    expect(formatOhm(1666.7)).toBe('1667 Ω')
  })
})
