import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { calculateOne, calculators, calculatorSchemas, isCalculatorError } from './calculators'

const folder = 'tests/vectors/'

interface Case {
  name: string
  input: unknown
  output: unknown
}

/** Numbers match within 0.01 % relative or 1e-9; an object holds what must match; findings match as a set. */
function mismatch(actual: unknown, expected: unknown, path = ''): string | null {
  if (typeof expected === 'number') {
    const close = typeof actual === 'number' && Math.abs(actual - expected) <= Math.max(1e-4 * Math.abs(expected), 1e-9)
    return close ? null : `${path}: ${String(actual)} instead of ${expected}`
  }
  if (path.endsWith('findings')) {
    const key = (f: { rule: string; severity: string }) => `${f.severity} ${f.rule}`
    const [a, e] = [actual, expected].map((list) => (list as { rule: string; severity: string }[]).map(key).toSorted().join('; '))
    return a === e ? null : `${path}: [${a}] instead of [${e}]`
  }
  if (path.endsWith('contradictions') && JSON.stringify(expected) === '[{}]')
    return Array.isArray(actual) && actual.length > 0 ? null : `${path}: none`
  if (Array.isArray(expected)) {
    if (!Array.isArray(actual) || actual.length !== expected.length)
      return `${path}: ${JSON.stringify(actual)} instead of ${JSON.stringify(expected)}`
    return expected.map((e, i) => mismatch(actual[i], e, `${path}.${i}`)).find(Boolean) ?? null
  }
  if (expected !== null && typeof expected === 'object') {
    return (
      Object.entries(expected)
        .map(([k, e]) => mismatch((actual as Record<string, unknown> | null)?.[k], e, `${path}.${k}`))
        .find(Boolean) ?? null
    )
  }
  return actual === expected ? null : `${path}: ${JSON.stringify(actual)} instead of ${JSON.stringify(expected)}`
}

describe.each(readdirSync(folder))('%s', (file) => {
  const calculator = calculators[file.split('.')[0]!]!
  const cases = JSON.parse(readFileSync(folder + file, 'utf8')) as Case[]
  it.each(cases)('$name', async ({ input, output }) => {
    const actual = await calculateOne(calculator, input)
    expect(mismatch(actual, output)).toBeNull()
    if (!isCalculatorError(actual)) expect(calculator.output.safeParse(actual).error).toBeUndefined()
  })
})

describe('schemas', () => {
  it.each(Object.keys(calculators))('%s has both as JSON Schema', (name) => {
    const { input, output } = calculatorSchemas(calculators[name]!) as Record<string, Record<string, unknown>>
    expect(input!.$schema).toContain('json-schema')
    expect(output!.properties).toBeTypeOf('object')
  })
})
