// npm run shots: remakes the pictures in docs/screenshots from the demo data.
import { spawn } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { build, chromiumPath, installChromium, installPackages } from './setup.mjs'

await installPackages()
await installChromium()
await build()
const { chromium } = await import('@playwright/test')
const port = 3218
const base = `http://127.0.0.1:${port}`
const server = spawn('node', ['scripts/serve-tests.mjs', String(port)], { stdio: 'ignore' })
for (let i = 0; i < 200; i++) {
  if (
    await fetch(base).then(
      (r) => r.ok,
      () => false,
    )
  )
    break
  await new Promise((r) => setTimeout(r, 200))
}

const desk = { width: 1280, height: 800 }
const phone = { width: 390, height: 844 }
const tablet = { width: 820, height: 1180 }
// The tree and the next test are worked out by a worker.
const nextTest = (page) => page.getByRole('heading', { name: 'Next test' }).waitFor()
const pictures = [
  { name: 'jobs', path: '/', viewport: desk, act: (page) => page.getByRole('region', { name: 'Backup' }).waitFor() },
  { name: 'brief', path: '/jobs/former-dairy/brief', viewport: desk },
  { name: 'board', path: '/jobs/former-dairy/survey?sheet=board', viewport: desk },
  {
    name: 'source',
    path: '/jobs/former-dairy/survey?sheet=source',
    viewport: desk,
    act: async (page) => {
      await page.getByLabel('Current circuit').selectOption({ index: 1 })
      await page.getByLabel('Room', { exact: true }).selectOption('Wheel room')
    },
  },
  { name: 'survey', path: '/jobs/former-dairy/survey', viewport: desk, act: nextTest },
  { name: 'survey-phone', path: '/jobs/former-dairy/survey', viewport: phone, act: nextTest },
  {
    name: 'circuit',
    path: '/jobs/former-dairy/circuit',
    viewport: desk,
    act: (page) =>
      page
        .getByLabel('Figures; each opens its working')
        .getByRole('button', { name: /Carries/ })
        .click(),
  },
  {
    name: 'points',
    path: '/jobs/village-hall/circuit?sheet=this',
    viewport: desk,
    act: async (page) => {
      await page.getByLabel('Current circuit').selectOption({ index: 2 })
      await page.getByRole('button', { name: 'Counter, left', exact: true }).click()
      await page.getByRole('region', { name: 'Voltage along the circuit' }).evaluate((e) => e.scrollIntoView())
    },
  },
  {
    name: 'choices',
    path: '/jobs/village-hall/circuit?sheet=choices',
    viewport: desk,
    act: async (page) => {
      await page.getByLabel('Current circuit').selectOption({ index: 1 })
      await page.getByText('kWh a year').waitFor()
    },
  },
  { name: 'circuit-tablet', path: '/jobs/village-hall/circuit?sheet=this', viewport: tablet },
  { name: 'circuit-phone-dark', path: '/jobs/former-dairy/circuit', viewport: phone, dark: true },
  {
    name: 'boxes',
    path: '/jobs/former-dairy/boxes',
    viewport: desk,
    act: (page) => page.getByLabel('Current circuit').selectOption({ index: 1 }),
  },
  {
    name: 'route',
    path: '/jobs/former-dairy/route?sheet=way',
    viewport: desk,
    act: async (page) => {
      await page.getByRole('button', { name: /^Third/ }).click()
      await page.getByRole('button', { name: 'Store', exact: true }).click()
      await page.getByRole('button', { name: 'north wall', exact: true }).click()
    },
  },
  {
    name: 'wiring',
    path: '/jobs/former-dairy/wiring?sheet=bench',
    viewport: desk,
    act: (page) => page.getByLabel('Current circuit').selectOption({ index: 3 }),
  },
  {
    name: 'day',
    path: '/jobs/honey-house/day',
    viewport: desk,
    act: async (page) => {
      await page.getByRole('button', { name: 'Another person' }).click()
      await page.getByRole('button', { name: /^Plan the day/ }).click()
      await page.getByText(/^Done at/).waitFor()
    },
  },
  {
    name: 'mistakes',
    path: '/jobs/honey-house/test?sheet=mistakes',
    viewport: desk,
    act: (page) => page.getByText(/pass every test/).waitFor(),
  },
  {
    name: 'test',
    path: '/jobs/honey-house/test',
    viewport: desk,
    act: (page) => page.getByRole('button', { name: /Continuity of the earth conductor/ }).click(),
  },
  {
    name: 'test-phone',
    path: '/jobs/honey-house/test',
    viewport: phone,
    act: (page) => page.getByRole('button', { name: 'Values and working' }).click(),
  },
  { name: 'handover', path: '/jobs/honey-house/handover', viewport: desk },
]

mkdirSync('docs/screenshots', { recursive: true })
const browser = await chromium.launch({
  executablePath: chromiumPath(),
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
})
for (const { name, path, viewport, dark, act } of pictures) {
  const touched = viewport !== desk
  const page = await browser.newPage({
    viewport,
    colorScheme: dark ? 'dark' : 'light',
    reducedMotion: 'reduce',
    hasTouch: touched,
    isMobile: touched,
  })
  await page.goto(base + path)
  await page.locator('[aria-busy=true], [inert]').first().waitFor({ state: 'detached' })
  await act?.(page)
  await page.waitForTimeout(300)
  await page.screenshot({ path: `docs/screenshots/${name}.png` })
  await page.close()
  console.log(`docs/screenshots/${name}.png`)
}
await browser.close()
server.kill()
