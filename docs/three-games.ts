import type { Page } from '@playwright/test'

/** Where the gate lies in the demo, and what lies beside it there. */
const gates = [
  { crate: 'otterby-landing', game: 'Tarn & Tiller', says: 'GLB in spans, four materials', others: ['Mooring bell'] },
  {
    crate: 'hollin-yard',
    game: 'Hollin Keep',
    says: 'OBJ in inches, 256-pixel TGA',
    others: ['Galley stove', 'Mooring bell'],
  },
  {
    crate: 'parish-green',
    game: 'Pegboard Parish',
    says: 'half-blocks in six trays',
    others: ['Ferry hull', 'Channel buoy'],
  },
] as const

/** The yard with what the game's loader made of the gate, as a PNG in a data address. */
async function gateIn(page: Page, address: string, { crate, others }: (typeof gates)[number]): Promise<string> {
  await page.goto(`${address}/crate/${crate}`)
  for (const name of others) {
    const remove = page.getByLabel(`Remove ${name}`)
    await remove.click({ timeout: 60_000 })
    await remove.waitFor({ state: 'hidden' })
  }
  await page.goto(`${address}/crate/${crate}/item/boathouse-gate?stage=check`)
  // What is not prepared yet says so; the rest goes into the pack as it is.
  await page.getByText(/\d+ block · /).waitFor({ timeout: 120_000 })
  const prepare = page.getByRole('button', { name: 'Prepare for me' })
  if (await prepare.isVisible()) {
    await prepare.click()
    await page.getByRole('button', { name: 'Pack and try it' }).waitFor({ timeout: 180_000 })
  }
  await page.goto(`${address}/crate/${crate}/pack`)
  await page.getByRole('button', { name: /^Pack (now|again)/ }).click({ timeout: 60_000 })
  await page.getByRole('link', { name: 'Try it' }).click({ timeout: 180_000 })
  await page.getByRole('button', { name: 'Load the pack' }).click({ timeout: 60_000 })
  await page.getByText('It loads').first().waitFor({ timeout: 180_000 })
  await page.waitForTimeout(4000)
  const picture = await page.locator('canvas').first().screenshot()
  return `data:image/png;base64,${picture.toString('base64')}`
}

/** One picture of the same gate in three games that have nothing in common. The page shows that picture afterwards. */
export async function shootThreeGames(page: Page, address: string, path: string): Promise<void> {
  const shown: string[] = []
  for (const gate of gates) {
    const picture = await gateIn(page, address, gate)
    shown.push(
      `<figure><div style="background-image:url(${picture})"></div>` +
        `<figcaption><b>${gate.game.replace('&', '&amp;')}</b> ${gate.says}</figcaption></figure>`,
    )
  }
  const style =
    'body{margin:0;display:flex;gap:8px;background:#f2ede2;font:15px sans-serif;color:#26302d}' +
    'figure{margin:0;flex:1}figcaption{padding:8px 10px}' +
    'figure div{height:430px;background-size:cover;background-position:center}'
  await page.goto('about:blank')
  await page.setViewportSize({ width: 1280, height: 470 })
  await page.setContent(`<style>${style}</style>${shown.join('')}`)
  await page.screenshot({ path })
}
