import { readFileSync } from 'node:fs'
import { calculate, calculators, calculatorSchemas, isCalculatorError } from '../src/core/contract/calculators'

const USAGE = 'usage: npm run -s calc -- NAME < input.json | --list | --schema NAME'

function fail(message: string): never {
  process.stderr.write(`${message}\n`)
  process.exit(64)
}

function pick(name: string | undefined) {
  const calculator = name === undefined ? undefined : Object.hasOwn(calculators, name) ? calculators[name] : undefined
  return calculator ?? fail(name === undefined ? USAGE : `No calculator is called ${name}. Names: ${Object.keys(calculators).join(', ')}`)
}

function readInput(): unknown {
  const text = readFileSync(0, 'utf8')
  try {
    return JSON.parse(text)
  } catch (e) {
    return fail(`The input is not JSON: ${(e as Error).message}`)
  }
}

// A reader that has seen enough, as `head` does, is no error.
process.stdout.on('error', (e: NodeJS.ErrnoException) => process.exit(e.code === 'EPIPE' ? 0 : 1))

const [first, second] = process.argv.slice(2)
if (first === '--list') {
  for (const [name, { summary }] of Object.entries(calculators)) console.log(`${name}\t${summary}`)
} else if (first === '--schema') {
  console.log(JSON.stringify(calculatorSchemas(pick(second)), null, 2))
} else {
  const output = await calculate(pick(first), readInput())
  process.stdout.write(`${JSON.stringify(output)}\n`)
  if (isCalculatorError(output)) process.exitCode = 2
}
