import { spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, renameSync, unlinkSync, writeFileSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { chromium } from '@playwright/test'
import Database from 'better-sqlite3'
import { test } from './support/test'
import type { LoadedJob } from '../src/features/sync/job-state'
import { expect } from './support/expect'
import { working } from './support/survey'
import { makeFirstTests, newJob, reload, saved, waiting } from './support/walk'

const PORT = 3223
const base = `http://127.0.0.1:${PORT}`
const data = mkdtempSync(path.join(tmpdir(), 'synthema-storage-'))
const inData = (name: string) => path.join(data, name)
let said = ''
let server: ReturnType<typeof spawn>

test.describe.configure({ mode: 'serial' })
test.use({ own: true, baseURL: base })

const serving = `import('./scripts/setup.mjs').then((m) => m.serve(${PORT}, ${JSON.stringify(data)}).on('exit', () => process.exit(0)))`
async function start() {
  server = spawn('node', ['-e', serving.replace("{ stdio: 'inherit'", "{ stdio: 'pipe'")], { detached: true })
  server.stdout!.on('data', (d: Buffer) => (said += d.toString()))
  server.stderr!.on('data', (d: Buffer) => (said += d.toString()))
  await expect(async () => expect((await fetch(`http://127.0.0.1:${PORT}/icon.svg`)).status).toBe(200)).toPass({ timeout: 30_000 })
}
const stop = async () => {
  const ended = new Promise((resolve) => server.once('close', resolve))
  process.kill(-server.pid!)
  await ended
}
test.afterAll(stop)

test('where there is no job yet it is said what to do first, and a worked one is there at a touch', async ({ page }) => {
  await start()
  await page.goto('/')
  await expect(page.getByRole('button', { name: 'Make the first job' })).toBeVisible()
  await page.getByRole('button', { name: /^Tea kitchen and stage/ }).click()
  await expect(page.getByRole('heading', { name: 'Tea kitchen and stage' })).toBeVisible()
  await page.goto('/')
  await expect(page.getByRole('link', { name: 'Tea kitchen and stage' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Make the first job' })).toHaveCount(0)
  // Deleted it is offered again, and comes back as it was left.
  await page.getByRole('button', { name: 'Delete Tea kitchen and stage' }).click()
  await page.getByRole('button', { name: /^Tea kitchen and stage/ }).click()
  await expect(page.getByRole('heading', { name: 'Tea kitchen and stage' })).toBeVisible()
})

test('a database deleted while the server runs: nothing is acknowledged, nothing is lost, and it is said what to do', async ({ page }) => {
  await newJob(page, 'united-kingdom', 'A folder that goes', 'Village hall')
  await page.getByRole('textbox', { name: 'In the customer’s words' }).fill('One more socket')
  await page.getByRole('textbox', { name: 'In the customer’s words' }).press('Tab')
  await saved(page)
  unlinkSync(inData('synthema.db'))
  await page.getByRole('textbox', { name: 'Asked by' }).fill('The caretaker')
  await page.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await expect(page.getByText(/was deleted or moved while the server ran/)).toBeVisible()
  await expect.poll(() => said).toContain('was deleted or moved while the server ran')
  const elsewhere = await page.context().newPage()
  await elsewhere.goto('/')
  await expect(elsewhere.getByRole('heading', { name: 'What is kept cannot be reached' })).toBeVisible()
  await expect(elsewhere.locator('main')).toContainText('rename that to synthema.db')
  await elsewhere.close()

  await stop()
  const rescued = readdirSync(data).find((f) => f.startsWith('synthema.rescued-'))!
  for (const f of readdirSync(data)) if (f.startsWith('synthema.db')) unlinkSync(inData(f))
  renameSync(inData(rescued), inData('synthema.db'))
  await start()
  await saved(page)
  await reload(page)
  await expect(page.getByRole('textbox', { name: 'In the customer’s words' })).toHaveValue('One more socket')
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The caretaker')
})

test('network cut, browser closed, server restarted: all that was done is there, in order, with its times', async () => {
  const device = mkdtempSync(path.join(tmpdir(), 'synthema-device-'))
  const { launchOptions } = test.info().project.use
  const browse = () => chromium.launchPersistentContext(device, { ...launchOptions, baseURL: base, serviceWorkers: 'allow' })
  let context = await browse()
  let page = context.pages()[0]!
  await page.goto('/')
  const file = { ...(JSON.parse(readFileSync('tests/jobs/demo-honey-house.json', 'utf8')) as object), readings: [] }
  const { id } = (await (await page.request.post('/api/jobs/import', { data: file })).json()) as { id: string }
  const stands = async () => (await (await fetch(`${base}/api/jobs/${id}`)).json()) as LoadedJob
  const before = await stands()
  await page.goto(`/jobs/${id}/test`)
  const kept = () =>
    page.evaluate(async (job) => (await (await caches.open('shells')).keys()).filter((k) => k.url.includes(job)).length, id)
  await expect.poll(kept, { timeout: 20_000 }).toBeGreaterThanOrEqual(7)
  // And all code, that of sheets never opened too.
  const code = () => page.evaluate(async () => (await (await caches.open('code')).keys()).length)
  const all = readdirSync('.next/static', { recursive: true }).filter((f) => /\.(js|css|woff2?)$/.test(String(f)))
  await expect.poll(code, { timeout: 30_000 }).toBeGreaterThanOrEqual(all.length)

  await context.setOffline(true)
  const begun = new Date().toISOString()
  await makeFirstTests(page, 10)
  await page.goto(`/jobs/${id}/survey?sheet=trace`)
  await working(page)
    .getByRole('button', { name: /^Record:/ })
    .click()
  await expect.poll(() => waiting(page)).toBe(11)
  await page.goto(`/jobs/${id}/brief`)
  await expect(page.getByText('Kept here, not saved yet')).toBeAttached()
  await page.getByRole('textbox', { name: 'Asked by' }).fill('The beekeeper’s sister')
  await page.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await expect.poll(() => waiting(page)).toBe(12)
  const ended = new Date().toISOString()
  await context.close()
  await stop()
  await start()

  context = await browse()
  page = context.pages()[0]!
  await page.goto(`/jobs/${id}/brief`)
  await saved(page)
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The beekeeper’s sister')
  await expect.poll(() => waiting(page)).toBe(0)
  await context.close()
  const after = await stands()
  expect(after.job.observations).toHaveLength(before.job.observations.length + 1)
  const late = after.readings.slice(before.readings.length)
  expect(late).toHaveLength(10)
  const history = (await (await fetch(`${base}/api/jobs/${id}/history`)).json()) as { label: string; at: string }[]
  // The edit is the last thing done; each keeps the time it was done, not the one it came in.
  expect(history[0]!.label).toContain('Asked by')
  const times = [
    ...late.map((r) => r.at),
    ...history
      .slice(0, 2)
      .map((h) => h.at)
      .toReversed(),
  ]
  expect(times).toEqual(times.toSorted())
  expect(times.every((t) => t >= begun && t <= ended)).toBe(true)
})

test('of an older database a job that cannot be brought up is named with the reason, and the others are there', async ({ page }) => {
  await stop()
  const client = new Database(inData('synthema.db'))
  const older = JSON.parse(readFileSync('tests/support/job-file-2.json', 'utf8')) as { job: object }
  const put = client.prepare('UPDATE jobs SET version = 0, snapshot = revision, job = ? WHERE title = ?')
  put.run(JSON.stringify(older.job), 'Tea kitchen and stage')
  put.run(JSON.stringify({ ...older.job, region: 'nowhere' }), 'A folder that goes')
  client.pragma('user_version = 2')
  client.close()
  await start()
  await page.goto('/')
  const row = page.getByRole('listitem').filter({ hasText: 'A folder that goes' })
  await expect(row).toContainText(/Set aside: .* at job\.region: /)
  await expect(row.getByRole('link', { name: 'A folder that goes' })).toHaveCount(0)
  const asked = page.waitForEvent('download')
  await row.getByRole('link', { name: 'Download it as it is' }).click()
  const file = JSON.parse(readFileSync((await (await asked).path())!, 'utf8')) as { version: number; job: { region: string } }
  expect([file.version, file.job.region]).toEqual([2, 'nowhere'])
  expect(readdirSync(data)).toContain('synthema.version-2.db')
  // Anyone who has its address gets the same answer.
  const { id } = (() => {
    const db = new Database(inData('synthema.db'), { readonly: true })
    const found = db.prepare('SELECT id FROM jobs WHERE title = ?').get('A folder that goes') as { id: string }
    db.close()
    return found
  })()
  await page.goto(`/jobs/${id}/brief`)
  await expect(page.getByRole('heading', { name: 'This job was set aside' })).toBeVisible()
  await page.getByRole('link', { name: 'All jobs' }).click()
  await page.getByRole('link', { name: 'Tea kitchen and stage' }).click()
  await expect(page).toHaveURL(/\/jobs\/village-hall\//)
})

test('a second server on the same folder, and rubbish for a database, are reported on the page and the terminal', async ({
  page,
  request,
}) => {
  const second = spawn('node', ['-e', serving.replaceAll(String(PORT), String(PORT + 1))], { detached: true })
  let told = ''
  second.stderr!.on('data', (d: Buffer) => (told += d.toString()))
  await expect(async () => expect((await fetch(`http://127.0.0.1:${PORT + 1}/icon.svg`)).status).toBe(200)).toPass({ timeout: 30_000 })
  await page.goto(`http://127.0.0.1:${PORT + 1}/`)
  await expect(page.locator('main')).toContainText('Another Synthema already serves')
  expect(told).toContain('Another Synthema already serves')
  process.kill(-second.pid!)
  const traced = new Promise<number | undefined>((resolve, reject) => {
    httpRequest(base, { method: 'TRACE' }, (r) => resolve(r.statusCode))
      .on('error', reject)
      .end()
  })
  expect(await traced).toBe(405)

  await stop()
  writeFileSync(inData('synthema.db'), 'no database at all, only words '.repeat(400))
  for (const f of readdirSync(data)) if (f.startsWith('synthema.db-')) unlinkSync(inData(f))
  await start()
  await page.goto('/')
  await expect(page.locator('main')).toContainText('is damaged, or is no database of Synthema')
  const refused = await request.post('/api/jobs', { data: { region: 'north-america', title: 'x', place: '' } })
  expect(refused.status()).toBe(503)
  expect(((await refused.json()) as { error: { message: string } }).error.message).toContain('move the file aside')
})
