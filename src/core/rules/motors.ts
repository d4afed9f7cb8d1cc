import { formatA, trim } from '../base/format'
import { atMost } from '../base/tolerance'
import { shaftHp } from '../design/load'
import { MOTOR_OVERLOAD, W_PER_HP } from '../region/north-america/motors'
import { worlds } from '../region/worlds'
import type { CircuitFacts, Rule } from './engine'

const clauses = { 'north-america': '430.32', 'united-kingdom': '552.1.2', 'southern-africa': 'SANS 10142-1 motors' } as const
/** A motor that stands alone on its circuit. */
const single = ({ circuit }: CircuitFacts) => circuit.load.nature === 'motor' && circuit.points.length === 0
/** Larger motors have a means against overload of their own, in kilowatts at the shaft. BS 7671 552.1.2. */
const OVERLOAD_FROM_KW = 0.37
/** Up to here one that is started by hand in sight of its switch may go without, in horsepower. NFPA 70 430.32(D). */
const HAND_STARTED_HP = 1

/** Rules on motors. */
export const motorRules: readonly Rule[] = [
  {
    id: 'motor-current-not-known',
    about: 'What a motor draws, where its nameplate was read in watts alone.',
    clause: { 'north-america': '430.6(A)', 'united-kingdom': '552.1.1', 'southern-africa': 'SANS 10142-1 motors' },
    severity: 'unknown',
    looksAt: ['load'],
    applies: (f) =>
      single(f) && (f.circuit.load.basis === 'watts' || f.circuit.load.basis === 'kwh') && f.circuit.load.powerFactor === null,
    raised: (f) =>
      'Watts alone do not say what a motor draws: its power factor is below 1. The circuit is worked out at a power factor of 1, ' +
      `which may be too small. Read the current, ${worlds[f.job.region].motorRow ? 'the horsepower' : 'the output'} or the power ` +
      'factor from its plate.',
  },
  {
    id: 'motor-overload',
    about: 'What takes a motor off when it is overloaded, and how it is set.',
    clause: clauses,
    severity: 'unknown',
    looksAt: ['load'],
    applies: (f) => single(f) && shaftHp(f.circuit.load) !== null,
    raised: (f) => {
      const { overload, plateA, serviceFactor } = f.circuit.load
      const hp = shaftHp(f.circuit.load)!
      const byHorsepower = worlds[f.job.region].motorRow !== undefined
      const small = byHorsepower ? atMost(hp, HAND_STARTED_HP) : atMost((hp * W_PER_HP) / 1000, OVERLOAD_FROM_KW)
      if (overload === 'built-in') return null
      if (overload === null)
        return small && !byHorsepower
          ? null
          : 'What takes the motor off when it is overloaded is not recorded. Look for “thermally protected” on its plate, or for an ' +
              'overload relay in its starter.'
      if (overload === 'none')
        return {
          severity: small ? 'warning' : 'error',
          message: small
            ? 'The motor has no overload protection. That is allowed only for a small one that is started by hand in sight of its ' +
              'switch, or whose winding cannot be overheated: confirm which.'
            : 'The motor has no overload protection: stalled or overloaded, it overheats before its breaker trips. Fit a starter with an ' +
              'overload relay, or a motor with a thermal protector.',
        }
      if (plateA === null) return 'The overload relay is set by the current on the motor’s plate, which is not recorded. Read it.'
      if (!byHorsepower) return { severity: 'note', message: `Set the overload relay to the current on the plate, ${formatA(plateA)}.` }
      const factor =
        serviceFactor !== null && serviceFactor >= MOTOR_OVERLOAD.serviceFactor ? MOTOR_OVERLOAD.factor : MOTOR_OVERLOAD.otherwise
      return {
        severity: 'note',
        message:
          `Set the overload device at ${formatA(plateA * factor)} or less (${trim(100 * factor, 0)} % of the ${formatA(plateA)} on the ` +
          `plate${factor === MOTOR_OVERLOAD.factor ? `, service factor ${trim(serviceFactor!, 2)}` : ''}). Its disconnecting switch is ` +
          'rated in horsepower, or for 115 % of the table current at least (430.110).',
      }
    },
  },
]
