import { spawn } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { chromium } from '@playwright/test'
import { painted, pictureOf, wavyNormals } from '../core/test-support/pictures.ts'
import { encodePng } from '../core/pictures/image-codecs.ts'

/**
 * From a changed setting at Surface to the map on the screen showing it, with maps of 1024 × 1024. Needs a build:
 * `npx tsx perf/map-page.ts`.
 */
const port = 4398
const server = spawn('node', ['server/serve.mjs'], {
  env: { ...process.env, PORT: String(port) },
  stdio: ['ignore', 'pipe', 'inherit'],
})
await new Promise<void>((resolve) => server.stdout.once('data', () => resolve()))
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
page.setDefaultTimeout(60_000)
const side = 1024
const grey = pictureOf(side, side, (x, y) => [
  128 + 100 * Math.sin(x / 31) * Math.cos(y / 47),
  128 + 100 * Math.sin(x / 31) * Math.cos(y / 47),
  128 + 100 * Math.sin(x / 31) * Math.cos(y / 47),
])
const files = [
  ['wall_albedo.png', painted(side, side)],
  ['wall_normal.png', wavyNormals(side, true)],
  ['wall_ao.png', grey],
  ['wall_rough.png', grey],
] as const
await page.goto(`http://127.0.0.1:${port}/`)
await page.getByText('Otterby outfit').waitFor()
await page.goto(`http://127.0.0.1:${port}/crate/otterby-outfit`)
await page.getByLabel('It becomes').selectOption('finish')
await page
  .getByLabel('Meshes and textures')
  .setInputFiles(
    files.map(([name, pixels]) => ({ name, mimeType: 'image/png', buffer: Buffer.from(encodePng(pixels, false)) })),
  )
await page.getByRole('button', { name: 'Prepare for me' }).click()
await page.getByRole('button', { name: 'Prepare anew' }).and(page.locator(':enabled')).waitFor({ timeout: 120_000 })
await page.goto(`${page.url().split('?')[0]}?stage=surface`)
await page
  .getByRole('region', { name: 'Worklist' })
  .getByRole('button', { name: /^Pack channels/ })
  .click()
await page.getByRole('region', { name: 'Maps of the item' }).getByRole('button', { name: /mix/ }).first().click()
await page.waitForTimeout(12_000)

/** Milliseconds from each change to the first picture after it that shows it. */
async function waits(change: (round: number) => Promise<void>, rounds: number): Promise<number[]> {
  const found: number[] = []
  for (let round = 0; round < rounds; round++) {
    await page.evaluate(() => {
      const began = { at: 0 }
      Object.assign(globalThis, { began })
      for (const type of ['click', 'input', 'change'])
        addEventListener(
          type,
          () => {
            began.at = performance.now()
          },
          { capture: true, once: true },
        )
      performance.clearMarks('map drawn')
    })
    await change(round)
    await page
      .getByText('After it, at a glance')
      .waitFor({ timeout: 20_000 })
      .catch(() => undefined)
    found.push(
      await page.evaluate(() => {
        const { began } = globalThis as unknown as { began: { at: number } }
        const drawn = performance
          .getEntriesByName('map drawn')
          .map((mark) => mark.startTime)
          .filter((at) => at > began.at)
        return (drawn.at(-1) ?? Infinity) - began.at
      }),
    )
    await page.waitForTimeout(9000)
  }
  return found
}
const card = page.getByRole('region', { name: /^What goes into/ })
const punched = await waits(
  (round) =>
    card.getByRole('radio', { name: round % 2 === 0 ? 'Colour into A' : 'Constant into A' }).click({ force: true }),
  6,
)
const line = (title: string, values: number[]): string =>
  `| ${title} | ${Math.min(...values).toFixed(0)} | ` +
  `${[...values].sort((a, b) => a - b)[Math.floor(values.length / 2)].toFixed(0)} | ` +
  `${Math.max(...values).toFixed(0)} |`
const lines = [
  '# From a changed setting to the map on the screen',
  '',
  'Written by `npx tsx perf/map-page.ts` after a build; maps of 1024 × 1024, headless Chromium. What is shown ' +
    'at once is made of small pictures; the exact map follows.',
  '',
  '| setting | least, ms | middle, ms | most, ms |',
  '|---|---:|---:|---:|',
  line('a hole of the punched card', punched),
]
writeFileSync(new URL('./map-page.md', import.meta.url), `${lines.join('\n')}\n`)
console.log(lines.join('\n'))
await page.screenshot({ path: process.argv[2] ?? '/dev/null' }).catch(() => undefined)
await browser.close()
server.kill()
