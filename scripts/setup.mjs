// What a fresh machine lacks, put there once: packages, the compiled database driver, Chromium. Plain Node, no packages.
import { spawn, spawnSync } from 'node:child_process'
import { createHash, randomBytes, scryptSync } from 'node:crypto'
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { networkInterfaces, tmpdir } from 'node:os'
import path from 'node:path'

const STAMP = 'node_modules/.synthema-installed'
const COMPILED = 'node_modules/better-sqlite3/.synthema-compiled'
const DRIVER = 'better_sqlite3.node'
/** What the database driver is not asked for, and is not compiled with: a sixth of its time. */
const UNUSED = ['FTS3', 'FTS3_PARENTHESIS', 'FTS4', 'GEOPOLY', 'RTREE', 'STAT4', 'DBSTAT_VTAB', 'PERCENTILE']
const wants = () => createHash('sha256').update(readFileSync('package-lock.json')).update(process.version).digest('hex')

/** Runs a command with its output shown; its failure ends this program. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { stdio: 'inherit', ...options })
  if (status !== 0) {
    console.error(`${command} ${args.join(' ')} failed${status === null ? '' : ` with ${status}`}.`)
    process.exit(status || 1)
  }
}

/** Runs a command beside what else is done; its failure ends this program. */
async function aside(command, args, options = {}) {
  const child = spawn(command, args, { stdio: ['ignore', 'ignore', 'inherit'], ...options })
  const status = await new Promise((resolve) => child.on('close', resolve))
  if (status === 0) return
  console.error(`${command} ${args.join(' ')} failed with ${status}.`)
  process.exit(1)
}

/** Installs the packages of package-lock.json unless just these are there. */
async function unpackPackages() {
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === wants()) return
  console.log('Installing packages; compiling the database driver takes a few minutes the first time.')
  // Not `npm ci`: a registry without every platform's optional binaries makes lock files that it refuses.
  await aside('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--ignore-scripts'], { stdio: 'inherit' })
  writeFileSync(STAMP, wants())
}

/** Compiles the database driver, the one package whose install script is wanted, in a folder of its own while all the others come. */
async function compileDriver(packages) {
  const { version } = JSON.parse(readFileSync('package-lock.json', 'utf8')).packages['node_modules/better-sqlite3']
  const mark = `${version} ${process.version}`
  if (existsSync(COMPILED) && readFileSync(COMPILED, 'utf8') === mark) return packages
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-driver-'))
  writeFileSync(path.join(folder, 'package.json'), JSON.stringify({ private: true, allowScripts: { 'better-sqlite3': true } }))
  // Compiled with all that is optimised it takes three times as long, and answers within a few per cent as fast.
  const env = { ...process.env, CFLAGS: ['-Og', ...UNUSED.map((u) => `-USQLITE_ENABLE_${u}`)].join(' '), CXXFLAGS: '-Og' }
  await aside('npm', ['install', '--prefix', folder, '--no-audit', '--no-fund', `better-sqlite3@${version}`], { env })
  await packages
  const [from, to] = [folder, '.'].map((where) => path.join(where, 'node_modules/better-sqlite3/build/Release'))
  mkdirSync(to, { recursive: true })
  copyFileSync(path.join(from, DRIVER), path.join(to, DRIVER))
  rmSync(folder, { recursive: true })
  writeFileSync(COMPILED, mark)
}

/** Packages, and the driver put among them: side by side. */
export function installing() {
  const packages = unpackPackages()
  return { packages, driver: compileDriver(packages) }
}
export const installPackages = () => installing().driver

/** Where Chromium may be, the one without a window first: it starts faster and paints less. */
export function chromiumPath() {
  const places = JSON.parse(readFileSync('scripts/chromium.json', 'utf8'))
  return [...places, process.env.CHROMIUM ?? ''].find((p) => p && existsSync(p)) ?? null
}

/** Chromium for the browser tests, from the system's packages; beside what else is done meanwhile. */
export async function installChromium() {
  if (chromiumPath()) return
  console.log('Installing Chromium.')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  for (const args of [
    ['apt-get', '-qq', 'update'],
    ['apt-get', '-qq', 'install', '-y', '--no-install-recommends', 'chromium-headless-shell'],
  ]) {
    const [command, ...rest] = [...sudo, ...args]
    await aside(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
  }
}

const bin = (name) => `node_modules/.bin/${name}`
export const tool = (name, args, options) => run(bin(name), args, options)

/** Builds the application unless the sources are as they were at the last build. */
export async function build() {
  const places = ['src', 'scripts/seed.ts', 'next.config.ts', 'postcss.config.mjs', 'tsconfig.json', 'package-lock.json']
  const sources = spawnSync('find', [...places, '-type', 'f'], { encoding: 'utf8' })
    .stdout.split('\n')
    .filter(Boolean)
    .toSorted()
  const hash = createHash('sha256')
  for (const f of sources) hash.update(f).update(readFileSync(f))
  const stamp = '.next/synthema-built'
  const digest = hash.digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return
  console.log('Building the application.')
  await aside(bin('next'), ['build'], { stdio: 'inherit', env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' } })
  // All the code there is, so that a stage that was never opened opens without a connection too.
  const code = readdirSync('.next/static', { recursive: true }).filter((f) => /\.(js|css|woff2?)$/.test(f))
  const worker = ['src/workers/offline.ts', '--bundle', '--minify', '--format=iife', '--outfile=public/offline.js', '--log-level=warning']
  const listed = `--define:CODE=${JSON.stringify(code.toSorted().map((f) => `/_next/static/${f}`))}`
  await aside(bin('esbuild'), [...worker, '--define:process.env.NODE_ENV="production"', listed])
  const bundled = ['--bundle', '--platform=node', '--format=esm', '--packages=external', '--log-level=warning']
  for (const [source, made] of [
    ['src/server/paper-worker', 'papers'],
    ['src/server/calculator-worker', 'calculators'],
    ['src/server/backup-worker', 'backup'],
    ['scripts/seed', 'seed'],
  ]) {
    const named = ['--alias:server-only=./scripts/nothing.mjs', `--outfile=.next/workers/${made}.mjs`]
    await aside(bin('esbuild'), [`${source}.ts`, ...bundled, ...named])
  }
  mkdirSync('.next', { recursive: true })
  writeFileSync(stamp, digest)
}

/** Puts the demo jobs into the database of a folder that has no jobs, as it was built. */
export const seed = (data) => run(process.execPath, ['.next/workers/seed.mjs'], { env: { ...process.env, SYNTHEMA_DATA: data } })

/** Connections are kept for longer than a pause at work: one that is dropped just as it is used again is an error for who asked. */
export const KEPT_MS = 75_000

const loopback = new Set(['127.0.0.1', 'localhost', '::1'])

/** Beyond the loopback there is a door: without a passphrase the server does not start. Ends this program if there is none. */
export function checkDoor(host = process.env.HOST ?? '127.0.0.1') {
  const { PASSPHRASE: passphrase } = process.env
  if (passphrase !== undefined && passphrase.trim().length < 8) {
    const what = passphrase.trim() === '' ? 'is empty' : 'is shorter than eight letters'
    console.error(`PASSPHRASE ${what}. Set PASSPHRASE to eight letters or more, or leave it out and serve this machine alone.`)
    process.exit(1)
  }
  if (loopback.has(host) || passphrase !== undefined) return
  console.error(`HOST=${host} lets other machines in. Set PASSPHRASE, eight letters or more, and start again.`)
  process.exit(1)
}

/** Salt and scrypt hash of the passphrase and the key of the session cookie, which a new passphrase makes again. */
function doorOf(data) {
  mkdirSync(data, { recursive: true })
  const file = `${data}/door.json`
  if (!existsSync(file))
    writeFileSync(file, JSON.stringify({ salt: randomBytes(16).toString('hex'), secret: randomBytes(32).toString('hex') }), { mode: 0o600 })
  const { salt, secret } = JSON.parse(readFileSync(file, 'utf8'))
  const hash = scryptSync(process.env.PASSPHRASE.normalize('NFC'), salt, 32).toString('hex')
  return `${salt}:${hash}:${createHash('sha256')
    .update(secret + hash)
    .digest('hex')}`
}

/** Addresses at which other machines find this one. */
const ownAddresses = () =>
  Object.values(networkInterfaces()).flatMap((list) => (list ?? []).filter((a) => a.family === 'IPv4' && !a.internal).map((a) => a.address))

/** Starts the built application on the loopback, or on HOST behind a door and TLS; TLS=off leaves TLS to the proxy before it. */
export function serve(port, data, host = process.env.HOST ?? '127.0.0.1') {
  const env = { ...process.env, SYNTHEMA_DATA: data, NEXT_TELEMETRY_DISABLED: '1' }
  delete env.SYNTHEMA_DOOR
  delete env.SYNTHEMA_FAR
  if (!loopback.has(host)) {
    checkDoor(host)
    env.SYNTHEMA_FAR = '1'
    delete env.SYNTHEMA_FIXED_NONCE
    env.SYNTHEMA_DOOR = doorOf(data)
    env.HOSTS = [...new Set([...(process.env.HOSTS ?? '').split(','), ...(host === '0.0.0.0' || host === '::' ? ownAddresses() : [host])])]
      .filter(Boolean)
      .join(',')
  }
  delete env.PASSPHRASE
  delete env.SYNTHEMA_TLS
  if (!loopback.has(host))
    return spawn(process.execPath, ['scripts/front.mjs'], { stdio: 'inherit', env: { ...env, HOST: host, PORT: String(port) } })
  const kept = ['--keepAliveTimeout', String(KEPT_MS)]
  const before = `--import=${new URL('methods.mjs', import.meta.url).href}`
  env.NODE_OPTIONS = [env.NODE_OPTIONS, before].filter(Boolean).join(' ')
  return spawn(bin('next'), ['start', '-H', host, '-p', String(port), ...kept], { stdio: 'inherit', env })
}
