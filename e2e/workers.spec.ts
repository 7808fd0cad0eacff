import { expect, type Page, type Worker } from '@playwright/test'
import { openShelf, test } from './support'

test.use({ crates: ['otterby-arrivals', 'otterby-outfit'] })

/** The workers whose file has such a name. */
const workersOf = (page: Page, name: string): Worker[] => page.workers().filter((each) => each.url().includes(name))

/** Opens an item that is quick to prepare, with its bench at rest. */
async function openBoard(page: Page): Promise<void> {
  await openShelf(page, true)
  await page.goto('/crate/otterby-arrivals/item/timetable-board?stage=mesh')
  await expect(page.getByText(/[1-9]\d* block · \d+ risky/)).toBeVisible({ timeout: 90_000 })
}

/** Ways for a worker to die. */
const deaths: Record<string, () => void> = {
  'without a word': () => self.close(),
  'by a promise that nobody waits for': () => void Promise.reject(new Error('lost')),
  'by an error': () =>
    void setTimeout(() => {
      throw new Error('broken')
    }),
}

test('a worker that dies at rest, however, is replaced at the next job', async ({ page }) => {
  await openBoard(page)
  const clear = page.getByText(/0 block · 0 risky/)
  const before = page.getByText(/[1-9]\d* block · \d+ risky/)
  for (const [how, kill] of Object.entries(deaths)) {
    for (const worker of workersOf(page, 'bench')) await worker.evaluate(kill).catch(() => undefined)
    await page.getByRole('button', { name: 'Prepare for me' }).click()
    await expect(clear, how).toBeVisible({ timeout: 60_000 })
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(before, how).toBeVisible({ timeout: 60_000 })
  }
})

test('a worker that dies at work is told in a sentence, and running again works', async ({ page }) => {
  await openBoard(page)
  await page.getByRole('button', { name: 'Prepare for me' }).click()
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  for (const worker of workersOf(page, 'bench')) await worker.evaluate(() => self.close()).catch(() => undefined)
  await expect(page.getByText(/the work ended early \(it stopped without a word\)/).first()).toBeVisible({
    timeout: 10_000,
  })
  await page.getByRole('button', { name: 'Prepare for me' }).click()
  await expect(page.getByText(/0 block · 0 risky/)).toBeVisible({ timeout: 60_000 })
})

test('a reading that is stopped at any moment leaves the crate as it was', async ({ page }) => {
  await openShelf(page, true)
  await page.goto('/crate/otterby-outfit')
  const corners = Array.from({ length: 120_000 }, (_, at) => `v ${at} ${at % 7} ${at % 3}`)
  const faces = Array.from({ length: 100_000 }, (_, at) => `f ${at + 1} ${at + 2} ${at + 3}`)
  const wall = { name: 'wall.obj', mimeType: 'text/plain', buffer: Buffer.from([...corners, ...faces].join('\n')) }
  const stop = page.getByRole('button', { name: 'Stop', exact: true })
  for (const moment of [0, 300]) {
    const chosen = page.getByLabel('Meshes and textures').setInputFiles(wall)
    await stop.waitFor()
    await page.waitForTimeout(moment)
    await stop.click()
    await chosen
    await expect(stop).toBeHidden()
    // Longer than the whole of it takes: nothing of it may come after.
    await page.waitForTimeout(2500)
    await expect(stop).toBeHidden()
    await expect(page.getByRole('row')).toHaveCount(7)
  }
  await page.getByLabel('Meshes and textures').setInputFiles(wall)
  await expect(page).toHaveURL(/item\/wall/)
})
