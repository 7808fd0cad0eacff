import { expect } from '@playwright/test'
import { openShelf, test } from './support'

test.use({ crates: ['otterby-arrivals'] })

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

test('a tab that is closed in the middle of an import, a run or a change loses nothing that was kept', async ({
  page,
  context,
}) => {
  await openShelf(page)
  const board = '/crate/otterby-arrivals/item/timetable-board?stage=mesh'
  const kindOfBoard = (tab: typeof page) => tab.getByLabel('Kind of Timetable board')

  const importing = await context.newPage()
  await importing.goto('/crate/otterby-arrivals')
  const corners = Array.from({ length: 120_000 }, (_, at) => `v ${at} ${at % 7} ${at % 3}`)
  const faces = Array.from({ length: 100_000 }, (_, at) => `f ${at + 1} ${at + 2} ${at + 3}`)
  const wall = { name: 'wall.obj', mimeType: 'text/plain', buffer: Buffer.from([...corners, ...faces].join('\n')) }
  void importing
    .getByLabel('Meshes and textures')
    .setInputFiles(wall)
    .catch(() => undefined)
  await importing.getByRole('button', { name: 'Stop', exact: true }).waitFor()
  await importing.close()

  const running = await context.newPage()
  await running.goto(board)
  await running.getByRole('button', { name: 'Prepare for me' }).click()
  await running.getByRole('button', { name: 'Stop', exact: true }).waitFor()
  await running.close()

  const changing = await context.newPage()
  await changing.goto('/crate/otterby-arrivals')
  await kindOfBoard(changing).selectOption('prop')
  await expect(changing.getByRole('status').filter({ hasText: 'Kept in this browser · just now' })).toBeVisible()
  await changing.close()

  const after = await context.newPage()
  await after.goto('/crate/otterby-arrivals')
  await expect(kindOfBoard(after)).toHaveValue('prop')
  await expect(after.getByRole('link', { name: 'Wall' })).toHaveCount(0)
  await after.goto(board)
  await expect(after.getByRole('button', { name: 'Prepare for me' })).toBeEnabled({ timeout: 60_000 })
  await after.getByRole('button', { name: 'Undo' }).click()
  await expect(after.getByRole('button', { name: 'Redo' })).toBeEnabled()
  await after.goto('/crate/otterby-arrivals')
  await expect(kindOfBoard(after)).toHaveValue('sign')
})
