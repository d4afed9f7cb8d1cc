import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { foreignTerms } from '../../../scripts/forbidden-phrases'
import { anyJob, anyOldJob, some } from '../../../tests/support/any-job'
import { fitnessFor } from '../catalogue/fitness'
import { compareDesigns } from '../choose/compare'
import { timeCurrent } from '../choose/curves'
import { layOutOptions } from '../choose/options'
import { placements } from '../choose/placements'
import { selectCircuitInput } from '../calculate/select-circuit'
import { selectInputs } from '../design/circuit-input'
import { designWorkings, pointWorkings, sheetTables } from '../documents/sheet'
import { boxDrawing } from '../drawing/box'
import { chainDrawing } from '../drawing/chain'
import { profileDrawing } from '../drawing/profile'
import { benchDrawing } from '../drawing/bench'
import { endingsOf, fittedAt } from '../design/endings'
import { evaluate } from './evaluate'
import { severities } from '../base/finding'
import { type Installation as Job, read } from '../installation/installation'
import { fromVersion2 } from '../job/older/bring-up'
import type { Circuit as OldCircuit } from '../job/older/version-2'
import { jobSchema } from '../job/schema'
import { onItsWays } from '../rules/existing'
import { completed, rules } from '../rules'
import { facts } from '../rules/engine'
import { oldQuestionsFor } from '../rules/old-work'
import { circuitLabels } from '../documents/labels'
import { needsTable } from '../documents/needs-table'
import { defectKindsFor } from '../catalogue/defects'
import { boxPoints } from '../build/carries'
import { workSteps } from '../build/steps'

/*
 * Whatever a user may have entered so far, however odd, is answered: by a figure, by a finding or by "not known", and
 * never by an exception, a NaN or a word that only a program would say.
 */

/** Words for people, numbers that are numbers. */
const nonsense = /\bNaN\b|undefined|\bnull\b|Infinity|\[object|∞|\$\{|\d\.\d{7}/
/** Where a name is missing. */
const hollow = /\(\)|“”| {2}| [,.;:)]/
function sane(words: string, where: string) {
  if (nonsense.test(words)) throw new Error(`${where}: ${words}`)
}
function whole(words: string, where: string) {
  if (hollow.test(words)) throw new Error(`${where} lacks a name: ${words}`)
}

describe('anything that can be entered', () => {
  it('is answered in the words of its own world', () => {
    const said = (job: Job, where: string, words: string) => {
      const word = foreignTerms[job.region].exec(words)?.[0]
      if (word) throw new Error(`${where} says “${word}” in ${job.region}: ${words}`)
    }
    fc.assert(
      fc.property(anyJob.map(read), (job) => {
        const report = evaluate(job, [])
        for (const s of report.stages)
          for (const words of [...s.findings.map((f) => f.message), ...s.open.map((o) => o.ask)]) said(job, s.id, words)
        for (const q of [...oldQuestionsFor(job.region), ...fitnessFor(job.region)]) said(job, q.id, q.ask)
        for (const q of fitnessFor(job.region)) said(job, q.id, q.reason)
        for (const k of defectKindsFor(job.region)) said(job, k.id, `${k.name}. ${k.cure}`)
        for (const c of report.circuits) {
          for (const t of c.tests) said(job, t.id, `${t.title} ${t.how}`)
          for (const e of c.ends) if (e.built) for (const step of workSteps(job, e.built, 'metric')) said(job, step.id, step.text)
          for (const w of [...Object.values(designWorkings(job, c.circuit, c.chosen)), ...pointWorkings(job, c.circuit, c.chosen)])
            said(job, 'working', `${w.title} ${w.formula} ${w.numbers}`)
          for (const p of placements(job, c.circuit, c.chosen.design)) said(job, 'placement', `${p.words} ${p.dark} ${p.guards}`)
          for (const r of compareDesigns(job.region, [c.chosen], 'metric'))
            if (r.name !== 'Findings') said(job, 'comparison', `${r.name} ${r.values.join(' ')}`)
          for (const l of circuitLabels(job, c, '2026-11-20', 'metric')) said(job, 'label', `${l.where} ${l.lines.join(' ')}`)
        }
      }),
      { numRuns: 400 },
    )
  })

  it('is answered, in words and figures, on every sheet of the circuit', () => {
    let [worked, charts, tables] = [0, 0, 0]
    fc.assert(
      fc.property(anyJob.map(read), some(['metric', 'imperial'] as const), (job, units) => {
        expect(jobSchema.safeParse(job.record).error).toBeUndefined()
        const report = evaluate(job, [])
        for (const s of report.stages)
          for (const f of s.findings) {
            if (!severities.includes(f.severity) || f.clause.length <= 1 || !/^\S.*[.…:]$/.test(f.message)) expect.fail(JSON.stringify(f))
            sane(f.message, f.rule)
            whole(f.message, f.rule)
          }
        for (const o of report.stages.flatMap((s) => s.open)) {
          sane(o.ask, o.field)
          whole(o.ask, o.field)
        }
        for (const { circuit, chosen, ends } of report.circuits) {
          // What the record gives is within the contract of the calculator, which is not asked again at each evaluation.
          for (const { input } of circuit.designs.flatMap((d) => selectInputs(job, circuit, d) ?? []))
            expect(selectCircuitInput.parse(input)).toEqual(input)
          const drawings = [
            chainDrawing(job, circuit, chosen, units),
            chainDrawing(job, circuit, chosen, units, 'narrow'),
            ...(chosen.layout ? [profileDrawing(circuit, chosen.layout, 5, units)] : []),
            ...ends.flatMap((e) => [boxDrawing(e.boxReport, units), ...(e.built ? [benchDrawing(e.built, null)] : [])]),
          ]
          for (const d of drawings) {
            expect(d.shapes.length).toBeLessThan(4000)
            for (const shape of d.shapes) if (shape.kind === 'text') sane(shape.text, d.title)
            // Asked of each of some millions of figures: what is fine costs nothing.
            for (const shape of d.shapes)
              for (const v of Object.values(shape))
                if (typeof v === 'number' && !Number.isFinite(v)) expect.fail(`${d.title}: ${JSON.stringify(shape)}`)
          }
          for (const w of [...Object.values(designWorkings(job, circuit, chosen)), ...pointWorkings(job, circuit, chosen)])
            sane(
              Object.values(w)
                .flat()
                .map((x) => (typeof x === 'string' ? x : x.value))
                .join(' | '),
              w.title,
            )
          for (const t of sheetTables(circuit, chosen, units)) sane(t.rows.flat().join(' | '), t.title)
          const needs = needsTable(job, circuit, chosen)
          expect(needs.rows.every((r) => r.length === needs.columns.length)).toBe(true)
          sane([...needs.rows.flat(), ...needs.clauses].join(' | '), 'needs')
          tables += needs.rows.length
          for (const p of placements(job, circuit, chosen.design)) sane(`${p.words} ${p.cost} ${p.dark} ${p.guards}`, 'placement')
          sane(
            compareDesigns(job.region, [chosen, chosen], units)
              .flatMap((r) => Object.values(r))
              .join(' | '),
            'comparison',
          )
          for (const l of circuitLabels(job, report.byCircuit.get(circuit.id)!, '2026-11-20', units)) sane(l.lines.join(' | '), 'label')
          const curves = timeCurrent(job, circuit, chosen.design, chosen.result)
          if (curves) {
            charts++
            expect(
              [...curves.breaker.holds, ...curves.breaker.trips, ...curves.cable].flat().every((n) => Number.isFinite(n) && n > 0),
            ).toBe(true)
          }
          if (chosen.result?.size) worked++
        }
      }),
      { numRuns: 400 },
    )
    expect(Math.min(worked, charts)).toBeGreaterThan(20)
    expect(tables).toBeGreaterThan(500)
  })

  it('has its options laid out, or a reason why it cannot be built', () => {
    let laid = 0
    const lengths = <T extends { readonly lengthM: number | null }>(list: readonly T[], lengthM: number): T[] =>
      list.map((x) => ({ ...x, lengthM: x.lengthM ?? lengthM }))
    fc.assert(
      fc.property(anyJob, fc.boolean(), (record, measured) => {
        const cables = lengths(record.cables, 7).map((k) => ({ ...k, stretches: lengths(k.stretches, 3) }))
        const job = read(measured ? { ...record, cables } : record)
        const [circuit] = job.circuits
        const options = layOutOptions(job, circuit!, circuit!.designs[0]!)
        // No length that was not measured is paid for, or taken for none.
        if (options) expect(circuit!.points.map((p) => p.lengthM)).not.toContain(null)
        for (const o of options ?? []) {
          laid++
          sane(o.words, 'option')
          for (const n of [o.cost, o.dropPercent, o.marginA, o.wattsLost, o.kwhAYear, o.laterA]) expect(Number.isFinite(n)).toBe(true)
        }
      }),
      { numRuns: 300 },
    )
    expect(laid).toBeGreaterThan(15)
  })

  it('never passes a rule that looks at a fact which is not known', () => {
    const asked = new Set<string>()
    fc.assert(
      fc.property(anyJob.map(read), (job) => {
        for (const { circuit, chosen } of evaluate(job, []).circuits) {
          const about = { job, circuit, design: chosen.design, result: chosen.result, worked: chosen, fed: chosen.fed }
          const given = completed({ ...about, there: onItsWays(job, circuit) })
          for (const rule of rules) {
            const missing = rule.looksAt.some((name) => facts[name].of(given) === null)
            if (rule.clause[job.region] === undefined || !missing || rule.applies?.(given) === false || chosen.fed) continue
            expect(chosen.findings.filter((f) => f.rule === rule.id).map((f) => f.severity)).toEqual(['unknown'])
            asked.add(rule.id)
          }
        }
      }),
      { numRuns: 300 },
    )
    expect(asked.size).toBeGreaterThan(8)
  })

  it('is the same where a point says for itself what its circuit says of it', () => {
    fc.assert(
      fc.property(anyOldJob, (job) => {
        const said = (c: OldCircuit): OldCircuit => ({
          ...c,
          points: c.points.map((p) => ({
            ...p,
            place: p.place ?? c.place,
            nearWater: p.nearWater ?? c.nearWater,
            outOfReach: p.outOfReach ?? c.outOfReach,
            environment: p.environment ?? c.environment,
            // A light is brought up as a light, whatever else is on its circuit.
            accessory: p.accessory ?? (c.load.lighting && p.outlets === 0 ? null : c.designs[0]!.accessory),
            fitted: p.fitted ?? c.designs[0]!.fitted,
          })),
        })
        const [before, after] = [evaluate(fromVersion2(job), []), evaluate(fromVersion2({ ...job, circuits: job.circuits.map(said) }), [])]
        after.circuits.forEach((c, i) => {
          expect(c.chosen.findings).toEqual(before.circuits[i]!.chosen.findings)
          expect(c.chosen.result).toEqual(before.circuits[i]!.chosen.result)
          expect(c.tests).toEqual(before.circuits[i]!.tests)
          expect(c.ends.map((e) => [e.fitted?.id, e.where, e.size])).toEqual(
            before.circuits[i]!.ends.map((e) => [e.fitted?.id, e.where, e.size]),
          )
        })
      }),
      { numRuns: 200 },
    )
  })

  it('has each of its points at one end, and a box and steps for every end', () => {
    let several = 0
    fc.assert(
      fc.property(anyJob.map(read), (job) => {
        for (const { circuit, chosen, ends } of evaluate(job, []).circuits) {
          const endings = endingsOf(circuit, chosen.design)
          const at = endings.flatMap((e) => e.points.map((p) => p.id))
          expect(new Set(at).size).toBe(at.length)
          expect(at.toSorted()).toEqual(
            circuit.points
              .filter((p) => p.kind !== 'box' && fittedAt(chosen.design, p))
              .map((p) => p.id)
              .toSorted(),
          )
          expect(new Set(endings.map((e) => e.fitted.id)).size).toBe(endings.length)
          // Every point has a box of its own; a feeder ends in a board.
          const boxed = ends.flatMap((e) => e.points)
          expect(boxed.toSorted()).toEqual(
            boxPoints({ circuit })
              .map((p) => p.id)
              .toSorted(),
          )
          for (const e of ends) expect(e.steps.length > 0).toBe(e.fitted !== undefined)
          if (ends.length > 1) several++
        }
      }),
      { numRuns: 200 },
    )
    expect(several).toBeGreaterThan(20)
  })
})
