import { describe, expect, it } from 'vitest'
import { evaluate } from '../evaluate/evaluate'
import { applyEdit, type Edit } from '../job/edits'
import { newJob } from '../job/schema'
import { newDefect } from '../job/report'
import type { RegionId } from '../region/types'
import { readDefects } from './csv'

const said = (region: RegionId, ...edits: Edit[]) => {
  const job = edits.reduce((j, e) => applyEdit(j, e).job, newJob(region, 'Hall', ''))
  return evaluate(job, []).stages.flatMap((s) =>
    s.findings.filter((f) => f.rule.startsWith('report-')).map((f) => `${f.severity} ${f.rule}`),
  )
}
const add = (code: 'C1' | 'C2' | 'C3' | 'FI', state: 'open' | 'work' | 'done' = 'open'): Edit => ({
  kind: 'defect.add',
  items: [newDefect(`d-${code}-${state}`, 'Socket cracked', { code, state })],
})

describe('codes of a condition report', () => {
  it('are read from the words of a finding where reports have them, the most urgent first', () => {
    const csv = 'Finding,Place\nC2 socket cracked,Stage left\nFI and C1: live parts bare,Loft\nC20 lamp dim,Hall\n'
    const codes = (coded: boolean) => readDefects(csv, () => 'x', coded).map((r) => r.item?.code ?? null)
    expect(codes(true)).toEqual(['C2', 'C1', null])
    expect(codes(false)).toEqual([null, null, null])
  })
  it('say how grave a finding is, and danger stays danger until it is put right', () => {
    expect(said('united-kingdom', add('C1'))).toEqual(['error report-c1', 'warning report-unanswered'])
    expect(said('united-kingdom', add('C2'))).toContain('warning report-c2')
    expect(said('united-kingdom', add('C3'))).toContain('note report-c3')
    expect(said('united-kingdom', add('FI'))).toContain('unknown report-fi')
    expect(said('united-kingdom', add('C1', 'work'))).toEqual(['error report-c1'])
    expect(said('united-kingdom', add('C2', 'work'))).toEqual([])
    expect(said('united-kingdom', add('C1', 'done'))).toEqual([])
  })
  it('are none elsewhere', () => {
    expect(said('north-america', add('C1'))).toEqual(['warning report-unanswered'])
    const job = applyEdit(newJob('southern-africa', 'Farm', ''), { kind: 'defect.add', items: [newDefect('d', 'x')] }).job
    expect(() => applyEdit(job, { kind: 'defect.set', id: 'd', patch: { code: 'C1' } })).toThrow('no such codes')
  })
})
