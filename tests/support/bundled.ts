import { createRequire } from 'node:module'
import path from 'node:path'
import { buildSync } from 'esbuild'

/**
 * A module that uses the whole core, in one piece and taken in at once: the runner takes each file apart by itself, and did nothing
 * else for the first ten seconds of the browser tests.
 */
export function bundled<T>(entry: string): T {
  // Each worker its own, for they begin together.
  const outfile = path.resolve('node_modules/.cache/tests', `${path.parse(entry).name}-${process.env.TEST_WORKER_INDEX ?? 'all'}.cjs`)
  buildSync({ entryPoints: [entry], outfile, bundle: true, platform: 'node', packages: 'external', sourcemap: 'inline', logLevel: 'error' })
  return createRequire(path.resolve('package.json'))(outfile) as T
}
