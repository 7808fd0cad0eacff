import { expect, type Page } from '@playwright/test'
import { openShelf, test } from './support'

test.use({ crates: ['otterby-arrivals'] })

/** From now on the browser has no room for crates. */
const fillStore = (page: Page): Promise<void> =>
  page.evaluate(() => {
    for (const write of ['put', 'add'] as const)
      IDBObjectStore.prototype[write] = function () {
        throw new DOMException('no room', 'QuotaExceededError')
      }
  })

test('a full store is said in a sentence, and everything stays as it was', async ({ page }) => {
  await openShelf(page)
  await fillStore(page)
  await page.getByRole('button', { name: 'New crate' }).click()
  await page.getByLabel('Name of the mod').fill('Too much')
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(page.getByText(/this browser’s storage: it did not keep/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Make room' })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'The shelf' })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Too much' })).toHaveCount(0)

  await page.goto('/crate/otterby-arrivals/item/timetable-board')
  await expect(page.getByRole('button', { name: 'Prepare for me' })).toBeVisible()
  await fillStore(page)
  await page.getByRole('button', { name: 'Prepare for me' }).click()
  await expect(page.getByText(/it did not keep the change .* nothing else was changed/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Prepare for me' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
})
