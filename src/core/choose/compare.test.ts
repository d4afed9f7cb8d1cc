import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import { newJob } from '../../../tests/support/shorthand'
import { compareDesigns } from './compare'

const dairy = demoJobs[0]!
const rows = (more: Edit[] = []) => {
  const job = [...dairy.edits, ...more].reduce((j, e) => applyEdit(j, e).job, newJob(dairy.region, dairy.title, dairy.place))
  return compareDesigns(job.region, evaluate(job, []).circuits[0]!.designs, 'imperial')
}

describe('alternatives', () => {
  it('differ in just what was changed, and in what follows from it', () => {
    const differing = rows().filter((r) => r.differs)
    expect(differing.filter((r) => !r.outcome).map((r) => r.name)).toEqual(['Ends on'])
    expect(differing.filter((r) => r.outcome).map((r) => r.name)).toEqual(['Size', 'Carries', 'Voltage drop', 'Weakest link', 'Findings'])
    expect(differing.find((r) => r.name === 'Size')!.values).toEqual(['10 AWG', '6 AWG'])
  })
  it('say lengths and temperatures in the units asked for', () => {
    expect(rows().find((r) => r.name === 'Length')!.values).toEqual(['70 ft', '70 ft'])
    expect(rows().find((r) => r.name === 'Ambient')!.values[0]).toBe('86 °F')
  })
  it('show what is open as open', () => {
    const open = rows([{ kind: 'design.set', circuit: 'c1', design: 'b', patch: { lengthM: null } }])
    expect(open.find((r) => r.name === 'Length')!.values).toEqual(['?', '?'])
    expect(open.find((r) => r.name === 'Breaker')!.values).toEqual(['?', '?'])
  })
})
