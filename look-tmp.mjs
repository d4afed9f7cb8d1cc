import { spawn } from 'node:child_process'
import { chromiumPath } from './scripts/setup.mjs'
import { chromium } from '@playwright/test'
const port = 3219,
  base = `http://127.0.0.1:${port}`
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
const b = await chromium.launch({ executablePath: chromiumPath(), args: ['--no-sandbox', '--disable-gpu'] })
const shots = JSON.parse(process.argv[2])
for (const [name, path, w, h, clicks, scroll] of shots) {
  const page = await b.newPage({ viewport: { width: w, height: h }, reducedMotion: 'reduce' })
  await page.goto(base + path, { waitUntil: 'networkidle' })
  for (const c of clicks ?? []) {
    try {
      if (c.startsWith('sel:')) {
        const [, l, i] = c.split(':')
        await page.getByLabel(l).first().selectOption({ index: +i })
      } else await page.getByRole('button', { name: c }).first().click({ timeout: 3000 })
    } catch (e) {
      console.log(name, c, e.message.slice(0, 100))
    }
    await page.waitForTimeout(300)
  }
  if (scroll) {
    for (const el of await page.locator('aside, [role=complementary]').all())
      await el.evaluate((e, s) => e.scrollTo(0, s), scroll).catch(() => {})
  }
  await page.waitForTimeout(300)
  await page.screenshot({ path: `/tmp/look-${name}.png` })
  await page.close()
}
await b.close()
server.kill()
process.exit(0)
