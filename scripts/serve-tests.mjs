// Serves the built application with the demo jobs in a data folder of its own, for the browser tests and the pictures.
import { rmSync } from 'node:fs'
import { build, serve, tool } from './setup.mjs'

const port = process.argv[2] ?? '3217'
const data = `test-results/data-${port}`
await build()
rmSync(data, { recursive: true, force: true })
tool('tsx', ['scripts/seed.ts'], { env: { ...process.env, SYNTHEMA_DATA: data } })
const server = serve(port, data)
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => process.exit(code ?? 0))
