import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import { packCore } from './core-package'

const script = `
import { readFileSync } from 'node:fs'
import { calculateOne, calculators, evaluate, read, readJobFile } from 'synthema-core'
const [vector] = JSON.parse(readFileSync(process.argv[2], 'utf8'))
const { job, readings } = readJobFile(JSON.parse(readFileSync(process.argv[3], 'utf8')))
const report = evaluate(job, readings)
console.log(JSON.stringify({
  output: calculateOne(calculators['box-fill'], vector.input),
  findings: report.stages.flatMap((s) => s.findings.map((f) => f.rule)),
  points: read(job).points.length,
}))
`

describe('the core as a package of its own', () => {
  it('runs a calculator and judges a job in a plain Node script, with nothing installed beside it', { timeout: 120_000 }, async () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'synthema-core-'))
    try {
      const packed = await packCore(path.join(folder, 'package'))
      writeFileSync(path.join(folder, 'package.json'), '{"type":"module"}')
      writeFileSync(path.join(folder, 'use.mjs'), script)
      execFileSync('npm', ['install', '--offline', '--no-audit', '--no-fund', '--silent', packed], { cwd: folder })
      const vectors = path.resolve('tests/vectors/box-fill.json')
      const job = path.resolve('tests/jobs/na-15-outlets-on-30.json')
      const said = JSON.parse(execFileSync(process.execPath, ['use.mjs', vectors, job], { cwd: folder, encoding: 'utf8' })) as {
        output: { requiredCm3: number }
        findings: string[]
        points: number
      }
      const [vector] = JSON.parse(readFileSync(vectors, 'utf8')) as { output: { requiredCm3: number } }[]
      expect(said.output.requiredCm3).toBeCloseTo(vector!.output.requiredCm3, 6)
      expect(said.findings.length).toBeGreaterThan(0)
      expect(said.points).toBeGreaterThan(0)
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  })
})
