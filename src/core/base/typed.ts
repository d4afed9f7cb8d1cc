import Fraction from 'fraction.js'
import Qty from 'js-quantities'
import { asFigures } from './spoken'

/** What was typed, in the unit asked for; a meter also says "over its range" and "open". */
export type Typed =
  | { readonly value: number; readonly mark: 'over' | null }
  | { readonly value: null; readonly mark: 'open' | null }
  | { readonly error: string }

/** What people write for a unit, and what the unit library calls it. Micro signs and ohm signs come in two kinds. */
const spelled: readonly (readonly [RegExp, string])[] = [
  [/^(′|'|feet|foot|ft\.?)$/, 'ft'],
  [/^(″|"|inch(es)?|in\.?)$/, 'in'],
  [/^(m[²2]|sq\.? ?m)$/, 'm2'],
  [/^(mm[²2]|sq\.? ?mm)$/, 'mm2'],
  [/^(ft[²2]|sq\.? ?ft)$/, 'ft2'],
  [/^(k|m)?(Ω|Ω|ohms?|Ohms?|OHMS?|R)$/, '$1ohm'],
  [/^M(Ω|Ω|ohms?|Ohms?|OHMS?|R)$/, 'Mohm'],
  [/^meg(s|a?ohms?)?$/i, 'Mohm'],
  [/^(kilo)?(W|w|watts?|Watts?|VA|va)$/, '$1W'],
  [/^[kK](W|w|VA|va)$/, 'kW'],
  [/^(A|a|amps?|Amps?|amperes?)$/, 'A'],
  [/^(mA|ma|MA|milliamps?)$/, 'mA'],
  [/^[kK][aA]$/, 'kA'],
  [/^(V|v|volts?|Volts?)$/, 'V'],
  [/^[kK][wW][hH]$/, 'kWh'],
  [/^[wW][hH]$/, 'Wh'],
  [/^(h|hrs?|hours?)$/, 'h'],
  [/^(min|mins|minutes?)$/, 'min'],
  [/^(s|secs?|seconds?)$/, 's'],
  [/^(ms|msecs?)$/, 'ms'],
  [/^(°\s?C|C|degC|celsius)$/, 'tempC'],
  [/^(°\s?F|F|degF|fahrenheit)$/, 'tempF'],
  [/^(%( of .*)?|per ?cent)$/, '%'],
  [/^(m|metres?|meters?)$/, 'm'],
  [/^(mm|cm|km)$/, '$1'],
]
const unitNamed = (words: string): string | null => {
  const hit = spelled.find(([what]) => what.test(words))
  return hit ? words.replace(hit[0], hit[1]).replace('kilo', 'k') : null
}

const glyphs: Readonly<Record<string, string>> = {
  '¼': '1/4',
  '½': '1/2',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
}

/**
 * The figure alone: a point or a comma for the decimals, commas, points, spaces or apostrophes between thousands, and fractions such as
 * 3/4, 9 1/2 or 9½. A comma before exactly three figures, with no zero before it, separates thousands: "1,200" is 1200 and
 * "12,5" is 12.5.
 */
function figure(text: string): number | null {
  const plain = text
    .replace(/[¼½¾⅛⅜⅝⅞]/g, (g) => ` ${glyphs[g]}`)
    .replace(/⁄/g, '/')
    .replace(/−/g, '-')
    .replace(/[\s\u00a0\u2009\u202f]+/g, ' ')
    .trim()
  if (/^-?(\d+[ -])?\d+\/\d+$/.test(plain)) {
    try {
      return new Fraction(plain.replace(/(\d)[ -](\d)/, '$1 $2')).valueOf()
    } catch {
      return null
    }
  }
  const thousands =
    /^-?[1-9]\d{0,2}([ '’]\d{3})+([.,]\d+)?$/.test(plain) || /^-?[1-9]\d{0,2}(,\d{3})+(\.\d+)?$/.test(plain)
      ? plain.replace(/(?<=\d)[ '’,](?=\d{3}(\D|$))/g, '')
      : /^-?[1-9]\d{0,2}(\.\d{3})+,\d+$/.test(plain)
        ? plain.replaceAll('.', '')
        : plain
  const point = thousands.replace(/^(-?\d*),(\d+)$/, '$1.$2')
  return /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d{1,3})?$/i.test(point) ? Number(point) : null
}

/** Feet with inches: 13' 9 1/2", 13 ft 9 in, 13'9½. In inches; null where it is not written so. */
function feetAndInches(text: string): number | null {
  const hit = /^(\d+(?:\.\d+)?)\s*(?:'|′|ft\.?|feet|foot)\s*-?\s*([\d ./¼½¾⅛⅜⅝⅞⁄]+?)\s*(?:"|″|in\.?|inch(?:es)?)?$/.exec(text)
  if (!hit) return null
  const inches = figure(hit[2]!)
  return inches === null || inches >= 12 ? null : 12 * Number(hit[1]) + inches
}

const tidy = (v: number): number => Number(v.toPrecision(12))

/**
 * One reading of what people type, for every field, paste and table: "4.5 kW" in a field of watts is 4500, "13' 9 1/2" in one of metres
 * 4.2037. A figure without a unit is in the unit of the field.
 *
 * @param unit the unit the value is wanted in, as it is shown next to the field; null for a bare number.
 */
export function readTyped(text: string, unit: string | null): Typed {
  const plus = /^([^+]*\d[^+]*?)\s*\+\s*(\p{L}*)$/u.exec(text.trim())
  // "200+" is over 200.
  const whole = asFigures(plus ? `>${plus[1]} ${plus[2]}` : text).trim()
  if (/^([o0]\.?l\.?|over ?load|(over|out of) ?range|open( circuit)?|infinity|∞|-{2,})$/i.test(whole)) return { value: null, mark: 'open' }
  const mark = /^[>≥]/.test(whole) ? 'over' : null
  const said = whole.replace(/^[>≥]\s*/, '')
  if (said === '') return mark ? { error: '“>” needs a figure after it.' } : { value: null, mark: null }
  const wanted = unit === null ? null : unitNamed(unit)
  const inches = feetAndInches(said)
  if (inches !== null) {
    if (wanted === null || !Qty('1 in').isCompatible(wanted)) return { error: `“${whole}” is a length.` }
    return { value: tidy(Qty(inches, 'in').to(wanted).scalar), mark }
  }
  const split = /^([-+]?\d*\.?\d+e[-+]?\d{1,3}(?!\w)|[-+−]?[\d.,\s'’\u00a0\u2009\u202f/⁄¼½¾⅛⅜⅝⅞-]*)\s*([\s\S]*)$/i.exec(said)!
  const [, digits, words] = split
  // Ditto marks after a figure are inches, an apostrophe after it feet: not a mark between thousands.
  const [number, suffix] = /['’]$/.test(digits!) && words === '' ? [digits!.slice(0, -1), "'"] : [digits!, words!.trim()]
  const value = figure(number)
  if (value === null) return { error: `“${whole}” is not a number.` }
  if (suffix === '') return { value, mark }
  const given = unitNamed(suffix)
  if (given === null) return { error: `“${suffix}” is no unit that is known here${unit ? `; it is wanted in ${unit}` : ''}.` }
  if (wanted === null) return { error: `A number alone is wanted here, without ${suffix}.` }
  if (given === wanted) return { value, mark }
  if (!Qty(`1 ${given}`).isCompatible(wanted)) return { error: `“${whole}” is not in ${unit}.` }
  return { value: tidy(Qty(value, given).to(wanted).scalar), mark }
}
