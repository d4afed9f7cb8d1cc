// The unit tests with all they stand on, in few pieces: taking a thousand modules apart by itself cost the runner a sixth of their time.
import { rmSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { tool } from './setup.mjs'

/** Puts the unit tests into pieces, and says where they are; `npx vitest` without them takes the files as they are. */
export function inPieces() {
  const folder = 'node_modules/.cache/unit'
  rmSync(folder, { recursive: true, force: true })
  const files = spawnSync('find', ['src', 'scripts', '-name', '*.test.ts'], { encoding: 'utf8' }).stdout.split('\n').filter(Boolean)
  const whole = ['--bundle', '--splitting', '--format=esm', '--platform=node', '--packages=external', '--sourcemap']
  const named = ['--alias:server-only=./tests/server-only.ts', '--out-extension:.js=.mjs', '--outbase=.', `--outdir=${folder}`]
  tool('esbuild', [...files, ...whole, ...named, '--log-level=warning'])
  return folder
}
