import { fahrenheitFromCelsius, feetFromMetres, in3FromCm3, inchesFromMillimetres, NM_PER_LBF_IN } from './units'

export type UnitSystem = 'metric' | 'imperial'

/** Rounds to `digits` decimals and drops trailing zeros: 12.50 → "12.5". */
export function trim(value: number, digits: number): string {
  const s = value.toFixed(digits)
  if (!s.includes('.')) return s === '-0' ? '0' : s
  // By hand: a job shows thousands of figures.
  let end = s.length
  while (s[end - 1] === '0') end--
  if (s[end - 1] === '.') end--
  const kept = s.slice(0, end)
  return kept === '-0' ? '0' : kept
}

export const formatA = (a: number): string => `${trim(a, a < 10 ? 2 : 1)} A`
export const formatV = (v: number): string => `${trim(v, 1)} V`
export const formatW = (w: number): string => (w >= 1000 ? `${trim(w / 1000, 2)} kW` : `${trim(w, 0)} W`)
export const formatOhm = (o: number): string => `${o >= 100 ? trim(o, 0) : o >= 10 ? trim(o, 1) : o.toFixed(2)} Ω`
export const formatPercent = (p: number): string => `${trim(p, 1)} %`

/** A run of cable or a distance: metres to the centimetre, or feet to a tenth. */
export function formatLength(m: number, units: UnitSystem): string {
  return units === 'metric' ? `${trim(m, 2)} m` : `${trim(feetFromMetres(m), 1)} ft`
}

/** A place to be marked: metres to the centimetre, or feet and inches to the half. */
export function formatMark(m: number, units: UnitSystem): string {
  if (units === 'metric') return `${m.toFixed(2)} m`
  const halves = Math.round(feetFromMetres(m) * 24)
  const [feet, left] = [Math.floor(halves / 24), halves % 24]
  const inches = `${left >= 2 || left === 0 ? Math.floor(left / 2) : ''}${left % 2 ? (left >= 2 ? '-1/2' : '1/2') : ''} in`
  return feet === 0 ? inches : left === 0 ? `${feet} ft` : `${feet} ft ${inches}`
}

/** A depth or strip length: whole millimetres, or inches to the sixteenth. */
export function formatSmallLength(mm: number, units: UnitSystem): string {
  if (units === 'metric') return `${trim(mm, 0)} mm`
  const sixteenths = Math.round(inchesFromMillimetres(mm) * 16)
  const whole = Math.floor(sixteenths / 16)
  let [top, bottom] = [sixteenths % 16, 16]
  if (top === 0) return `${whole} in`
  while (top % 2 === 0) [top, bottom] = [top / 2, bottom / 2]
  return whole ? `${whole}-${top}/${bottom} in` : `${top}/${bottom} in`
}

export const formatArea = (m2: number, units: UnitSystem): string =>
  units === 'imperial' ? `${trim(m2 / 0.3048 ** 2, 1)} ft²` : `${trim(m2, 2)} m²`

export function formatVolume(cm3: number, units: UnitSystem): string {
  return units === 'metric' ? `${trim(cm3, 0)} cm³` : `${trim(in3FromCm3(cm3), 2)} in³`
}

export function formatTemperature(c: number, units: UnitSystem): string {
  return units === 'metric' ? `${trim(c, 0)} °C` : `${trim(fahrenheitFromCelsius(c), 0)} °F`
}

/** A torque: newton metres, or pound-force inches. */
export function formatTorque(nm: number, units: UnitSystem): string {
  return units === 'metric' ? `${trim(nm, 2)} N·m` : `${trim(nm / NM_PER_LBF_IN, 1)} lbf·in`
}

/** A conductor size as printed: "2.5 mm2" → "2.5 mm²"; AWG sizes stay as they are. */
export const formatSize = (size: string): string => size.replace('mm2', 'mm²')

/** Words that begin a line, as they stand within one. */
export const uncapitalised = (words: string): string => words.charAt(0).toLowerCase() + words.slice(1)
