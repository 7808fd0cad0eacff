import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { readFile } from 'node:fs/promises'

test(
  'a rulebook is started from another, changed in forms and as text, tried on a crate, saved, brought and begun ' +
    'with',
  async ({ page }) => {
    await page.goto('/')
    await page.getByRole('link', { name: 'Rulebooks' }).click()
    await page
      .getByRole('listitem')
      .filter({ hasText: 'Hollin Keep' })
      .getByRole('button', { name: 'Start from it' })
      .click()
    await page.getByLabel('What your game is called').fill('Mill Lane')
    await page.getByRole('button', { name: 'Start', exact: true }).click()
    const status = page.getByRole('status')
    await expect(status).toContainText('It holds together')

    // A form changes the text, and what is wrong is told in both.
    const forms = page.getByRole('region', { name: 'As forms' })
    const text = page.getByLabel('The rulebook as JSON')
    await forms.locator('summary').filter({ hasText: /^maps/ }).click()
    const largest = forms.getByLabel('largest pixels')
    await largest.fill('2')
    await largest.press('Enter')
    await expect(status).toContainText('1 place to mend')
    await expect(forms).toContainText('at least 4 and at most 2 leaves nothing')
    await expect(page.getByRole('button', { name: 'Save as a file' })).toBeDisabled()
    await page
      .getByRole('list', { name: 'What is wrong' })
      .getByRole('button', { name: /maps\.largestPixels/ })
      .click()
    // The place in the text is chosen: what is typed takes its place, and the form has it.
    await page.keyboard.type('64')
    await expect(largest).toHaveValue('64')
    await expect(status).toContainText('It holds together')
    await page.keyboard.press('End')
    await page.keyboard.type(' }')
    await expect(forms).toContainText('The text beside is no JSON')
    await page.keyboard.press('Backspace')
    await page.keyboard.press('Backspace')
    await expect(largest).toBeEnabled()
    await expect(text).toContainText('"largestPixels"')
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])

    await page.getByLabel('Try it on').selectOption({ label: 'Hollin yard · 3 items' })
    await page.getByRole('button', { name: 'Try', exact: true }).click()
    await expect(page.getByRole('region', { name: 'What was tried' })).toContainText(
      /Galley stove: 1 finding more, 0 less.*128 × 128; the game takes sides from 4 to 64/,
      { timeout: 120_000 },
    )
    await expect(status).toContainText('kept')
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as a file' }).click(),
    ])
    const saved = JSON.parse(await readFile(await file.path(), 'utf8'))
    expect([saved.id, saved.maps.largestPixels]).toEqual(['mill-lane', 64])

    // Removed, brought again from the file, and begun with.
    await page.getByRole('link', { name: 'All rulebooks' }).click()
    await page.getByRole('button', { name: 'Remove Mill Lane' }).click()
    await expect(page.getByText('None yet.')).toBeVisible()
    await page
      .getByLabel('Rulebook file')
      .setInputFiles({ name: 'mill.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(saved)) })
    await expect(page.getByRole('link', { name: 'Edit Mill Lane' })).toBeVisible()
    // What is just fading away has no contrast to be judged.
    await expect(page.locator('[data-sonner-toast]')).toHaveCount(0)
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
    await page.goto('/')
    await page.getByRole('button', { name: 'New crate' }).click()
    await page.getByLabel('Packs for').selectOption({ label: 'Mill Lane 0.1, your own' })
    await page.getByLabel('Name').fill('Mill things')
    await page.getByRole('button', { name: 'Begin', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'Mill things' })).toBeVisible()
    await expect(page.getByRole('banner')).toContainText('Mill Lane')
  },
)

test('a rulebook is learned from a pack that the game accepts: kept, changed, dropped, and given stock', async ({
  page,
}) => {
  await page.goto('/rulebooks')
  await page.getByRole('link', { name: 'Learn one from files' }).click()
  await page.getByLabel('Files that the game accepts').setInputFiles('core/game/games/tarn-and-tiller/stock.zip')
  const row = (field: string) =>
    page.getByRole('row').filter({ has: page.getByLabel(`Keep ${field}`, { exact: true }) })
  await expect(row('files.mesh.writer')).toContainText('sure', { timeout: 60_000 })
  await expect(page.getByLabel('Value of files.mesh.writer')).toHaveValue('glb')
  await expect(page.getByLabel('Value of space.up')).toHaveValue('+y')
  await page.getByLabel('You know how tall one of them is').selectOption({ label: 'items/props/ferry/ferry.glb' })
  await page.getByLabel('Its height in metres').fill('4')
  await page.getByRole('button', { name: 'Measure again' }).click()
  await expect(page.getByLabel('Value of space.unit.metres')).toHaveValue('0.5')
  await page.getByLabel('Keep names.pattern').uncheck()
  await page.getByLabel('Value of names.longest').fill('33')
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
  await page.getByLabel('What the game is called').fill('Found Game')
  await page.getByRole('button', { name: 'Begin with what is kept' }).click()
  await expect(page.getByRole('heading', { name: 'Found Game' })).toBeVisible()
  await expect(page.getByRole('status')).toContainText('It holds together')
  await expect(page.getByLabel('The rulebook as JSON')).toContainText('found-game')

  await page.getByRole('link', { name: 'All rulebooks' }).click()
  await page
    .getByLabel('Stock of Found Game')
    .setInputFiles(['demo/sources/mooring_bell/mooring_bell.glb', 'demo/sources/ferry_hull/deck boards.png'])
  await expect(
    page.getByText('Found Game has 1 object, 1 texture, 0 donors and 0 skeletons more in stock.'),
  ).toBeVisible({
    timeout: 60_000,
  })
})
