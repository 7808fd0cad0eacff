import { chromium } from '@playwright/test'
import { shootThreeGames } from './three-games.ts'

/**
 * Takes the README's pictures of each main view from the demo crate. Needs a build that is being served:
 * `npx tsx docs/make-screenshots.ts http://127.0.0.1:4173`.
 */
const address = process.argv[2] ?? 'http://127.0.0.1:4173'
const folder = new URL('./screenshots/', import.meta.url).pathname
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--use-gl=angle',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--ignore-gpu-blocklist',
  ],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const settle = (): Promise<void> => page.waitForTimeout(4000)
const shoot = async (name: string): Promise<void> => {
  await settle()
  await page.screenshot({ path: `${folder}${name}.png` })
}
/** Prepares what is on the bench, and goes back to a stage. */
const prepare = async (stage: string): Promise<void> => {
  await page.getByRole('button', { name: 'Prepare for me' }).click({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Pack and try it' }).waitFor({ timeout: 120_000 })
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('link', { name: new RegExp(stage) })
    .click()
  await settle()
}

await page.goto(address)
await page.getByRole('heading', { name: 'Otterby Landing' }).waitFor()
// Each item's picture is drawn behind the page, one after the other.
await page.waitForTimeout(30_000)
await shoot('shelf')
await page.getByLabel('Meshes and textures').setInputFiles('demo/sources/channel_buoy/channel_buoy.stl')
await page.getByText('What does it become?').waitFor({ timeout: 60_000 })
await shoot('begin')
await page.getByRole('button', { name: 'Cancel' }).click()
await page.goto(`${address}/crate/otterby-landing/item/boathouse-gate?stage=check`)
await page.getByText(/28 block · /).waitFor({ timeout: 60_000 })
await page.getByRole('button', { name: 'Facing' }).click()
await shoot('bench-source-facing')
await page.getByRole('button', { name: 'As seen' }).click()
await page.getByRole('button', { name: 'Prepare for me' }).click()
await page.getByText(/0 block · 0 risky/).waitFor({ timeout: 120_000 })
await shoot('prepared')
await page.goto(`${address}/crate/otterby-landing/item/boathouse-gate?stage=mesh`)
await page.getByText(/0 block · 0 risky/).waitFor({ timeout: 120_000 })
await page.getByRole('button', { name: 'Compare', exact: true }).click()
await page
  .getByRole('region', { name: 'Worklist' })
  .getByRole('button', { name: /^Reduce/ })
  .click()
await shoot('bench')
await page.getByRole('button', { name: 'Close the card' }).click()
await page.getByRole('button', { name: 'Edges', exact: true }).click()
await page.getByRole('group', { name: 'Comparison' }).getByLabel('Left').selectOption({ label: '6 Turn faces outward' })
await page.getByRole('group', { name: 'Comparison' }).getByLabel('Right').selectOption({ label: '7 Reduce triangles' })
await page.getByRole('button', { name: 'Side by side' }).click()
await shoot('mesh-compare')
await page.getByRole('button', { name: 'Compare', exact: true }).click()
await page.getByRole('button', { name: 'Shift', exact: true }).click()
await page.getByText(/at worst/).waitFor({ timeout: 60_000 })
await shoot('mesh-shift')
await page.getByRole('button', { name: 'As seen' }).click()
await page.getByRole('button', { name: 'Levels', exact: true }).click()
await page.getByRole('button', { name: 'Beside' }).click()
await page.getByRole('menuitem', { name: /^Doorway/ }).click()
await shoot('mesh-levels')
await page.goto(`${address}/crate/otterby-landing/item/boathouse-gate?stage=solids`)
await page.getByText(/0 block · 0 risky/).waitFor({ timeout: 120_000 })
await page.getByText('Way through').waitFor({ timeout: 60_000 })
await shoot('bench-solids')
/** Prepares an item of the outfit and shows its maps. */
const surface = async (item: string): Promise<void> => {
  await page.goto(`${address}/crate/otterby-outfit/item/${item}?stage=surface`)
  await prepare('Surface')
}
await surface('landing-planks')
await page
  .getByRole('region', { name: 'Maps of the item' })
  .getByRole('button', { name: /planks_mix/ })
  .click()
await shoot('surface')
await page.goto(`${address}/crate/otterby-arrivals/item/galley-stove?stage=intake`)
await page.getByRole('list', { name: 'What looks off' }).waitFor({ timeout: 120_000 })
await page.getByLabel('Flue').check()
await shoot('bench-intake')
await page.getByRole('button', { name: 'Size: choose by looking' }).click()
await shoot('intake-size')
await page.getByRole('button', { name: 'Cancel' }).click()
await page.goto(`${address}/crate/otterby-arrivals/item/bow-pennants?stage=intake`)
await page.getByLabel('Compare with an official object').selectOption({ label: 'Official ferry' })
await page.getByRole('button', { name: /Take what is new/ }).waitFor({ timeout: 60_000 })
await page.getByLabel('Part name or pattern').fill('pennant')
await page.getByLabel(/^all 9 shown/).check()
await shoot('intake-official')
await page.goto(`${address}/crate/otterby-landing/pack`)
await page.getByRole('button', { name: 'Pack now' }).click()
await page.getByText('Packed; nothing blocks').waitFor({ timeout: 120_000 })
await page.getByText('5 findings').waitFor({ timeout: 60_000 })
await shoot('pack')
await page.getByRole('link', { name: 'Try it' }).click()
await page.getByRole('button', { name: 'Load the pack' }).click()
await page.getByText('It loads').waitFor({ timeout: 60_000 })
await page.getByText('5 findings').waitFor({ timeout: 60_000 })
await page.getByRole('button', { name: 'Try it in the yard' }).click()
await page.getByLabel('Where the figure stands').filter({ hasText: ',' }).waitFor({ timeout: 60_000 })
await page.locator('[data-yard]').focus()
await page.keyboard.down('ArrowUp')
await page.waitForTimeout(500)
await page.keyboard.up('ArrowUp')
await shoot('trial')
await page.goto(`${address}/crate/otterby-landing`)
await page
  .getByText('clear')
  .or(page.getByText('5 notes'))
  .filter({ visible: true })
  .first()
  .waitFor({ timeout: 60_000 })
await shoot('overview')
await page.goto(`${address}/rulebooks/tarn-and-tiller`)
await shoot('rulebook')
await page.goto(`${address}/rulebooks`)
await page
  .getByRole('listitem')
  .filter({ hasText: 'Hollin Keep' })
  .getByRole('button', { name: 'Start from it' })
  .click()
await page.getByLabel('What your game is called').fill('Mill Lane')
await page.getByRole('button', { name: 'Start', exact: true }).click()
await page.locator('summary').filter({ hasText: /^maps/ }).click()
await page.getByLabel('largest pixels').fill('64')
await page.getByLabel('largest pixels').press('Enter')
await page.getByLabel('Try it on').selectOption({ label: 'Hollin yard · 3 items' })
await page.getByRole('button', { name: 'Try', exact: true }).click()
await page.getByRole('region', { name: 'What was tried' }).waitFor({ timeout: 120_000 })
await shoot('rulebook-editor')
await shootThreeGames(page, address, `${folder}three-games.png`)
await browser.close()
