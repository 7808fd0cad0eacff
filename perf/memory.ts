// Ten items opened and prepared one after the other, then the first again: what page and workers hold after each.
// Needs a build; `npx tsx perf/memory.ts` writes perf/memory.md.
import { writeFileSync } from 'node:fs'
import { chromium, type Page } from '@playwright/test'
import { application } from '../server/application.mjs'

const ADDRESS = 'http://127.0.0.1:4393'
const items = [
  ['otterby-landing', 'boathouse-gate'],
  ['otterby-arrivals', 'timetable-board'],
  ['otterby-arrivals', 'sluice-walk'],
  ['otterby-arrivals', 'rain-hat'],
  ['otterby-arrivals', 'bow-pennants'],
  ['otterby-arrivals', 'galley-stove'],
  ['otterby-arrivals', 'channel-buoy'],
  ['otterby-arrivals', 'canvas-awning'],
  ['otterby-arrivals', 'ferry-hull'],
  ['otterby-landing', 'mooring-bell'],
  ['otterby-landing', 'boathouse-gate'],
] as const

/**
 * Bytes of the page and of all its workers, after what nobody holds was cleared
 * (performance.measureUserAgentSpecificMemory).
 */
async function held(page: Page): Promise<{ all: number; workers: number }> {
  const session = await page.context().newCDPSession(page)
  await session.send('HeapProfiler.collectGarbage')
  return page.evaluate(async () => {
    const measure = performance as unknown as {
      measureUserAgentSpecificMemory: () => Promise<{
        bytes: number
        breakdown: { bytes: number; attribution: { scope: string }[] }[]
      }>
    }
    const { bytes, breakdown } = await measure.measureUserAgentSpecificMemory()
    const inWorkers = breakdown.filter(({ attribution }) => attribution.some(({ scope }) => scope.includes('Worker')))
    return { all: bytes, workers: inWorkers.reduce((sum, each) => sum + each.bytes, 0) }
  })
}

const server = application('build/client').listen(4393, '127.0.0.1')
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(ADDRESS)
await page.getByRole('heading', { name: 'Otterby arrivals' }).waitFor()
const rows: { item: string; all: number; workers: number }[] = []
for (const [crate, item] of items) {
  // By the links of the page, so that it is the same page from the first to the last.
  if (!page.url().includes(crate)) {
    await page.getByRole('link', { name: 'Gentle Crate' }).click()
    await page
      .getByRole('heading', { name: crate.replace('-', ' ').replace(/\b./, (first) => first.toUpperCase()) })
      .first()
      .waitFor()
    await page.locator(`a[href="/crate/${crate}"]`).click()
    await page.locator(`a[href="/crate/${crate}/item/${item}"]`).first().click()
  } else await page.locator(`a[href^="/crate/${crate}/item/${item}"]`).first().click()
  await page.waitForURL(`**/item/${item}**`)
  await page.waitForTimeout(500)
  const again = page.getByRole('button', { name: 'Prepare anew' })
  const prepare = page.getByRole('button', { name: 'Prepare for me' })
  await prepare.or(again).first().waitFor()
  if (await prepare.isVisible()) await prepare.click()
  await again.and(page.locator(':enabled')).waitFor({ timeout: 180_000 })
  // Workers that rest for long are ended: waited for where what is held is compared.
  await page.waitForTimeout(rows.length === 0 || rows.length === items.length - 1 ? 34_000 : 3000)
  const { all, workers } = await held(page)
  rows.push({ item, all, workers })
  console.log(item, Math.round(all / 1e6), Math.round(workers / 1e6))
}
await browser.close()
server.close()

const megabytes = (bytes: number): string => (bytes / 1024 / 1024).toFixed(0)
const [first] = rows
const tenth = rows[items.length - 2]
const again = rows[items.length - 1]
const beside = (row: (typeof rows)[number]): string =>
  `${(row.all / first.all).toFixed(2)} in all, ${(row.workers / Math.max(1, first.workers)).toFixed(2)} in workers`
writeFileSync(
  new URL('memory.md', import.meta.url),
  `# Memory

Ten items are opened and prepared one after the other in one page, all of their steps run, then the first is opened
again; after each, and half a minute of rest after the first and the last, the browser is asked what page and workers
hold (\`performance.measureUserAgentSpecificMemory\`), when what nobody holds was cleared. \`npx tsx perf/memory.ts\`
after a build.

| item | all, MB | of it in workers, MB | beside the first |
|---|---:|---:|---:|
${rows
  .map((row) => [row.item, megabytes(row.all), megabytes(row.workers), (row.all / first.all).toFixed(2)].join(' | '))
  .map((line) => `| ${line} |`)
  .join('\n')}

After the tenth, beside after the first: ${beside(tenth)}.
The first opened again, beside when nothing else had been opened: ${beside(again)}.
`,
)
process.exit(0)
