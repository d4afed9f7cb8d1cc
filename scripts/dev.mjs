// npm run dev: the development server on the loopback, with the demo jobs if there are none.
import { installPackages, run, tool } from './setup.mjs'

await installPackages()
tool('tsx', ['scripts/seed.ts'])
run('node_modules/.bin/next', ['dev', '-H', '127.0.0.1', '-p', process.env.PORT ?? '3000'])
