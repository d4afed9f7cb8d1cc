import { readdirSync, readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { test } from './support/test'
import { expect } from './support/expect'
import { working } from './support/survey'
import { newJob, reload, stage } from './support/walk'

test.use({ own: true, serviceWorkers: 'allow' })

/** Until the code of every stage is on the device. */
async function codeKept(page: Page) {
  const all = readdirSync('.next/static', { recursive: true }).filter((f) => /\.(js|css|woff2?)$/.test(String(f)))
  const code = () => page.evaluate(async () => (await (await caches.open('code')).keys()).length)
  await expect.poll(code, { timeout: 30_000 }).toBeGreaterThanOrEqual(all.length)
}

test('without a connection the application opens with the job last seen, on any stage, and what is done there is sent later', async ({
  page,
  context,
}) => {
  await newJob(page, 'united-kingdom', 'In the cellar', 'Village hall')
  const address = page.url()
  const kept = () =>
    page.evaluate(
      async () => (await (await caches.open('shells')).keys()).filter((k) => new URL(k.url).pathname.startsWith('/jobs/')).length,
    )
  await expect.poll(kept, { timeout: 20_000 }).toBeGreaterThanOrEqual(7)
  await codeKept(page)
  await context.setOffline(true)
  await reload(page)
  await expect(page.getByRole('heading', { name: 'In the cellar' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Asked by' }).fill('The cook')
  await page.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await expect(page.getByText('Kept here, not saved yet')).toBeAttached()
  // Another stage, never opened before; then the first again: what was done is still there.
  await stage(page, 'Circuit').click()
  await expect(page.locator('section[aria-label="Circuit: the drawing"]')).toBeVisible({ timeout: 20_000 })
  await page.goto(address)
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The cook')
  // What needs the server says so.
  const paper = await context.newPage()
  await paper.goto(`${address.replace('/jobs/', '/api/jobs/').replace('/brief', '/record.pdf')}`).catch(() => null)
  await expect(paper.getByText('This part needs the server')).toBeVisible()
  await paper.close()
  await context.setOffline(false)
  await expect(page.getByText(/^Saved$/)).toBeAttached({ timeout: 15_000 })
  await reload(page)
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The cook')
})

test('a page kept on the device holds no job: what others wrote is shown later without a connection, and is not written over', async ({
  page,
  context,
}) => {
  await newJob(page, 'united-kingdom', 'In the loft', 'Village hall')
  const address = page.url()
  const id = address.split('/jobs/')[1]!.split('/')[0]!
  const kept = () =>
    page.evaluate(
      async () => (await (await caches.open('shells')).keys()).filter((k) => new URL(k.url).pathname.startsWith('/jobs/')).length,
    )
  await expect.poll(kept, { timeout: 20_000 }).toBeGreaterThanOrEqual(7)
  await codeKept(page)
  const shells = await page.evaluate(async () => {
    const cache = await caches.open('shells')
    return Promise.all((await cache.keys()).map(async (k) => (await cache.match(k))!.text()))
  })
  expect(shells.filter((html) => html.includes('In the loft'))).toEqual([])
  // Somebody else writes after the pages were kept.
  const { revision } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as { revision: number }
  const edit = { kind: 'brief.set', patch: { askedBy: 'The treasurer' } }
  expect((await page.request.post(`/api/jobs/${id}/edits`, { data: { revision, edit } })).ok()).toBe(true)
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The treasurer')
  await context.setOffline(true)
  await stage(page, 'Circuit').click()
  await expect(page.locator('section[aria-label="Circuit: the drawing"]')).toBeVisible({ timeout: 20_000 })
  await page.goto(address)
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The treasurer')
  await expect(page.getByText(/^No connection: as at \d/)).toBeAttached()
  await page.getByRole('textbox', { name: 'In the customer’s words' }).fill('One more socket')
  await page.getByRole('textbox', { name: 'In the customer’s words' }).press('Tab')
  await reload(page)
  await expect(page.getByRole('textbox', { name: 'In the customer’s words' })).toHaveValue('One more socket')
  await context.setOffline(false)
  await expect(page.getByText(/^Saved$/)).toBeAttached({ timeout: 15_000 })
  const { job } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as { job: { brief: object } }
  expect(job.brief).toMatchObject({ askedBy: 'The treasurer', request: 'One more socket' })
})

test('workers run what they are asked for in a fresh profile, with a connection and without, whichever comes first', async ({
  page,
  context,
}) => {
  const file = { ...(JSON.parse(readFileSync('tests/jobs/demo-honey-house.json', 'utf8')) as object), readings: [] }
  await page.goto('/')
  const { id } = (await (await page.request.post('/api/jobs/import', { data: file })).json()) as { id: string }
  const sheets = {
    trace: async () => {
      await page.goto(`/jobs/${id}/survey?sheet=trace`)
      await expect(working(page).getByRole('button', { name: /^Record:/ })).toBeVisible({ timeout: 20_000 })
    },
    isolation: async () => {
      await page.goto(`/jobs/${id}/day?sheet=isolation`)
      await expect(page.getByText('Opened, locked and tagged').first()).toBeVisible({ timeout: 20_000 })
    },
  }
  const problems: string[] = []
  page.on('pageerror', (e) => problems.push(e.message))
  page.on('console', (m) => m.type() === 'error' && /worker|chunk/i.test(m.text()) && problems.push(m.text()))
  await page.goto(`/jobs/${id}/brief`)
  const code = () => page.evaluate(async () => (await (await caches.open('code')).keys()).length)
  await expect.poll(code, { timeout: 30_000 }).toBeGreaterThan(20)
  for (const order of [
    ['trace', 'isolation'],
    ['isolation', 'trace'],
    ['trace', 'isolation'],
  ] as const)
    for (const s of order) await sheets[s]()
  await context.setOffline(true)
  for (const s of ['isolation', 'trace'] as const) await sheets[s]()
  expect(problems).toEqual([])
})
