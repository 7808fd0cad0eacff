import { expect, test } from '@playwright/test'
import { openShelf } from './support'

test('two tabs on one crate follow each other, and neither loses what the other did', async ({ page, context }) => {
  await openShelf(page)
  await page.goto('/crate/otterby-arrivals/item/timetable-board')
  const other = await context.newPage()
  await other.goto('/crate/otterby-arrivals/item/timetable-board')
  await expect(other.getByRole('button', { name: 'Prepare for me' })).toBeVisible()
  await page.getByRole('button', { name: 'Prepare for me' }).click()
  const worklist = {
    here: page.getByRole('region', { name: 'Worklist' }),
    there: other.getByRole('region', { name: 'Worklist' }),
  }
  await expect(worklist.there.getByRole('button', { name: /^Compress maps/ })).toBeVisible()
  await other.getByRole('button', { name: 'Undo' }).click()
  await expect(worklist.here.getByRole('button', { name: 'Prepare for me' })).toBeVisible()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(worklist.there.getByRole('button', { name: /^Compress maps/ })).toBeVisible()
  // Both change something at once: both changes are kept.
  const model = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n'
  const bring = async (tab: typeof page): Promise<void> => {
    await tab.goto('/crate/otterby-arrivals')
    await expect(tab.getByRole('link', { name: 'Timetable board' })).toBeVisible()
    const transfer = await tab.evaluateHandle((text) => {
      const data = new DataTransfer()
      data.items.add(new File([text], 'pier.obj'))
      return data
    }, model)
    await tab.getByRole('region', { name: 'Bring in files' }).dispatchEvent('drop', { dataTransfer: transfer })
  }
  await Promise.all([bring(page), bring(other)])
  for (const tab of [page, other]) await expect(tab.getByRole('link', { name: 'Pier' })).toHaveCount(2)
  const addresses = await page
    .getByRole('link', { name: 'Pier' })
    .evaluateAll((links) => links.map((link) => link.getAttribute('href')))
  expect(new Set(addresses).size).toBe(2)
})
