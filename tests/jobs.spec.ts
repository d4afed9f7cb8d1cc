import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { test } from './support/test'
import { expect } from './support/expect'
import { goTo, newJobByHand, saved } from './support/walk'

const file = () => JSON.parse(readFileSync('tests/support/job-file.json', 'utf8'))

async function dropFile(page: Page, name: string, text: string) {
  const transfer = await page.evaluateHandle(
    ([fileName, content]) => {
      const t = new DataTransfer()
      t.items.add(new File([content!], fileName!, { type: 'application/json' }))
      return t
    },
    [name, text],
  )
  await page.getByTestId('drop-zone').dispatchEvent('drop', { dataTransfer: transfer })
}

test('jobs are searched, duplicated, deleted and brought back', async ({ page }) => {
  await newJobByHand(page, /North America/, 'Pump for the cistern', 'Orchard')
  await page.goto('/')
  await page.getByLabel('Search jobs').fill('cist')
  await expect(page).toHaveURL(/q=cist/)
  await expect(page.getByRole('link', { name: 'Pump for the cistern' })).toHaveCount(1)
  await expect(page.getByRole('link', { name: 'Kiln and wheel room' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Duplicate Pump for the cistern' }).click()
  await expect(page.getByRole('link', { name: 'Pump for the cistern (copy)' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete Pump for the cistern (copy)' }).click()
  await expect(page.getByRole('link', { name: 'Pump for the cistern (copy)' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('link', { name: 'Pump for the cistern (copy)' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete Pump for the cistern (copy)' }).click()
  await page.getByRole('link', { name: 'Deleted jobs' }).click()
  await page.getByRole('button', { name: 'Bring back Pump for the cistern (copy)' }).click()
  await expect(page.getByRole('button', { name: 'Bring back Pump for the cistern (copy)' })).toHaveCount(0)
  await page.goto('/?q=zzzz')
  await expect(page.getByText('No job has “zzzz” in it.')).toBeVisible()
})

test('the list is narrowed by world, by stage and to what is wrong', async ({ page }) => {
  await page.goto('/?world=southern-africa')
  const job = (name: string) => page.getByRole('link', { name, exact: true })
  await expect(job('Honey warming cabinet')).toBeVisible()
  await expect(job('Kiln and wheel room')).toHaveCount(0)
  await page.getByLabel('Where', { exact: true }).selectOption({ label: 'North America' })
  await expect(page).toHaveURL(/world=north-america/)
  await expect(job('Kiln and wheel room')).toBeVisible()
  await expect(job('Honey warming cabinet')).toHaveCount(0)
  await page.getByLabel('Only with errors').check()
  await expect(page).toHaveURL(/wrong=1/)
  await page.getByLabel('Reached').selectOption({ label: 'Handover' })
  await expect(page.getByText('No job is like that.')).toBeVisible()
  // The server takes its time: what is chosen before it has answered takes nothing back of what was chosen before.
  await page.route(/_rsc=/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 800))
    await route.continue()
  })
  await page.getByRole('button', { name: 'Show all' }).click()
  await page.getByLabel('Search jobs').fill('honey warming')
  await expect(page).toHaveURL(/\/\?q=honey\+warming$/)
  await expect(job('Honey warming cabinet')).toBeVisible()
  await page.goto('/?world=southern-africa')
  const asked = page.waitForRequest(/q=kiln/)
  await page.getByLabel('Search jobs').fill('kiln')
  await asked
  await page.getByLabel('Where', { exact: true }).selectOption({ label: 'North America' })
  await expect(page).toHaveURL(/\/\?q=kiln&world=north-america$/)
  await expect(job('Kiln and wheel room')).toBeVisible()
  // Back at all jobs the field does not say what is no longer searched for.
  await page.getByRole('link', { name: 'Synthema' }).click()
  await expect(page.getByLabel('Search jobs')).toHaveValue('')
})

test('a job without title, or without where it is, is refused at its field, and what was typed stays', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New job' }).click()
  await page.getByRole('textbox', { name: 'Place' }).fill('The barn')
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page.getByText('A job needs a title.')).toBeVisible()
  await expect(page.getByText('Where is it? Its rules follow from that.')).toBeVisible()
  await expect(page.getByRole('textbox', { name: 'Place' })).toHaveValue('The barn')
})

test('a Job file dropped on the page comes in, and goes out again to the letter', async ({ page }) => {
  await page.goto('/')
  await dropFile(page, 'job.json', JSON.stringify(file()))
  await expect(page.getByRole('heading', { name: 'Wax melter' })).toBeVisible()
  await goTo(page, 'Handover')
  const href = await page.getByRole('link', { name: /^Job file/ }).getAttribute('href')
  expect(await (await page.request.get(href!)).json()).toEqual(file())
  // Brought in again it is reported, and both are kept.
  await page.goto('/')
  await dropFile(page, 'job.json', JSON.stringify(file()))
  await expect(page.getByText(/There was one of this title and place already/)).toBeVisible()
  await expect(page.getByRole('link', { name: 'Wax melter' })).toHaveCount(2)
  await page.getByRole('button', { name: 'Open the one brought in' }).click()
  await expect(page.getByRole('heading', { name: 'Wax melter' })).toBeVisible()
})

test('a file that is none, or is broken, changes nothing and names the path', async ({ page }) => {
  await page.goto('/')
  const broken = file()
  broken.job.title = 'Never brought in'
  broken.job.circuits[0].designs[0].lengthM = 'far'
  await dropFile(page, 'broken.json', JSON.stringify(broken))
  await expect(page.getByText(/broken\.json was not brought in\. At job\.circuits\.0\.designs\.0\.lengthM/)).toBeVisible()
  await dropFile(page, 'notes.json', 'milk, eggs')
  await expect(page.getByText(/notes\.json was not brought in\. This is not JSON/)).toBeVisible()
  await dropFile(page, 'big.json', `"${'x'.repeat(10 * 1024 * 1024)}"`)
  await expect(page.getByText(/larger than 10 MB/)).toBeVisible()
  await page.goto('/?q=never')
  await expect(page.getByText('No job has “never” in it.')).toBeVisible()
})

test('user text is text, wherever it is shown', async ({ page }) => {
  const rude = '<img src=x onerror="document.title=1">'
  await newJobByHand(page, /Southern Africa/, rude, rude)
  await page.getByLabel('Called', { exact: true }).fill(rude)
  await page.getByLabel('Called', { exact: true }).press('Tab')
  await saved(page)
  await goTo(page, 'Circuit')
  await goTo(page, 'Handover')
  await page.goto('/')
  await expect(page.getByRole('link', { name: rude })).toBeVisible()
  expect(await page.locator('img').count()).toBe(0)
  expect(await page.title()).not.toBe('1')
})
