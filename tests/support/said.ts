import { readFileSync } from 'node:fs'
import { designWorkings, pointWorkings } from '../../src/core/documents/sheet'
import { evaluate } from '../../src/core/evaluate/evaluate'
import { type Installation, read } from '../../src/core/installation/installation'
import { readJobFile } from '../../src/core/job/file'
import { inJob } from '../../src/core/region/spelling'
import { makePaper } from '../../src/server/papers'
import { linesOf, textOf } from './pdf'

/* Everything that a job says, line by line: findings, open questions, workings, tests and every paper. */

const papers =
  'record.pdf wiring.pdf boxes.pdf template.pdf bending.pdf route.pdf trace.pdf design.pdf door.pdf day.pdf offer.pdf needed.csv labels.pdf'

export const jobOf = (file: string) => readJobFile(JSON.parse(readFileSync(`tests/jobs/${file}`, 'utf8')))

/** Sentences of the screens, in the words of the job's world. */
export function sentencesOf(job: Installation, readings: ReturnType<typeof jobOf>['readings']): string[] {
  const report = evaluate(job, readings)
  const lines = report.stages.flatMap((s) => [...s.findings.map((f) => f.message), ...s.open.map((o) => o.ask)])
  for (const c of report.circuits) {
    for (const w of [...Object.values(designWorkings(job, c.circuit, c.chosen)), ...pointWorkings(job, c.circuit, c.chosen)])
      lines.push(w.numbers, w.remark ?? '', ...w.inputs.map((i) => `${i.name} ${i.value}`))
    for (const t of c.tests) lines.push(`${t.title} ${t.how}`)
  }
  return lines.map((l) => inJob(job, l))
}

/** Sentences of the screens and the lines of every paper. */
export async function saidBy(file: string, units: 'metric' | 'imperial'): Promise<string[]> {
  const { job: record, readings } = jobOf(file)
  const lines = sentencesOf(read(record), readings)
  const stored = { id: 'j', revision: 3, job: record, readings, undo: null, redo: null, updatedAt: '2026-11-20T08:00:00.000Z' }
  for (const name of papers.split(' ')) {
    const { body } = (await makePaper(name, { stored, units, circuit: null }))!
    const said = name.endsWith('.pdf')
      ? linesOf(await textOf(body)).flat()
      : String(body)
          .replaceAll(/,(m|ft),/g, ' $1 ')
          .split('\n')
    lines.push(...said.map((l) => `${name}: ${l}`))
  }
  return lines
}
