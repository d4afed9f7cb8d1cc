import { buildSync } from 'esbuild'
import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import type { evaluate } from '../src/core/evaluate/evaluate'
import type { Job } from '../src/core/job/schema'

/** The last commit before what will be there was worked out once. */
const OLD = '145bb67'

/** `evaluate` of the core below a folder, in one file as a server has it, so that two of them are compared as they run. */
async function built<E>(root: string, outfile: string): Promise<E> {
  const [entry] = ['src/core/evaluate/evaluate.ts', 'src/core/evaluate.ts'].map((f) => path.join(root, f)).filter((f) => existsSync(f))
  buildSync({ entryPoints: [entry!], outfile, bundle: true, platform: 'node', format: 'esm' })
  return ((await import(pathToFileURL(outfile).href)) as { evaluate: E }).evaluate
}

interface Both {
  readonly was: (job: Job, readings: readonly []) => unknown
  readonly is: typeof evaluate
}

/** `evaluate` as it was then, built from its commit, and as it is; null where this repository does not reach back so far. */
export async function evaluateOfBoth(): Promise<Both | null> {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-old-'))
  const tree = path.join(folder, 'tree')
  try {
    execFileSync('git', ['worktree', 'add', '--detach', tree, OLD], { stdio: 'ignore' })
    symlinkSync(path.resolve('node_modules'), path.join(tree, 'node_modules'))
    return {
      was: await built(tree, path.join(folder, 'was.mjs')),
      is: await built(path.resolve('.'), path.join(folder, 'is.mjs')),
    }
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
