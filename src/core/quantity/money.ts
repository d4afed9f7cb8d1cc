import type { RegionId } from '../region/types'
import { trim } from './format'

const signs: Record<RegionId, string> = { 'north-america': '$', 'united-kingdom': '£', 'southern-africa': 'R' }

/** A price as it is written in a world: whole above a hundred, else to the hundredth. */
export const formatMoney = (amount: number, region: RegionId): string =>
  `${signs[region]}${region === 'southern-africa' ? ' ' : ''}${amount >= 100 ? trim(amount, 0) : amount.toFixed(2)}`
