import { expect } from '@playwright/test'
import { openStage, prepareItem, test } from './support'

test.use({ crates: ['hollin-yard', 'parish-green'] })

test('the landing’s gate in a game of numbered places: given one, prepared, packed under its name, loaded', async ({
  page,
}) => {
  await page.goto('/crate/hollin-yard')
  const slot = page.getByLabel('Slot of Boathouse gate')
  await expect(slot).toHaveValue('k-00e', { timeout: 60_000 })
  // What is chosen from stays where it is while items are read and pictures are drawn.
  await slot.evaluate((choice) => choice.setAttribute('data-same', 'yes'))
  // Choosing what another has changes places with it.
  await slot.selectOption('k-015')
  await expect(page.getByLabel('Slot of Galley stove')).toHaveValue('k-00e')
  await expect(slot).toHaveAttribute('data-same', 'yes')
  await page.getByLabel('Remove Galley stove').click()
  await page.getByLabel('Remove Mooring bell').click()
  await expect(page.getByRole('row')).toHaveCount(2)
  await page.goto('/crate/hollin-yard/item/boathouse-gate?stage=mesh')
  await prepareItem(page, 'Mesh')
  await expect(page.getByText(/0 block · 0 risky/)).toBeVisible({ timeout: 120_000 })
  await expect(page.getByRole('region', { name: 'Gauges' })).toContainText(/Sections\s*\d+ \/ 20/)
  await openStage(page, 'Pack')
  await page.getByRole('button', { name: 'Pack now' }).click()
  await expect(page.getByText('Packed; nothing blocks')).toBeVisible({ timeout: 120_000 })
  await expect(page.getByRole('cell', { name: 'things/K-015.obj' })).toBeVisible()
  await page.getByRole('link', { name: 'Try it' }).click()
  await page.getByRole('button', { name: 'Load the pack' }).click()
  await expect(page.getByRole('status').filter({ hasText: /It loads$/ })).toBeVisible({ timeout: 120_000 })
})

test('a rulebook is read as sentences: of one kind, with some words, and by an address that says so', async ({
  page,
}) => {
  await page.goto('/rulebooks/hollin-keep')
  await expect(page.getByText('1 inch is 0.0254 m.')).toBeVisible()
  await page.getByLabel('What holds for').selectOption('Trinket')
  await expect(page.getByText('At most 600 triangles.')).toBeVisible()
  await expect(page.getByText('At most 3,000 triangles.')).toBeHidden()
  await page.getByRole('searchbox', { name: 'Search the rules' }).fill('sections corners')
  await expect(page.getByRole('listitem')).toHaveCount(1)
  await expect(page.getByRole('status')).toHaveText('1 rule')
  await page.reload()
  await expect(page.getByRole('listitem')).toContainText('20 sections')
  await page.getByRole('searchbox', { name: 'Search the rules' }).fill('feathers')
  await expect(page.getByText('No rule of this game says that.')).toBeVisible()
})

test('the landing’s buoy in a game without meshes: prepared, counted in half-blocks, packed, loaded', async ({
  page,
}) => {
  await page.goto('/crate/parish-green')
  for (const name of ['Boathouse gate', 'Ferry hull']) {
    await page.getByLabel(`Remove ${name}`).click()
    await expect(page.getByLabel(`Remove ${name}`)).toBeHidden()
  }
  await page.goto('/crate/parish-green/item/channel-buoy?stage=mesh')
  await prepareItem(page, 'Mesh')
  await expect(page.getByText(/0 block · 0 risky/)).toBeVisible({ timeout: 120_000 })
  await expect(page.getByRole('region', { name: 'Gauges' })).toContainText(/Half-blocks\s*[\d,]+ \/ 8,000/)
  // There are no maps to look at: the yard stays.
  await openStage(page, 'Surface')
  await expect(page.getByRole('region', { name: 'Maps of the item' })).toBeHidden()
  await openStage(page, 'Pack')
  await page.getByRole('button', { name: 'Pack now' }).click()
  await expect(page.getByText('Packed; nothing blocks')).toBeVisible({ timeout: 120_000 })
  await expect(page.getByRole('cell', { name: 'kerbs/channel-buoy/parts.json' })).toBeVisible()
  await page.getByRole('link', { name: 'Try it' }).click()
  await page.getByRole('button', { name: 'Load the pack' }).click()
  await expect(page.getByRole('status').filter({ hasText: /It loads$/ })).toBeVisible({ timeout: 120_000 })
})
