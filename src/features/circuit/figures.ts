import type { WorkingKey } from '@/core/design/working'
import type { DesignReport } from '@/core/evaluate/evaluate'
import { formatA, formatOhm, formatPercent, formatSize } from '@/core/base/format'

interface Figure {
  key: WorkingKey
  name: string
  value: string | null
}

const or = <T>(value: T | null | undefined, format: (v: T) => string): string | null =>
  value === null || value === undefined ? null : format(value)

/** The limits of the loop, the one that governs first. */
function limits(limit: DesignReport['loopLimit']): Figure[] {
  if (limit === null) return [{ key: 'maxZsOhm', name: 'Zs limit', value: null }]
  const key = 'maxZsOhm' as const
  const governing = { key, name: `Zs limit, ${limit.governs === 'breaker' ? 'breaker' : 'RCD'}`, value: formatOhm(limit.ohm) }
  if (limit.residualOhm === null) return [governing]
  return limit.governs === 'breaker'
    ? [governing, { key, name: 'By RCD alone', value: formatOhm(limit.residualOhm) }]
    : [governing, { key, name: 'By breaker alone', value: formatOhm(limit.breakerOhm) }]
}

/** The numbers of a design in the order they follow from each other. */
export function figures({ result: r, loopLimit: limit }: DesignReport): Figure[] {
  const loop: Figure[] = r?.zsOhm === undefined ? [] : [{ key: 'zsOhm', name: 'Zs', value: or(r.zsOhm, formatOhm) }, ...limits(limit)]
  return [
    { key: 'loadA', name: 'Load', value: or(r?.loadA, formatA) },
    { key: 'requiredA', name: 'Must carry', value: or(r?.requiredA, formatA) },
    { key: 'breakerA', name: 'Breaker', value: or(r?.breakerA, (a) => `${a} A`) },
    { key: 'size', name: 'Size', value: or(r?.size, formatSize) },
    { key: 'ampacityA', name: 'Carries', value: or(r?.ampacityA, formatA) },
    { key: 'dropPercent', name: 'Drop', value: or(r?.dropPercent, formatPercent) },
    { key: 'protectiveSize', name: 'Protective', value: or(r?.protectiveSize, formatSize) },
    ...loop,
    ...(loop.length ? [] : [{ key: 'weakest' as const, name: 'Weakest', value: or(r?.weakestLink, (l) => l.link) }]),
  ]
}
