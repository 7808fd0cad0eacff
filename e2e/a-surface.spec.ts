import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'
import { readFile } from 'node:fs/promises'
import { unzipSync } from 'fflate'
import { addStep, openShelf, prepareItem, slip, test } from './support'

test.use({ crates: ['otterby-outfit'] })

const maps = (page: Page) => page.getByRole('region', { name: 'Maps of the item' })
const table = (page: Page) => page.getByRole('region', { name: 'Maps as they will be packed' })
const clear = (page: Page) => expect(page.getByText(/^0 block · 0 risky ·/)).toBeVisible({ timeout: 90_000 })

async function open(page: Page, item: string, stage = 'surface'): Promise<void> {
  await page.goto(`/crate/otterby-outfit/item/${item}?stage=${stage}`)
}

async function prepare(page: Page, item: string): Promise<void> {
  await open(page, item)
  await prepareItem(page, 'Surface')
}

async function putIn(page: Page, title: string): Promise<void> {
  await addStep(page, title)
  await expect(slip(page, title)).toBeVisible({ timeout: 60_000 })
}

test('the outfit: planks, board, buoy, hat, stove and hull get their surfaces and go into a pack that loads', async ({
  page,
}) => {
  await openShelf(page)

  // Landing planks: five pictures by their names, channels on the punched card, looked at in every way.
  await prepare(page, 'landing-planks')
  await maps(page)
    .getByRole('button', { name: /planks_mix/ })
    .click()
  const card = page.getByRole('region', { name: 'What goes into planks_mix' })
  await expect(card.getByRole('radio', { name: 'Gloss into G' })).toBeChecked()
  await expect(card.getByRole('checkbox', { name: 'G turned round' })).toBeChecked()
  await card.getByRole('radio', { name: 'Height into A' }).click({ force: true })
  await expect(slip(page, 'Pack channels')).toContainText('3 → 1', { timeout: 60_000 })
  await expect(table(page)).toContainText('planks_nrm')
  await expect(page.getByText(/As packed · BC7 · 0\.08 MB · \d\d\.\d dB, worst block/)).toBeVisible({ timeout: 60_000 })
  await maps(page)
    .getByRole('combobox', { name: /^Right/ })
    .selectOption({ label: 'BC1 tried' })
  await expect(page.getByText(/Tried · BC1 · 0\.04 MB/)).toBeVisible({ timeout: 60_000 })
  await maps(page).getByRole('button', { name: 'Difference × 8' }).click()
  await maps(page).getByRole('button', { name: 'G', exact: true }).click()
  await maps(page).getByRole('button', { name: '4 : 1' }).click()
  await maps(page).getByRole('combobox', { name: /^Mip/ }).selectOption('2')
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
  await clear(page)

  // Timetable board: cut out by the colour of its rim.
  await prepare(page, 'timetable-board')
  await slip(page, 'Cut out').click()
  await expect(page.getByRole('dialog', { name: 'Cut out' })).toContainText(/\d+\.\d % of its pixels are clear now/)
  await expect(table(page)).toContainText('timetable_board_col', { timeout: 60_000 })
  await clear(page)

  // Channel buoy: no UVs and no material before; islands can be seen and taken along to paint on.
  await prepare(page, 'channel-buoy')
  await expect(slip(page, 'Unwrap')).toContainText('islands')
  await maps(page).getByRole('button', { name: 'Islands', exact: true }).click()
  const [svg] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'SVG to paint on' }).click({ timeout: 60_000 }),
  ])
  expect(await readFile(await svg.path(), 'utf8')).toMatch(/^<svg [^>]*viewBox="0 0 256 256"/)
  await clear(page)

  // Rain hat: two models; the worn one's old material gives way, and both get the new looks.
  await prepare(page, 'rain-hat')
  await expect(slip(page, 'Show another material')).toContainText('1 surface')
  await putIn(page, 'Recolour')
  await expect(slip(page, 'Recolour')).toContainText('3 looks', { timeout: 60_000 })
  await expect(table(page)).toContainText('hat_oilskin_blue_col', { timeout: 60_000 })
  await page.getByRole('button', { name: 'See it in the yard' }).click()
  await page.getByRole('group', { name: 'Looks' }).getByRole('button', { name: 'blue' }).click()
  await clear(page)

  // Galley stove: four materials baked into one set.
  await prepare(page, 'galley-stove')
  await expect(slip(page, 'Bake into one set')).toContainText('4 → 1')
  await expect(table(page)).toContainText('iron_set_col', { timeout: 60_000 })
  await clear(page)

  // Ferry hull: the lost texture becomes the game's own; draught marks are laid on its side.
  await open(page, 'ferry-hull', 'intake')
  await page.getByRole('button', { name: /^Choose the file for .*hull_paint/ }).click({ timeout: 60_000 })
  await page.getByRole('radio', { name: /ferry_hull_col/ }).click()
  await page.getByRole('button', { name: 'Use it' }).click()
  await expect(page.getByText('the game’s own: stock/ferry_hull_col.dds')).toBeVisible({ timeout: 60_000 })
  await prepare(page, 'ferry-hull')
  await clear(page)
  await putIn(page, 'Lay a decal')
  const decal = page.getByRole('dialog', { name: 'Lay a decal' })
  if (!(await decal.isVisible())) await slip(page, 'Lay a decal').click()
  await expect(decal.getByLabel('Picture', { exact: true })).toHaveValue('draught marks.png')
  await decal.getByRole('button', { name: 'Click faces' }).click()
  await expect(page.getByText('This is what the step is given. Click the faces.')).toBeVisible({ timeout: 60_000 })
  const yard = await page.getByRole('region', { name: 'Yard' }).boundingBox()
  if (!yard) throw new Error('the yard is not there')
  // The yard may still show what was there before when it is clicked first.
  await expect(async () => {
    if ((await decal.getByRole('listitem').count()) === 0)
      await page.mouse.click(yard.x + yard.width * 0.45, yard.y + yard.height * 0.55)
    await expect(decal.getByRole('listitem')).toHaveCount(1, { timeout: 10_000 })
  }).toPass({ timeout: 60_000 })
  await decal.getByRole('button', { name: 'Done' }).click()
  await expect(slip(page, 'Lay a decal')).toContainText(/\+\d+/, { timeout: 90_000 })
  await decal.getByRole('button', { name: 'Move it in the yard' }).click()
  await page.getByRole('button', { name: 'Look straight at it' }).click({ timeout: 60_000 })
  await expect(async () => {
    const middle = { x: yard.x + yard.width / 2, y: yard.y + yard.height / 2 }
    await page.mouse.move(middle.x, middle.y)
    await page.mouse.down()
    await page.mouse.move(middle.x + 40, middle.y, { steps: 8 })
    await page.mouse.up()
    await expect(decal.getByLabel('To the right', { exact: true })).not.toHaveValue('0', { timeout: 5_000 })
  }).toPass({ timeout: 60_000 })
  await decal.getByRole('button', { name: 'Done' }).click()
  await clear(page)

  // The chain of looks: a map can be put in at any place of it.
  await page.getByRole('button', { name: 'Looks', exact: true }).click()
  const looks = page.getByRole('region', { name: 'Looks', exact: true })
  await expect(looks.getByRole('row')).toHaveCount(5, { timeout: 60_000 })
  await expect(looks.getByRole('row', { name: /draught|decal/ })).toContainText('plain')

  await page.goto('/crate/otterby-outfit/pack')
  await page.getByRole('button', { name: 'Pack now' }).click({ timeout: 90_000 })
  const [pack] = await Promise.all([
    page.waitForEvent('download', { timeout: 120_000 }),
    page.getByRole('button', { name: 'Download', exact: true }).click({ timeout: 120_000 }),
  ])
  const files = unzipSync(new Uint8Array(await readFile(await pack.path())))
  expect(
    Object.keys(files)
      .filter((path) => /\/looks\//.test(path))
      .map((path) => path.split('/').slice(2).join('/'))
      .sort(),
  ).toEqual([
    'channel_buoy/looks/plain.json',
    'ferry_hull/looks/plain.json',
    'galley_stove/looks/plain.json',
    'landing_planks/looks/plain.json',
    'rain_hat/looks/blue.json',
    'rain_hat/looks/plain.json',
    'rain_hat/looks/red.json',
    'timetable_board/looks/plain.json',
  ])
  expect(Object.keys(files)).toEqual(
    expect.arrayContaining([
      'items/gear/rain_hat/rain_hat_lying.glb',
      'items/gear/rain_hat/rain_hat_worn.glb',
      'items/finishes/landing_planks/maps/planks_mix.dds',
    ]),
  )
  expect(Object.keys(files).some((path) => path.startsWith('items/finishes/') && path.endsWith('.glb'))).toBe(false)

  await page.getByRole('link', { name: 'Try it' }).click()
  await page.getByRole('button', { name: 'Load the pack' }).click()
  await expect(page.getByRole('status').filter({ hasText: /^loadsIt loads$|It loads$/ })).toBeVisible({
    timeout: 120_000,
  })
})
