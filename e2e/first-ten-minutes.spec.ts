import { expect, test, type Page } from '@playwright/test'
import { existsSync, readdirSync } from 'node:fs'
import { join } from 'node:path'

interface Stranger {
  folder: string
  files: RegExp
  name: string
}

/** Models that nobody here made, from Debian’s corpus; where that cannot be had, the demo’s own in the same formats. */
const corpus = '/usr/share/assimp/models'
const isThere = existsSync(corpus)
const place = isThere ? corpus : 'demo/sources'
const strangers: Stranger[] = isThere
  ? [
      { folder: 'Collada', files: /^duck(?:\.dae|CM\..*)$/, name: 'Duck' },
      { folder: 'OBJ', files: /^spider\.(?:obj|mtl)$|\.jpg$/, name: 'Spider' },
      { folder: '3DS', files: /^fels\.3ds$/, name: 'Fels' },
    ]
  : [
      { folder: 'ferry_hull', files: /./, name: 'Ferry hull' },
      { folder: 'boathouse_gate', files: /./, name: 'Boathouse gate' },
      { folder: 'channel_buoy', files: /./, name: 'Channel buoy' },
    ]
/** An OBJ, which says neither its unit nor its axes. */
const undeclared = isThere ? 'OBJ/spider.obj' : 'boathouse_gate/boathouse_gate.obj'

/** Counts what a newcomer presses. */
async function countClicks(page: Page): Promise<() => Promise<number>> {
  await page.addInitScript(() => {
    addEventListener('click', ({ isTrusted }) => {
      if (isTrusted) sessionStorage.setItem('clicks', String(Number(sessionStorage.getItem('clicks') ?? 0) + 1))
    })
  })
  return () => page.evaluate(() => Number(sessionStorage.getItem('clicks') ?? 0))
}

test('from the shelf to a pack that loads with files of other hands, without typing, with few clicks', async ({
  page,
}) => {
  const clicks = await countClicks(page)
  let before = 0
  for (const { folder, files, name } of strangers) {
    await page.goto('/')
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Choose files' }).click(),
    ])
    const present = readdirSync(join(place, folder)).filter((file) => files.test(file))
    await chooser.setFiles(present.map((file) => join(place, folder, file)))
    const dialog = page.getByRole('dialog', { name: 'Begin a crate with it' })
    await expect(dialog.getByLabel('Name of the mod')).not.toHaveValue('')
    // The kinds of the game, each with its picture, one of them chosen already.
    await expect(dialog.getByRole('radio', { checked: true })).toHaveCount(1, { timeout: 60_000 })
    await dialog.getByRole('button', { name: 'Prepare it' }).click()
    await expect(page.getByRole('region', { name: 'What was done' })).toContainText('Surface', { timeout: 120_000 })
    await page.getByRole('button', { name: 'Pack and try it' }).click({ timeout: 60_000 })
    await expect(page.getByRole('status').filter({ hasText: /It loads$/ }), name).toBeVisible({ timeout: 120_000 })
    const now = await clicks()
    expect(now - before).toBeLessThanOrEqual(8)
    before = now
  }
})

test('what is asked is answered by looking, and the answer holds', async ({ page }) => {
  await page.goto('/')
  await page.getByLabel('Meshes and textures').setInputFiles(join(place, undeclared))
  await page.getByRole('button', { name: 'Prepare it' }).click({ timeout: 60_000 })
  const asked = page.getByRole('region', { name: 'Still asked' })
  await expect(asked.getByRole('radio', { name: /\+Y up, \+Z forward/ })).toBeChecked({ timeout: 120_000 })
  await expect(asked).toContainText('Still asked: 2')
  await expect(asked.locator('img')).toHaveCount(4)
  await expect(page.getByRole('button', { name: 'Pack and try it' })).toBeEnabled({ timeout: 60_000 })
  await asked.getByRole('radio', { name: /\+Z up, −Y forward/ }).click()
  await expect(page.locator('[data-entry]').filter({ hasText: 'Turn axes' })).toBeVisible({ timeout: 120_000 })
  await expect(asked).toContainText('Still asked: 1', { timeout: 60_000 })
  // The likeliest is confirmed: nothing has to run anew, and nothing is asked any more.
  await asked.getByRole('radio', { name: /taken for now/ }).click()
  await expect(asked).toContainText('Nothing is asked', { timeout: 60_000 })
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(asked).toContainText('Still asked: 1')
})
