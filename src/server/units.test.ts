import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { linesOf, textOf } from '../../tests/support/pdf'
import { designWorkings, pointWorkings } from '../core/documents/sheet'
import { evaluate } from '../core/evaluate/evaluate'
import { read } from '../core/installation/installation'
import { readJobFile } from '../core/job/file'
import { makePaper } from './papers'

/* A North American job says nothing in metric units, nor one of the metric worlds in feet and inches, on any paper. */

const metric = /(?<![\w.])\d[\d.,]*\s?(mm²?|m|cm|km|N·m|cm³|mΩ\/m)(?![\w/])/
const imperial = /(?<![\w.])\d[\d.,/-]*\s?(ft²?|in³|lbf·in)(?!\w)/
const papers =
  'record.pdf wiring.pdf boxes.pdf template.pdf bending.pdf route.pdf trace.pdf design.pdf door.pdf day.pdf offer.pdf needed.csv labels.pdf'

async function saidBy(file: string, units: 'metric' | 'imperial'): Promise<string[]> {
  const { job: record, readings } = readJobFile(JSON.parse(readFileSync(`tests/jobs/${file}`, 'utf8')))
  const job = read(record)
  const report = evaluate(job, readings)
  const lines = report.stages.flatMap((s) => [...s.findings.map((f) => f.message), ...s.open.map((o) => o.ask)])
  for (const c of report.circuits) {
    for (const w of [...Object.values(designWorkings(job, c.circuit, c.chosen)), ...pointWorkings(job, c.circuit, c.chosen)])
      lines.push(w.numbers, w.remark ?? '', ...w.inputs.map((i) => `${i.name} ${i.value}`))
    for (const t of c.tests) lines.push(`${t.title} ${t.how}`)
  }
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

describe('the units of the place', () => {
  it.each(['sound3-na-routed-house-walls-only.json', 'sound3-na-nal.json', 'na-long-nipple.json', 'sound-na-kiln.json'])(
    'nothing is metric in %s',
    async (file) => {
      expect((await saidBy(file, 'imperial')).filter((l) => metric.test(l))).toEqual([])
    },
    60_000,
  )
  it.each(['sound3-uk-ukr.json', 'sound-za-geyser.json'])(
    'nothing is in feet or inches in %s',
    async (file) => {
      expect((await saidBy(file, 'metric')).filter((l) => imperial.test(l))).toEqual([])
    },
    60_000,
  )
})
