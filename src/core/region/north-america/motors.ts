import { atMost } from '../../base/tolerance'

/**
 * Full-load current of single-phase motors, in amperes, by horsepower and rated voltage. NFPA 70 (2023) Table 430.248; the 115 V column
 * holds for systems of 110 to 120 V, the 230 V column for 220 to 240 V.
 */
const fullLoad = [
  { hp: 1 / 6, amps: [4.4, 2.4, 2.2] },
  { hp: 1 / 4, amps: [5.8, 3.2, 2.9] },
  { hp: 1 / 3, amps: [7.2, 4.0, 3.6] },
  { hp: 1 / 2, amps: [9.8, 5.4, 4.9] },
  { hp: 3 / 4, amps: [13.8, 7.6, 6.9] },
  { hp: 1, amps: [16, 8.8, 8.0] },
  { hp: 1.5, amps: [20, 11, 10] },
  { hp: 2, amps: [24, 13.2, 12] },
  { hp: 3, amps: [34, 18.7, 17] },
  { hp: 5, amps: [56, 30.8, 28] },
  { hp: 7.5, amps: [80, 44, 40] },
  { hp: 10, amps: [100, 55, 50] },
] as const

const columns = [
  { name: 115, fromV: 110, toV: 120 },
  { name: 208, fromV: 200, toV: 208 },
  { name: 230, fromV: 220, toV: 240 },
] as const

/** Watts of one horsepower. */
export const W_PER_HP = 745.7
/** A rating printed as 0.33 for a third, or as kilowatts, is its row when it is no more than this part above it. */
const ROUNDING = 0.02

export interface MotorRow {
  /** The horsepower of the row used: the rating itself, or the next listed above it. */
  readonly hp: number
  readonly columnV: number
  readonly amps: number
}

/** The row of Table 430.248 for a rating; null: it has none for that power or voltage. */
export function motorRow(hp: number, volts: number): MotorRow | null {
  const column = columns.findIndex((c) => atMost(c.fromV, volts) && atMost(volts, c.toV))
  const row = fullLoad.find((r) => atMost(hp, r.hp * (1 + ROUNDING)))
  return column < 0 || row === undefined || hp <= 0 ? null : { hp: row.hp, columnV: columns[column]!.name, amps: row.amps[column]! }
}

/** Conductors, and the means that disconnects, as a part of the full-load current. 430.22, 430.110(A). */
export const MOTOR_CONDUCTOR_FACTOR = 1.25
export const MOTOR_DISCONNECT_FACTOR = 1.15
/** The largest inverse-time breaker, as a part of the full-load current; where the motor does not start on it. 430.52(C)(1). */
export const MOTOR_BREAKER_FACTOR = 2.5
export const MOTOR_BREAKER_HARD_START_FACTOR = 4
/** Overload protection, as a part of the nameplate current. 430.32(A)(1). */
export const MOTOR_OVERLOAD = { serviceFactor: 1.15, riseC: 40, factor: 1.25, otherwise: 1.15 } as const
