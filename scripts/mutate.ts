// npm run mutate: plants one mistake at a time in the code and runs the tests that reach it, nearest first; prints which were caught.
// Not part of CI.
//   npm run mutate -- 50            plants fifty in what decides: rules, limits and tables
//   npm run mutate -- 50 7          begins with another seed
//   npm run mutate -- 50 7 store    takes the files whose path holds a pattern: core, store, server, features/sync, core/schedule …
//   SLOW=1 npm run mutate -- …      what the others let through is given to the slow tests too, ten minutes each
import { execFileSync, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { equivalentSlips } from './equivalent-slips'

/** What a slip of the hand makes of code. */
const slips: readonly (readonly [RegExp, string])[] = [
  [/ <= /g, ' < '],
  [/ >= /g, ' > '],
  [/ < /g, ' <= '],
  [/ > /g, ' >= '],
  [/ && /g, ' || '],
  [/ \|\| /g, ' && '],
  [/ === null/g, ' !== null'],
  [/ !== null/g, ' === null'],
  [/ \+ /g, ' - '],
  [/ \* /g, ' / '],
  [/Math\.max\(/g, 'Math.min('],
  [/\.some\(/g, '.every('],
  [/\?\? 0\b/g, '?? 1'],
]
const left = /^\s*(\/\/|\*|\/\*|import|export type|export interface|readonly|type )|=>.*\bvoid\b|: '.*',$|`/

interface Slip {
  readonly file: string
  readonly line: number
  readonly from: string
  readonly to: string
}

function slipsIn(file: string): Slip[] {
  return readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((from, line) =>
      left.test(from)
        ? []
        : slips.flatMap(([what, by]) =>
            [...from.matchAll(what)].map((m) => ({
              file,
              line,
              from,
              to: from.slice(0, m.index) + by + from.slice(m.index + m[0].length),
            })),
          ),
    )
}

/** Of a published table, one entry a line, off by one in its last digit. */
const wrongEntries = (file: string): Slip[] =>
  readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((from, line) => {
      const found = /clause/.test(from) ? null : /(?<=[[,:] ?)(\d+\.?\d*)(?=[\],])/.exec(from)
      if (!found) return []
      const [digits] = found
      const decimals = digits.includes('.') ? digits.length - digits.indexOf('.') - 1 : 0
      const wrong = (Number(digits) + 10 ** -decimals).toFixed(decimals)
      return [{ file, line, from, to: from.slice(0, found.index) + wrong + from.slice(found.index + digits.length) }]
    })

/** The same numbers for the same seed. */
function random(seed: number): () => number {
  let s = seed >>> 0
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0
    return s / 2 ** 32
  }
}

/** Where rules, limits and tables are. */
const ruling = /^src\/core\/(region|calculate|rules|design|installation|verify|workday|survey|choose|schedule|building)\//
const [count, seed, pattern] = [Number(process.argv[2] ?? 50), Number(process.argv[3] ?? 1), process.argv[4]]
const files = execFileSync('git', ['ls-files', 'src'], { encoding: 'utf8' })
  .split('\n')
  .filter((f) => (pattern === undefined ? ruling.test(f) : f.includes(pattern)))
  .filter((f) => f.endsWith('.ts') && !/\.test\.ts$|\/older\/|\/demo\/|\/drawing\/|\/migrations\//.test(f))
const equivalent = new Set(equivalentSlips.map((e) => `${e.file} ${e.to}`))
const all = files
  .flatMap((f) => (f.endsWith('/tables.ts') ? wrongEntries(f) : slipsIn(f)))
  .filter((s) => !equivalent.has(`${s.file} ${s.to.trim()}`))
const next = random(seed)
const picked = Array.from({ length: Math.min(count, all.length) }, () => all[Math.floor(next() * all.length)]!)

/** Tests that took ten seconds or more each when they were timed last. */
const slow = [
  'src/core/contract/{whole-jobs,built,own-hazards}',
  'src/core/evaluate/{circuit-view,anything,evaluate}',
  'src/core/{wired/standard,wired/shared-box,faults/fault,faults/elsewhere,drawing/collisions,job/invariants,choose/allowed,workday/day}',
  'src/server/{papers,units,words,any-file,survey-papers,pdf/read-back,pdf/labels-in-record}',
  'src/store/{kill,held,backup,archive,search}',
  'scripts/*',
].map((f) => `${f}.test.ts`)
const LIMIT_MS = 240_000
type Outcome = 'caught' | 'timed out' | 'NOT CAUGHT'

/** One run of the runner; a run that does not end is no failure of a test, and is counted separately. */
const run = (tree: string, args: readonly string[], limitMs = LIMIT_MS): Promise<Outcome> =>
  new Promise((done) => {
    const child = spawn('node_modules/.bin/vitest', [...args, '--run', '--bail', '1', '--passWithNoTests', '--maxWorkers', '1'], {
      cwd: tree,
      stdio: 'ignore',
      timeout: limitMs,
      killSignal: 'SIGKILL',
    })
    child.on('exit', (status, signal) => done(signal ? 'timed out' : status === 0 ? 'NOT CAUGHT' : 'caught'))
  })

/** The tests beside the file, then all quick ones that reach it, then where asked for the slow ones. */
async function tried(tree: string, file: string): Promise<Outcome> {
  const without = (globs: readonly string[]) => globs.flatMap((g) => ['--exclude', g])
  const beside = readdirSync(path.join(tree, path.dirname(file))).some((f) => f.endsWith('.test.ts'))
  const near = beside ? await run(tree, [`${path.dirname(file)}/`, ...without(slow)]) : 'NOT CAUGHT'
  if (near !== 'NOT CAUGHT') return near
  const related = await run(tree, ['related', file, ...without([...slow, `${path.dirname(file)}/*.test.ts`])])
  if (related !== 'NOT CAUGHT' || !process.env.SLOW) return related
  return run(tree, ['related', file], 1_200_000)
}

const outcomes: Outcome[] = []
/** Takes slips off the list until none is left, in a copy of the code of its own, so that an interrupted run leaves nothing behind. */
async function worker(): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-mutate-'))
  const tree = path.join(folder, 'tree')
  execFileSync('git', ['worktree', 'add', '--detach', tree, 'HEAD'], { stdio: 'ignore' })
  symlinkSync(path.resolve('node_modules'), path.join(tree, 'node_modules'))
  try {
    for (let slip = picked.pop(); slip; slip = picked.pop()) {
      const { file, line, from, to } = slip
      const target = path.join(tree, file)
      const whole = existsSync(target) ? readFileSync(target, 'utf8') : ''
      const lines = whole.split('\n')
      // The list is of the files as they are; the copy is of the last commit.
      if (lines[line] !== from) continue
      lines[line] = to
      writeFileSync(target, lines.join('\n'))
      const outcome = await tried(tree, file)
      writeFileSync(target, whole)
      outcomes.push(outcome)
      console.log(`${outcome.padEnd(10)} ${file}:${line + 1}  ${to.trim()}`)
    }
  } finally {
    execFileSync('git', ['worktree', 'remove', '--force', tree])
    rmSync(folder, { recursive: true, force: true })
  }
}
await Promise.all([worker(), worker()])
const howMany = (outcome: Outcome) => outcomes.filter((o) => o === outcome).length
console.log(
  `${outcomes.length} planted: ${howMany('caught')} caught, ${howMany('timed out')} timed out, ${howMany('NOT CAUGHT')} not caught`,
)
console.log(`${equivalentSlips.length} slips are known to change nothing, and are not planted.`)
