import { expect, type Page } from '@playwright/test'
import { openShelf, test } from './support'

test.use({ crates: ['parish-green'] })

test('the sluice walk gets its third gate’s motion, and is crossed in Trial on its gates to the end', async ({
  page,
}) => {
  await openShelf(page)
  await page.getByLabel('Meshes and textures').setInputFiles('demo/sources/sluice_walk/sluice_walk.glb')
  const dialog = page.getByRole('dialog', { name: 'Begin a crate with it' })
  await dialog.getByRole('radio', { name: /Course/ }).click({ timeout: 60_000 })
  await dialog.getByRole('button', { name: 'Prepare it' }).click()
  await page.getByRole('button', { name: 'Pack and try it' }).click({ timeout: 120_000 })
  await expect(page.getByRole('status').filter({ hasText: /It loads$/ })).toBeVisible({ timeout: 120_000 })

  await page.getByRole('button', { name: 'Try it in the yard' }).click()
  const run = page.getByRole('status', { name: 'The run' })
  await expect(run).toHaveText('0 of 7 taken')
  await page.getByRole('button', { name: 'Stop at edges' }).click()
  const ridden = await whatIsRidden(page)
  await page.keyboard.down('ArrowUp')
  await expect(run).toHaveText(/^arrived after [\d.]+ s, [3-7] of 7 taken$/, { timeout: 120_000 })
  expect(await ridden()).toEqual(['gate_leaf_1', 'gate_leaf_2', 'gate_leaf_3'])

  // Who no longer minds the edges walks off the end, falls below the limit and begins again.
  await page.keyboard.up('ArrowUp')
  await page.getByRole('button', { name: 'Stop at edges' }).click()
  await page.keyboard.down('ArrowUp')
  await expect(run).toHaveText(/fell (once|\d+ times), began again$/, { timeout: 60_000 })
  await page.keyboard.up('ArrowUp')
})

/** Notes what the figure rides on from now on, however short: a ride can be over between two looks of a test. */
async function whatIsRidden(page: Page): Promise<() => Promise<string[]>> {
  const notes = await page.evaluateHandle(() => {
    const seen = new Set<string>()
    const look = (): void => {
      for (const status of document.querySelectorAll('[role=status]')) {
        const name = /^rides on (.*)$/.exec(status.textContent)?.[1]
        if (name) seen.add(name)
      }
    }
    new MutationObserver(look).observe(document.body, { subtree: true, childList: true, characterData: true })
    return seen
  })
  return () => notes.evaluate((seen) => [...seen])
}
