import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { openGate, openShelf, prepareGate, slip } from './support'

test('axe finds nothing on any page', async ({ page }) => {
  const check = async (what: string): Promise<void> => {
    const { violations } = await new AxeBuilder({ page }).analyze()
    expect(
      violations.map(
        (violation) => `${what}: ${violation.id} ${violation.nodes.map((node) => node.target.join(' ')).join('; ')}`,
      ),
    ).toEqual([])
  }
  await openShelf(page)
  await check('shelf')
  await page.getByRole('button', { name: 'New crate' }).click()
  await check('new crate')
  await openGate(page)
  await check('bench before')
  await prepareGate(page)
  await check('bench after')
  await slip(page, 'Tag materials').click()
  await expect(page.getByRole('dialog', { name: 'Tag materials' })).toBeVisible()
  await check('a step’s card')
  for (const path of [
    '/crate/otterby-landing',
    '/crate/otterby-landing/item/boathouse-gate?stage=intake',
    '/crate/otterby-arrivals/item/bow-pennants?stage=intake',
    '/crate/otterby-landing/pack',
    '/crate/otterby-landing/trial',
    '/rulebooks/tarn-and-tiller',
  ]) {
    await page.goto(path)
    await expect(page.getByRole('main')).toBeVisible()
    await page.waitForTimeout(1500)
    await check(path)
  }
})

test('an address that leads nowhere says so and leads back', async ({ page }) => {
  await openShelf(page)
  await page.goto('/crate/no-such-crate')
  await expect(page.getByText(/no such crate in this browser/)).toBeVisible()
  await page.getByRole('link', { name: 'Back to the shelf' }).click()
  await expect(page.getByRole('heading', { name: 'The shelf' })).toBeVisible()
})
