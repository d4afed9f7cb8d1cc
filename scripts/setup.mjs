// What a fresh machine lacks, put there once: packages, the compiled database driver, Chromium. Plain Node, no packages.
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'

const STAMP = 'node_modules/.synthema-installed'
const wants = () => createHash('sha256').update(readFileSync('package-lock.json')).update(process.version).digest('hex')

/** Runs a command with its output shown; its failure ends this program. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { stdio: 'inherit', ...options })
  if (status !== 0) {
    console.error(`${command} ${args.join(' ')} failed${status === null ? '' : ` with ${status}`}.`)
    process.exit(status || 1)
  }
}

/** Installs the packages of package-lock.json unless just these are there, and compiles what must be compiled. */
export function installPackages() {
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === wants()) return
  console.log('Installing packages; compiling the database driver takes a few minutes the first time.')
  // Not `npm ci`: a registry without every platform's optional binaries makes lock files that it refuses.
  run('npm', ['install', '--no-save', '--no-audit', '--no-fund'])
  // A client that does not run install scripts by itself still gets its driver.
  if (!existsSync('node_modules/better-sqlite3/build/Release/better_sqlite3.node')) run('npm', ['rebuild', 'better-sqlite3', 'esbuild'])
  writeFileSync(STAMP, wants())
}

export function chromiumPath() {
  return ['/usr/bin/chromium', '/usr/bin/chromium-browser', process.env.CHROMIUM ?? ''].find((p) => p && existsSync(p)) ?? null
}

/** Chromium for the browser tests, from the system's packages. */
export function installChromium() {
  if (chromiumPath()) return
  console.log('Installing Chromium.')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  for (const args of [['apt-get', 'update'], ['apt-get', 'install', '-y', '--no-install-recommends', 'chromium']]) {
    const [command, ...rest] = [...sudo, ...args]
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
  }
}

const bin = (name) => `node_modules/.bin/${name}`
export const tool = (name, args, options) => run(bin(name), args, options)

/** Builds the application unless the sources are as they were at the last build. */
export function build() {
  const sources = spawnSync('find', ['src', 'next.config.ts', 'postcss.config.mjs', 'tsconfig.json', 'package-lock.json', '-type', 'f'], { encoding: 'utf8' }).stdout.split('\n').filter(Boolean).toSorted()
  const hash = createHash('sha256')
  for (const f of sources) hash.update(f).update(readFileSync(f))
  const stamp = '.next/synthema-built'
  const digest = hash.digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return
  console.log('Building the application.')
  tool('next', ['build'], { env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' } })
  mkdirSync('.next', { recursive: true })
  writeFileSync(stamp, digest)
}

/** Starts the built application on the loopback, or on HOST. */
export function serve(port, data, host = process.env.HOST ?? '127.0.0.1') {
  return spawn(bin('next'), ['start', '-H', host, '-p', String(port)], { stdio: 'inherit', env: { ...process.env, SYNTHEMA_DATA: data, NEXT_TELEMETRY_DISABLED: '1' } })
}
