// npm run demo: installs, builds, makes the database with the demo jobs, serves on the loopback, or on HOST behind a passphrase.
import { existsSync, renameSync } from 'node:fs'
import { build, checkDoor, installPackages, seed, serve } from './setup.mjs'

const data = process.env.SYNTHEMA_DATA ?? 'data'
const port = process.env.PORT ?? '3000'
checkDoor()
await installPackages()
await build()
if (process.argv.includes('--fresh') && existsSync(data)) {
  const aside = `${data}.aside-${new Date().toISOString().replaceAll(/[:.]/g, '-')}`
  renameSync(data, aside)
  console.log(`The data folder was moved aside to ${aside}.`)
}
seed(data)
const server = serve(port, data)
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => process.exit(code ?? 0))
if (!process.env.HOST) console.log(`Synthema: http://127.0.0.1:${port}`)
