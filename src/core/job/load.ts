import { z } from 'zod'
import { type ApplianceKind, natureOf } from '../catalogue/appliances'
import type { RegionId } from '../region/types'
import { amount, text, word } from './fields'
import { worlds } from '../region/worlds'

/** What the amount is in; of a motor also its output at the shaft, in horsepower or kilowatts. */
export const loadBases = ['watts', 'va', 'amps', 'kwh', 'hp', 'kw-shaft'] as const
/** Units of the amount, as a nameplate prints them; an output is what comes out at the shaft. */
export const basisNames: Record<(typeof loadBases)[number], string> = {
  watts: 'W',
  va: 'VA',
  amps: 'A',
  kwh: 'kWh',
  hp: 'hp',
  'kw-shaft': 'kW output',
}
export const motorOverloads = ['built-in', 'separate', 'none'] as const
export const loadNatures = ['general', 'heating', 'lighting', 'motor', 'cooking', 'duty', 'charging', 'electronic'] as const

const nameplate = {
  kind: word(64).nullable(),
  name: text(200),
  volts: z.number().positive().max(1000).nullable(),
  basis: z.enum(loadBases),
  /** In the unit of the basis: W, VA, A, kWh used in `hours`, hp or kW at the shaft. */
  amount: amount.nullable(),
  hours: z.number().positive().max(8760).nullable(),
  powerFactor: z.number().min(0.1).max(1).nullable(),
  nature: z.enum(loadNatures),
  /** Current at switching on, in times the running current; null: as usual for its nature. */
  startFactor: z.number().min(1).max(40).nullable(),
  /** Share of the time it draws its current, of duty-cycled equipment. */
  duty: z.number().positive().max(1).nullable(),
  /** Hours of use a year, for what its cable wastes; null: as usual. */
  hoursPerYear: z.number().min(0).max(8784).nullable(),
  connection: z.enum(['plug', 'fixed']),
  continuous: z.boolean(),
  lighting: z.boolean(),
}
/** What is read besides from the plate of a motor that is rated by its output; null: not read. */
const motorPlate = {
  /** What of its input comes out at the shaft. */
  efficiency: z.number().min(0.1).max(1).nullable(),
  /** The current on its plate, which sets its overload protection. */
  plateA: z.number().positive().max(1000).nullable(),
  serviceFactor: z.number().min(1).max(2).nullable(),
  /** What takes it off when it is overloaded. */
  overload: z.enum(motorOverloads).nullable(),
}

/** What is to be powered, as the nameplate says it. Files from before motors were rated by their output lack what is read of them. */
export const loadSchema = z.strictObject({
  ...nameplate,
  efficiency: motorPlate.efficiency.default(null),
  plateA: motorPlate.plateA.default(null),
  serviceFactor: motorPlate.serviceFactor.default(null),
  overload: motorPlate.overload.default(null),
})
/** A part of it that is replaced: what is not in it stays as it was. */
export const loadPatch = z.strictObject({ ...nameplate, ...motorPlate }).partial()
export type Load = z.infer<typeof loadSchema>

/** What an appliance of a kind usually is, until its nameplate is read. */
export const loadOfKind = (kind: ApplianceKind): Partial<Load> => ({
  kind: kind.id,
  name: kind.name,
  volts: kind.volts,
  basis: 'watts',
  amount: kind.watts,
  connection: kind.connection,
  continuous: kind.continuous,
  lighting: kind.lighting,
  nature: natureOf(kind),
})

export const newLoad = (region: RegionId): Load => ({
  kind: null,
  name: '',
  volts: worlds[region].lineV,
  basis: 'watts',
  amount: null,
  hours: null,
  powerFactor: null,
  efficiency: null,
  plateA: null,
  serviceFactor: null,
  overload: null,
  nature: 'general',
  startFactor: null,
  duty: null,
  hoursPerYear: null,
  connection: 'plug',
  continuous: false,
  lighting: false,
})

/** A building's supply has no such load: beyond these a figure was mistyped. */
const MOST_A = 10_000
const MOST_W = 1e6

/** What a load cannot be, and in which of its fields; null: it can. */
export function impossibleLoad({
  basis,
  amount: given,
  hours,
}: Pick<Load, 'basis' | 'amount' | 'hours'>): { field: 'amount' | 'hours'; message: string } | null {
  if (given === null) return null
  if (basis === 'amps' && given > MOST_A) return { field: 'amount', message: `A load of more than ${MOST_A} A was mistyped.` }
  if (basis === 'kwh' && hours !== null && (given * 1000) / hours > MOST_W)
    return { field: 'hours', message: `That energy in that time is more than ${MOST_W / 1e6} MW: one of the two was mistyped.` }
  if ((basis === 'hp' || basis === 'kw-shaft') && given > MOST_W / 1e3)
    return { field: 'amount', message: `A motor of more than ${MOST_W / 1e3} ${basis === 'hp' ? 'hp' : 'kW'} was mistyped.` }
  return null
}
