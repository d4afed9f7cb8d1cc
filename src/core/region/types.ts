/** The three electrical worlds. */
export const regionIds = ['north-america', 'united-kingdom', 'southern-africa'] as const
export type RegionId = (typeof regionIds)[number]
export type MetricRegionId = Exclude<RegionId, 'north-america'>
export const conductorMetals = ['copper', 'aluminium'] as const
export type ConductorMetal = (typeof conductorMetals)[number]
export const breakerTypes = ['B', 'C', 'D'] as const
export type BreakerType = (typeof breakerTypes)[number]

/** What a cable that carries no power of the installation is for. */
export const signalKinds = ['thermostat', 'bell', 'telephone', 'data', 'aerial'] as const
export type SignalKind = (typeof signalKinds)[number]
