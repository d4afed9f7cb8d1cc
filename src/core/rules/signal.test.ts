import { describe, expect, it } from 'vitest'
import { builtOf } from '../contract/built'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { applyEdit } from '../job/edits'
import { newRaceway } from '../job/raceway'
import { type Job, newJob } from '../job/schema'
import { newSignalCable, type SignalCable } from '../job/signal-cable'
import { type RegionId, regionIds } from '../region/types'

const withCable = (region: RegionId, more: Partial<SignalCable>): Job =>
  [
    { kind: 'raceway.add', item: newRaceway('rx', 'Wall raceway') } as const,
    { kind: 'signal-cable.add', item: newSignalCable('sc', 'Office data', more) } as const,
  ].reduce((job, e) => applyEdit(job, e).job, newJob(region, 'Workroom', ''))
const rulesOf = (region: RegionId, more: Partial<SignalCable>) =>
  evaluate(withCable(region, more), [])
    .stages.find((s) => s.id === 'route')!
    .findings.filter((f) => f.about === 'signal:sc')
    .map((f) => `${f.rule} ${f.severity}`)
const apart: Partial<SignalCable> = { shares: [], apartMm: 50 }

describe.each(regionIds)('data and control cables in %s', (region) => {
  const insulationServes = region !== 'north-america'

  it('asks what is not known, and takes nothing unknown for apart', () => {
    expect(rulesOf(region, {})).toContain('signal-sharing-unknown unknown')
    expect(rulesOf(region, { ...apart, shares: ['rx'] })).toEqual(['signal-parting-unknown unknown'])
    expect(rulesOf(region, apart)).toEqual([])
  })

  it('refuses to share a raceway with power unless they are parted, where the world allows it by insulation', () => {
    const shared = { ...apart, shares: ['rx'], barrier: false, insulated: false }
    expect(rulesOf(region, shared)).toEqual(['signal-with-power error'])
    expect(rulesOf(region, { ...shared, state: 'existing' })).toEqual(['signal-with-power warning'])
    expect(rulesOf(region, { ...shared, barrier: true })).toEqual([])
    expect(rulesOf(region, { ...shared, insulated: true })).toEqual(insulationServes ? [] : ['signal-with-power error'])
    expect(rulesOf(region, { ...shared, insulated: null })).toEqual([
      insulationServes ? 'signal-parting-unknown unknown' : 'signal-with-power error',
    ])
  })

  it('keeps telephone, data and aerial cables 50 mm from power where that is published', () => {
    const at = (apartMm: number | null, more: Partial<SignalCable> = {}) => rulesOf(region, { ...apart, apartMm, ...more })
    const asked = region === 'united-kingdom'
    expect(at(49)).toEqual(asked ? ['signal-too-near warning'] : [])
    expect(at(50)).toEqual([])
    expect(at(null)).toEqual(asked ? ['signal-distance-unknown unknown'] : [])
    expect(at(49, { barrier: true })).toEqual([])
    expect(at(49, { kind: 'bell' })).toEqual([])
  })

  it('is bought by length with a label for each end; of an unknown length it is named as not counted', () => {
    const of = (more: Partial<SignalCable>) => {
      const job = withCable(region, more)
      const { labels, materials } = builtOf(read(job), evaluate(job, []))
      return {
        labels: labels.filter((l) => l.cable === 'sc').map((l) => l.lines[1]),
        bought: materials.filter((m) => m.where.includes('sc') && m.kind === 'cable').map((m) => m.quantity),
      }
    }
    expect(of({ lengthM: 20, from: 'Desk', to: 'Rack' })).toEqual({ labels: ['From Desk to Rack', 'From Desk to Rack'], bought: [22] })
    expect(of({ lengthM: null }).bought).toEqual([])
    expect(of({ lengthM: 20, state: 'existing' })).toEqual({ labels: [], bought: [] })
  })
})
