import { spawnSync } from 'node:child_process'
import { buildSync } from 'esbuild'
import { beforeAll, describe, expect, it } from 'vitest'

/** As `npm run calc` starts it. */
const source = ['scripts/calc.mjs']
/** The same put together once for all that is asked here. */
const bundle = 'node_modules/.cache/calc.mjs'
const calc = (args: string[], input = '', start: readonly string[] = [bundle]) =>
  spawnSync(process.execPath, [...start, ...args], { input, encoding: 'utf8' })
const good = { region: 'north-america', cable: 'nm-b', size: '12 AWG' }

describe('the command line', () => {
  beforeAll(() => {
    buildSync({
      entryPoints: ['scripts/calc.ts'],
      outfile: bundle,
      bundle: true,
      platform: 'node',
      format: 'esm',
      packages: 'external',
      alias: { '@': './src' },
    })
  })
  it('prints the output of one input', () => {
    const { stdout, status } = calc(['ampacity'], JSON.stringify(good), source)
    expect(JSON.parse(stdout)).toMatchObject({ ampacityA: 20 })
    expect(status).toBe(0)
  })
  it('exits 2 on a bad input and names its path', () => {
    const { stdout, status } = calc(['ampacity'], JSON.stringify({ ...good, size: '13 AWG' }))
    expect(JSON.parse(stdout).error.path).toBe('size')
    expect(status).toBe(2)
  })
  it('answers thousands at one start, element by element', () => {
    const many = Array.from({ length: 3000 }, (_, i) => (i === 7 ? { ...good, colour: 1 } : good))
    const { stdout, status } = calc(['ampacity'], JSON.stringify(many))
    const out = JSON.parse(stdout) as { ampacityA?: number; error?: { path: string } }[]
    expect(out.length).toBe(3000)
    expect(out[7]!.error!.path).toBe('colour')
    expect(out[8]!.ampacityA).toBe(20)
    expect(status).toBe(0)
  })
  it('lists its names and prints both schemas', () => {
    expect(calc(['--list']).stdout).toMatch(/^select-circuit\t/m)
    expect(Object.keys(JSON.parse(calc(['--schema', 'box-fill']).stdout))).toEqual(['input', 'output'])
  })
  it('says so when there is no such calculator, or no JSON', () => {
    expect(calc(['nothing']).status).toBe(64)
    expect(calc(['ampacity'], '{').stderr).toMatch(/not JSON/)
  })
})
