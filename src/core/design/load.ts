import { applianceKinds, applianceManner } from '../catalogue/appliances'
import type { Circuit, CircuitPoint, Installation } from '../installation/installation'
import type { Load } from '../job/load'
import { formatA, trim } from '../base/format'
import type { RegionId } from '../region/types'
import { unitedKingdomTables } from '../region/united-kingdom/tables'
import { MOTOR_CONDUCTOR_FACTOR, type MotorRow, W_PER_HP } from '../region/north-america/motors'
import { worlds } from '../region/worlds'

type Nature = Load['nature']

/** Current at switching on, in times the running current, and how long it lasts; usual figures, ours: the nameplate wins. */
export const usualStart: Record<Nature, { readonly factor: number; readonly seconds: number }> = {
  general: { factor: 1, seconds: 0 },
  heating: { factor: 1, seconds: 0 },
  lighting: { factor: 10, seconds: 0.005 },
  motor: { factor: 6, seconds: 0.5 },
  cooking: { factor: 1, seconds: 0 },
  duty: { factor: 2, seconds: 0.05 },
  charging: { factor: 1, seconds: 0 },
  electronic: { factor: 15, seconds: 0.003 },
}
/** Hours of use a year, usual and ours, for what the cable wastes. */
const usualHours: Record<Nature, number> = {
  general: 800,
  heating: 1500,
  lighting: 2000,
  motor: 600,
  cooking: 500,
  duty: 400,
  charging: 1500,
  electronic: 3000,
}
export const hoursPerYear = (load: Load): number =>
  load.hoursPerYear ?? (load.continuous ? Math.max(1500, usualHours[load.nature]) : usualHours[load.nature])

/** A motor that is rated by its output at the shaft: its horsepower; null: it is not. */
export const shaftHp = ({ basis, amount }: Pick<Load, 'basis' | 'amount'>): number | null =>
  amount === null ? null : basis === 'hp' ? amount : basis === 'kw-shaft' ? (amount * 1000) / W_PER_HP : null

/** The published row for a motor rated by its output, where the world has such a table; null: none. */
export function motorRowOf(load: Pick<Load, 'basis' | 'amount' | 'volts'>, region: RegionId): MotorRow | null {
  const hp = shaftHp(load)
  return hp === null || load.volts === null ? null : (worlds[region].motorRow?.(hp, load.volts) ?? null)
}

/**
 * Amperes by the nameplate, or null while a figure is missing. kWh are spread over the hours they were used in. A motor rated by its
 * output draws what the table says where the world has one (NFPA 70 430.6(A)(1)), else its output over voltage, power factor and
 * efficiency.
 */
export function nameplateA(load: Load, region: RegionId): number | null {
  const { amount, volts, basis, powerFactor, efficiency, hours } = load
  if (amount === null || volts === null) return null
  const hp = shaftHp(load)
  if (hp !== null) {
    if (worlds[region].motorRow) return motorRowOf(load, region)?.amps ?? null
    return powerFactor === null || efficiency === null ? null : (hp * W_PER_HP) / volts / powerFactor / efficiency
  }
  if (basis === 'amps') return amount
  if (basis === 'va') return amount / volts
  if (basis === 'kwh') return hours === null ? null : (amount * 1000) / hours / volts / (powerFactor ?? 1)
  return amount / volts / (powerFactor ?? 1)
}

/** The voltage across a point: of two lines with a shared neutral 240 V where it is on both; elsewhere all are at the circuit's voltage. */
export const voltsAt = ({ kind, load }: Pick<Circuit, 'kind' | 'load'>, p: Pick<CircuitPoint, 'leg'> | null): number =>
  kind === 'shared-neutral' ? (p?.leg === 'AB' ? 240 : 120) : load.volts!

/** Watts of all that a circuit feeds, by the nameplates; null while one is not known. */
export function nameplateW({ load, points }: Pick<Circuit, 'load' | 'points'>, region: RegionId): number | null {
  if (points.length) return points.some((p) => p.watts === null) ? null : points.reduce((sum, p) => sum + p.watts!, 0)
  const amps = nameplateA(load, region)
  return amps === null ? null : amps * load.volts!
}

/** What counts a quarter more: what runs for three hours or more, a motor (NFPA 70 430.22), a vehicle charger (625.41). */
export type QuarterMore = 'continuous' | 'motor' | 'charging'

export interface LoadStep {
  readonly words: string
  readonly clause: string
}
export interface DesignLoad {
  readonly nameplateA: number
  /** What the circuit is worked out for, after the allowances of its kind. */
  readonly amps: number
  /** Why it counts a quarter more for breaker and cable (North America); null: it does not. */
  readonly quarterMore: QuarterMore | null
  /** The least rating of breaker that a rule asks for whatever it draws; 0 for none. */
  readonly leastBreakerA: number
  readonly steps: readonly LoadStep[]
}

const dutyClause: Record<RegionId, string> = {
  'north-america': '630.11(A); 430.22(E)',
  'united-kingdom': '523.1; 433.1',
  'southern-africa': 'IEC 60364-5-52 clause 523',
}

/** The current a circuit is designed for, allowance by allowance, or null while the nameplate is not known. */
export function designLoad(job: Installation, circuit: Circuit): DesignLoad | null {
  const { load } = circuit
  const amps = circuit.points.length ? stopsA(job, circuit) : nameplateA(load, job.region)
  if (amps === null) return null
  const base: DesignLoad = { nameplateA: amps, amps, quarterMore: load.continuous ? 'continuous' : null, leastBreakerA: 0, steps: [] }
  return withLongRunning(allowances[load.nature]?.(base, job, load) ?? base, job, circuit)
}

/**
 * Of several points those that run for hours, and the largest motor of a line, count a quarter more for the breaker. NFPA 70 210.20(A),
 * 430.24.
 */
function withLongRunning(base: DesignLoad, job: Installation, circuit: Circuit): DesignLoad {
  if (worlds[job.region].continuousShare === 1 || base.quarterMore) return base
  const isMotor = (p: CircuitPoint) => applianceManner(p.appliance)?.nature === 'motor'
  const largest = (leg: CircuitPoint['leg']) =>
    circuit.points.filter((p) => p.leg === leg && isMotor(p)).toSorted((x, y) => (y.watts ?? 0) - (x.watts ?? 0))[0]
  const motors = (['A', 'B', 'AB'] as const).map(largest)
  const heavy = circuit.points.filter((p) => {
    const manner = applianceManner(p.appliance)
    return isMotor(p) ? motors.includes(p) : manner !== undefined && (manner.continuous || manner.nature === 'charging')
  })
  if (heavy.length === 0) return base
  const least = stopsA(job, circuit, (p) => (heavy.includes(p) ? 1.25 : 1))!
  return {
    ...base,
    leastBreakerA: Math.max(base.leastBreakerA, least),
    steps: [
      ...base.steps,
      {
        words:
          `What runs for hours, or is the largest motor (${heavy.map((p) => p.name).join(', ')}), counts a quarter more: the ` +
          `breaker carries ${formatA(least)}.`,
        clause: '210.20(A); 430.24',
      },
    ],
  }
}

/** The sum of what the points draw; on two lines with a shared neutral, the heavier line. */
function stopsA(job: Installation, circuit: Circuit, weight: (p: CircuitPoint) => number = () => 1): number | null {
  const { points, load } = circuit
  if (load.volts === null || points.some((p) => p.watts === null)) return null
  const lineV = circuit.kind === 'shared-neutral' && worlds[job.region].sharedNeutrals ? worlds[job.region].lineV : load.volts
  const on = (legs: readonly string[]) =>
    points.filter((p) => legs.includes(p.leg)).reduce((sum, p) => sum + (weight(p) * p.watts!) / (p.leg === 'AB' ? 2 * lineV : lineV), 0)
  if (circuit.kind === 'shared-neutral') return Math.max(on(['A', 'AB']), on(['B', 'AB']))
  return points.reduce((sum, p) => sum + weight(p) * Math.min(p.watts! / load.volts!, p.fuseA ?? Number.POSITIVE_INFINITY), 0)
}

/** NFPA 70 Table 220.55 for one appliance: kilowatts that count, of those on its plate. */
const cookingTable = {
  smallBelowKw: 8.75,
  smallFactor: 0.8,
  tabledToKw: 12,
  tabledKw: 8,
  perKwOver: 0.05,
  toKw: 27,
  leastBreakerA: 40,
} as const

/** One range of a household counts by the table; an oven or a cooktop that has its own circuit counts whole. NFPA 70 220.55, 210.19(C). */
function householdCooking(base: DesignLoad, load: Load): DesignLoad {
  const t = cookingTable
  if (load.kind === 'oven' || load.kind === 'hob')
    return {
      ...base,
      steps: [{ words: 'One wall oven or cooktop on a circuit of its own counts at its nameplate.', clause: 'Table 220.55 note 4' }],
    }
  const kw = (base.nameplateA * load.volts!) / 1000
  if (load.kind !== 'range' || kw < 1.75 || kw > t.toKw) return base
  const small = kw < t.smallBelowKw
  // Each further kilowatt or major fraction of one.
  const over = Math.max(0, Math.round(kw - t.tabledToKw))
  const counted = small ? kw * t.smallFactor : t.tabledKw * (1 + t.perKwOver * over)
  const amps = (counted * 1000) / load.volts!
  return {
    ...base,
    amps,
    leastBreakerA: small ? 0 : t.leastBreakerA,
    steps: [
      {
        words: `One range of ${trim(kw, 2)} kW in a household counts as ${trim(counted, 2)} kW: ${formatA(amps)}.`,
        clause: small ? 'Table 220.55 note 3' : over ? 'Table 220.55 notes 1, 4' : 'Table 220.55 note 4',
      },
      ...(small
        ? []
        : [{ words: `A range of ${t.smallBelowKw} kW or more has a circuit of ${t.leastBreakerA} A at least.`, clause: '210.19(C)' }]),
    ],
  }
}

/** A motor’s current, from the table where it is rated by its output, and what its conductors carry. */
function motorSteps({ nameplateA: amps }: DesignLoad, { region }: Installation, load: Load): LoadStep[] {
  const row = motorRowOf(load, region)
  const carries = {
    words: `A motor’s conductors carry 125 % of its full-load current: ${formatA(amps * MOTOR_CONDUCTOR_FACTOR)}.`,
    clause: worlds[region].cites.motor,
  }
  if (row === null) return [carries]
  const rating = load.basis === 'hp' ? `${trim(load.amount!, 2)} hp` : `${trim(load.amount!, 2)} kW (${trim(shaftHp(load)!, 2)} hp)`
  return [
    {
      words:
        `${rating} at ${trim(load.volts!, 0)} V draws ${formatA(row.amps)} by the ${row.columnV} V column of the table, whatever ` +
        'its plate says.',
      clause: 'Table 430.248; 430.6(A)(1)',
    },
    carries,
  ]
}

type Allowance = (base: DesignLoad, job: Installation, load: Load) => DesignLoad
const allowances: Partial<Record<Nature, Allowance>> = {
  motor: (base, job, load) =>
    worlds[job.region].continuousShare < 1
      ? {
          ...base,
          quarterMore: 'motor',
          steps: motorSteps(base, job, load),
        }
      : {
          ...base,
          steps: [
            {
              words: 'A motor counts at its full-load current; its starting current is held against the breaker’s curve.',
              clause: worlds[job.region].cites.motor,
            },
          ],
        },
  charging: (base, job) => ({
    ...base,
    quarterMore: 'charging',
    steps: [
      {
        words: 'Charging runs for hours: no diversity, and it counts as continuous.',
        clause: worlds[job.region].cites.charging,
      },
    ],
  }),
  duty: (base, job, load) => {
    if (load.duty === null)
      return { ...base, steps: [{ words: 'Its duty is not known: it counts as if it drew all the time.', clause: dutyClause[job.region] }] }
    const factor = Math.sqrt(load.duty)
    return {
      ...base,
      amps: base.amps * factor,
      steps: [
        {
          words:
            `On for ${trim(100 * load.duty, 0)} % of the time, it heats a cable as ${trim(factor, 3)} of its current does all the ` +
            `time: ${formatA(base.amps * factor)}.`,
          clause: dutyClause[job.region],
        },
      ],
    }
  },
  cooking: (base, job, load) => {
    const method = worlds[job.region].demandMethod
    if (job.brief.premises !== 'dwelling' || method === null) return base
    if (method === 'floor-area') return householdCooking(base, load)
    if (base.amps <= 10) return base
    const { firstA, remainder } = unitedKingdomTables.diversity.cooker
    const amps = firstA + remainder * (base.amps - firstA)
    return {
      ...base,
      amps,
      steps: [
        {
          words:
            `In one household the first ${firstA} A count whole and ${remainder * 100} % of the rest: ${formatA(amps)}. A socket ` +
            'in its control unit adds 5 A.',
          clause: unitedKingdomTables.diversity.clause,
        },
      ],
    }
  },
}

export interface Start {
  readonly amps: number
  readonly seconds: number
  readonly factor: number
  /** Whether the factor was read, and is not the usual one. */
  readonly given: boolean
  /** The point that is switched on while the rest runs; of lights, which go on together, none. */
  readonly point?: CircuitPoint
}

/**
 * Switching on what draws most then. One load goes by its nameplate; of several points the worst is switched on while the
 * rest of its line runs, and lights go on together. Null where nothing draws more at its start than after it.
 */
export function startOf(circuit: Circuit, region: RegionId): Start | null {
  const { load, points } = circuit
  if (points.length === 0) {
    const start = startCurrent(load, region)
    return start && start.factor > 1 ? start : null
  }
  if (load.volts === null) return null
  const amps = (p: CircuitPoint) => (p.watts ?? 0) / voltsAt(circuit, p)
  const sum = (list: readonly CircuitPoint[]) => list.reduce((all, p) => all + amps(p), 0)
  const natureAt = (p: CircuitPoint) => applianceManner(p.appliance)?.nature ?? load.nature
  // Each pole of a breaker carries its own line, and what is across both.
  const poles =
    circuit.kind === 'shared-neutral' ? (['A', 'B'] as const).map((leg) => points.filter((p) => p.leg === leg || p.leg === 'AB')) : [points]
  const starts = poles.flatMap((line): Start[] => {
    const running = sum(line)
    const lights = line.filter((p) => natureAt(p) === 'lighting')
    const started = [
      ...(lights.length ? [{ nature: 'lighting' as const, amps: sum(lights) }] : []),
      ...line.filter((p) => !lights.includes(p)).map((p) => ({ nature: natureAt(p), amps: amps(p), point: p })),
    ]
    return started.map(({ nature, amps: own, ...of }): Start => {
      const given = load.startFactor !== null && nature === load.nature
      const factor = given ? load.startFactor! : usualStart[nature].factor
      return { amps: running + own * (factor - 1), seconds: usualStart[nature].seconds || 0.1, factor, given, ...of }
    })
  })
  return starts.filter((x) => x.factor > 1).reduce<Start | null>((most, x) => (most && most.amps >= x.amps ? most : x), null)
}

/** What switching on one load draws, against the current it runs at. */
export function startCurrent(load: Load, region: RegionId): Start | null {
  const running = nameplateA(load, region)
  if (running === null) return null
  const usual = usualStart[load.nature]
  const factor = load.startFactor ?? usual.factor
  return { amps: running * factor, seconds: usual.seconds || 0.1, factor, given: load.startFactor !== null }
}

/** Of these natures nothing draws so little, in watts. */
const LEAST_OF_NATURE: Partial<Record<Nature, number>> = { heating: 15, cooking: 40, motor: 5, charging: 100 }

/** What was most likely meant where kilowatts were typed as watts ("4.5 W" for a heater), in the unit typed; null: nothing is odd. */
export function doubtedAmount({ basis, amount, kind, nature }: Load, region: RegionId): number | null {
  if ((basis !== 'watts' && basis !== 'va') || amount === null || amount <= 0) return null
  const usual = applianceKinds(region).find((k) => k.id === kind)?.watts
  const meant = amount * 1000
  const odd = usual === undefined ? amount < (LEAST_OF_NATURE[nature] ?? 0) : amount < usual / 50 && meant < usual * 10
  return odd ? meant : null
}
