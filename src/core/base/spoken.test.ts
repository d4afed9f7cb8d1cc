import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asFigures } from './spoken'
import { readTyped } from './typed'

const digitWords = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine']

describe('figures as they are said aloud', () => {
  it.each([
    ['point three seven', '0.37'],
    ['nought point three seven', '0.37'],
    ['zero point oh five', '0.05'],
    ['one point two', '1.2'],
    ['twenty-one', '21'],
    ['two hundred and thirty', '230'],
    ['two hundred and thirty volts', '230 volts'],
    ['one thousand nine hundred and ninety nine', '1999'],
    ['over two hundred', '>200'],
    ['over 200 meg', '>200 meg'],
    ['more than 1,000 MΩ', '>1,000 MΩ'],
    ['two three one', '231'],
    ['two three oh point four', '230.4'],
    ['two three one volts', '231 volts'],
    ['more than five hundred MΩ', '>500 MΩ'],
    ['fifteen', '15'],
  ])('%s is %s', (said, figures) => expect(asFigures(said)).toBe(figures))

  it.each([
    '',
    '0.37',
    'OL',
    'open',
    'point',
    'one two',
    'over there',
    'one two eleven',
    'twelve one',
    'hundred',
    'four point',
    'point ten',
    'three point five point two',
    'metres',
  ])('%s is left as it is', (text) => expect(asFigures(text)).toBe(text))

  it('are read by every field as if they were typed, with their unit', () => {
    expect(readTyped('point three seven', 'Ω')).toEqual({ value: 0.37, mark: null })
    expect(readTyped('Over two hundred', 'MΩ')).toEqual({ value: 200, mark: 'over' })
    expect(readTyped('three hundred and seventy mΩ', 'Ω')).toEqual({ value: 0.37, mark: null })
    expect(readTyped('over 200 meg', 'MΩ')).toEqual({ value: 200, mark: 'over' })
    expect(readTyped('200+', 'MΩ')).toEqual({ value: 200, mark: 'over' })
    expect(readTyped('200+ MΩ', 'MΩ')).toEqual({ value: 200, mark: 'over' })
    expect(readTyped('2 meg', 'kΩ')).toEqual({ value: 2000, mark: null })
    for (const open of ['OL', 'ol', '0L', 'O.L.', 'open circuit', 'over range'])
      expect(readTyped(open, 'Ω'), open).toEqual({ value: null, mark: 'open' })
    expect(readTyped('two three one', 'V')).toEqual({ value: 231, mark: null })
    expect(readTyped('one two', 'Ω')).toMatchObject({ error: expect.any(String) })
  })

  it('say each digit after the point, whatever they are', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(9), { minLength: 1, maxLength: 6 }), (digits) => {
        expect(asFigures(`point ${digits.map((d) => digitWords[d]).join(' ')}`)).toBe(`0.${digits.join('')}`)
      }),
    )
  })
})
