import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readJobFile } from '../job/file'
import { evaluate, type Report } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { applyEdit } from '../job/edits'
import { layOutOptions } from './options'

/** Errors by rule, circuit and thing; a reading held against a design that is no longer the one measured says nothing of the option. */
const errors = (report: Report): string[] =>
  report.stages.flatMap((s) =>
    s.findings
      .filter((f) => f.severity === 'error' && f.rule !== 'reading-off-expectation')
      .map((f) => `${f.rule} ${f.circuit} ${f.about ?? ''}`),
  )
/** Whole jobs whose circuits have named points, that are not wired by hand: what is on a bench is as somebody put it. */
const jobs = readdirSync('tests/jobs')
  .filter((f) => /^(sound|base|na-|uk-|za-|demo-)/.test(f) && f.endsWith('.json') && !f.includes('by-hand'))
  .flatMap((f) => {
    const { job } = readJobFile(JSON.parse(readFileSync(`tests/jobs/${f}`, 'utf8')))
    return job.boxes.some((b) => b.bench) ? [] : [[f, job] as const]
  })

describe('an option that is offered as allowed', () => {
  it.each(jobs)('brings no error once it is taken: %s', (_, job) => {
    const before = evaluate(read(job), [])
    const was = new Set(errors(before))
    for (const { circuit, chosen } of before.circuits) {
      const options = layOutOptions(read(job), circuit, chosen.design, chosen.fed) ?? []
      // The cheapest that is allowed is first, with each place of protection once.
      const offered = options.filter((o, i) => o.refused.length === 0 && options.findIndex((x) => x.protection === o.protection) === i)
      for (const { patch, fit, words } of offered) {
        const taken = applyEdit(job, { kind: 'design.set', circuit: circuit.id, design: chosen.design.id, patch, fit: [...fit] }).job
        expect(
          errors(evaluate(read(taken), [])).filter((e) => !was.has(e)),
          words,
        ).toEqual([])
      }
    }
  })
})
