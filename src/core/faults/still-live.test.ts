import { describe, expect, it } from 'vitest'
import { after, newJob } from '../../../tests/support/shorthand'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import type { Reading } from '../job/reading'
import { stillLive } from './still-live'

const demo = demoJobs[0]!
const job = after(newJob(demo.region, demo.title, ''), ...demo.edits)
const reading = (test: string, value: number): Reading => ({
  id: `${test} ${value}`,
  circuit: 'c1',
  point: null,
  test,
  value,
  mark: null,
  unit: 'V',
  instrument: '',
  note: '',
  by: 'A',
  at: '2026-11-20T08:00:00.000Z',
  corrects: null,
  on: null,
})
function said(value: number, pair = 'l1-e') {
  const bare = evaluate(job, []).byCircuit.get('c1')!
  const test = bare.tests.find((t) => t.id.startsWith('iso-dead-') && t.id.endsWith(pair))!
  return stillLive(job, evaluate(job, [reading(test.id, value)]).byCircuit.get('c1')!)
}

describe('a conductor that should be dead', () => {
  it('and shows the voltage of the supply is fed: its breaker is not the one that was switched off', () => {
    const found = said(118)!
    expect(found).toMatchObject({ voltage: 'full', read: expect.stringContaining('118 V') })
    expect(found.causes[0]).toContain('is not the one that feeds it')
  })
  it('and shows part of it may float, and counts as live until a load proves otherwise', () => {
    const found = said(60)!
    expect(found.voltage).toBe('part')
    expect(found.causes[0]).toContain('Until then it is live')
  })
  it('and reads next to nothing is no finding', () => {
    expect(said(0.4)).toBeNull()
    expect(stillLive(job, evaluate(job, []).byCircuit.get('c1')!)).toBeNull()
  })
})
