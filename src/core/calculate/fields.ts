import { z } from 'zod'
import { conductorMetals, type MetricRegionId } from '../region/types'
import { metricRegions } from '../region/metric'

/** Number fields shared by the calculators' inputs. The key that holds one carries its unit. */
export const nonNegative = z.number().nonnegative()
export const positive = z.number().positive()
export const count = z.int().nonnegative()
export const atLeastOne = z.int().min(1)
export const conductorField = z.enum(conductorMetals).default('copper')
export const copperOnly = z.literal('copper', 'this region lists copper only').default('copper')
export const terminalC = z.literal([60, 75])
export const naRegion = z.literal('north-america')
export const ukRegion = z.literal('united-kingdom')
export const zaRegion = z.literal('southern-africa')

/** Cables that a 230 V world lists, by name. */
export const cableKinds = (region: MetricRegionId) => Object.keys(metricRegions[region].cables) as [string, ...string[]]
