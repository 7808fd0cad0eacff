import { expect, test, type Page } from '@playwright/test'
import { openBell, openShelf, slip } from './support'

/** Puts junk into a store of the browser in the place of what was kept under each key, or under so many of them. */
const junk = (page: Page, store: string, keys: 'all' | string[], change: Record<string, unknown>): Promise<void> =>
  page.evaluate(
    async ([name, wanted, values]) => {
      const asked = <T>(request: IDBRequest<T>): Promise<T> =>
        new Promise((resolve, reject) => {
          request.onsuccess = () => resolve(request.result)
          request.onerror = () => reject(new Error(String(request.error)))
        })
      const db = await asked(indexedDB.open('gentle-crate'))
      const kept = db.transaction(name, 'readwrite').objectStore(name)
      for (const key of await asked(kept.getAllKeys()))
        if (wanted === 'all' || wanted.includes(String(key)))
          await asked(kept.put({ ...(await asked(kept.get(key))), ...values }))
      db.close()
    },
    [store, keys, change] as const,
  )

test('junk in every store: what is whole opens, what can be made again is, the rest is shown and can be saved', async ({
  page,
}) => {
  await openShelf(page)
  await openBell(page)
  await slip(page, 'Weld').click()
  const card = page.getByRole('dialog', { name: 'Weld' })
  await card.getByRole('switch', { name: 'Use this step' }).click()
  await expect(slip(page, 'Weld')).toContainText('off')
  await page.goto('/')
  for (const [store, change] of Object.entries({
    states: { glb: new Array(9).fill(1) },
    pictures: { bytes: null },
    pictureFacts: { bytes: 'many' },
    records: { headline: 7 },
    changes: { before: 'before', after: 3 },
    settings: { value: { of: 'no kind' } },
  }))
    await junk(page, store, 'all', change)
  await junk(page, 'crates', ['otterby-outfit'], { crate: 17 })

  await page.goto('/')
  await expect(page.getByText(/This crate cannot be read as it is/)).toBeVisible()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save what is kept as a file' }).click(),
  ])
  expect(download.suggestedFilename()).toBe('otterby-outfit.damaged.json')

  await openBell(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText(/what was kept of this change cannot be read/)).toBeVisible()
  await page.goto('/crate/otterby-landing/pack')
  await expect(page.getByRole('button', { name: 'Pack now' })).toBeVisible()
})
