import type { Installation } from '../installation/installation'
import { naCircularMils } from '../region/north-america/awg'
import type { RegionId } from '../region/types'

const MM2_PER_CIRCULAR_MIL = 5.067075e-4
/** Cross-section in square millimetres, whatever the size is called. NFPA 70 Chapter 9 Table 8 for AWG. */
export const areaMm2 = (size: string): number =>
  size.endsWith('AWG') ? naCircularMils(size) * MM2_PER_CIRCULAR_MIL : Number.parseFloat(size)

/** What is priced, by name: pieces, and an hour of work. Usual figures, ours; a job's own come before them. */
export const priceNames = [
  'breaker',
  'breaker with residual protection',
  'breaker with arc-fault protection',
  'outlet',
  'outlet with residual protection',
  'box',
  'conduit, a metre',
  'an hour',
] as const
export type PriceName = (typeof priceNames)[number]

const usual: Record<RegionId, Record<PriceName, number>> = {
  'north-america': {
    breaker: 12,
    'breaker with residual protection': 60,
    'breaker with arc-fault protection': 58,
    outlet: 4,
    'outlet with residual protection': 25,
    box: 5,
    'conduit, a metre': 4,
    'an hour': 85,
  },
  'united-kingdom': {
    breaker: 6,
    'breaker with residual protection': 28,
    'breaker with arc-fault protection': 110,
    outlet: 5,
    'outlet with residual protection': 45,
    box: 2,
    'conduit, a metre': 3,
    'an hour': 45,
  },
  'southern-africa': {
    breaker: 75,
    'breaker with residual protection': 650,
    'breaker with arc-fault protection': 2200,
    outlet: 60,
    'outlet with residual protection': 900,
    box: 25,
    'conduit, a metre': 18,
    'an hour': 350,
  },
}
/** A metre of cable: a part for its making and a part for its copper. */
const metre: Record<RegionId, { readonly base: number; readonly perMm2: number }> = {
  'north-america': { base: 1, perMm2: 0.55 },
  'united-kingdom': { base: 0.35, perMm2: 0.32 },
  'southern-africa': { base: 6, perMm2: 5.5 },
}
const cableFactor: Readonly<Record<string, number>> = { 'mc-thhn': 1.6, 'thwn-2': 0.8, 'uf-b': 1.5, singles: 0.8 }

export const priceOf = (job: Pick<Installation, 'region' | 'prices'>, name: PriceName): number =>
  job.prices[name] ?? usual[job.region][name]
export const cablePrice = (job: Pick<Installation, 'region' | 'prices'>, cable: string, size: string): number => {
  const { base, perMm2 } = metre[job.region]
  return job.prices[`${cable} ${size}`] ?? (base + perMm2 * areaMm2(size)) * (cableFactor[cable] ?? 1)
}
