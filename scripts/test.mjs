// npm test: installs what is missing, then lint, dependency directions, unused code, types, unit and browser tests.
import { spawnSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { build, installChromium, installPackages } from './setup.mjs'

installPackages()
installChromium()
process.env.NEXT_TELEMETRY_DISABLED = '1'

let passed = 0
let failed = 0

function check(name, command, args) {
  const started = Date.now()
  const { status } = spawnSync(`node_modules/.bin/${command}`, args, { stdio: 'inherit' })
  if (status === 0) passed++
  else failed++
  console.log(`${status === 0 ? 'passed' : 'FAILED'}: ${name} (${((Date.now() - started) / 1000).toFixed(1)} s)`)
}

/** Runs a test runner and adds up what its JSON report counted; a runner that made no report counts as one failure. */
function suite(name, command, args, report, count) {
  rmSync(report, { force: true })
  const started = Date.now()
  const { status } = spawnSync(`node_modules/.bin/${command}`, args, { stdio: 'inherit' })
  let counted = { passed: 0, failed: 0 }
  try {
    counted = count(JSON.parse(readFileSync(report, 'utf8')))
  } catch {
    counted = { passed: 0, failed: 1 }
  }
  if (status !== 0 && counted.failed === 0) counted.failed = 1
  passed += counted.passed
  failed += counted.failed
  console.log(`${name}: ${counted.passed} passed, ${counted.failed} failed (${((Date.now() - started) / 1000).toFixed(1)} s)`)
}

check('lint, and dependency directions', 'oxlint', ['--deny-warnings'])
check('unused code', 'knip', [])
build()
check('types', 'tsc', ['--noEmit'])
suite(
  'unit tests',
  'vitest',
  ['run', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/unit.json'],
  'test-results/unit.json',
  (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests + (r.numFailedTestSuites && !r.numFailedTests ? 1 : 0) }),
)
suite('browser tests', 'playwright', ['test'], 'test-results/browser.json', (r) => ({
  passed: r.stats.expected + r.stats.flaky,
  failed: r.stats.unexpected,
}))

console.log(`${passed} passed, ${failed} failed`)
process.exit(failed ? 1 : 0)
