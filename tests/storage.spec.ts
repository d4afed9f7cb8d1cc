import { spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, renameSync, unlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { expect, test } from '@playwright/test'
import { newJob, saved } from './support/walk'

const PORT = 3223
const data = mkdtempSync(path.join(tmpdir(), 'synthema-storage-'))
const inData = (name: string) => path.join(data, name)
let said = ''
let server: ReturnType<typeof spawn>

test.describe.configure({ mode: 'serial' })
test.use({ baseURL: `http://127.0.0.1:${PORT}` })

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

test('a database deleted while the server runs: nothing is acknowledged, nothing is lost, and it is said what to do', async ({ page }) => {
  await start()
  await newJob(page, /United Kingdom/, 'A folder that goes', 'Village hall')
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
  await expect(elsewhere.getByRole('main')).toContainText('rename that to synthema.db')
  await elsewhere.close()

  await stop()
  const rescued = readdirSync(data).find((f) => f.startsWith('synthema.rescued-'))!
  for (const f of readdirSync(data)) if (f.startsWith('synthema.db')) unlinkSync(inData(f))
  renameSync(inData(rescued), inData('synthema.db'))
  await start()
  await saved(page)
  await page.reload()
  await expect(page.getByRole('textbox', { name: 'In the customer’s words' })).toHaveValue('One more socket')
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The caretaker')
})

test('a second server on the same folder, and rubbish for a database, are told on the page and the terminal', async ({ page, request }) => {
  const second = spawn('node', ['-e', serving.replaceAll(String(PORT), String(PORT + 1))], { detached: true })
  let told = ''
  second.stderr!.on('data', (d: Buffer) => (told += d.toString()))
  await expect(async () => expect((await fetch(`http://127.0.0.1:${PORT + 1}/icon.svg`)).status).toBe(200)).toPass({ timeout: 30_000 })
  await page.goto(`http://127.0.0.1:${PORT + 1}/`)
  await expect(page.getByRole('main')).toContainText('Another Synthema already serves')
  expect(told).toContain('Another Synthema already serves')
  process.kill(-second.pid!)

  await stop()
  writeFileSync(inData('synthema.db'), 'no database at all, only words '.repeat(400))
  for (const f of readdirSync(data)) if (f.startsWith('synthema.db-')) unlinkSync(inData(f))
  await start()
  await page.goto('/')
  await expect(page.getByRole('main')).toContainText('is damaged, or is no database of Synthema')
  const refused = await request.post('/api/jobs', { data: { region: 'north-america', title: 'x', place: '' } })
  expect(refused.status()).toBe(503)
  expect(((await refused.json()) as { error: { message: string } }).error.message).toContain('move the file aside')
})
