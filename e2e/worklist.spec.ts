import { expect } from '@playwright/test'
import { openGate, prepareGate, slip, test } from './support'

test.use({ crates: ['otterby-landing'] })

test('the worklist is edited, undone, redone, and outlives a reload, also in the middle of a run', async ({ page }) => {
  await openGate(page)
  await prepareGate(page)
  await slip(page, 'Reduce triangles').click()
  const card = page.getByRole('dialog', { name: 'Reduce triangles' })
  await expect(card).toContainText('38,096 triangles')
  // Parts are called as the step finds them; “Clean names” comes later.
  await expect(card.getByRole('button', { name: 'Hinge pins', exact: true })).toBeVisible({ timeout: 60_000 })
  await expect(card.getByRole('button', { name: 'hinge_pins', exact: true })).toHaveCount(0)
  await card.getByRole('textbox', { name: 'Keep' }).fill('6000')
  await card.getByRole('textbox', { name: 'Keep' }).press('Enter')
  await expect(page.getByRole('status').filter({ hasText: 'Kept in this browser' })).toBeVisible()
  await page.reload()
  const triangles = page.getByRole('region', { name: 'Gauges' }).getByRole('listitem').filter({ hasText: 'Triangles' })
  await expect(triangles).toContainText(/5,9\d\d \/ 12,000|6,000 \/ 12,000/, { timeout: 120_000 })
  await expect(page.locator('[data-entry]')).toHaveCount(19)
  // Only what comes after the change ran again.
  await slip(page, 'Reduce triangles').click()
  await expect(card).toContainText('What it did')
  await card.getByRole('button', { name: 'Close the card' }).click()
  await slip(page, 'Weld').click()
  await expect(page.getByRole('dialog', { name: 'Weld' })).toContainText('kept from before')
  await page.getByRole('dialog', { name: 'Weld' }).getByRole('switch', { name: 'Use this step' }).click()
  await expect(slip(page, 'Weld')).toContainText('off')
  await page.getByRole('dialog', { name: 'Weld' }).getByRole('button', { name: 'Move earlier' }).click()
  await expect(slip(page, 'Weld')).toContainText('4')

  await page.reload()
  await expect(slip(page, 'Weld')).toContainText('off', { timeout: 60_000 })
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(slip(page, 'Weld')).toContainText('5')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(slip(page, 'Weld')).not.toContainText('off')
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(slip(page, 'Weld')).toContainText('off')
})

test('a finding is shown, mended and waived', async ({ page }) => {
  await openGate(page, 'check')
  const findings = page.getByRole('region', { name: 'Findings' })
  const inward = findings.getByRole('listitem').filter({ hasText: 'Faces inside out' })
  await inward.getByRole('button', { name: 'Show me' }).click()
  await expect(page.getByRole('list', { name: 'Parts' }).getByRole('button', { pressed: true })).toHaveCount(1)
  await inward.getByRole('button', { name: 'Mend: Turn outward' }).click()
  await expect(slip(page, 'Turn faces outward')).toContainText('turned', { timeout: 60_000 })
  // The leaf is right now; the ground shade is a single sheet, whose back shows from below whichever way it looks: that
  // is another finding.
  await expect(inward).toHaveCount(0)
  await expect(findings.getByRole('listitem').filter({ hasText: 'Inside without back faces' })).toContainText(
    'Ground shade',
  )

  const giant = findings.getByRole('listitem').filter({ hasText: 'Giant' })
  await giant.getByRole('button', { name: 'Waive' }).click()
  await page.getByRole('textbox', { name: 'Why it may stay' }).fill('It is a monument.')
  await page.getByRole('button', { name: 'Waive it' }).click()
  await expect(giant).toContainText('waived: It is a monument.')
  await page.reload()
  await expect(giant).toContainText('waived: It is a monument.', { timeout: 60_000 })
  await giant.getByRole('button', { name: 'Take back' }).click()
  await expect(giant).not.toContainText('waived')
})
