import type { RegionId } from './types'
import { trim } from '../base/format'
import { worlds } from './worlds'

/** A price as it is written in a world: whole above a hundred, else to the hundredth. */
export const formatMoney = (amount: number, region: RegionId): string =>
  `${worlds[region].currencySign}${amount >= 100 ? trim(amount, 0) : amount.toFixed(2)}`
