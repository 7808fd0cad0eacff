import { expect, type Page } from '@playwright/test'
import { openBell, openGate, openShelf, prepareGate, test } from './support'

test.use({ crates: ['otterby-landing'] })

test('a stock entry is started from, changed to one of one’s own, and packed', async ({ page }) => {
  await openShelf(page)
  await openBell(page)
  await page.goto('/crate/otterby-landing')
  await page.getByRole('row').filter({ hasText: 'Mooring bell' }).getByRole('link', { name: 'Entry' }).click()
  await expect(page.getByRole('heading', { name: 'Entry of Mooring bell' })).toBeVisible()
  await expect(page.getByText('items/movers/mooring_bell/entry.json')).toBeVisible({ timeout: 60_000 })
  await expect(page.getByText(/in the game it stands on quays and decks/)).toBeVisible()

  // What nobody said is taken from the stock one, and marked.
  await page.getByLabel('Start from').selectOption('Quay bell, of the game')
  const shelf = page.getByRole('listitem').filter({ hasText: 'Where it stands in the shop' })
  await expect(shelf.getByText('as in Quay bell')).toBeVisible()
  const price = page.getByRole('textbox', { name: 'Price' })
  await expect(price).toHaveValue('95')
  await price.fill('110')
  await price.press('Enter')
  await expect(page.getByText('The game would take this entry.')).toBeVisible({ timeout: 30_000 })

  // The text beside it is checked alike: a wrong key, a wrong sort, a name that leads nowhere.
  await page.getByRole('button', { name: 'Text' }).click()
  const text = page.getByLabel('The entry as text')
  await expect(text).toHaveValue(/"price": 110/)
  const before = await text.inputValue()
  await text.fill(before.replace('"shelf"', '"Shelf"').replace('"sway"', '"swai"'))
  await expect(page.getByText('The game passes over “Shelf”; it is written “shelf”')).toBeVisible()
  await expect(page.getByText(/“idle” names “swai”, and there is no such clip; the nearest is “sway”/)).toBeVisible()
  await text.fill('{ "price": 110')
  await expect(page.getByText(/Line 1 cannot be read/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Take it' })).toBeDisabled()
  await text.fill(before.replace('Mooring bell', 'Fog bell').replace('"sway"', '"swai"'))
  await page.getByRole('button', { name: 'Take it' }).click()

  // What was taken wrong is found before the game is started, and mended.
  const found = page.getByRole('region', { name: 'Found in the entry' })
  await expect(found.getByText(/“idle” names “swai”/)).toBeVisible({ timeout: 30_000 })
  await found.getByRole('button', { name: 'Mend' }).click()
  await expect(found.getByText('The game would take this entry.')).toBeVisible({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Lines' }).click()
  await expect(page.getByRole('textbox', { name: 'Title' })).toHaveValue('Fog bell')
})

test('an event is linked on the bench, drawn there, and happens in Trial', async ({ page }) => {
  await openGate(page)
  await prepareGate(page)
  await page.goto('/crate/otterby-landing/item/boathouse-gate/entry')
  await page.getByRole('link', { name: 'Link events on the bench' }).click()
  const card = page.getByRole('dialog', { name: 'Link events' })
  await card.getByRole('button', { name: 'Add an event' }).click({ timeout: 60_000 })
  await card.getByLabel('Event 1: do').selectOption('Ring')
  await expect(card.getByText('item touched → ring item')).toBeVisible({ timeout: 60_000 })

  await page.getByRole('link', { name: /^Pack/ }).first().click()
  await page.getByRole('button', { name: /^Pack (?:now|again)/ }).click()
  await page.getByRole('link', { name: 'Try it' }).click({ timeout: 120_000 })
  await page.getByRole('button', { name: 'Load the pack' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'It loads' })).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: 'boathouse_gate' }).click()
  await expect(() => walkAgainstTheGate(page)).toPass({ timeout: 300_000 })
})

/** Walks from where one begins until the gate was touched. @throws with where the figure has come, where it was not */
async function walkAgainstTheGate(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Try it in the yard' }).click()
  const place = page.getByLabel('Where the figure stands')
  await expect(place).not.toHaveText('Opening the yard…', { timeout: 30_000 })
  const begun = await place.textContent()
  // Aslant, since straight ahead one walks through the gate; at once, since who goes aside first walks past it.
  const press = (event: 'keydown' | 'keyup'): Promise<void> =>
    page.locator('[data-yard]').evaluate((yard, type) => {
      for (const key of ['ArrowRight', 'ArrowUp']) yard.dispatchEvent(new KeyboardEvent(type, { key, bubbles: true }))
    }, event)
  await press('keydown')
  try {
    await expect(page.getByRole('list', { name: 'What has happened' })).toContainText(
      'boathouse_gate touched → ring boathouse_gate',
      { timeout: 60_000 },
    )
  } catch (error) {
    throw new Error(`the figure walked from ${begun} to ${await place.textContent()}`, { cause: error })
  } finally {
    await press('keyup')
    await page.getByRole('button', { name: 'Leave the yard' }).click()
  }
}
