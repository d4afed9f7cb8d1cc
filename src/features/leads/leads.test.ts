import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { evaluate, type Report } from '@/core/evaluate/evaluate'
import { fitnessFor } from '@/core/catalogue/fitness'
import { regionIds } from '@/core/region/types'
import { oldQuestionsFor } from '@/core/rules/old-work'
import { JobFileError, readJobFile } from '@/core/job/file'
import { read } from '@/core/installation/installation'
import type { Job } from '@/core/job/schema'
import { rules } from '@/core/rules'
import { computedRules } from '@/core/rules/computed'
import { pointRules } from '@/core/rules/points'
import { type Lead, leadOf, leadOfFact, leadOfOpen } from './leads'
import { facts } from '@/core/rules/engine'
import { type StageId, stageIds, stageOf } from '@/core/report/stages'
import { demandFacts } from '@/core/survey/service'

const literal = (s: string): string => s.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
const quoted = /'([^'\n]+)'|"([^"\n]+)"|`([^`\n]+)`|^ *([A-Z][^<>{}()=;]*)$|>([A-Z][^<>{}\n]*)</gm
/** What the screens of a stage say in quotes or between tags; in a template anything may be where something is put in. */
const saidBy = (folder: string): RegExp[] =>
  readdirSync(`src/features/${folder}`)
    .filter((f) => f.endsWith('.tsx'))
    .flatMap((f) => [...readFileSync(`src/features/${folder}/${f}`, 'utf8').matchAll(quoted)])
    .map((m) => m.slice(1).find((x) => x !== undefined)!)
    .filter((words) => /[A-Za-z]/.test(words.replaceAll(/\$\{[^}]*\}/g, '')))
    .map(
      (words) =>
        new RegExp(
          `^${words
            .split(/\$\{[^}]*\}/)
            .map(literal)
            .join('.+')}$`,
        ),
    )
const everywhere = ['fields', 'photographs', 'shell'].flatMap(saidBy)
const screens = new Map(stageIds.map((id) => [id, [...saidBy(id), ...everywhere]]))
/** Questions are asked in the words of the core. */
const questions = new Set(regionIds.flatMap((r) => [...fitnessFor(r), ...oldQuestionsFor(r)].map((q) => q.ask)))
const worn = (stage: StageId, field: string): boolean => questions.has(field) || screens.get(stage)!.some((said) => said.test(field))

/** Whether a screen of that stage wears each field's label, and the sheet is one of it. */
function expectThere({ stage, fields = [], sheet }: Lead): void {
  for (const field of fields) expect(worn(stage, field), `“${field}” in ${stage}`).toBe(true)
  if (sheet) expect(stageOf(stage).sheets.map((s) => s.id)).toContain(sheet)
}
function fileOrRefused(f: string) {
  try {
    return readJobFile(JSON.parse(readFileSync(`tests/jobs/${f}`, 'utf8')))
  } catch (e) {
    if (e instanceof JobFileError) return null
    throw e
  }
}
const jobs: (readonly [string, Report, Job])[] = readdirSync('tests/jobs')
  .filter((f) => f.endsWith('.json') && f !== 'expect.json')
  .flatMap((f) => {
    const file = fileOrRefused(f)
    return file ? [[f, evaluate(file.job, file.readings), file.job] as const] : []
  })

describe('leads', () => {
  it('every fact a rule may ask for leads to a field that some screen shows', () => {
    for (const name of [...(Object.keys(facts) as (keyof typeof facts)[]), ...demandFacts]) expectThere(leadOfFact[name])
  })
  it('every rule leads to a field that some screen of that stage shows', () => {
    const ids = [...rules.map((r) => r.id), ...pointRules.map((r) => r.id), ...computedRules.flatMap(([id]) => id.split(', '))]
    const noField: string[] = []
    for (const id of ids) {
      const rule = id === 'fitness-…' ? `fitness-${fitnessFor('united-kingdom')[0]!.id}` : id
      const about = id === 'old-work-not-known' ? { about: 'question:rubber' } : {}
      const lead = leadOf({ rule, severity: 'error', clause: '', message: '', ...about }, 'circuit')
      expectThere(lead)
      if (!lead.fields?.length) noField.push(id)
    }
    expect(noField).toEqual(['reading-not-placed'])
  })
  it('everything found and everything open in whole jobs leads to a field; what is open alone may lead to a list', () => {
    expect(jobs.length).toBeGreaterThan(200)
    let asked = 0
    const lists = new Set<string>()
    for (const [name, report] of jobs)
      for (const s of report.stages) {
        for (const f of s.findings) {
          const lead = leadOf(f, s.id)
          expectThere(lead)
          // What a reading belongs to is chosen in its row of the list, not in a field.
          if (f.severity !== 'note' && f.rule !== 'reading-not-placed')
            expect(lead.fields?.length ?? 0, `${name}: ${f.rule}`).toBeGreaterThan(0)
          if (f.asks) asked++
        }
        for (const o of s.open) {
          const lead = leadOfOpen(o)
          expectThere(lead)
          if (!lead.fields?.length) lists.add(o.field)
        }
      }
    expect(asked).toBeGreaterThan(0)
    expect([...lists]).toEqual(['record'])
  })
  it('what a finding is about is there to be picked', () => {
    const kinds = new Set<string>()
    for (const [name, report, record] of jobs) {
      const job = read(record)
      const tests = report.circuits.flatMap((c) => c.tests)
      const there: Readonly<Record<string, readonly { readonly id: string }[]>> = {
        way: job.ways,
        device: job.residualDevices,
        board: job.boards,
        space: job.boards,
        point: [...job.points, ...job.standing, ...job.circuits.flatMap((c) => c.points), ...job.circuits.flatMap((c) => c.end ?? [])],
        wall: job.walls,
        raceway: job.raceways,
        circuit: job.circuits,
        cable: job.cables,
        test: tests,
        question: [...fitnessFor(job.region), ...oldQuestionsFor(job.region)],
        observation: job.observations,
        task: record.day?.own ?? [],
      }
      for (const { about } of report.stages.flatMap((s) => [...s.findings, ...s.open])) {
        if (about === undefined) continue
        const [kind, ...id] = about.split(':')
        kinds.add(kind!)
        expect(
          there[kind!]?.some((x) => x.id === (kind === 'space' ? id.slice(1) : id).join(':')),
          `${name}: ${about}`,
        ).toBe(true)
      }
    }
    expect(kinds.size).toBeGreaterThan(8)
  })
  it('what lacks a fact leads to that fact, whichever rule asks; else where the rule is put right, or at its link of the chain', () => {
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
