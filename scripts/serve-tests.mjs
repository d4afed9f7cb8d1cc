// Serves the built application with the demo jobs in a data folder of its own, for the browser tests and the pictures.
import { spawn } from 'node:child_process'
import { rmSync } from 'node:fs'
import { build, seed, serve } from './setup.mjs'

const port = process.argv[2] ?? '3217'
const data = `test-results/data-${port}`
await build()
rmSync(data, { recursive: true, force: true })
seed(data)
// A meter that a page can read, where that is tried.
const meter = process.argv[3] === 'meter' ? String(Number(port) + 2000) : null
if (meter) {
  process.env.SYNTHEMA_INSTRUMENTS = `127.0.0.1:${meter}`
  const reads = spawn(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'scripts/instrument.ts', '--port', meter], { stdio: 'ignore' })
  process.on('exit', () => reads.kill())
}
// A page that is opened again is not compiled again.
process.env.SYNTHEMA_FIXED_NONCE = crypto.randomUUID()
const server = serve(port, data)
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => process.exit(code ?? 0))
