import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'
import { openGate, prepareGate, prepareItem, slip, test } from './support'

test.use({ crates: ['otterby-landing', 'otterby-outfit'] })

const tests = (page: Page) => page.getByRole('list', { name: 'Fit tests list' })
const feet = async (page: Page): Promise<number[]> =>
  (await page.getByLabel('Where the figure stands').innerText()).split(',').map(Number)

/** Holds a key until the figure is somewhere, or for so long at most. */
async function walk(
  page: Page,
  key: string,
  until: (place: number[]) => boolean,
  milliseconds: number,
): Promise<number[]> {
  await page.keyboard.down(key)
  const end = Date.now() + milliseconds
  let place = await feet(page)
  while (!until(place) && Date.now() < end) {
    await page.waitForTimeout(100)
    place = await feet(page)
  }
  await page.keyboard.up(key)
  return place
}

test(
  'a gate that one walks through by keyboard in Trial; a box instead of its mesh closes it, which is said before ' +
    'anyone walks',
  async ({ page }) => {
    await openGate(page, 'solids')
    await prepareGate(page, 'Solids')
    await expect(tests(page)).toContainText(/Way through 2\.4 × 5\.14 spans: the figure passes/, { timeout: 60_000 })
    await expect(tests(page)).toContainText('Rowing boat')
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])

    // From the packed bytes.
    await page.getByRole('link', { name: /^Pack/ }).first().click()
    await page.getByRole('button', { name: 'Pack now' }).click({ timeout: 60_000 })
    await page.getByRole('link', { name: 'Try it' }).click({ timeout: 120_000 })
    await page.getByRole('button', { name: 'Load the pack' }).click()
    await expect(page.getByText('It loads').first()).toBeVisible({ timeout: 60_000 })
    await page.getByRole('button', { name: 'Try it in the yard' }).click()
    await expect(page.getByLabel('Where the figure stands')).toContainText(',', { timeout: 60_000 })
    await page.locator('[data-yard]').focus()
    const through = await walk(page, 'ArrowUp', ([, , z]) => z < -3, 30_000)
    expect(through[2]).toBeLessThan(-3)
    expect(Math.abs(through[0])).toBeLessThan(1)
    await page.getByRole('button', { name: /^Throw a ball/ }).click()
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
    await page.getByRole('button', { name: 'Leave the yard' }).click()

    // On the bench: the arch as a box.
    await page.goto('/crate/otterby-landing/item/boathouse-gate?stage=solids')
    await slip(page, 'Add a solid').first().click({ timeout: 60_000 })
    const card = page.getByRole('dialog', { name: 'Add a solid' })
    await expect(card.getByLabel('Shape', { exact: true }).locator('option', { hasText: 'Cylinder' })).toBeDisabled()
    await card.getByLabel('Shape', { exact: true }).selectOption('box')
    await expect(page.getByText(/^0 block · 1 risky · /)).toBeVisible({ timeout: 90_000 })
    await expect(page.getByRole('list', { name: 'Findings list' })).toContainText('An opening is closed')
    await expect(tests(page)).toContainText(/Way through .*: closed to the figure/, { timeout: 60_000 })

    // In numbers and with handles: the box is lifted off the way.
    await card.getByRole('button', { name: 'In the yard' }).click()
    await expect(page.getByText(/^Drag the solid along the ground/)).toBeVisible({ timeout: 60_000 })
    await card.getByLabel('Moved, Y').fill('9')
    await card.getByLabel('Moved, Y').press('Enter')
    await expect(card.getByLabel('Moved, Y')).toHaveValue('9')
    await card.getByRole('button', { name: 'Done' }).click()
    await expect(tests(page)).toContainText(/Way through .*: the figure passes/, { timeout: 90_000 })
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByText(/^0 block · 1 risky · /)).toBeVisible({ timeout: 90_000 })
    await page.getByRole('button', { name: 'Close the card' }).click()

    // What one bumps into on the bench is what stands there now.
    await page.getByRole('button', { name: 'Try it in the yard' }).click()
    await expect(page.getByLabel('Where the figure stands')).toContainText(',', { timeout: 60_000 })
    await page.locator('[data-yard]').focus()
    const stopped = await walk(page, 'ArrowUp', ([, , z]) => z < -1, 4_000)
    expect(stopped[2]).toBeGreaterThan(-1)
    await page.keyboard.down('ArrowUp')
    await expect(page.getByRole('status').filter({ hasText: 'touches stone: solid_box_01' })).toBeVisible({
      timeout: 20_000,
    })
    await page.keyboard.up('ArrowUp')
  },
)

test('a buoy on the bench: hulls with a mass, dropped and at rest, carried off', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Otterby outfit' })).toBeVisible()
  await page.goto('/crate/otterby-outfit/item/channel-buoy?stage=solids')
  await prepareItem(page, 'Solids')
  await expect(tests(page)).toContainText(/Mass \d+(\.\d+)? kg, its centre at/, { timeout: 120_000 })
  await expect(tests(page)).toContainText(/Dropped from 2 spans lies still after [0-3](\.\d+)? s/)
  await page.getByRole('button', { name: 'Try it in the yard' }).click()
  await expect(page.getByRole('button', { name: /^Take, put down/ })).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: /^Drop another/ }).click()
  await page.getByRole('button', { name: 'Leave the yard' }).click()
  await expect(page.getByRole('button', { name: 'Try it in the yard' })).toBeVisible()
})
