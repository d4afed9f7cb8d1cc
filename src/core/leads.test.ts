import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { evaluate, type Report } from './evaluate'
import { readJobFile } from './job/file'
import { type Lead, leadOf, leadOfFact, leadOfOpen } from './leads'
import { facts } from './rules/engine'
import { stageOf } from './stages'
import { demandFacts } from './survey/service'

const screens = readdirSync('src/features', { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('.tsx'))
  .map((f) => readFileSync(`src/features/${f}`, 'utf8'))
  .join('\n')

/** Whether some screen wears each field's label, and each sheet is one. */
function expectThere({ stage, fields = [], sheet }: Lead): void {
  for (const field of fields) expect(screens.match(new RegExp(`["'\`>]${field}["'\`<…]`)), field).not.toBeNull()
  if (sheet) expect(stageOf(stage).sheets.map((s) => s.id)).toContain(sheet)
}
const jobs: (readonly [string, Report])[] = readdirSync('tests/jobs')
  .filter((f) => f.endsWith('.json') && f !== 'expect.json')
  .map((f) => {
    const { job, readings } = readJobFile(JSON.parse(readFileSync(`tests/jobs/${f}`, 'utf8')))
    return [f, evaluate(job, readings)] as const
  })

describe('leads', () => {
  it('every fact a rule may ask for leads to a field that some screen shows', () => {
    for (const name of [...(Object.keys(facts) as (keyof typeof facts)[]), ...demandFacts]) expectThere(leadOfFact[name])
  })
  it('everything found and everything open in whole jobs leads somewhere that is there', () => {
    expect(jobs.length).toBeGreaterThan(80)
    let asked = 0
    for (const [, report] of jobs)
      for (const s of report.stages) {
        for (const f of s.findings) {
          expectThere(leadOf(f, s.id))
          if (f.asks) asked++
        }
        for (const o of s.open) expectThere(leadOfOpen(o))
      }
    expect(asked).toBeGreaterThan(0)
  })
  it('what lacks a fact leads to that fact, whichever rule asks; else where the rule is put right, or the link it stands at', () => {
    const about = (rule: string, asks?: string[]) => ({
      rule,
      severity: 'unknown' as const,
      clause: '',
      message: '',
      ...(asks ? { asks } : {}),
    })
    expect(leadOf(about('breaking-capacity', ['psc']), 'circuit').fields).toEqual(['Fault current at the board'])
    expect(leadOf(about('breaking-capacity'), 'circuit').fields).toEqual(['Its breaker breaks'])
    expect(leadOf(about('service-demand', ['behindWays']), 'survey')).toMatchObject({ sheet: 'trace' })
    expect(leadOf(about('service-demand', ['pointLoads']), 'survey')).toMatchObject({ sheet: 'points' })
    expect(leadOf(about('service-demand', ['load']), 'survey')).toMatchObject({ stage: 'brief' })
    expect(leadOf(about('service-demand'), 'survey')).toMatchObject({ sheet: 'board', fields: ['Main', 'Floor area'] })
    expect(leadOf(about('main-switch-unknown'), 'survey')).toMatchObject({ sheet: 'board', fields: ['Main switch'] })
    expect(leadOf(about('cord-below-load'), 'circuit')).toMatchObject({ sheet: 'this', at: 'part:cord' })
    expect(leadOf(about('something-of-the-tests'), 'test')).toEqual({ stage: 'test' })
  })
})
