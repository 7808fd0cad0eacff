import { chromium } from '@playwright/test'

/**
 * Takes the README's pictures of each main view from the demo crate. Needs a build that is being served:
 * `npx tsx docs/make-screenshots.ts http://127.0.0.1:4173`.
 */
const address = process.argv[2] ?? 'http://127.0.0.1:4173'
const folder = new URL('./screenshots/', import.meta.url).pathname
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const settle = (): Promise<void> => page.waitForTimeout(4000)
const shoot = async (name: string): Promise<void> => {
  await settle()
  await page.screenshot({ path: `${folder}${name}.png` })
}

await page.goto(address)
await page.getByRole('heading', { name: 'Otterby Landing' }).waitFor()
await shoot('shelf')
await page.goto(`${address}/crate/otterby-landing/item/boathouse-gate?stage=check`)
await page.getByText(/28 block · /).waitFor({ timeout: 60_000 })
await page.getByRole('button', { name: 'Facing' }).click()
await shoot('bench-source-facing')
await page.getByRole('button', { name: 'As seen' }).click()
await page.getByRole('button', { name: 'Prepare for me' }).click()
await page.getByText(/0 block · 0 risky/).waitFor({ timeout: 120_000 })
await page.goto(`${address}/crate/otterby-landing/item/boathouse-gate?stage=mesh`)
await page.getByText(/0 block · 0 risky/).waitFor({ timeout: 120_000 })
await page.getByRole('button', { name: 'Compare with source' }).click()
await page.getByRole('region', { name: 'Worklist' }).getByRole('button', { name: /^Reduce/ }).click()
await shoot('bench')
await page.getByRole('button', { name: 'Close the card' }).click()
await page.getByRole('button', { name: 'Compare with source' }).click()
await page.goto(`${address}/crate/otterby-landing/item/boathouse-gate?stage=solids`)
await page.getByText(/0 block · 0 risky/).waitFor({ timeout: 120_000 })
await page.getByRole('button', { name: 'Solids', exact: true }).click()
await shoot('bench-solids')
await page.goto(`${address}/crate/otterby-landing/item/boathouse-gate?stage=intake`)
await page.getByText(/0 block · 0 risky/).waitFor({ timeout: 120_000 })
await page.getByRole('button', { name: 'Edges' }).click()
await shoot('bench-intake')
await page.goto(`${address}/crate/otterby-landing/pack`)
await page.getByRole('button', { name: 'Pack now' }).click()
await page.getByText('Packed; nothing blocks').waitFor({ timeout: 120_000 })
await page.getByText('4 findings').waitFor({ timeout: 60_000 })
await shoot('pack')
await page.getByRole('link', { name: 'Try it' }).click()
await page.getByRole('button', { name: 'Load the pack' }).click()
await page.getByText('It loads').waitFor({ timeout: 60_000 })
await page.getByText('4 findings').waitFor({ timeout: 60_000 })
await shoot('trial')
await page.goto(`${address}/crate/otterby-landing`)
await page.getByText('clear').or(page.getByText('4 notes')).first().waitFor({ timeout: 60_000 })
await shoot('overview')
await page.goto(`${address}/rulebooks/tarn-and-tiller`)
await shoot('rulebook')
await browser.close()
