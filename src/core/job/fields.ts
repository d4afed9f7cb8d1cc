import { z } from 'zod'

/** Fields that parts of the document share. A key that holds a figure carries its unit. */
export const text = (max: number) => z.string().max(max, `at most ${max} characters`)

const reserved = new Set(['__proto__', 'constructor', 'prototype', 'toString', 'valueOf', 'hasOwnProperty'])
/** The name of one thing of a job; never one that an object of the language has already. */
export const idField = z
  .string()
  .min(1)
  .max(64)
  .refine((id) => !reserved.has(id), 'this name is not free')
/** A word that something is looked up by: a kind, a size, a method; never a name that an object of the language has already. */
export const word = (max: number) =>
  z
    .string()
    .max(max, `at most ${max} characters`)
    .refine((w) => !reserved.has(w), 'this is no kind or size that is listed')
export const amount = z.number().nonnegative().max(1e6)
export const ratingA = z.number().positive().max(1000)

export const environments = ['dry', 'damp', 'wet', 'outdoors'] as const
/** Where points are, as the rules on protection name places. */
export const placeKinds = [
  'living',
  'bedroom',
  'kitchen',
  'bathroom',
  'laundry',
  'garage',
  'basement',
  'workshop',
  'hall',
  'outdoors',
  'other',
] as const
/** What a residual current device sees: IEC 60755; each sees all that those before it see. */
export const residualTypes = ['AC', 'A', 'F', 'B'] as const
/** Types of outlet and cover, and protection against surges, that are fitted. */
export const fittedTypes = ['tamper', 'weather', 'surge'] as const

/** Where outlets are, as far as rules on their types ask. Null: of a point, as its circuit; of a circuit, not said. */
export const site = {
  place: z.enum(placeKinds).nullable(),
  environment: z.enum(environments).nullable(),
  /** North America: within 1.8 m of the edge of a sink, bath or shower. Elsewhere: within 2.5 m of that of a bath or shower. */
  nearWater: z.boolean().nullable(),
  /** Higher than 1.7 m, or behind an appliance that is not easily moved. */
  outOfReach: z.boolean().nullable(),
}
export const noSite = { place: null, environment: null, nearWater: null, outOfReach: null } as const

/** As it was found, as it will be, or gone: IEC 60050-826 speaks of one installation through its alterations. */
export const states = ['existing', 'new', 'altered', 'removed'] as const
export type State = (typeof states)[number]
