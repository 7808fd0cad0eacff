import { expect, type Locator } from '@playwright/test'
import { openShelf, openStage, test } from './support'

test.use({ crates: ['parish-green'] })

test('the awning gets bones, bends as its ribs are turned and pulled, and bends from its packed bytes', async ({
  page,
}) => {
  await openShelf(page)
  await page.getByLabel('Meshes and textures').setInputFiles('demo/sources/canvas_awning/canvas_awning.glb')
  const dialog = page.getByRole('dialog', { name: 'Begin a crate with it' })
  await dialog.getByRole('radio', { name: /Bender/ }).click({ timeout: 60_000 })
  await dialog.getByRole('button', { name: 'Prepare it' }).click()
  await expect(page.getByRole('button', { name: 'Pack and try it' })).toBeEnabled({ timeout: 120_000 })
  const prepared = page.url()
  await openStage(page, 'Motion')
  const yard = page.locator('[data-yard]')
  const bends = async (): Promise<void> => {
    const bar = page.getByRole('group', { name: 'Try the bend' })
    await expect(bar.getByLabel('Bone').locator('option')).toHaveText([
      'bone_rib_1',
      'bone_rib_2',
      'bone_rib_3',
      'bone_rib_4',
      'bone_rib_5',
    ])
    await bar.getByLabel('Bone').selectOption('bone_rib_3')
    const atRest = await stillPicture(yard)
    await bar.getByRole('slider', { name: 'Turn about X' }).fill('30')
    await bar.getByRole('button', { name: 'Pull' }).click()
    await bar.getByRole('slider', { name: 'Pull along Y' }).focus()
    await page.keyboard.press('PageUp')
    await expect(bar.getByRole('slider', { name: 'Pull along Y' })).not.toHaveAttribute('aria-valuetext', '0.00 spans')
    await expect.poll(async () => (await itemPicture(yard)).equals(atRest)).toBe(false)
    await bar.getByRole('button', { name: 'At rest' }).click()
    await expect.poll(async () => (await itemPicture(yard)).equals(atRest)).toBe(true)
  }
  await bends()
  await page
    .getByRole('region', { name: 'Worklist' })
    .getByRole('button', { name: /^Add rows/ })
    .click()
  await expect(page.getByRole('dialog', { name: /^Add rows/ })).toContainText(
    /It broke by \d+° at one edge, now by \d+°/,
  )
  await page.goto(prepared)
  await page.getByRole('button', { name: 'Pack and try it' }).click({ timeout: 60_000 })
  await expect(page.getByRole('status').filter({ hasText: /It loads$/ })).toBeVisible({ timeout: 120_000 })
  await page.getByRole('group', { name: 'How it is shown' }).getByRole('button', { name: 'Bones' }).click()
  await bends()
})

/** The middle of the yard, where the item is, below what lies over it. */
async function itemPicture(yard: Locator): Promise<Buffer> {
  const box = await yard.boundingBox()
  if (!box) throw new Error('there is no yard')
  const clip = { x: box.x + box.width * 0.2, y: box.y + 95, width: box.width * 0.6, height: box.height - 190 }
  return yard.page().screenshot({ clip })
}

/** The same once nothing is drawn anew. */
async function stillPicture(yard: Locator): Promise<Buffer> {
  let last = await itemPicture(yard)
  await expect
    .poll(async () => {
      const next = await itemPicture(yard)
      const same = next.equals(last)
      last = next
      return same
    })
    .toBe(true)
  return last
}
