// The unit tests with all they use, in few pieces: taking a thousand modules apart by itself cost the runner an eighth of their time.
import { spawnSync } from 'node:child_process'
import { rmSync } from 'node:fs'

/**
 * Puts the unit tests into pieces, and says in which folder; where that fails it says why, and the runner finds none there, which is a
 * failure. `npx vitest` without them takes the files as they are.
 */
export async function inPieces() {
  const outdir = 'node_modules/.cache/unit'
  rmSync(outdir, { recursive: true, force: true })
  const entryPoints = spawnSync('find', ['src', 'scripts', '-name', '*.test.ts'], { encoding: 'utf8' }).stdout.split('\n').filter(Boolean)
  // It is there only once the packages are.
  const { build } = await import('esbuild')
  await build({
    entryPoints,
    outdir,
    outbase: '.',
    bundle: true,
    splitting: true,
    format: 'esm',
    outExtension: { '.js': '.mjs' },
    platform: 'node',
    packages: 'external',
    alias: { 'server-only': './tests/server-only.ts' },
    sourcemap: true,
  }).catch(() => console.error('The unit tests could not be put into pieces.'))
  return outdir
}
