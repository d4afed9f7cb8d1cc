// npm test: installs what is missing, then lint, formatting, dependency directions, unused code, types, unit and browser tests.
import { spawn } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { build, installChromium, installing } from './setup.mjs'
import { inPieces } from './unit-pieces.mjs'

// Chromium comes beside the packages, and the database driver, for which the unit tests wait.
const chromium = installChromium()
const { packages, driver } = installing()
await packages
process.env.NEXT_TELEMETRY_DISABLED = '1'

let passed = 0
let failed = 0

/** Runs a command to its end: its exit code, and the seconds it took. What runs side by side prints side by side. */
function run(command, args, env = {}) {
  const started = Date.now()
  return new Promise((resolve) => {
    const child = spawn(`node_modules/.bin/${command}`, args, { stdio: 'inherit', env: { ...process.env, ...env } })
    child.on('close', (status) => resolve({ status, seconds: ((Date.now() - started) / 1000).toFixed(1) }))
  })
}

async function check(name, command, args) {
  const { status, seconds } = await run(command, args)
  if (status === 0) passed++
  else failed++
  console.log(`${status === 0 ? 'passed' : 'FAILED'}: ${name} (${seconds} s)`)
}

/** Runs a test runner and adds up what its JSON report counted; a runner that made no report counts as one failure. */
async function suite(name, command, args, report, count, env = {}) {
  rmSync(report, { force: true })
  const { status, seconds } = await run(command, args, env)
  let counted = { passed: 0, failed: 0 }
  try {
    counted = count(JSON.parse(readFileSync(report, 'utf8')))
  } catch {
    counted = { passed: 0, failed: 1 }
  }
  if (status !== 0 && counted.failed === 0) counted.failed = 1
  passed += counted.passed
  failed += counted.failed
  console.log(`${name}: ${counted.passed} passed, ${counted.failed} failed (${seconds} s)`)
}

/** The titles of the tests in a report that failed first and passed when they were tried again. */
const triedAgain = (suites) =>
  suites.flatMap((of) => [
    ...triedAgain(of.suites ?? []),
    ...(of.specs ?? []).filter((spec) => spec.tests.some((tried) => tried.status === 'flaky')).map((spec) => `${spec.file}: ${spec.title}`),
  ])

const unitReport = 'node_modules/.cache/unit.json'

async function unitTests() {
  const pieces = await inPieces()
  await driver
  const args = ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${unitReport}`]
  const count = (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests + (r.numFailedTestSuites && !r.numFailedTests ? 1 : 0) })
  await suite('unit tests', 'vitest', args, unitReport, count, { UNIT_PIECES: pieces })
}
/** Beside the unit tests: looks over what needs no build, and builds. */
async function theRest() {
  await check('lint, and dependency directions', 'oxlint', ['--deny-warnings'])
  await check('formatting', 'oxfmt', ['--check', 'src', 'tests', 'scripts', '*.{ts,mjs}'])
  await check('unused code', 'knip', [])
  await build()
  // After the build, which makes the types of the routes; in several threads it takes twice as much, and no processor is free for them.
  await check('types', 'tsc', ['--noEmit', '--singleThreaded'])
}
async function browserTests() {
  const count = (r) => {
    for (const title of triedAgain(r.suites)) console.log(`passed at the second try only: ${title}`)
    return { passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected }
  }
  await suite('browser tests', 'playwright', ['test'], 'test-results/browser.json', count)
}
const units = unitTests()
await Promise.all([theRest(), chromium])
// While the last unit tests run: the browser tests take a while to begin, on one processor.
await Promise.all([units, browserTests()])

console.log(`${passed} passed, ${failed} failed`)
process.exit(failed ? 1 : 0)
