import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { drawnShare, openGate, openShelf, prepareGate, slip } from './support'

test('axe finds nothing on any page; source and result are compared, and the view is turned, by keyboard alone', async ({
  page,
}) => {
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
  await page.getByRole('button', { name: 'Compare', exact: true }).press('Enter')
  const wipe = page.getByRole('slider', { name: /Source at the left/ })
  await expect(wipe).toHaveAttribute('aria-valuenow', '50')
  for (let press = 0; press < 5; press++) await wipe.press('ArrowLeft')
  await expect(wipe).toHaveAttribute('aria-valuenow', '40')
  await expect(page.getByRole('group', { name: 'Comparison' })).toContainText('38,098')
  await wipe.press('Home')
  const yard = page.getByRole('application', { name: 'Boathouse gate in the yard' })
  await expect.poll(() => drawnShare(page), { timeout: 60_000 }).toBeGreaterThan(0.02)
  const before = await yard.screenshot()
  for (let press = 0; press < 4; press++) await yard.press('ArrowRight')
  await expect.poll(async () => (await yard.screenshot()).equals(before)).toBe(false)
  await page.getByRole('button', { name: 'Compare', exact: true }).press('Enter')
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
