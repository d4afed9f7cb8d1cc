import { describe, expect, it } from 'vitest'
import { after, newJob } from '../../../tests/support/shorthand'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { applyEdit, type Edit } from '../job/edits'
import { insteadOf, sideBySide } from './alternatives'
import { materialsOf, offerOf } from '../workday/materials'
import { tasksOf } from '../workday/tasks'

const demo = (i: number, ...edits: Parameters<typeof after>[1][]) =>
  after(newJob(demoJobs[i]!.region, demoJobs[i]!.title, ''), ...demoJobs[i]!.edits, ...edits)
const total = (job: ReturnType<typeof demo>) => {
  const report = evaluate(job, [])
  return offerOf(read(job), materialsOf(read(job), report), tasksOf(read(job), report)).total
}

describe('what could be used instead', () => {
  it('is found for every accessory, box and cable of the demo jobs: with nothing more wrong, at the price it then has', () => {
    let found = 0
    for (const i of [0, 1, 2]) {
      const job = demo(i)
      const report = evaluate(job, [])
      const wrong = report.counts.error + report.counts.unknown
      for (const { id } of materialsOf(read(job), report).lines)
        for (const a of insteadOf(read(job), report, id, {}).slice(0, 2)) {
          const other = applyEdit(read(job).record, a.edit).job
          const judged = evaluate(other, [])
          expect(judged.counts.error + judged.counts.unknown, `${id} ${a.name}`).toBeLessThanOrEqual(wrong)
          expect(total(read(other) as never) - total(job)).toBeCloseTo(a.more!, 6)
          expect(materialsOf(read(other), judged).lines.some((l) => l.id === id && l.count === 0)).toBe(false)
          found++
        }
    }
    expect(found).toBeGreaterThan(6)
  })
  it('comes cheapest first, and is none for what the catalogue has no other of', () => {
    const job = demo(0)
    const report = evaluate(job, [])
    const lines = materialsOf(read(job), report).lines
    const box = lines.find((l) => l.id.startsWith('box '))!
    const more = insteadOf(read(job), report, box.id, {}).map((a) => a.more)
    expect(more).toEqual(more.toSorted((a, b) => a! - b!))
    expect(insteadOf(read(job), report, lines.find((l) => l.id.startsWith('breaker'))!.id, {})).toEqual([])
  })
  it('is side by side for each alternative of a circuit, and says where more is wrong with one', () => {
    const copy: Edit[] = [
      { kind: 'design.copy', circuit: 'c1', design: 'a', id: 'z', name: 'Dear' } as Edit,
      { kind: 'design.set', circuit: 'c1', design: 'z', patch: { minSize: '6 mm2' } } as Edit,
    ]
    const job = demo(2, ...copy)
    const report = evaluate(job, [])
    const before = sideBySide(read(demo(2)), evaluate(demo(2), []), {}).length
    const options = sideBySide(read(job), report, {})
    expect(options.length).toBeGreaterThan(before)
    const chosen = read(job).circuits.find((c) => c.id === 'c1')!.chosen
    const dear = options.find((o) => o.id === `c1 ${chosen === 'z' ? 'a' : 'z'}`)!
    expect(dear.changes.join(' ')).toMatch(/6 mm²/)
    expect(dear.worse).toBe(0)
    const odd = demo(2, copy[0]!, { kind: 'design.set', circuit: 'c1', design: 'z', patch: { minSize: '7' } } as Edit)
    const unknown = sideBySide(read(odd), evaluate(odd, []), {}).find((o) => o.id === 'c1 z')!
    // What is not worked out is no bargain.
    expect(unknown).toMatchObject({ more: null })
    expect(unknown.worse).toBeGreaterThan(0)
    const taken = applyEdit(read(job).record, dear.edit).job
    expect(total(read(taken) as never) - total(job)).toBeCloseTo(dear.more!, 6)
  })
})
