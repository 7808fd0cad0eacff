// From pressing Stop to having control back, for each job that has a Stop. Needs a build; writes perf/stop.md.
import { writeFileSync } from 'node:fs'
import { chromium, type Page } from '@playwright/test'
import { application } from '../server/application.mjs'

const ADDRESS = 'http://127.0.0.1:4394'
const server = application('build/client').listen(4394, '127.0.0.1')
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
page.setDefaultTimeout(120_000)

/**
 * Presses Stop within the page and waits there until it is gone, so that only the page's own time counts, and no
 * frame that is drawn in software; −1 where the
 * job was done before.
 */
const stopNow = (on: Page): Promise<number> =>
  on.evaluate<number>(`(async () => {
    const button = () => [...document.querySelectorAll('button')].find((each) => each.textContent === 'Stop')
    const asked = performance.now()
    while (!button()) {
      if (performance.now() - asked > 5000) return -1
      await new Promise(requestAnimationFrame)
    }
    const began = performance.now()
    button().click()
    while (button()) await new Promise((resolve) => setTimeout(resolve))
    return performance.now() - began
  })()`)

/** Waits until nothing has run for a while: what is stopped is then the job that was begun, and no other. */
async function settled(): Promise<void> {
  for (let quiet = 0; quiet < 10;) {
    quiet = (await page.getByRole('button', { name: 'Stop' }).count()) === 0 ? quiet + 1 : 0
    await page.waitForTimeout(200)
  }
}

const rows: { job: string; times: number[] }[] = []
async function measure(job: string, moments: readonly number[], begin: () => Promise<void>): Promise<void> {
  const times: number[] = []
  for (const moment of moments) {
    await settled()
    await begin()
    await page.waitForTimeout(moment)
    const time = await stopNow(page)
    if (time >= 0) times.push(time)
  }
  rows.push({ job, times })
  console.log(job, times.map(Math.round))
}

await page.goto(ADDRESS)
await page.getByRole('heading', { name: 'Otterby Landing' }).waitFor()
await page.goto(`${ADDRESS}/crate/otterby-landing/item/boathouse-gate?stage=mesh`)
await page
  .getByText(/[1-9]\d* block · /)
  .first()
  .waitFor()
const prepare = page.getByRole('button', { name: 'Prepare for me' })
await measure('preparing the gate', [0, 300, 1000, 2500, 5000], () => prepare.click())
await prepare.click()
await page
  .getByText(/0 block · 0 risky/)
  .first()
  .waitFor()
const slip = page.getByRole('region', { name: 'Worklist' }).getByRole('button', { name: /^Reduce/ })
await slip.click()
await measure('running, after a step was switched', [0, 500, 500, 1500, 500], () =>
  page.getByRole('switch', { name: 'Use this step' }).click(),
)
await page.goto(`${ADDRESS}/crate/otterby-landing/pack`)
await measure('packing', [0, 300, 1500], () => page.getByRole('button', { name: /^Pack now|^Pack again/ }).click())
const lines = Array.from({ length: 400_000 }, (_, at) => `v ${at} ${at % 7} ${at % 3}\n`).join('')
const faces = Array.from({ length: 300_000 }, (_, at) => `f ${at + 1} ${at + 2} ${at + 3}\n`).join('')
await page.goto(`${ADDRESS}/crate/otterby-outfit`)
await page.getByRole('heading', { name: 'Otterby outfit' }).waitFor()
await measure('reading 300,000 faces', [0, 300, 1000], () =>
  page
    .getByLabel('Meshes and textures')
    .setInputFiles({ name: 'wall.obj', mimeType: 'text/plain', buffer: Buffer.from(lines + faces) }),
)
await browser.close()
server.close()

writeFileSync(
  new URL('stop.md', import.meta.url),
  `# Stop

From pressing Stop to having control back, at several moments of each job; the page's own time until Stop is gone.
\`npx tsx perf/stop.ts\` after a build; headless Chromium, drawing in software. Wanted: 200 ms.

| job | pressed | longest, ms | all, ms |
|---|---:|---:|---|
${rows.map(({ job, times }) => `| ${job} | ${times.length} | ${Math.round(Math.max(...times))} | ${times.map(Math.round).join(', ')} |`).join('\n')}
`,
)
process.exit(0)
