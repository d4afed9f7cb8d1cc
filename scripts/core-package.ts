// The core alone as a package for other programs: one file with all it needs, packed by npm. `npm run -s core -- FOLDER` puts the package
// and its .tgz there.
import { execFileSync } from 'node:child_process'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { build } from 'esbuild'

/** Builds and packs the core into a folder. @returns the path of the .tgz */
export async function packCore(folder: string): Promise<string> {
  mkdirSync(folder, { recursive: true })
  const { version, license } = JSON.parse(readFileSync('package.json', 'utf8')) as { version: string; license: string }
  await build({
    entryPoints: ['src/core/index.ts'],
    outfile: path.join(folder, 'index.mjs'),
    bundle: true,
    platform: 'node',
    format: 'esm',
  })
  const manifest = { name: 'synthema-core', version, license, type: 'module', exports: './index.mjs', files: ['index.mjs'] }
  writeFileSync(path.join(folder, 'package.json'), `${JSON.stringify(manifest, null, 2)}\n`)
  execFileSync('npm', ['pack', '--silent', '--ignore-scripts'], { cwd: folder, stdio: ['ignore', 'ignore', 'ignore'] })
  return path.join(folder, `synthema-core-${version}.tgz`)
}

if (process.argv[1] === import.meta.filename) {
  const [, , folder = 'core-package'] = process.argv
  console.log(await packCore(path.resolve(folder)))
}
