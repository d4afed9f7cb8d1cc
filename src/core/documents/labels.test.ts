import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { applyEdit, type Edit } from '../job/edits'
import { type Job, newJob } from '../job/schema'
import { circuitLabels } from './labels'

const made = (edits: readonly Edit[], from: Job): Job => edits.reduce((job, e) => applyEdit(job, e).job, from)
const linesOf = (record: Job, circuit: string): readonly string[] => {
  const job = read(record)
  return circuitLabels(job, evaluate(job, []).byCircuit.get(circuit)!, '2026-11-27', 'metric').flatMap((l) => l.lines)
}
const laid: Edit[] = [
  { kind: 'supply.set', patch: { zeOhm: 0.3, earthing: 'tn-s' } } as Edit,
  { kind: 'load.set', circuit: 'c1', patch: { amount: 300, volts: 230, basis: 'watts', lighting: true, connection: 'fixed' } } as Edit,
  {
    kind: 'circuit-point.add',
    circuit: 'c1',
    points: [
      { id: 's', name: 'Switch', lengthM: 9, kind: 'switch', outlets: 0, watts: 0 },
      { id: 'l', name: 'Light', from: 's', lengthM: 4, kind: 'light', outlets: 0, watts: 60 },
    ],
  } as Edit,
]

describe('a label inside a cover', () => {
  it('tells what is always live there from what is switched', () => {
    const lines = linesOf(
      made(
        [...laid, { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-switch-1p' } } as Edit],
        newJob('united-kingdom', 'L', ''),
      ),
      'c1',
    )
    expect(lines.find((l) => l.startsWith('Always live: '))).toMatch(/brown of the cable from the consumer unit/)
    expect(lines.find((l) => l.startsWith('Switched: '))).toMatch(/brown of the cable to Light/)
  })
  it('says nothing of the kind where no line there is switched', () => {
    for (const d of demoJobs) {
      const record = made(d.edits, newJob(d.region, d.title, d.place))
      for (const { circuit: c } of evaluate(record, []).circuits.filter((x) => x.ends.every((e) => !e.fitted?.poles)))
        expect(
          linesOf(record, c.id).filter((l) => l.startsWith('Switched')),
          c.name,
        ).toEqual([])
    }
  })
  it('names other circuits in the box, and a neutral that two lines share, at the board too', () => {
    const dairy = demoJobs[0]!
    const record = made(dairy.edits, newJob(dairy.region, dairy.title, dairy.place))
    const shared = read(record).circuits.find((c) => c.kind === 'shared-neutral')!
    expect(linesOf(record, shared.id).filter((l) => l === 'Two lines share its neutral: open both').length).toBeGreaterThan(1)
    const two = made(
      [
        ...laid,
        { kind: 'circuit.add', id: 'c2', name: 'Pump' } as Edit,
        { kind: 'circuit.connect', circuit: 'c2', way: '7' } as Edit,
        {
          kind: 'source.choose',
          circuit: 'c2',
          source: { kind: 'extend', from: 's', words: 'Switch', reason: 'near', at: '2026-11-27' },
        } as Edit,
      ],
      newJob('united-kingdom', 'L', ''),
    )
    expect(linesOf(two, 'c1')).toContain('Also in here: Pump, way 7')
  })
})
