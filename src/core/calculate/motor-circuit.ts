import { z } from 'zod'
import { formatA, trim } from '../base/format'
import { type Finding, findingSchema } from '../base/finding'
import { InputError } from '../base/input-error'
import { atLeast, atMost } from '../base/tolerance'
import {
  naAmpacityA,
  naBreakerRatingsA,
  naCables,
  naCableSizes,
  naCircularMils,
  naGroundingSize,
  naSizes,
} from '../region/north-america/awg'
import {
  MOTOR_BREAKER_FACTOR,
  MOTOR_BREAKER_HARD_START_FACTOR,
  MOTOR_CONDUCTOR_FACTOR,
  MOTOR_DISCONNECT_FACTOR,
  MOTOR_OVERLOAD,
  motorRow,
} from '../region/north-america/motors'
import { ampacity, limitColumnC } from './ampacity'
import { atLeastOne, conductorField, nonNegative, positive, terminalC } from './fields'
import { voltageDrop } from './voltage-drop'

export const motorCircuitInput = z.strictObject({
  motor: z.strictObject({
    hp: positive,
    volts: positive,
    nameplateA: positive.optional(),
    serviceFactor: positive.optional(),
    riseC: positive.optional(),
    hardStart: z.boolean().default(false),
  }),
  cable: z.enum(naCables),
  conductor: conductorField,
  run: z.strictObject({ lengthM: nonNegative, ambientC: z.number(), loadedConductors: atLeastOne }),
  terminalC,
  minSize: z.string().optional(),
  wantedBreakerA: nonNegative.optional(),
})
export type MotorCircuitInput = z.infer<typeof motorCircuitInput>
export const motorCircuitOutput = z.strictObject({
  tableHp: z.number(),
  fullLoadA: z.number(),
  conductorA: z.number(),
  breakerMaxA: z.number(),
  breakerA: z.number().nullable(),
  overloadMaxA: z.number().nullable(),
  disconnectA: z.number(),
  size: z.string().nullable(),
  ampacityA: z.number().nullable(),
  dropPercent: z.number().nullable(),
  protectiveSize: z.string().nullable(),
  findings: z.array(findingSchema),
})
export type MotorCircuit = z.infer<typeof motorCircuitOutput>

/**
 * The circuit of one single-phase motor with a horsepower rating, North America: full-load current by table, conductors, the breaker
 * against short circuit and ground fault, the setting of the overload device, and the disconnecting means.
 *
 * A breaker wanted above 125 % of the table current is given up to 250 % of it (next standard rating allowed; 400 % where the motor
 * does not start on that) without a larger conductor: the overload device protects the conductor, and 240.4(G) sets 240.4(D) aside.
 * @throws InputError at `motor.hp` or `motor.volts` where the table has no row, at `minSize`, or below `run`.
 * Sources: NFPA 70 (2023) 240.4(G), 250.122, 430.6(A)(1), 430.22, 430.32(A)(1), 430.52(C)(1), 430.110(A), Table 430.248.
 */
export function motorCircuit(input: MotorCircuitInput): MotorCircuit {
  const { motor, cable, conductor, run } = input
  const row = motorRow(motor.hp, motor.volts)
  if (row === null) {
    const here = motorRow(1, motor.volts) === null
    throw new InputError(
      here ? 'motor.volts' : 'motor.hp',
      here
        ? `Table 430.248 has no column for ${trim(motor.volts, 1)} V.`
        : `Table 430.248 lists single-phase motors up to 10 hp, not ${trim(motor.hp, 2)} hp.`,
    )
  }
  const fullLoadA = row.amps
  const conductorA = fullLoadA * MOTOR_CONDUCTOR_FACTOR
  const factor = motor.hardStart ? MOTOR_BREAKER_HARD_START_FACTOR : MOTOR_BREAKER_FACTOR
  const limitA = fullLoadA * factor
  // Up to 250 % the next standard rating is allowed; the 400 % of the exception is a limit that is not passed.
  const breakerMaxA =
    (motor.hardStart ? naBreakerRatingsA.findLast((r) => atMost(r, limitA)) : naBreakerRatingsA.find((r) => atLeast(r, limitA))) ??
    naBreakerRatingsA.at(-1)!
  const wantedA = Math.max(conductorA, input.wantedBreakerA ?? 0)
  const breakerA = naBreakerRatingsA.find((r) => atLeast(r, wantedA)) ?? null
  const base = {
    tableHp: row.hp,
    fullLoadA,
    conductorA,
    breakerMaxA,
    breakerA,
    overloadMaxA: motor.nameplateA === undefined ? null : motor.nameplateA * overloadFactor(motor),
    disconnectA: fullLoadA * MOTOR_DISCONNECT_FACTOR,
  }
  const nothing = { size: null, ampacityA: null, dropPercent: null, protectiveSize: null }
  if (breakerA === null) return { ...base, ...nothing, findings: [tooLarge(wantedA, breakerMaxA, motor.hardStart)] }

  const listed = naCableSizes(cable, conductor)
  if (input.minSize !== undefined && !naSizes.includes(input.minSize))
    throw new InputError('minSize', `${input.minSize} is not a size listed for this cable.`)
  const column = limitColumnC(cable, input.terminalC)
  const carries = (size: string) => {
    try {
      return ampacity({ region: 'north-america', cable, size, conductor, ...withoutLength(run), terminalC: input.terminalC }).ampacityA
    } catch (e) {
      if (e instanceof InputError && e.path !== 'size') throw new InputError(`run.${e.path}`, e.message)
      throw e
    }
  }
  const least = input.minSize === undefined ? 0 : naSizes.indexOf(input.minSize)
  const needed = listed.find((s) => atLeast(naAmpacityA(conductor, s, column)!, conductorA) && atLeast(carries(s), conductorA))
  const size = needed && listed.find((s) => naSizes.indexOf(s) >= Math.max(least, naSizes.indexOf(needed)))
  const findings: Finding[] = breakerA > breakerMaxA ? [tooLarge(breakerA, breakerMaxA, motor.hardStart)] : []
  if (!size)
    return {
      ...base,
      ...nothing,
      findings: [
        ...findings,
        {
          rule: 'no-size-serves',
          severity: 'error',
          clause: '430.22',
          message:
            `No size listed for this cable carries ${formatA(conductorA)} as it is run. Choose another cable, or group fewer ` +
            'conductors.',
        },
      ],
    }
  const { dropPercent } = voltageDrop({
    region: 'north-america',
    size,
    conductor,
    lengthM: run.lengthM,
    currentA: fullLoadA,
    systemV: motor.volts,
  })
  return { ...base, size, ampacityA: carries(size), dropPercent, protectiveSize: protectiveFor(breakerA, size, needed), findings }
}

const withoutLength = ({ lengthM: _, ...run }: MotorCircuitInput['run']) => run

/** 125 % with a marked service factor of 1.15 or more, or a marked rise of 40 °C or less; else 115 %. 430.32(A)(1). */
function overloadFactor({ serviceFactor, riseC }: MotorCircuitInput['motor']): number {
  const o = MOTOR_OVERLOAD
  const cool = (serviceFactor !== undefined && atLeast(serviceFactor, o.serviceFactor)) || (riseC !== undefined && atMost(riseC, o.riseC))
  return cool ? o.factor : o.otherwise
}

/** Table 250.122 by the breaker, enlarged with a line that is larger than needed, never above the line. 250.122(A), (B). */
function protectiveFor(breakerA: number, size: string, needed: string): string {
  const cap = naCircularMils(size)
  const wanted = (naCircularMils(naGroundingSize(breakerA)) * cap) / naCircularMils(needed)
  return wanted >= cap ? size : naSizes.find((s) => naCircularMils(s) >= wanted * 0.99)!
}

const tooLarge = (breakerA: number, mostA: number, hardStart: boolean): Finding => ({
  rule: 'motor-breaker-too-large',
  severity: 'error',
  clause: '430.52(C)(1)',
  message:
    `A breaker of ${formatA(breakerA)} is above the ${mostA} A that this motor may have (${hardStart ? '400' : '250'} % of its table ` +
    `current${hardStart ? '' : ', or the next standard rating'}). Choose ${mostA} A or less.`,
})
