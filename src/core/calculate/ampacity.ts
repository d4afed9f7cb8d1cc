import { z } from 'zod'
import { InputError } from '../base/input-error'
import { type CableData, metricRegions, stepFactor } from '../region/metric'
import { methodNames } from '../region/vocabulary'
import {
  type NaCable,
  naAmbientFactor,
  naAmpacityA,
  naCableFacts,
  naCableSizes,
  naCables,
  naGroupingFactor,
} from '../region/north-america/awg'
import type { ConductorMetal, MetricRegionId } from '../region/types'
import { inRegion } from '../region/spelling'
import { atLeastOne, cableKinds, conductorField, copperOnly, naRegion, nonNegative, terminalC, ukRegion, zaRegion } from './fields'

const ambientC = z.number().default(30)
const naInput = z.strictObject({
  region: naRegion,
  cable: z.enum(naCables),
  size: z.string(),
  conductor: conductorField,
  ambientC,
  loadedConductors: atLeastOne.default(2),
  terminalC: terminalC.default(60),
})
const ukInput = z.strictObject({
  region: ukRegion,
  cable: z.enum(cableKinds('united-kingdom')),
  size: z.string(),
  conductor: copperOnly,
  ambientC,
  method: z.string(),
  groupedCircuits: atLeastOne.default(1),
  insulationMm: nonNegative.default(0),
})
const zaInput = z.strictObject({
  region: zaRegion,
  cable: z.enum(cableKinds('southern-africa')),
  size: z.string(),
  conductor: copperOnly,
  ambientC,
  method: z.string(),
  groupedCircuits: atLeastOne.default(1),
})
export const ampacityInput = z.discriminatedUnion('region', [naInput, ukInput, zaInput])
export type AmpacityInput = z.infer<typeof ampacityInput>

export const ampacityOutput = z.strictObject({
  tabulatedA: z.number(),
  ambientFactor: z.number(),
  groupingFactor: z.number(),
  insulationFactor: z.number(),
  ampacityA: z.number(),
})
export type Ampacity = z.infer<typeof ampacityOutput>

/**
 * What a cable may carry as it is run, in amperes.
 * @throws InputError at `size`, `ambientC`, `method`, `groupedCircuits` or `insulationMm` where a table has no value.
 * Sources: NFPA 70 Table 310.16 with 310.15(B), (C) and 110.14(C); BS 7671 Appendix 4; IEC 60364-5-52 Annex B.
 */
export function ampacity(input: AmpacityInput): Ampacity {
  return input.region === 'north-america' ? naAmpacity(input) : metricAmpacity(input)
}

/** The 310.16 column that 110.14(C) or the cable's own article holds the ampacity to, in °C. */
export function limitColumnC(cable: NaCable, terminal: 60 | 75): 60 | 75 | 90 {
  const column = naCableFacts[cable].limitColumnC
  return column === 'terminal' ? terminal : column
}

function naAmpacity(input: z.infer<typeof naInput>): Ampacity {
  const { cable, size, conductor } = input
  if (!naCableSizes(cable, conductor).includes(size)) throw new InputError('size', noSuchSize(size, cable, conductor))
  const { insulationC } = naCableFacts[cable]
  const ambientFactor = naAmbientFactor(input.ambientC, insulationC)
  if (ambientFactor === undefined)
    throw new InputError('ambientC', `No factor is published for ${insulationC} °C insulation at ${Number(input.ambientC.toFixed(1))} °C.`)
  const tabulatedA = naAmpacityA(conductor, size, insulationC)!
  const groupingFactor = naGroupingFactor(input.loadedConductors)
  const limitA = naAmpacityA(conductor, size, limitColumnC(cable, input.terminalC))!
  return {
    tabulatedA,
    ambientFactor,
    groupingFactor,
    insulationFactor: 1,
    ampacityA: Math.min(tabulatedA * ambientFactor * groupingFactor, limitA),
  }
}

function noSuchSize(size: string, cable: string, metal: ConductorMetal): string {
  // Aluminium is listed in the North American tables alone.
  return `${size} is not listed for ${cable} in ${inRegion('north-america', metal)}.`
}

interface MetricRun {
  region: MetricRegionId
  cable: string
  size: string
  ambientC: number
  method: string
  groupedCircuits: number
  insulationMm?: number
}

function metricAmpacity(input: MetricRun): Ampacity {
  const region = metricRegions[input.region]
  const cable = region.cables[input.cable]!
  const column = cable.methods.indexOf(input.method)
  if (column < 0) throw new InputError('method', notListedFor(input.method, cable.methods))
  const tabulatedA = cable.rows[input.size]?.[column]
  if (tabulatedA === undefined) throw new InputError('size', noSuchSize(input.size, input.cable, 'copper'))
  const ambientFactor = stepFactor(cable.data.ambient, input.ambientC)
  if (ambientFactor === undefined) throw new InputError('ambientC', `No factor is published at ${Number(input.ambientC.toFixed(1))} °C.`)
  const groupingFactor = stepFactor(cable.data.grouping, input.groupedCircuits)
  if (groupingFactor === undefined)
    throw new InputError('groupedCircuits', `No factor is published for ${input.groupedCircuits} circuits together.`)
  const insulationFactor = surroundedFactor(cable.data, input)
  return {
    tabulatedA,
    ambientFactor,
    groupingFactor,
    insulationFactor,
    ampacityA: tabulatedA * ambientFactor * groupingFactor * insulationFactor,
  }
}

/** Methods in words where they are known; what nobody could have chosen is answered by the names a file uses. */
function notListedFor(method: string, methods: readonly string[]): string {
  const listedFor = `it is listed for: ${methods.map((m) => methodNames[m] ?? m).join('; ')}.`
  if (method === '') return `Installation method not entered; ${listedFor}`
  const known = methodNames[method]
  return known === undefined
    ? `This cable is not listed for the method ${method}; its methods are ${methods.join(', ')}.`
    : `This cable is not listed where it is run so: ${known}; ${listedFor}`
}

function surroundedFactor({ insulation: table }: CableData, input: MetricRun): number {
  const lengthMm = input.insulationMm ?? 0
  if (lengthMm === 0 || table === null) return 1
  if (input.method !== table.method)
    throw new InputError(
      'insulationMm',
      'A length in insulation goes only with cable clipped direct; the other methods count theirs already.',
    )
  return stepFactor(table, lengthMm) ?? table.beyond
}
