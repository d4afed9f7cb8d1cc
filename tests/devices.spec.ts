import type { Page } from '@playwright/test'
import { test } from './support/test'
import { expect } from './support/expect'
import { goTo, makeFirstTests, newJob, onOtherDevice, openCopy, reload, saved, stage } from './support/walk'

const idOf = (page: Page): string => /jobs\/([^/]+)/.exec(page.url())![1]!

test('what another device does appears by itself, and what is being typed stays', async ({ page, browser }) => {
  await newJob(page, 'united-kingdom', 'Two at one job', 'Village hall')
  const other = await onOtherDevice(page, browser)
  await other.getByRole('textbox', { name: 'Asked by' }).fill('The cook')
  const typing = page.getByRole('textbox', { name: 'In the customer’s words' })
  await typing.pressSequentially('A plug for the ')
  await other.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The cook', { timeout: 2000 })
  await typing.pressSequentially('urn')
  await expect(typing).toHaveValue('A plug for the urn')
  await typing.press('Tab')
  await expect(other.getByRole('textbox', { name: 'In the customer’s words' })).toHaveValue('A plug for the urn')
  await saved(page)
  await expect(page.getByRole('region', { name: 'Two versions' })).toHaveCount(0)
})

test('edits of different fields do not ask; of the same field both are shown and neither is lost', async ({ page, browser }) => {
  await newJob(page, 'united-kingdom', 'Apart and together', 'Village hall')
  const other = await onOtherDevice(page, browser)
  await page.context().setOffline(true)
  await page.getByRole('textbox', { name: 'Asked by' }).fill('The cook')
  await page.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await other.getByRole('textbox', { name: 'Through', exact: true }).fill('The caretaker')
  await other.getByRole('textbox', { name: 'Through', exact: true }).press('Tab')
  await saved(other)
  await page.context().setOffline(false)
  await expect(page.getByRole('textbox', { name: 'Through', exact: true })).toHaveValue('The caretaker', { timeout: 15_000 })
  await expect(other.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The cook')
  await expect(page.getByRole('region', { name: 'Two versions' })).toHaveCount(0)

  await page.context().setOffline(true)
  await page.getByRole('textbox', { name: 'Asked by' }).fill('The cook herself')
  await page.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await other.getByRole('textbox', { name: 'Asked by' }).fill('The committee')
  await other.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await saved(other)
  await page.context().setOffline(false)
  const both = page.getByRole('region', { name: 'Two versions' })
  await expect(both).toContainText('The cook herself', { timeout: 15_000 })
  await expect(both).toContainText('The committee')
  await page.getByRole('button', { name: 'Put mine on top of theirs' }).click()
  await expect(other.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The cook herself')
})

test('a job deleted elsewhere says so and is brought back, with what was done meanwhile', async ({ page, request }) => {
  await newJob(page, 'north-america', 'Gone and back', 'The former dairy')
  await request.delete(`/api/jobs/${idOf(page)}`)
  await expect(page.getByRole('alert').filter({ hasText: 'This job was deleted on another device' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Asked by' }).fill('The potter')
  await page.getByRole('textbox', { name: 'Asked by' }).press('Tab')
  await page.getByRole('button', { name: 'Restore', exact: true }).click()
  await saved(page)
  await reload(page)
  await expect(page.getByRole('textbox', { name: 'Asked by' })).toHaveValue('The potter')
})

test('ten readings taken without a connection, the browser closed: all there, in order, with their times', async ({ browser }) => {
  const context = await browser.newContext()
  const page = await context.newPage()
  await openCopy(page, 'honey-house')
  const id = idOf(page)
  await goTo(page, 'Test')
  await context.setOffline(true)
  const before = ((await (await browser.contexts()[0]!.request.get(`/api/jobs/${id}`)).json()) as { readings: unknown[] }).readings.length
  await makeFirstTests(page, 10)
  await expect(page.getByText('Kept here, not saved yet')).toBeAttached()
  await page.waitForTimeout(300)
  await page.close()
  await context.setOffline(false)
  const again = await context.newPage()
  await again.goto(`/jobs/${id}/test`)
  await saved(again)
  await expect
    .poll(async () => ((await (await again.request.get(`/api/jobs/${id}`)).json()) as { readings: unknown[] }).readings.length)
    .toBe(before + 10)
  const { readings } = (await (await again.request.get(`/api/jobs/${id}`)).json()) as { readings: { at: string; id: string }[] }
  const late = readings.slice(-10)
  expect(late.map((r) => r.at)).toEqual(late.map((r) => r.at).toSorted())
  expect(new Set(readings.map((r) => r.id)).size).toBe(readings.length)
  await expect(stage(again, 'Test')).toBeVisible()
})

const ACTS = Number(process.env.ACTS ?? 12)
test(`two browsers at one job, ${ACTS} random acts each, see the same in the end, which is what the server holds`, async ({
  page,
  browser,
}) => {
  test.setTimeout(60_000 + ACTS * 4000)
  await newJob(page, 'united-kingdom', 'Two hands', 'Village hall')
  const other = await onOtherDevice(page, browser)
  const fields = ['In the customer’s words', 'Asked by', 'Existing installation', 'Finish expected', 'What they may want later']
  let seed = 5
  const roll = (below: number) => (seed = (seed * 48271) % 2147483647) % below
  const field = (on: Page, name: string) => on.getByRole('textbox', { name })
  const settled = async (on: Page) => {
    const both = on.getByRole('region', { name: 'Two versions' })
    if (await both.isVisible()) await both.getByRole('button', { name: roll(3) ? 'Put mine on top of theirs' : 'Keep theirs' }).click()
  }
  for (let n = 0; n < ACTS; n++) {
    // Both at once, now and then at the same field.
    const act = async (on: Page, name: string, by: string) => {
      await settled(on)
      await field(on, name).fill(`${by} ${n}`)
      await field(on, name).press('Tab')
    }
    const name = fields[roll(fields.length)]!
    await Promise.all([act(page, name, 'one'), act(other, roll(3) ? fields[roll(fields.length)]! : name, 'other')])
  }
  await expect(async () => {
    for (const on of [page, other]) {
      await settled(on)
      await expect(on.getByText(/^Saved$/)).toBeAttached({ timeout: 1000 })
    }
  }).toPass({ timeout: 30_000 })
  const { job } = (await (await page.request.get(`/api/jobs/${idOf(page)}`)).json()) as { job: { brief: Record<string, string> } }
  const stands = [job.brief.request, job.brief.askedBy, job.brief.existing, job.brief.finish, job.brief.later]
  for (const on of [page, other])
    for (const [i, name] of fields.entries()) await expect(field(on, name)).toHaveValue(stands[i] ?? '', { timeout: 5000 })
})
