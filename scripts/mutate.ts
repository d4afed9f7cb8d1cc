// npm run mutate: plants one mistake at a time in the core and runs the tests related to it; prints which were caught. Not part of CI.
// npm run mutate -- 10 plants ten; npm run mutate -- 50 7 begins with another seed; npm run mutate -- 50 7 all takes the whole core, not
// only rules, limits and tables.
import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'

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
const ruling = /^src\/core\/(region|calculate|raceway|building|rules|enclosure|design|installation)\/|^src\/core\/record\/(judge|tests)/
const [count, seed] = [Number(process.argv[2] ?? 50), Number(process.argv[3] ?? 1)]
const files = execFileSync('git', ['ls-files', 'src/core'], { encoding: 'utf8' })
  .split('\n')
  .filter((f) => process.argv[4] === 'all' || ruling.test(f))
  .filter((f) => f.endsWith('.ts') && !/\.test\.ts$|\/older\/|\/demo\/|\/drawing\//.test(f))
const all = files.flatMap((f) => (f.endsWith('/tables.ts') ? wrongEntries(f) : slipsIn(f)))
const next = random(seed)
const picked = Array.from({ length: count }, () => all[Math.floor(next() * all.length)]!)

// In a copy of its own, so that an interrupted run leaves nothing behind.
const folder = mkdtempSync(path.join(tmpdir(), 'synthema-mutate-'))
const tree = path.join(folder, 'tree')
execFileSync('git', ['worktree', 'add', '--detach', tree, 'HEAD'], { stdio: 'ignore' })
symlinkSync(path.resolve('node_modules'), path.join(tree, 'node_modules'))
let caught = 0
try {
  for (const { file, line, from, to } of picked) {
    const target = path.join(tree, file)
    const whole = readFileSync(target, 'utf8')
    const lines = whole.split('\n')
    if (lines[line] !== from) continue
    lines[line] = to
    writeFileSync(target, lines.join('\n'))
    const { status } = spawnSync('node_modules/.bin/vitest', ['related', file, '--run', '--bail', '1'], {
      cwd: tree,
      stdio: 'ignore',
      timeout: 240_000,
    })
    writeFileSync(target, whole)
    if (status !== 0) caught++
    console.log(`${status === 0 ? 'NOT CAUGHT' : 'caught    '} ${file}:${line + 1}  ${to.trim()}`)
  }
} finally {
  execFileSync('git', ['worktree', 'remove', '--force', tree])
  rmSync(folder, { recursive: true, force: true })
}
console.log(`${caught} of ${picked.length} caught`)
