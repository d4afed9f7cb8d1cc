import { buildSync } from 'esbuild'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, symlinkSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import type { Job as Job2 } from '../src/core/job/older/version-2'

/** The last commit whose record was of version 2. */
const OLD = '52728cb'

type Evaluate = (job: Job2, readings: readonly []) => unknown

/** `evaluate` as version 2 had it, built from its commit; null where this copy of the repository does not reach back so far. */
export async function evaluateOfVersion2(): Promise<Evaluate | null> {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-old-'))
  const tree = path.join(folder, 'tree')
  try {
    execFileSync('git', ['worktree', 'add', '--detach', tree, OLD], { stdio: 'ignore' })
    symlinkSync(path.resolve('node_modules'), path.join(tree, 'node_modules'))
    const outfile = path.join(folder, 'evaluate.mjs')
    buildSync({ entryPoints: [path.join(tree, 'src/core/evaluate.ts')], outfile, bundle: true, platform: 'node', format: 'esm' })
    return ((await import(pathToFileURL(outfile).href)) as { evaluate: Evaluate }).evaluate
  } catch {
    return null
  } finally {
    try {
      execFileSync('git', ['worktree', 'remove', '--force', tree], { stdio: 'ignore' })
    } catch {
      // There was none.
    }
    rmSync(folder, { recursive: true, force: true })
  }
}
