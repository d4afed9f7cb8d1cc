import { expect, test } from '@playwright/test'

// Settings hold for every page of the server, so these run when nothing else does.
test('metric or imperial, light or dark, whatever the world', async ({ page }) => {
  await page.goto('/jobs/former-dairy/circuit')
  await expect(page.getByLabel('Length, one way')).toHaveValue('70')
  const command = async (words: string) => {
    const input = page.getByPlaceholder('What do you want to do?')
    // The page answers keys once it is alive, which the first look at it does not tell.
    await expect(async () => {
      await page.keyboard.press('Control+k')
      await expect(input).toBeVisible({ timeout: 1000 })
    }).toPass()
    await input.fill(words)
    await page.keyboard.press('Enter')
  }
  await command('units: metric')
  await expect(page.getByLabel('Length, one way')).toHaveValue('21.336')
  await expect(page.getByText('°C', { exact: true })).toBeVisible()
  await command('dark page')
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
  await page.reload()
  await expect(page.getByLabel('Length, one way')).toHaveValue('21.336')
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
  await command('units of the job')
  await expect(page.getByLabel('Length, one way')).toHaveValue('70')
  await command('as the system says')
  await page.goto('/')
  await page.getByLabel(/Your name/).fill('Apprentice')
  await page.getByLabel(/Your name/).press('Tab')
  await page.goto('/jobs/former-dairy/circuit')
  await page.getByRole('button', { name: /^Breaker:/ }).click()
  await page.getByLabel('Wanted at least').fill('30')
  await page.getByLabel('Wanted at least').press('Tab')
  await page.getByRole('button', { name: 'History' }).click()
  await expect(page.getByRole('dialog').getByRole('listitem').first()).toContainText('Apprentice')
})

test('papers are made aside: others are answered meanwhile, and more than can be made soon are refused', async ({ request }) => {
  const papers = Promise.all(Array.from({ length: 12 }, () => request.get('/api/jobs/village-hall/record.pdf', { timeout: 85_000 })))
  const waits: number[] = []
  for (let i = 0; i < 10; i++) {
    const start = Date.now()
    expect((await request.get('/api/jobs/village-hall')).status()).toBe(200)
    waits.push(Date.now() - start)
  }
  const made = await papers
  expect(new Set(made.map((r) => r.status()))).toEqual(new Set([200, 503]))
  const whole = made.find((r) => r.status() === 200)!
  expect((await whole.body()).subarray(0, 5).toString()).toBe('%PDF-')
  // Made where they are asked for, one record alone would hold everybody up for longer.
  expect(waits.toSorted((a, b) => a - b)[5]!).toBeLessThan(1500)
})
