import { existsSync } from 'node:fs'
import { defineConfig } from '@playwright/test'
import places from './scripts/chromium.json' with { type: 'json' }

const PORT = 3217
// What all pages share is changed, or used up, when no other test needs it.
const last = ['**/settings.spec.ts', '**/papers.spec.ts']
const chromium = [...places, process.env.CHROMIUM ?? ''].find((p) => p !== '' && existsSync(p))

export default defineConfig({
  testDir: 'tests',
  projects: [
    { name: 'all', testMatch: '**/*.spec.ts', testIgnore: last },
    { name: 'last', testMatch: last, dependencies: ['all'] },
  ],
  // One more than there are processors: a test waits for papers and plans, and others go on meanwhile.
  workers: 3,
  // Else the last file would be tested by one alone.
  fullyParallel: true,
  // Long enough on a machine that is slow for a while: how fast it is says `npm run bench`.
  timeout: 180_000,
  // A machine that stalls is no defect: a test is tried once more there, and `npm test` names each that needed it.
  retries: process.env.CI ? 1 : 0,
  expect: { timeout: 60_000 },
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
        // A page is drawn as one tile by one thread: putting many together took twice what drawing did.
        '--default-tile-width=1280',
        '--default-tile-height=800',
        '--num-raster-threads=1',
        // A page of a test lives for seconds: code is made fast later than it pays for who works with it all day.
        `--js-flags=${[
          '--invocation-count-for-maglev=4000',
          '--invocation-count-for-maglev-osr=1000',
          '--invocation-count-for-turbofan=30000',
          '--invocation-count-for-osr=5000',
        ].join(' ')}`,
      ],
    },
    trace: 'off',
    // What moves is painted sixty times a second: a tenth of all that the tests took.
    contextOptions: { reducedMotion: 'reduce' },
    // The tests meet the server itself; the one on working without it lets the worker in.
    serviceWorkers: 'block',
    actionTimeout: 60_000,
  },
  webServer: {
    command: `node scripts/serve-tests.mjs ${PORT} meter`,
    url: `http://127.0.0.1:${PORT}/`,
    reuseExistingServer: false,
    timeout: 120_000,
  },
})
