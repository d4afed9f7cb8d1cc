import { existsSync } from 'node:fs'
import { defineConfig } from '@playwright/test'
import places from './scripts/chromium.json' with { type: 'json' }

const PORT = 3217
const chromium = [...places, process.env.CHROMIUM ?? ''].find((p) => p !== '' && existsSync(p))

export default defineConfig({
  testDir: 'tests',
  projects: [
    { name: 'all', testMatch: '**/*.spec.ts', testIgnore: '**/last.spec.ts' },
    { name: 'settings', testMatch: '**/last.spec.ts', dependencies: ['all'] },
  ],
  workers: 2,
  timeout: 90_000,
  expect: { timeout: 10_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: chromium,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    trace: 'off',
    // The tests meet the server itself; the one on working without it lets the worker in.
    serviceWorkers: 'block',
    actionTimeout: 8000,
  },
  webServer: {
    command: `node scripts/serve-tests.mjs ${PORT} meter`,
    url: `http://127.0.0.1:${PORT}/`,
    reuseExistingServer: false,
    timeout: 120_000,
  },
})
