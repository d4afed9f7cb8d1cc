import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { applyEdit, type Edit } from '../job/edits'
import { type Job, newJob } from '../job/schema'
import { network } from '../network/network'
import type { Element } from '../network/types'
import { worlds } from '../region/worlds'
import { houseOf } from './house'
import { noTrial } from './laid'
import { liveOf } from './live'

/* What the design says of a circuit and what a meter would read in the network of all boxes: two ways to one number. */

const demos = demoJobs.map((d) => d.edits.reduce<Job>((job, e) => applyEdit(job, e).job, newJob(d.region, d.title, d.place)))
const ringAdded: Edit = {
  kind: 'circuit-point.add',
  circuit: 'c3',
  points: [{ id: 'new', name: 'New socket', from: null, lengthM: 2, watts: 100 }],
} as Edit

function worked(record: Job) {
  const job = read(record)
  const report = evaluate(job, [])
  return { job, report, house: houseOf(job, report.circuits, noTrial) }
}

describe('a ring', () => {
  const { report, house } = worked(demos[1]!)
  const { circuit, tests } = report.byCircuit.get('c3')!
  const closing = circuit.cables.find((k) => k.to.kind !== 'point')!
  const nominal = (id: string) => {
    const { expect: range } = tests.find((t) => t.id === id)!
    return range.kind === 'range' ? range.nominal! : Number.NaN
  }
  /** Its ends out of the board, each by itself, and joined as a hand joins them for a test. */
  function apart(joins: readonly (readonly [string, string])[]): Element[] {
    const elements = house.input.elements.flatMap((e): Element[] => {
      if (e.kind === 'breaker' || e.kind === 'rcd' || e.kind === 'load') return []
      const cable = circuit.cables.find((k) => e.id.startsWith(`wire ${k.id} `))
      if (e.kind !== 'wire' || !cable) return [e]
      const role = e.id.slice(`wire ${cable.id} `.length)
      if (cable.from.kind !== 'point') return [{ ...e, a: `${role} first` }]
      return cable === closing ? [{ ...e, b: `${role} last` }] : [e]
    })
    return [...elements, ...joins.map(([a, b], i): Element => ({ id: `link ${i}`, kind: 'switch', poles: [{ a, b }] }))]
  }
  const ohms = (elements: Element[], a: string, b: string) =>
    network({ ...house.input, elements, state: { open: [] }, probes: [{ id: 'x', kind: 'ohms', a, b }] }).probes.x
  it('reads end to end what the design says of each conductor', () => {
    for (const [id, role] of [
      ['ring-line', 'line'],
      ['ring-neutral', 'neutral'],
      ['ring-protective', 'pe'],
    ] as const)
      expect(ohms(apart([]), `${role} first`, `${role} last`), id).toBeCloseTo(nominal(id), 6)
  })
  it('reads as it should at every socket of it with its ends crossed', () => {
    for (const [name, role] of [
      ['neutral', 'neutral'],
      ['protective', 'pe'],
    ] as const) {
      const crossed = apart([
        ['line first', `${role} last`],
        ['line last', `${role} first`],
      ])
      let along = 0
      const inRing = circuit.points.filter((x) => x.from === null)
      const whole = inRing.reduce((sum, p) => sum + p.lengthM!, circuit.closeM!)
      for (const p of inRing) {
        along += p.lengthM! / whole
        const feed = house.boxes.find((b) => b.id === p.id)!.cables.find((k) => k.side === 'feed')!.id
        const test = `ring-crossed-${name}-${p.id}`
        const read = ohms(crossed, `${p.id}|${feed} line`, `${p.id}|${feed} ${role}`)
        // With a thinner conductor beside the line it reads a little less towards the board; the design says what the middle reads.
        const [r1, r2] = [nominal('ring-line'), nominal(name === 'neutral' ? 'ring-neutral' : 'ring-protective')]
        const there = ((along * r1 + (1 - along) * r2) * ((1 - along) * r1 + along * r2)) / (r1 + r2)
        expect(read, test).toBeCloseTo(there, 6)
        if (name === 'neutral') expect(read, test).toBeCloseTo(nominal(test), 6)
        const { expect: band } = tests.find((t) => t.id === test)!
        expect(band.kind === 'range' && Number(read) > band.min! && Number(read) < band.max!, test).toBe(true)
      }
    }
  })
  it('that is broken into feeds the new socket from both sides, and still does with one leg parted', () => {
    const longer = worked(applyEdit(demos[1]!, ringAdded).job)
    const box = longer.house.boxes.find((b) => b.id === 'new')!
    expect(box.cables.filter((k) => k.recorded)).toHaveLength(2)
    const outlet = longer.house.outlets.find((o) => o.point === 'new')!.id
    const across = (open: string[]) =>
      liveOf({ ...longer.house, input: { ...longer.house.input, state: { open } } }).outlets[outlet]!.across
    expect(across([])).toBeGreaterThan(200)
    const legs = box.cables.filter((k) => k.recorded).map((k) => `wire ${k.id} line`)
    for (const leg of legs) expect(across([leg]), leg).toBeGreaterThan(200)
    expect(across(legs)).toBeLessThan(1)
  })
})

it('a run loses along it, and has as its loop, what the design says, brought from cold to hot', () => {
  let held = 0
  for (const record of demos) {
    const { job, report, house } = worked(record)
    const { metric } = worlds[job.region]
    for (const { circuit, chosen } of report.circuits) {
      const { result, design } = chosen
      if (!result?.size || !metric || circuit.kind !== 'radial' || circuit.points.length || circuit.feeder || !circuit.end) continue
      if (design.stretches.length || house.switching.every((s) => s.element !== `breaker ${circuit.id}`)) continue
      const data = metric.cables[design.cable]?.data ?? metric.usual
      const at = (core: string) => `${circuit.end!.id}|${circuit.cables[0]!.id} ${core}`
      const probes = [
        { id: 'l', kind: 'ohms' as const, a: `${circuit.id}|L`, b: at('line') },
        { id: 'e', kind: 'ohms' as const, a: `${circuit.board}|PE`, b: at('pe') },
      ]
      const { l, e } = network({ ...house.input, state: { open: [`breaker ${circuit.id}`] }, probes }).probes
      const metres = (1000 * Number(l)) / data.milliOhmPerMetre20C[result.size]!
      const dropV = (metres * data.milliVoltPerAmpereMetre[result.size]! * result.loadA) / 1000
      expect((100 * dropV) / circuit.load.volts!, circuit.name).toBeCloseTo(result.dropPercent!, 6)
      if (job.supply.zeOhm !== null && result.zsOhm != null)
        expect(job.supply.zeOhm + (Number(l) + Number(e)) * data.operatingMultiplier, circuit.name).toBeCloseTo(result.zsOhm, 6)
      held++
    }
  }
  expect(held).toBeGreaterThan(1)
})
