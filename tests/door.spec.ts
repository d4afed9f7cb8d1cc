import { spawn, spawnSync } from 'node:child_process'
import { X509Certificate } from 'node:crypto'
import { mkdtempSync, statSync } from 'node:fs'
import { request } from 'node:https'
import { connect as connectPlain } from 'node:net'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { connect } from 'node:tls'
import { test } from './support/test'
import { expect } from './support/expect'

const PORT = 3219
const base = `https://127.0.0.1:${PORT}`
const plain = `http://127.0.0.1:${PORT}`
const data = mkdtempSync(path.join(tmpdir(), 'synthema-door-'))
let server: ReturnType<typeof spawn>

/** A request to this server of ours, whose certificate nobody here knows. */
const fetchInsecurely = (method: string, to: string, body?: string) =>
  new Promise<{ status: number }>((resolve, reject) => {
    const headers = body === undefined ? {} : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(body) }
    const asked = request({ host: '127.0.0.1', port: PORT, path: to, method, headers, rejectUnauthorized: false }, (response) => {
      response.resume()
      response.on('end', () => resolve({ status: response.statusCode ?? 0 }))
    })
    asked.on('error', reject)
    asked.end(body)
  })

test.describe.configure({ mode: 'serial' })
// A device that was told to go on, though it does not know the server; the service worker is let in, to see that it is refused then.
test.use({ own: true, ignoreHTTPSErrors: true, serviceWorkers: 'allow' })
test.beforeAll(async () => {
  server = spawn(
    'node',
    ['-e', `import('./scripts/setup.mjs').then((m) => m.serve(${PORT}, ${JSON.stringify(data)}).on('exit', () => process.exit(0)))`],
    {
      env: { ...process.env, HOST: '0.0.0.0', PASSPHRASE: 'clay and honey', SYNTHEMA_FIXED_NONCE: 'the same' },
      detached: true,
      stdio: 'ignore',
    },
  )
  await expect(async () => expect((await fetch(plain)).status).toBe(403)).toPass({ timeout: 30_000 })
})
test.afterAll(() => {
  if (server.pid) process.kill(-server.pid)
})

test('beyond the loopback the server does not start without a passphrase', () => {
  for (const PASSPHRASE of ['', 'short']) {
    const { status, stderr } = spawnSync('node', ['scripts/demo.mjs'], {
      env: { ...process.env, HOST: '0.0.0.0', PASSPHRASE },
      encoding: 'utf8',
    })
    expect(status).toBe(1)
    expect(stderr).toContain('Set PASSPHRASE')
  }
})

test('plain HTTP gets one page, which says where to go and how the server is known', async ({ page }) => {
  const answer = await page.goto(`${plain}/jobs/any/brief`)
  expect(answer!.status()).toBe(403)
  await expect(page.getByRole('link', { name: base })).toBeVisible()
  const fingerprint = await page.locator('code').innerText()
  for (const [method, path] of [
    ['POST', '/api/sign-in'],
    ['GET', '/api/jobs/former-dairy/record.pdf'],
    ['GET', '/_next/static/x.js'],
  ] as const)
    expect((await fetch(plain + path, { method })).status).toBe(403)
  // What it hands out is the authority that the server’s own certificate is signed by.
  const authority = new X509Certificate(Buffer.from(await (await fetch(`${plain}/authority.crt`)).arrayBuffer()))
  expect(authority.fingerprint256).toBe(fingerprint)
  const seen = await new Promise<{ trusted: boolean; names: string }>((resolve, reject) => {
    const socket = connect({ port: PORT, host: '127.0.0.1', ca: authority.toString() }, () => {
      resolve({ trusted: socket.authorized, names: socket.getPeerCertificate().subjectaltname ?? '' })
      socket.end()
    })
    socket.on('error', reject)
  })
  expect(seen.trusted).toBe(true)
  expect(seen.names).toContain('IP Address:127.0.0.1')
})

test('nothing is given to anyone who has not signed in', async ({ request }) => {
  expect((await request.post(`${base}/api/jobs`, { data: { region: 'north-america', title: 'x', place: '' } })).status()).toBe(401)
  expect((await request.get(`${base}/api/reach`)).status()).toBe(401)
  const page = await request.get(`${base}/jobs/any/survey?sheet=board`, { maxRedirects: 0 })
  expect(page.status()).toBe(307)
  expect(page.headers()['location']).toMatch(/\/sign-in\?to=%2Fjobs%2Fany%2Fsurvey%3Fsheet%3Dboard$/)
})

test('each answer knows its scripts by a nonce of its own, beyond this machine', async ({ request }) => {
  const policy = async (at: string) => (await request.get(at)).headers()['content-security-policy']!
  const [once, again] = [await policy(`${base}/sign-in`), await policy(`${base}/sign-in`)]
  expect(once).toMatch(/script-src 'self' 'nonce-[^']{40,}' 'strict-dynamic';/)
  expect(again).not.toBe(once)
})

test('what goes over the air is packed; what stays on this machine is not', async ({ request }) => {
  const code = async (of: string) => {
    const [script] = /\/_next\/static\/[^"]+\.js/.exec(await (await request.get(`${of}/sign-in`)).text())!
    return (await request.get(of + script)).headers()['content-encoding']
  }
  expect(await code(base)).toBe('gzip')
  expect(await code('')).toBeUndefined()
})

test('a person signs in by name, the name stands on each edit, and a phone is shown the way', async ({ page }) => {
  await page.goto(`${base}/`)
  await page.getByLabel(/Your name/).fill('Beekeeper')
  await page.getByLabel('Passphrase').fill('wrong wrong')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByText('That is not the passphrase.')).toBeVisible()
  await page.getByLabel('Passphrase').fill('clay and honey')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByText('Signed in as')).toBeVisible()
  const cookie = (await page.context().cookies()).find((c) => c.name === 'synthema-person')!
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Strict', secure: true })
  expect(cookie.value).not.toContain('Beekeeper')

  await page.getByRole('button', { name: 'New job' }).click()
  await page
    .getByRole('form', { name: 'New job' })
    .getByText(/Southern Africa/)
    .click()
  await page.getByRole('textbox', { name: 'Title' }).fill('Second extractor')
  await page.getByRole('button', { name: 'Make it' }).click()
  await page.getByLabel('In the customer’s words').fill('One more plug')
  await page.getByLabel('Asked by').fill('The beekeeper')
  await page.getByLabel('Asked by').press('Tab')
  await page.getByRole('button', { name: 'History' }).click()
  await expect(page.getByRole('dialog').getByRole('listitem').first()).toContainText('Beekeeper')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Open it on the phone' }).click()
  await expect(page.getByRole('dialog').getByRole('figure').first()).toContainText(/https:\/\/[\d.]+:3219\/jobs\/.*\/brief/)
  // The code that leads there says too by what the phone knows the server; this browser does not know it, and says what that costs.
  await expect(page.getByRole('dialog')).toContainText(/([0-9A-F]{2}:){31}[0-9A-F]{2}/)
  await page.keyboard.press('Escape')
  await expect(page.getByText('This device does not know this server.')).toBeVisible()
  await page.getByRole('button', { name: 'Understood' }).click()
  await expect(page.getByText('This device does not know this server.')).toBeHidden()
  await page.goto(`${base}/`)
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByRole('form', { name: 'Sign in' })).toBeVisible()
})

test('a forged cookie opens nothing, and wrong tries are few', async ({ request, context, page }) => {
  await context.addCookies([{ name: 'synthema-person', value: 'Fe26.2*1*forged', url: base }])
  await page.goto(`${base}/`)
  await expect(page.getByRole('form', { name: 'Sign in' })).toBeVisible()
  // Guesses by the hundred, all at once: counted before they are checked, so that hardly any is.
  // Nor does it help to say that each comes from somewhere else.
  let from = 0
  const guess = (passphrase: string) =>
    request.post(`${base}/api/sign-in`, {
      data: { name: 'x', passphrase },
      headers: { 'x-forwarded-for': `192.0.2.${from++ % 256}` },
      timeout: 60_000,
      // On a machine that is busy enough a connection is dropped before its turn comes: then it asks again.
      maxRetries: 3,
    })
  const statuses = await Promise.all(Array.from({ length: 150 }, (_, n) => guess(`guess ${n}`).then((r) => r.status())))
  expect(statuses.filter((x) => x === 401).length).toBeLessThan(12)
  expect(statuses.filter((x) => x === 429).length).toBeGreaterThan(138)
  // A person with the right word waits, and is not locked out.
  await expect(async () => expect((await guess('clay and honey')).status()).toBe(200)).toPass({ timeout: 30_000, intervals: [2000] })
})

test('a session that was signed out of is over, whoever holds a copy of its cookie; private answers are kept by nobody', async ({
  request,
  context,
  page,
}) => {
  await expect(async () =>
    expect((await page.request.post(`${base}/api/sign-in`, { data: { name: 'Potter', passphrase: 'clay and honey' } })).status()).toBe(200),
  ).toPass({ timeout: 30_000, intervals: [2000] })
  const copy = (await context.cookies(base)).find((c) => c.name === 'synthema-person')!
  const withCopy = () => request.get(`${base}/api/reach`, { headers: { cookie: `${copy.name}=${copy.value}` } })
  expect((await withCopy()).status()).toBe(200)
  expect((await withCopy()).headers()['cache-control']).toContain('no-store')
  await page.request.delete(`${base}/api/sign-in`)
  expect((await withCopy()).status()).toBe(401)
  for (const file of ['synthema.db', 'door.json', 'ended-sessions', 'tls/authority.key'])
    expect(statSync(path.join(data, file)).mode & 0o077, file).toBe(0)
})

test('a device that signed in before is let in while others guess; TRACE is not served, and no name is bound to TLS for later', async ({
  page,
}) => {
  const enter = () => page.request.post(`${base}/api/sign-in`, { data: { name: 'Potter', passphrase: 'clay and honey' } })
  await expect(async () => expect((await enter()).status()).toBe(200)).toPass({ timeout: 30_000, intervals: [2000] })
  await page.request.delete(`${base}/api/sign-in`)
  // Somebody at the same address uses up all its tries.
  const guesses = Array.from({ length: 40 }, (_, n) =>
    fetchInsecurely('POST', '/api/sign-in', JSON.stringify({ name: 'x', passphrase: `guess ${n}` })),
  )
  expect((await Promise.all(guesses)).filter((g) => g.status === 429).length).toBeGreaterThan(20)
  const entered = await enter()
  expect(entered.status()).toBe(200)
  expect(entered.headers()['strict-transport-security']).toBeUndefined()
  expect((await fetchInsecurely('TRACE', '/')).status).toBe(405)
})

test('a handshake that is begun and not gone on with is left within seconds', async () => {
  const socket = connectPlain(PORT, '127.0.0.1')
  await new Promise((resolve) => socket.once('connect', resolve))
  const begun = Date.now()
  socket.on('error', () => null)
  // The first bytes of a handshake, and no more.
  socket.write(Buffer.from([0x16, 0x03, 0x01, 0x02, 0x00, 0x01]))
  await new Promise((resolve) => socket.once('close', resolve))
  expect(Date.now() - begun).toBeLessThan(30_000)
})

test('in plain HTTP nobody is believed but the proxy that is named', async () => {
  const port = PORT + 1
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-behind-'))
  const start = `import('./scripts/setup.mjs').then((m) => m.serve(${port}, ${JSON.stringify(folder)}).on('exit', () => process.exit(0)))`
  const env = { ...process.env, HOST: '0.0.0.0', PASSPHRASE: 'clay and honey', TLS: 'off', TRUSTED_PROXY: '127.0.0.1' }
  const behind = spawn('node', ['-e', start], { env, detached: true, stdio: 'ignore' })
  try {
    const at = `http://127.0.0.1:${port}`
    await expect(async () => expect((await fetch(at, { redirect: 'manual' })).status).toBe(307)).toPass({ timeout: 30_000 })
    const enter = (headers: Record<string, string>) =>
      fetch(`${at}/api/sign-in`, {
        method: 'POST',
        body: JSON.stringify({ name: 'Potter', passphrase: 'clay and honey' }),
        headers: { 'content-type': 'application/json', ...headers },
      })
    // The proxy says https: the cookie is for https alone, and so is where one is sent.
    const proxied = await enter({ 'x-forwarded-proto': 'https', 'x-forwarded-for': '192.0.2.7' })
    expect(proxied.headers.getSetCookie().every((c) => /;\s*Secure/i.test(c))).toBe(true)
    const sent = await fetch(at, { redirect: 'manual', headers: { 'x-forwarded-proto': 'https' } })
    expect(sent.headers.get('location')).toMatch(/^https:/)
    expect((await enter({})).headers.getSetCookie().some((c) => /;\s*Secure/i.test(c))).toBe(false)
  } finally {
    if (behind.pid) process.kill(-behind.pid)
  }
})

test('on the loopback alone there is no door, and the panel says how to open one', async ({ page }) => {
  await page.goto('/jobs/former-dairy/brief')
  await page.getByRole('button', { name: 'Open it on the phone' }).click()
  await expect(page.getByRole('dialog')).toContainText('HOST=0.0.0.0 PASSPHRASE=')
  expect((await page.request.post('/api/sign-in', { data: { name: 'x', passphrase: 'y' } })).status()).toBe(404)
})
