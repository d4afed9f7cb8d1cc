import { test } from './support/test'
import { expect } from './support/expect'
import { newJob, reload, stage } from './support/walk'

test.use({ own: true, serviceWorkers: 'allow' })

test('without a connection the application opens with the job last seen, on any stage, and what is done there is sent later', async ({
  page,
  context,
}) => {
  await newJob(page, 'united-kingdom', 'In the cellar', 'Village hall')
  const address = page.url()
  const kept = () =>
    page.evaluate(
      async () => (await (await caches.open('pages')).keys()).filter((k) => new URL(k.url).pathname.startsWith('/jobs/')).length,
    )
  await expect.poll(kept, { timeout: 20_000 }).toBeGreaterThanOrEqual(7)
  await context.setOffline(true)
  await reload(page)
  await expect(page.getByRole('heading', { name: 'In the cellar' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Asked by' }).fill('The cook')
  await page.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await expect(page.getByText('Kept here, not saved yet')).toBeAttached()
  // Another stage, never opened before; then the first anew: what was done still stands.
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
