import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { applyEdit } from '../job/edits'
import { newJob } from '../job/schema'
import { guessColumns, readPasted, tableOf, testNamed } from './paste'

const honey = demoJobs[2]!
const { tests } = evaluate(
  honey.edits.reduce((job, e) => applyEdit(job, e).job, newJob(honey.region, honey.title, '')),
  [],
).circuits[0]!
const open = () => null
const pasted = (text: string, shut: Parameters<typeof readPasted>[3] = open) => {
  const rows = tableOf(text)
  return readPasted(rows, guessColumns(rows, tests), tests, shut)
}

describe('readings that are pasted', () => {
  it('are known by the name of the test, whatever the order of the columns and what separates them', () => {
    const expected = [
      ['insulation-l-n', 310],
      ['insulation-l-e', 250],
    ]
    for (const text of [
      'Insulation, live to neutral\t310\tMΩ\nInsulation, live to earth\t250\tMΩ',
      'value;unit;test\n310;MΩ;Insulation, live to neutral\n250;MΩ;Insulation, live to earth',
      '1|310000|kΩ|insulation-l-n\n2|250000|kΩ|insulation-l-e',
      '"Insulation, live to neutral",310\n"Insulation, live to earth",250',
    ])
      expect(pasted(text).map((r) => [r.test?.id, r.reading?.value])).toEqual(expected)
  })
  it('over range and open are readings; what is none says so, at its line', () => {
    const rows = pasted(
      'Insulation, live to neutral\t>200\nInsulation, live to earth\tOL\nInsulation, neutral to earth\tgood\nSomething else\t5',
    )
    expect(rows.map((r) => r.reading)).toEqual([{ value: 200, mark: 'over' }, { value: null, mark: 'open' }, null, null])
    expect(rows[2]).toMatchObject({ line: 3, why: '“good” is no reading in MΩ' })
    expect(rows[3]!.why).toMatch(/no test of this circuit/)
  })
  it('no step is ticked by a paste, and no shut phase takes any', () => {
    expect(pasted('Lock it off and tag it\t1')[0]!.why).toMatch(/ticked where it is done/)
    const shut = pasted('Insulation, live to neutral\t310', (phase) => (phase === 'dead' ? 'isolate first' : null))
    expect(shut[0]).toMatchObject({ reading: { value: 310 }, why: 'shut: isolate first' })
  })
  it('a name that more than one test has is nobody’s', () => {
    expect(testNamed('Insulation', tests)).toBeNull()
    expect(testNamed('Insulation live to neutral', tests)?.id).toBe('insulation-l-n')
    expect(testNamed('', tests)).toBeNull()
    expect(tableOf('x\n'.repeat(2000))).toHaveLength(500)
    expect(pasted('')).toEqual([])
  })
})
