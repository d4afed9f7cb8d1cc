/** Exact conversions by definition (international yard and pound agreement of 1959). */
export const M_PER_FT = 0.3048
export const MM_PER_IN = 25.4
export const CM3_PER_IN3 = 16.387064

export const metresFromFeet = (ft: number): number => ft * M_PER_FT
export const squareMetresFromSquareFeet = (ft2: number): number => ft2 * M_PER_FT ** 2
export const squareFeetFromSquareMetres = (m2: number): number => m2 / M_PER_FT ** 2
export const feetFromMetres = (m: number): number => m / M_PER_FT
export const millimetresFromInches = (inch: number): number => inch * MM_PER_IN
export const inchesFromMillimetres = (mm: number): number => mm / MM_PER_IN
export const cm3FromIn3 = (in3: number): number => in3 * CM3_PER_IN3
export const in3FromCm3 = (cm3: number): number => cm3 / CM3_PER_IN3
/** Newton metres of a pound-force inch: 0.45359237 kg × 9.80665 m/s² × 0.0254 m. */
export const NM_PER_LBF_IN = 0.45359237 * 9.80665 * 0.0254

export const fahrenheitFromCelsius = (c: number): number => (c * 9) / 5 + 32
export const celsiusFromFahrenheit = (f: number): number => ((f - 32) * 5) / 9
