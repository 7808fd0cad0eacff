// Many items at once: posts of 18,048 triangles with three maps of 1024 × 1024, prepared, packed and watched on the
// command line, beside a shell loop over single items; and how long the page is held up while as many are prepared
// there. Needs a build; `npx tsx perf/fleet.ts` writes docs/performance.md. Ratios within one run count, seconds are
// this machine's.
import { spawn } from 'node:child_process'
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { cpus, tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { chromium } from '@playwright/test'
import { application } from '../server/application.mjs'
import { mooringPost } from './fleet-sources.ts'

const home = mkdtempSync(join(tmpdir(), 'gentle-crate-fleet-'))
const at = (path: string): string => join(home, path)
const game = ['--rulebook', 'tarn-and-tiller', '--kind', 'prop']

interface Measured {
  seconds: number
  /** Most memory that the process ever held (VmHWM of proc(5)). */
  megabytes: number
}

/** Runs one call to its end. */
async function measured(...words: string[]): Promise<Measured> {
  const began = performance.now()
  const child = spawn(process.execPath, ['cli/bin.mjs', ...words], { stdio: 'ignore' })
  let kilobytes = 0
  const look = setInterval(() => {
    try {
      const status = readFileSync(`/proc/${child.pid}/status`, 'utf8')
      kilobytes = Math.max(kilobytes, Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0))
    } catch {
      // It has ended since.
    }
  }, 50)
  const code = await new Promise<number | null>((resolve) => child.on('exit', resolve))
  clearInterval(look)
  if (code !== 0) throw new Error(`${words.join(' ')} ended with ${code}`)
  return { seconds: (performance.now() - began) / 1000, megabytes: kilobytes / 1024 }
}

async function folderOf(count: number): Promise<string> {
  const folder = at(`posts-${count}`)
  mkdirSync(folder)
  for (let number = 0; number < count; number++)
    writeFileSync(join(folder, `post_${String(number).padStart(2, '0')}.glb`), await mooringPost(number))
  return folder
}

/** One source is saved: how long until there is a new pack, beside preparing that item alone. */
async function watched(folder: string, newer: string): Promise<{ first: number; again: number[] }> {
  const words = ['cli/bin.mjs', 'watch', folder, ...game, '--out', at('watched.zip'), '--json']
  const child = spawn(process.execPath, words, { stdio: ['ignore', 'pipe', 'ignore'] })
  const lines = createInterface({ input: child.stdout })[Symbol.asyncIterator]()
  let began = performance.now()
  await lines.next()
  const first = (performance.now() - began) / 1000
  const again: number[] = []
  const sources = readdirSync(newer)
  for (const [number, name] of readdirSync(folder).slice(0, 3).entries()) {
    began = performance.now()
    copyFileSync(join(newer, sources[number + 4]), join(folder, name))
    await lines.next()
    again.push((performance.now() - began) / 1000)
  }
  child.kill('SIGINT')
  return { first, again }
}

/** Tasks of the page over 50 ms (Long Tasks API) while as many items are brought and prepared in it. */
async function inThePage(folder: string): Promise<{ seconds: number; long: number[] }> {
  const server = application('build/client').listen(4394, '127.0.0.1')
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.addInitScript(() => {
    const long: number[] = []
    Object.assign(window, { long })
    new PerformanceObserver((list) => long.push(...list.getEntries().map(({ duration }) => duration))).observe({
      type: 'longtask',
    })
  })
  await page.route('**/demo/index.json', (route) => route.fulfill({ json: ['otterby-landing.zip'] }))
  await page.goto('http://127.0.0.1:4394/crate/otterby-landing')
  await page.getByText('2 items').waitFor({ timeout: 120_000 })
  await page.getByLabel('Meshes and textures').setInputFiles(readdirSync(folder).map((name) => join(folder, name)))
  await page.getByText('11 items').waitFor({ timeout: 240_000 })
  await page.waitForTimeout(3000)
  await page.evaluate(() => (window as unknown as { long: number[] }).long.splice(0))
  const began = performance.now()
  await page.getByRole('button', { name: /^Prepare / }).click()
  await page.getByRole('progressbar', { name: 'Preparing, of the items' }).waitFor()
  // Looked at twice a second and by its label alone: to ask for roles at each frame would hold the page up itself.
  const isDone = () => document.querySelector('[aria-label="Preparing, of the items"]') === null
  await page.waitForFunction(isDone, undefined, { polling: 500, timeout: 900_000 })
  const seconds = (performance.now() - began) / 1000
  const long = await page.evaluate(() => (window as unknown as { long: number[] }).long)
  await browser.close()
  server.close()
  return { seconds, long }
}

const few = await folderOf(9)
const many = await folderOf(36)
const rows: { what: string; items: number; prepare: Measured; pack: Measured }[] = []
for (const [folder, items] of [
  [few, 9],
  [many, 36],
] as const) {
  const prepare = await measured('prepare', folder, ...game, '--out', at(`${items}.crate.zip`))
  rows.push({
    what: 'one call',
    items,
    prepare,
    pack: await measured('pack', at(`${items}.crate.zip`), '--out', at(`${items}.zip`)),
  })
}
const singles: { prepare: Measured[]; pack: Measured[] } = { prepare: [], pack: [] }
for (const name of readdirSync(few)) {
  singles.prepare.push(await measured('prepare', join(few, name), ...game, '--out', at('single.crate.zip')))
  singles.pack.push(await measured('pack', at('single.crate.zip'), '--out', at('single.zip')))
}
const together = (all: Measured[]): Measured => ({
  seconds: all.reduce((sum, { seconds }) => sum + seconds, 0),
  megabytes: Math.max(...all.map(({ megabytes }) => megabytes)),
})
rows.push({ what: 'a shell loop', items: 9, prepare: together(singles.prepare), pack: together(singles.pack) })
const watch = await watched(many, few)
const alone = singles.prepare.map(({ seconds }) => seconds).sort((a, b) => a - b)[4]
const again = watch.again.toSorted((a, b) => a - b)[1]
const page = await inThePage(few)
rmSync(home, { recursive: true, force: true })

const [nine, all, loop] = rows
const perItem = ({ prepare, pack, items }: (typeof rows)[number]): number => (prepare.seconds + pack.seconds) / items
const percent = (ratio: number): string => `${ratio >= 1 ? '+' : '−'}${Math.abs((ratio - 1) * 100).toFixed(0)} %`
const over = page.long.filter((each) => each > 50)
const lines = [
  '# Many items at once',
  '',
  'Mooring posts of 18,048 triangles with three maps of 1024 × 1024, each another, brought to Tarn & Tiller as props:',
  'reduced, given levels, a shadow mesh and solids, their maps compressed with mipmaps.',
  `Made by \`npx tsx perf/fleet.ts\` on ${cpus().length} cores (${cpus()[0].model.trim()}). Seconds are this ` +
    'machine’s; ratios are within the run.',
  '',
  '| | items | prepare | pack | an item | most memory |',
  '|---|---|---|---|---|---|',
  ...rows.map(
    (row) =>
      `| ${row.what} | ${row.items} | ${row.prepare.seconds.toFixed(1)} s | ${row.pack.seconds.toFixed(1)} s | ` +
      `${perItem(row).toFixed(2)} s | ${Math.max(row.prepare.megabytes, row.pack.megabytes).toFixed(0)} MB |`,
  ),
  '',
  `- From 9 to 36 items the time of one changes by ${percent(perItem(all) / perItem(nine))}; the most memory by ` +
    `${percent(all.prepare.megabytes / nine.prepare.megabytes)} in preparing, ` +
    `${percent(all.pack.megabytes / nine.pack.megabytes)} in packing.`,
  `- A shell loop over single items takes ${(perItem(loop) / perItem(nine)).toFixed(2)} times as long for each.`,
  `- \`watch\` on ${all.items} of them: the first pack after ${watch.first.toFixed(0)} s; one source saved, a ` +
    `new pack after ${again.toFixed(1)} s (the middle of ` +
    `${watch.again.map((each) => each.toFixed(1)).join(', ')}), where preparing that item alone takes ` +
    `${alone.toFixed(1)} s: ${(again / alone).toFixed(2)} times.`,
  `- In the page 9 of them and the gate are prepared in ${page.seconds.toFixed(0)} s; meanwhile ${over.length} ` +
    `tasks of the page took longer than 50 ms, the longest ${Math.max(0, ...over).toFixed(0)} ms.`,
  '',
  'What keeps it so: an item is prepared and packed in a worker and let go, of it only its compressed files are kept;',
  'an archive is joined of pieces that were compressed apart; `watch` reads, prepares and compresses only what ' +
    'changed.',
  '',
]
writeFileSync('docs/performance.md', lines.join('\n'))
console.log(lines.join('\n'))
