import { z } from 'zod'
import { breakerTypes, conductorMetals, type RegionId } from '../region/types'
import { amount, fittedTypes, idField, residualTypes, text, word } from './fields'
import type { Stretch } from './cable'
import { worlds } from '../region/worlds'

/** `first`: an outlet with a device of its own that guards those downstream of it. */
export const residualPlaces = ['none', 'board', 'first', 'outlet'] as const
export const arcPlaces = ['none', 'board', 'outlet'] as const

/** One way to build a circuit. Null is undecided, and is shown so. How its cables lie, and how long they are, is theirs. */
export const designSchema = z.strictObject({
  id: idField,
  name: text(80),
  cable: word(40),
  conductor: z.enum(conductorMetals),
  ambientC: z.number().min(-50).max(100),
  loadedConductors: z.int().min(1).max(100),
  terminalC: z.literal([60, 75]),
  method: word(60).nullable(),
  groupedCircuits: z.int().min(1).max(100),
  insulationMm: amount,
  accessory: word(64).nullable(),
  accessories: z.int().min(1).max(100),
  cordA: z.number().positive().max(1000).nullable(),
  wantedBreakerA: amount.nullable(),
  minSize: word(20).nullable(),
  breakerType: z.enum(breakerTypes),
  residual: z.strictObject({
    at: z.enum(residualPlaces),
    ma: z.number().positive().max(1000),
    /** As marked on the device; null: not looked. Of one that is in the board, that says so itself. */
    type: z.enum(residualTypes).nullable(),
  }),
  /** Fuse in the connection unit or plug, in amperes. */
  fuseA: z.number().positive().max(1000).nullable(),
  /** An extension cord between outlet and appliance. */
  extension: z.strictObject({ ratingA: z.number().positive().max(1000), lengthM: amount, size: word(20) }).nullable(),
  arcFault: z.enum(arcPlaces),
  /** What the breaker can break, in kiloamperes, as marked on it. */
  breakingKa: z.number().positive().max(200).nullable(),
  /** Up to what fault current it alone trips, in kiloamperes, by the makers' tables for it and the device upstream; null: not looked up. */
  selectiveKa: z.number().positive().max(200).nullable(),
  fitted: z.array(z.enum(fittedTypes)).max(3),
})
export type DesignRecord = z.infer<typeof designSchema>

export const newDesign = (region: RegionId, id: string, name: string): DesignRecord => ({
  id,
  name,
  cable: worlds[region].start.cable,
  conductor: 'copper',
  ambientC: 30,
  loadedConductors: 2,
  terminalC: 60,
  method: worlds[region].start.method,
  groupedCircuits: 1,
  insulationMm: 0,
  accessory: null,
  accessories: 1,
  cordA: null,
  wantedBreakerA: null,
  minSize: null,
  breakerType: 'B',
  residual: { ...worlds[region].start.residual },
  fuseA: null,
  extension: null,
  arcFault: 'none',
  breakingKa: null,
  selectiveKa: null,
  fitted: [],
})

export const newStretch = (
  design: Pick<DesignRecord, 'ambientC' | 'method' | 'loadedConductors' | 'groupedCircuits'>,
  id: string,
): Stretch => ({
  id,
  place: 'surface',
  lengthM: null,
  ambientC: design.ambientC,
  method: design.method,
  loadedConductors: design.loadedConductors,
  groupedCircuits: design.groupedCircuits,
  insulationMm: 0,
})
