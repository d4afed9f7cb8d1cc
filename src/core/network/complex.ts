/** A complex number: volts, amperes or admittance, of one frequency. */
export interface Complex {
  readonly re: number
  readonly im: number
}

export const ZERO: Complex = { re: 0, im: 0 }
export const add = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im })
export const subtract = (a: Complex, b: Complex): Complex => ({ re: a.re - b.re, im: a.im - b.im })
export const multiply = (a: Complex, b: Complex): Complex => ({ re: a.re * b.re - a.im * b.im, im: a.re * b.im + a.im * b.re })
export function divide(a: Complex, b: Complex): Complex {
  const n = b.re * b.re + b.im * b.im
  return { re: (a.re * b.re + a.im * b.im) / n, im: (a.im * b.re - a.re * b.im) / n }
}
export const magnitude = ({ re, im }: Complex): number => (im === 0 ? Math.abs(re) : Math.hypot(re, im))
