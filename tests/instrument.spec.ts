import { test } from './support/test'
import { expect } from './support/expect'
import { makeFirstTests, openCopy, saved } from './support/walk'

test('twenty readings come straight from an instrument over the network, each recorded by a press', async ({ page }) => {
  test.setTimeout(180_000)
  await openCopy(page, 'honey-house', 'test')
  const working = page.locator('aside')
  const rows = page.locator('section[aria-label="Test: the drawing"]').locator('tbody tr')
  const circuits = page.getByLabel('Current circuit')
  let taken = 0
  for (const option of await circuits.locator('option').all()) {
    await circuits.selectOption((await option.getAttribute('value'))!)
    const count = await rows.count()
    for (let i = 0; i < count && taken < 20; i++) {
      const row = rows.nth(i)
      const pick = row.getByRole('button')
      if ((await pick.getAttribute('aria-pressed')) !== 'true') await pick.click()
      await expect(pick).toHaveAttribute('aria-pressed', 'true')
      const done = working.getByRole('button', { name: /^Pass( again)?$/ })
      if (await done.isVisible()) {
        await done.click()
        await expect(row.locator('td').nth(3)).not.toBeEmpty()
        continue
      }
      const listen = working.getByRole('button', { name: /^Listen to 127\.0\.0\.1/ })
      await expect(working.getByRole('group', { name: 'From an instrument' })).toBeVisible()
      if (await listen.isVisible()) await listen.click()
      const record = working.getByRole('button', { name: 'Record what it shows' })
      const nothing = working.getByText('it shows nothing for this test')
      const trouble = working.getByRole('group', { name: 'From an instrument' }).getByRole('alert')
      await expect(record.and(page.locator(':enabled')).or(nothing).or(trouble)).toBeVisible()
      expect(await trouble.allInnerTexts()).toEqual([])
      if (await nothing.isVisible()) {
        // What is not worked out from the wiring is typed as ever.
        const expected = await row.locator('td').nth(2).innerText()
        await working.getByLabel(/^(Reading|New reading)/).fill(expected.startsWith('up to') ? '0' : /[\d.]+/.exec(expected)![0])
        await working.getByRole('button', { name: 'Record', exact: true }).click()
        await expect(row.locator('td').nth(3)).not.toBeEmpty()
        continue
      }
      await record.click()
      await expect(row.locator('td').nth(3)).not.toBeEmpty()
      taken++
    }
  }
  expect(taken).toBe(20)
  await saved(page)
  const id = /jobs\/([^/]+)\//.exec(page.url())![1]
  const { readings } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as {
    readings: { instrument: string; value: number | null }[]
  }
  const from = readings.filter((r) => r.instrument.startsWith('127.0.0.1:'))
  expect(from).toHaveLength(20)
  expect(from.every((r) => r.value !== null)).toBe(true)
})

test('readings are pasted as an instrument lists them, looked at row by row, and taken where they may be', async ({ page }) => {
  await openCopy(page, 'honey-house', 'test')
  await page.getByText('Paste readings of an instrument').click()
  const rows = page.getByRole('list', { name: 'Rows as they are read' }).getByRole('listitem')
  const box = page.getByLabel('A row a reading: the test and what was read, from a file or a table')
  // A live test of a circuit that is not isolated yet is shut; a name that is not on the list is shown as such.
  await box.fill('no,value,unit,test\n1,0,V,Dead between live and neutral\n2,229,V,"Voltage, live to neutral"\n3,5,V,Somebody’s test')
  await expect(rows).toHaveCount(3)
  await expect(rows.nth(1)).toContainText(/shut/)
  await expect(rows.nth(2)).toContainText(/no test of this circuit/)
  await expect(rows.nth(0).getByRole('img')).toHaveAttribute('aria-label', 'Met')
  // What is read well and reads badly is not met.
  await box.fill('Dead between live and neutral\t180')
  await expect(rows.nth(0).getByRole('img')).toHaveAttribute('aria-label', 'Error')
  await box.fill('Dead between live and neutral\t0')
  await page.getByRole('button', { name: 'Record the 1 that fit' }).click()
  await expect(page.getByText('1 reading recorded.')).toBeVisible()
  await expect(page.getByRole('row').filter({ hasText: 'Dead between live and neutral' })).toContainText('0 V')
  await saved(page)
})

test('only what was named at the start is connected to', async ({ page }) => {
  const { instruments } = (await (await page.request.get('/api/instruments')).json()) as { instruments: string[] }
  expect(instruments).toHaveLength(1)
  for (const name of ['127.0.0.1:22', 'localhost:3217', `${instruments[0]} `, ''])
    expect((await page.request.post('/api/instruments', { data: { name, unit: 'V' } })).status()).toBeGreaterThanOrEqual(400)
  const asked = { name: instruments[0], unit: 'V', test: 'a"\nSYST' }
  expect((await page.request.post('/api/instruments', { data: asked })).status()).toBe(422)
  // Listening makes it measure: another site cannot have that done.
  const elsewhere = { data: { name: instruments[0], unit: 'V' }, headers: { origin: 'https://elsewhere.invalid' } }
  expect((await page.request.post('/api/instruments', elsewhere)).status()).toBe(403)
})

test('a loop is read point by point, each by what is expected there, and nothing is met before all are read', async ({ page }) => {
  await openCopy(page, 'village-hall', 'test')
  const picker = page.getByLabel('Current circuit')
  await picker.selectOption((await picker.locator('option', { hasText: 'Ring, hall and kitchen' }).getAttribute('value'))!)
  await makeFirstTests(page, 7)
  const working = page.locator('aside')
  const row = page.locator('tbody tr', { hasText: 'Continuity of the CPC, R1 + R2' })
  const at = working.getByLabel('Read at')
  const read = async (ohm: string) => {
    await working.getByLabel(/^(Reading|New reading)/).fill(ohm)
    await page.keyboard.press('Enter')
  }
  await row.getByRole('button').click()
  await expect(at.locator('option:checked')).toHaveText('All points, by the farthest')
  const points = (await at.locator('option').allInnerTexts()).slice(1)
  await at.selectOption({ label: points[0]! })
  await read('0.1')
  // The next point is in hand; one read is not all.
  await expect(at.locator('option:checked')).toHaveText(points[1]!)
  await expect(working.getByLabel('Reading', { exact: true })).toBeFocused()
  await expect(row.getByRole('img', { name: /^not measured at/ })).toBeVisible()
  await read('5')
  await expect(row.getByRole('img', { name: new RegExp(`^at ${points[1]} above the expected`) })).toBeVisible()
  const list = working.locator('section', { hasText: 'Point by point' }).getByRole('listitem')
  await expect(list).toHaveCount(points.length)
  await expect(list.first()).toContainText('0.1 Ω')
  await expect(list.nth(2)).toContainText('not read')
  // One reading for all of them, as the farthest shows it, stands for each.
  await at.selectOption({ label: 'All points, by the farthest' })
  await read('0.3')
  await expect(row.getByRole('img', { name: 'as expected' })).toBeVisible()
})
