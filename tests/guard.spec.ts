import { test } from './support/test'
import { expect } from './support/expect'

test('another site can neither write nor be loaded from, and a rebound name gets nothing', async ({ request, baseURL }) => {
  const body = { data: { region: 'north-america', title: 'Planted', place: '' } }
  for (const origin of ['https://elsewhere.example', 'null', 'http://127.0.0.1:1'])
    expect((await request.post('/api/jobs', { ...body, headers: { origin } })).status()).toBe(403)
  expect((await request.get('/', { headers: { host: 'elsewhere.example' } })).status()).toBe(403)
  expect((await request.post('/api/jobs', { ...body, headers: { origin: baseURL! } })).status()).toBe(200)
  const page = await request.get('/')
  const policy = page.headers()['content-security-policy']!
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic';/)
  expect(policy).not.toMatch(/script-src[^;]*unsafe/)
})

test('calculators answer over HTTP as on the command line', async ({ request }) => {
  const input = { region: 'united-kingdom', cable: 'twin-earth', size: '2.5 mm2', method: 'clipped-direct' }
  const one = await request.post('/api/calc/ampacity', { data: input })
  expect(await one.json()).toMatchObject({ tabulatedA: 27 })
  const bad = await request.post('/api/calc/ampacity', { data: { ...input, size: '25 mm2' } })
  expect(bad.status()).toBe(422)
  expect(await bad.json()).toMatchObject({ error: { path: 'size' } })
  const both = await request.post('/api/calc/ampacity', { data: [input, { ...input, colour: 1 }] })
  expect(both.status()).toBe(200)
  expect((await both.json())[1].error.path).toBe('colour')
  expect((await request.post('/api/calc/nothing', { data: {} })).status()).toBe(404)
})

test('no page runs an inline script or asks anything of another host', async ({ page }) => {
  const complaints: string[] = []
  const strange: string[] = []
  page.on('console', (m) => m.type() === 'error' && complaints.push(m.text()))
  page.on('request', (r) => !new URL(r.url()).host.startsWith('127.0.0.1') && !r.url().startsWith('data:') && strange.push(r.url()))
  for (const path of ['/', '/jobs/former-dairy/circuit', '/jobs/honey-house/test', '/jobs/village-hall/wiring'])
    await page.goto(path, { waitUntil: 'networkidle' })
  expect(complaints).toEqual([])
  expect(strange).toEqual([])
})

test('a job that is not there says so', async ({ page }) => {
  const response = await page.goto('/jobs/none/brief')
  expect(response!.status()).toBe(404)
  expect((await page.goto('/jobs/former-dairy/nothing'))!.status()).toBe(404)
})

test('what is served can be read before its code runs, and takes nothing that would be lost', async ({ browser, page }) => {
  const still = await (await browser.newContext({ javaScriptEnabled: false })).newPage()
  for (const path of ['/', '/jobs/former-dairy/brief', '/jobs/former-dairy/survey?sheet=points', '/jobs/honey-house/test']) {
    for (const [on, inert] of [
      [still, true],
      [page, false],
    ] as const) {
      await on.goto(path)
      const fields = on.locator('main').locator('input, textarea, select, button')
      await expect(fields.first()).toBeVisible()
      const free = on.locator('main :is(input, textarea, select, button):not([inert] *)')
      if (inert) await expect(free, path).toHaveCount(0)
      else await expect(on.locator('[inert]'), path).toHaveCount(0)
    }
  }
})

test('a plan that takes seconds is worked out aside: others are answered meanwhile, and a long list of them is refused', async ({
  request,
}) => {
  const tasks = Array.from({ length: 18 }, (_, i) => ({
    id: `t${i}`,
    minutes: 5 + ((i * 35) % 60),
    power: ['off', 'any', 'on'][i % 3],
    after: i > 4 ? [`t${i - 5}`] : [],
  }))
  const day = { startMin: 480, crew: 2, tasks }
  let planned = false
  const plan = request.post('/api/calc/day-plan', { data: day }).then(async (r) => {
    planned = true
    return (await r.json()) as { tasks: unknown[] }
  })
  for (let i = 0; i < 5; i++) expect((await request.get('/api/jobs/former-dairy')).status()).toBe(200)
  expect(planned).toBe(false)
  expect((await plan).tasks).toHaveLength(18)
  const many = await request.post('/api/calc/day-plan', { data: Array.from({ length: 51 }, () => day) })
  expect(many.status()).toBe(422)
})
