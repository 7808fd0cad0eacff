import { expect } from '@playwright/test'
import { openGate, openStage, prepareGate, slip, test } from './support'

test.use({ crates: ['otterby-landing'] })

test('undo and redo by keys, a sheet of them, a search that goes there, and panels that stay as they were sized', async ({
  page,
}) => {
  await openGate(page)
  await prepareGate(page)
  await slip(page, 'Weld').click()
  const card = page.getByRole('dialog', { name: 'Weld' })
  await card.getByRole('switch', { name: 'Use this step' }).click()
  await expect(slip(page, 'Weld')).toContainText('off')
  // Closed by Escape it stays closed, whatever runs meanwhile.
  await card.press('Escape')
  await expect(card).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(slip(page, 'Weld')).not.toContainText('off')
  await page.keyboard.press('Control+Shift+z')
  await expect(slip(page, 'Weld')).toContainText('off')
  await page.keyboard.press('Control+z')
  await expect(slip(page, 'Weld')).not.toContainText('off')
  await expect(card).toHaveCount(0)

  await page.keyboard.press('Shift+?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Redo')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('mirror')
  await page.keyboard.press('Enter')
  await expect(slip(page, 'Mirror')).toBeVisible({ timeout: 60_000 })
  await page.keyboard.press('Control+z')
  await expect(slip(page, 'Mirror')).toHaveCount(0)
  await page.keyboard.press('Control+k')
  await page.keyboard.type('mooring')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/item\/mooring-bell/)
  await page.goBack()
  await expect(page).toHaveURL(/boathouse-gate\?stage=mesh/)

  const line = page.getByRole('separator', { name: 'Height of what stands below the belt' })
  const height = async (): Promise<number> =>
    (await page.getByRole('region', { name: 'Gauges' }).boundingBox())?.height ?? 0
  await expect(line).toBeVisible()
  const before = await height()
  for (let press = 0; press < 2; press++) await line.press('ArrowUp')
  await expect.poll(height).toBeGreaterThan(before + 20)
  const after = await height()
  // Going to a stage whose desk is taller and back neither loses the size nor draws the yard anew.
  await page
    .locator('canvas')
    .first()
    .evaluate((canvas) => canvas.setAttribute('data-same', 'yes'))
  await openStage(page, 'Intake')
  await openStage(page, 'Mesh')
  await expect(page.locator('canvas').first()).toHaveAttribute('data-same', 'yes')
  await expect.poll(height).toBeCloseTo(after, -1)
  await page.reload()
  await expect.poll(height, { timeout: 60_000 }).toBeCloseTo(after, -1)
})
