import { describe, expect, it } from 'vitest'
import { inCircuit } from '../demo/kit'
import { evaluate } from '../evaluate/evaluate'
import { applyEdit, type Edit } from '../job/edits'
import { newJob } from '../job/schema'

const c = inCircuit('c2')
const lamp = { kind: 'light', lengthM: 4, outlets: 0 } as const
const judged = (controls: string[] | undefined, watts: number) => {
  const edits: Edit[] = [
    c.add('Hall lights'),
    c.load({ volts: 230, amount: 0, connection: 'fixed', lighting: true }),
    c.design({ accessory: 'uk-switch-1p' }),
    c.run({ lengthM: 8 }),
    c.points(
      { id: 's', name: 'Switch', kind: 'switch', lengthM: 6, outlets: 0, watts: 0, ...(controls ? { controls } : {}) },
      { id: 'l', name: 'Lamp', from: 's', watts: 60, ...lamp },
      { id: 'm', name: 'Stage lamp', from: 'l', watts, ...lamp },
      { id: 'a', name: 'Smoke alarm', from: 'm', watts: 5, mustHold: true, ...lamp, kind: 'fixed', accessory: 'uk-dp-20' },
    ),
  ]
  const { circuits } = evaluate(
    edits.reduce((j, e) => applyEdit(j, e).job, newJob('united-kingdom', 'Stage', 'Village hall')),
    [],
  )
  return circuits.find((x) => x.circuit.id === 'c2')!.findings.map((f) => f.rule)
}

describe('a switch that names what it controls', () => {
  it('leaves an alarm beyond it on the permanent feed; one that does not say switches it off', () => {
    expect(judged(undefined, 60)).toContain('alarm-on-switched-leg')
    expect(judged(['l'], 60)).not.toContain('alarm-on-switched-leg')
    expect(judged(['l', 'a'], 60)).toContain('alarm-on-switched-leg')
  })
  it('carries what it controls and no more, at its rating and just over it', () => {
    // A plate switch of 10 A; what stays on goes past it.
    expect(judged(['l', 'm'], 2230)).not.toContain('accessory-below-load')
    expect(judged(['l', 'm'], 2300)).toContain('accessory-below-load')
    expect(judged(['l'], 2300)).not.toContain('accessory-below-load')
  })
})
