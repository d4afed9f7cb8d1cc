import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

/** Where `npm test` has put the tests in pieces; without it they are taken as they are. */
const pieces = process.env.UNIT_PIECES

export default defineConfig({
  resolve: {
    alias: {
      '@': fileURLToPath(new URL('./src', import.meta.url)),
      'server-only': fileURLToPath(new URL('./tests/server-only.ts', import.meta.url)),
    },
  },
  // Left to itself it keeps a processor free, which of two is half of all there is.
  test: {
    ...(pieces
      ? {
          include: [`${pieces}/**/*.test.mjs`],
          exclude: [],
          execArgv: ['--enable-source-maps'],
          setupFiles: ['tests/same-cases.ts'],
        }
      : { include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'], setupFiles: process.env.SEED ? ['tests/same-cases.ts'] : [] }),
    // How fast something is says the bench: beside the browser tests, on a machine that others use too, one took thirty times as long.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    isolate: false,
    maxWorkers: '100%',
  },
})
