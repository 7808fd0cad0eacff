import { expect } from '@playwright/test'
import { openBell, openShelf, test } from './support'

test.use({ crates: ['otterby-landing'] })

test('what moves is played, held at any moment and put at rest, on the bench', async ({ page }) => {
  await openShelf(page)
  await openBell(page, 'motion')
  const bar = page.getByRole('group', { name: 'Motion' })
  const moment = bar.getByRole('slider', { name: 'Moment of the motion' })
  await expect(moment).toHaveAttribute('aria-valuetext', '0.00 of 2.00 seconds')
  await bar.getByRole('button', { name: 'Let it move' }).click()
  await expect(moment).not.toHaveAttribute('aria-valuetext', '0.00 of 2.00 seconds')
  await bar.getByRole('button', { name: 'Hold' }).click()
  const held = await moment.getAttribute('aria-valuetext')
  await page.waitForTimeout(500)
  await expect(moment).toHaveAttribute('aria-valuetext', held ?? '')
  await moment.press('End')
  await expect(moment).toHaveAttribute('aria-valuetext', '2.00 of 2.00 seconds')
  await bar.getByRole('button', { name: 'At rest' }).click()
  await expect(moment).toHaveAttribute('aria-valuetext', '0.00 of 2.00 seconds')
  await expect(bar.getByRole('button', { name: 'At rest' })).toBeDisabled()
  // The bell swings at the game’s rate now, and comes round.
  await page
    .getByRole('region', { name: 'Worklist' })
    .getByRole('button', { name: /^Sample motion/ })
    .click()
  await expect(page.getByRole('dialog', { name: 'Sample motion' })).toContainText('97 keys became 26')
})
