import { expect } from '@playwright/test'
import { openShelf, test } from './support'

test.use({ crates: ['parish-green'] })

test('the quay’s cellar is told as a room, is cut out in Trial, and its names are listed as written and as packed', async ({
  page,
}) => {
  await openShelf(page)
  await page.getByLabel('Meshes and textures').setInputFiles('demo/sources/ferry_quay/ferry_quay.glb')
  const dialog = page.getByRole('dialog', { name: 'Begin a crate with it' })
  await dialog.getByRole('radio', { name: /Ground/ }).click({ timeout: 60_000 })
  await dialog.getByRole('button', { name: 'Prepare it' }).click()
  await expect(page.getByRole('button', { name: 'Pack and try it' })).toBeEnabled({ timeout: 120_000 })
  const prepared = page.url()
  const bodies = page.getByRole('region', { name: 'Worklist' }).getByRole('button', { name: /^Solid, hollow or trim/ })
  await expect(bodies).toHaveCount(2)
  await bodies.first().click()
  await expect(page.getByRole('dialog', { name: /^Solid, hollow or trim/ })).toContainText(
    '1 part is hollow: hollow_boat_cellar.',
  )

  // The block shows its own finish and the cellar's; with ten stairs that is twelve surfaces to bump into.
  await page.goto(prepared)
  await page.getByRole('button', { name: 'Pack and try it' }).click({ timeout: 60_000 })
  await expect(page.getByRole('status').filter({ hasText: /It loads$/ })).toBeVisible({ timeout: 120_000 })
  await expect(page.getByText(/ferry_quay: 436 triangles, 12 solids/)).toBeVisible()
  await expect(page.getByText('Not a word of complaint.')).toBeVisible()

  await page.goto(page.url().replace(/trial$/, 'paths'))
  await page.getByLabel('What is listed').selectOption('names of parts')
  await page.getByLabel('Find a path, item or material').fill('*cellar*')
  await expect(page.getByRole('row', { name: /Boat cellar renamed hollow_boat_cellar/ })).toBeVisible({
    timeout: 60_000,
  })
})
