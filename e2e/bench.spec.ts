import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'
import { addStep, openGate, openShelf, prepareGate, prepareItem, slip, test } from './support'

test.use({ crates: ['otterby-landing', 'otterby-arrivals'] })

const yard = (page: Page) => page.getByRole('region', { name: 'Yard' })
const tool = (page: Page, name: string) => yard(page).getByRole('button', { name, exact: true })

async function openArrival(page: Page, item: string): Promise<void> {
  await openShelf(page)
  await page.goto(`/crate/otterby-arrivals/item/${item}?stage=mesh`)
  await prepareItem(page, 'Mesh')
}

test(
  'the gate is looked at in every way: steps compared, shift measured, levels walked through, something set ' +
    'beside it, the slider dragged',
  async ({ page }) => {
    await openGate(page)
    await prepareGate(page)

    await tool(page, 'Compare').click()
    const comparison = page.getByRole('group', { name: 'Comparison' })
    await comparison.getByLabel('Left').selectOption({ label: '6 Turn faces outward' })
    await comparison.getByLabel('Right').selectOption({ label: '7 Reduce triangles' })
    await expect(comparison).toContainText('38,096')
    await expect(comparison).toContainText('10,000', { timeout: 60_000 })
    await comparison.getByRole('button', { name: 'Side by side' }).click()
    await comparison.getByRole('button', { name: 'Flicker' }).click()
    await expect(page.getByRole('button', { name: /show the other$/ })).toBeVisible()
    await tool(page, 'Compare').click()

    await tool(page, 'Shift').click()
    const shift = page.getByRole('group', { name: 'Shift' })
    await expect(shift).toContainText(/0\.0\d+ spans at worst/, { timeout: 60_000 })
    await expect(shift).toContainText(/outline changes by up to [01]\.\d %/)
    await tool(page, 'As seen').click()

    await tool(page, 'Levels').click()
    const levels = page.getByRole('group', { name: 'Levels' })
    await expect(levels.getByRole('button', { name: /^From 30/, pressed: true })).toBeVisible()
    await levels.getByRole('button', { name: /^Shadow/ }).click()
    await levels.getByRole('button', { name: 'Walk away and back' }).click()
    await expect(levels.getByRole('button', { name: /^From 80/, pressed: true })).toBeVisible({ timeout: 60_000 })
    await levels.getByRole('button', { name: 'Put levels away' }).click()

    await tool(page, 'Beside').click()
    await page.getByRole('menuitem', { name: 'Official ferry' }).click()
    const beside = page.getByRole('group', { name: 'What stands beside' })
    await expect(beside).toContainText('6 × 8 × 18', { timeout: 60_000 })
    await expect(beside).toContainText('item 7.9 × 7.15 × 3.23 spans')
    await beside.getByRole('button', { name: 'inside' }).click()
    await tool(page, 'Stretch').click()
    await expect(page.getByRole('group', { name: 'Stretch' })).toContainText('4 nodes, each about its own middle')
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])

    await page.getByRole('group', { name: 'Stretch' }).getByRole('button', { name: 'Put stretch away' }).click()

    // Dragging shows a result at once, letting go makes the exact one.
    await slip(page, 'Reduce').click()
    const card = page.getByRole('dialog', { name: 'Reduce triangles' })
    const slider = card.getByLabel('Keep, slider')
    await expect(slider).toBeVisible()
    // The levels are made in the background while one reads the card.
    await expect(page.getByText('Levels for dragging')).toBeHidden({ timeout: 60_000 })
    await slider.fill('3000')
    await expect(yard(page).getByText(/^[12],\d{3} triangles, while you drag$/)).toBeVisible({ timeout: 60_000 })
    const shown = await page.evaluate(() =>
      performance.getEntriesByName('reduction shown').map((entry) => entry.duration),
    )
    expect(shown.length).toBeGreaterThan(0)
    await slider.press('ArrowLeft')
    await expect(card).toContainText(/became 2,(8[7-9]\d|900); the surface moved/, { timeout: 120_000 })
    await expect(yard(page).getByText(/while you drag/)).toBeHidden()
    // A weight by hand: the pins count for more, and get more.
    await expect(card.getByLabel(/^How much .* counts$/)).toHaveCount(4)
    await card.getByRole('button', { name: 'Close the card' }).click()

    await tool(page, 'Stretch').click()
    await page.getByRole('region', { name: 'Findings' }).getByRole('button', { name: 'Mend: Join parts' }).click()
    await expect(page.getByRole('group', { name: 'Stretch' })).toContainText('one node: it holds together', {
      timeout: 120_000,
    })
  },
)

test(
  'the buoy is evened out; an edge is picked with two clicks, a part’s faces from a list, both on what the step ' +
    'is given',
  async ({ page }) => {
    await openArrival(page, 'channel-buoy')
    await expect(slip(page, 'Even triangulation')).toContainText('0.7° → 0.4°', { timeout: 60_000 })
    await addStep(page, 'Set the size')
    const size = page.getByRole('dialog', { name: 'Set the size' })
    await expect(size).toContainText('Everything was multiplied by')
    await size.getByLabel('Size it').selectOption({ label: 'by an edge’s length' })
    await expect(size).toContainText('not picked yet', { timeout: 60_000 })
    await size.getByRole('button', { name: 'Click two points' }).click()
    await expect(yard(page).getByText('This is what the step is given. Click a point.')).toBeVisible({
      timeout: 60_000,
    })
    await page.waitForTimeout(1500)
    const box = await page.locator('canvas').first().boundingBox()
    if (!box) throw new Error('no yard')
    await page.mouse.click(box.x + box.width * 0.44, box.y + box.height * 0.66)
    await expect(size.getByLabel('X of point 1')).not.toHaveValue('')
    await page.mouse.click(box.x + box.width * 0.465, box.y + box.height * 0.63)
    await expect(size).toContainText(/They are [\d.]+ spans apart now/, { timeout: 60_000 })
    await size.getByLabel('This edge is').fill('4')
    await size.getByLabel('This edge is').press('Enter')
    await expect(size).toContainText(/× [\d.]+/, { timeout: 60_000 })
    await size.getByRole('button', { name: 'Remove the step' }).click()

    await addStep(page, 'Flip picked faces')
    const flip = page.getByRole('dialog', { name: 'Flip picked faces' })
    // Without a pointer a whole part can be chosen from a list.
    await flip.getByLabel('Add a part').selectOption('channel_buoy')
    await expect(flip).toContainText('724 triangles were turned over', { timeout: 60_000 })

    // The hull can be seen from inside after Prepare.
    await page.goto('/crate/otterby-arrivals/item/ferry-hull?stage=mesh')
    await page.getByRole('button', { name: 'Prepare for me' }).click({ timeout: 60_000 })
    await expect(slip(page, 'Two sides')).toContainText('1 part', { timeout: 120_000 })
    await expect(page.getByText(/0 block · 0 risky/)).toBeVisible({ timeout: 60_000 })
  },
)
