import { spawn } from 'node:child_process'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { chromium } from '@playwright/test'
import { validateBytes } from 'gltf-validator'
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js'
import '../cli/node-assets.ts'
import { exportObj } from '../core/item/export-obj.ts'
import { createIO } from '../core/item/io.ts'
import { readItem } from '../core/intake/read-item.ts'
import { documentToFbx } from './binary-fbx.ts'
import { boulder } from './million-triangles.ts'

/**
 * How long a file takes from being dropped to its first picture, and how our reading compares with the bare loader of
 * the same format, in the same run. Needs a build; writes perf/intake.md.
 */
const sizes = (process.argv[2] ?? '10000,100000,1000000').split(',').map(Number)

interface AssetLibrary {
  FileList: new () => { AddFile: (name: string, bytes: Uint8Array) => void; delete: () => void }
  ConvertFileList: (
    list: unknown,
    format: string,
  ) => { IsSuccess: () => boolean; GetErrorCode: () => string; delete: () => void }
}
const library = await (createRequire(import.meta.url)('assimpjs') as () => Promise<AssetLibrary>)()

/** The loader alone; for GLB with the validator, which we run too. */
const bare: Record<string, (bytes: Uint8Array) => Promise<unknown>> = {
  glb: async (bytes) => {
    await validateBytes(bytes, { maxIssues: 1000, writeTimestamp: false })
    return createIO().readBinary(bytes)
  },
  obj: async (bytes) => new OBJLoader().parse(new TextDecoder().decode(bytes)),
  fbx: async (bytes) => {
    const list = new library.FileList()
    list.AddFile('boulder.fbx', bytes)
    const result = library.ConvertFileList(list, 'glb2')
    list.delete()
    if (!result.IsSuccess()) throw new Error(result.GetErrorCode())
    result.delete()
  },
}

async function secondsOf(job: () => Promise<unknown>): Promise<number> {
  const began = performance.now()
  await job()
  return (performance.now() - began) / 1000
}

const port = 4398
const server = spawn('node', ['server/serve.mjs'], {
  env: { ...process.env, PORT: String(port) },
  stdio: ['ignore', 'pipe', 'ignore'],
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

const folder = mkdtempSync(join(tmpdir(), 'intake-'))

/** Seconds from the drop to a drawn yard, and in how many different places the progress bar was seen. */
async function toFirstPicture(name: string, bytes: Uint8Array): Promise<{ seconds: number; places: number }> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`http://127.0.0.1:${port}/`)
  await page.getByText('Otterby Landing').waitFor()
  await page.goto(`http://127.0.0.1:${port}/crate/otterby-landing`)
  await page.getByLabel('Meshes and textures').waitFor({ state: 'attached' })
  await page.evaluate(() => {
    const seen = new Set<string>()
    Object.assign(globalThis, { seen })
    new MutationObserver(() => {
      for (const bar of document.querySelectorAll('[role=progressbar]'))
        seen.add(bar.getAttribute('aria-valuenow') ?? '')
    }).observe(document.body, { subtree: true, childList: true, attributes: true })
  })
  const path = join(folder, name)
  writeFileSync(path, bytes)
  const began = performance.now()
  await page.getByLabel('Meshes and textures').setInputFiles(path)
  await page.getByRole('list', { name: 'Parts of the source' }).waitFor({ timeout: 300_000 })
  await page.locator('canvas').first().waitFor({ timeout: 300_000 })
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))))
  const seconds = (performance.now() - began) / 1000
  const places = await page.evaluate(() => (globalThis as unknown as { seen: Set<string> }).seen.size)
  await page.close()
  return { seconds, places }
}

const lines = [
  '# From drop to first picture',
  '',
  'Written by `npx tsx perf/intake.ts` after a build. Reading in Node beside the bare loader of the same run ' +
    '(for GLB with the validator, which we run too);',
  'the picture in headless Chromium, drawing in software.',
  '',
  '| file | MB | bare loader, s | our reading, s | ratio | drop to picture, s | places of the progress bar |',
  '|---|---:|---:|---:|---:|---:|---:|',
]
for (const triangles of sizes) {
  const document = boulder(triangles)
  const files: Record<string, Uint8Array> = {
    glb: await createIO().writeBinary(document),
    obj: new TextEncoder().encode(exportObj(document, 'part').obj),
    fbx: documentToFbx(document),
  }
  for (const [ending, bytes] of Object.entries(files)) {
    const name = `boulder.${ending}`
    const ours = (): Promise<unknown> => readItem(name, [{ path: name, bytes: bytes.slice() }])
    // Each once to warm up, then in turn; the better of two counts.
    await bare[ending](bytes)
    await ours()
    const times = [
      await secondsOf(() => bare[ending](bytes)),
      await secondsOf(ours),
      await secondsOf(() => bare[ending](bytes)),
      await secondsOf(ours),
    ]
    const [loader, own] = [Math.min(times[0], times[2]), Math.min(times[1], times[3])]
    const picture = await toFirstPicture(name, bytes)
    lines.push(
      `| ${triangles.toLocaleString('en-GB')} triangles, ${ending.toUpperCase()} | ` +
        `${(bytes.length / 1e6).toFixed(1)} | ${loader.toFixed(2)} | ${own.toFixed(2)} | ` +
        `${(own / loader).toFixed(1)} | ${picture.seconds.toFixed(1)} | ${picture.places} |`,
    )
    console.log(lines.at(-1))
    writeFileSync(new URL('./intake.md', import.meta.url), `${lines.join('\n')}\n`)
  }
}
await browser.close()
server.kill()
