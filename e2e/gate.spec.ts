import { createHash } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from '@playwright/test'
import { validateBytes } from 'gltf-validator'
import { unzipSync } from 'fflate'
import { drawnShare, openGate, openShelf, prepareGate, test } from './support'

test.use({ crates: ['otterby-landing'] })

/** Files below a folder, with forward slashes. */
const listFiles = (folder: string, below = ''): string[] =>
  readdirSync(join(folder, below)).flatMap((name) => {
    const path = below === '' ? name : `${below}/${name}`
    return statSync(join(folder, path)).isDirectory() ? listFiles(folder, path) : [path]
  })

/** Unpacks with a program that is not ours: Python's where there is one, else the archiver of the system. */
function unpackFromOutside(archive: string, folder: string): void {
  try {
    execFileSync('python3', ['-m', 'zipfile', '-e', archive, folder])
  } catch {
    execFileSync('unzip', ['-q', archive, '-d', folder])
  }
}

test('from the demo crate, stopped and run again, to a pack that loads, checked from outside', async ({ page }) => {
  await openGate(page)
  await page.getByRole('button', { name: 'Prepare for me' }).click()
  await page.getByRole('button', { name: 'Stop' }).click()
  await expect(page.getByText('Stopped. What was finished is kept.')).toBeVisible()
  await prepareGate(page)
  await page.getByRole('banner').getByRole('link', { name: 'Pack', exact: true }).click()
  await page.getByRole('button', { name: 'Pack now' }).click()
  await expect(page.getByText('Packed; nothing blocks')).toBeVisible({ timeout: 120_000 })
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Download', exact: true }).click(),
  ])
  const folder = mkdtempSync(join(tmpdir(), 'gentle-crate-e2e-'))
  const archive = join(folder, 'pack.zip')
  await download.saveAs(archive)

  // One item alone; no patch over the same pack; which of two packs wins; who asks for a map.
  await page.getByRole('button', { name: 'Download a part of it' }).click()
  const [alone] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'mooring_bell alone' }).click(),
  ])
  const ofBell = Object.keys(unzipSync(new Uint8Array(readFileSync(await alone.path()))))
  expect(ofBell.filter((path) => !path.startsWith('items/movers/mooring_bell/'))).toEqual(['manifest.json'])
  await page.getByLabel('The pack that was given out').setInputFiles(archive)
  await expect(page.getByText(/nothing of it is new/)).toBeVisible()
  const other = { name: 'zz.zip', mimeType: 'application/zip', buffer: readFileSync(await alone.path()) }
  await page.getByLabel('Packs of the game’s folder').setInputFiles(other)
  const beside = page.getByRole('table', { name: 'Paths that several packs have' })
  await expect(beside.getByRole('row')).toHaveCount(ofBell.length)
  await expect(beside.getByRole('row').nth(1)).toContainText('zz.zip')
  await page.getByLabel('Find a file').fill('boathouse colour')
  await expect(page.getByRole('region', { name: 'Files of the pack' })).toContainText(
    /boathouse_gate: the look plain: colour of/,
  )

  await page.getByRole('link', { name: 'Try it' }).click()
  await page.getByRole('button', { name: 'Load the pack' }).click()
  await expect(page.getByRole('status').filter({ hasText: /^loadsIt loads$|It loads$/ })).toBeVisible({
    timeout: 60_000,
  })
  await expect.poll(() => drawnShare(page), { timeout: 60_000 }).toBeGreaterThan(0.02)

  const unpacked = join(folder, 'unpacked')
  unpackFromOutside(archive, unpacked)
  const manifest = JSON.parse(readFileSync(join(unpacked, 'manifest.json'), 'utf8'))
  expect(manifest).toMatchObject({ game: 'tarn-and-tiller', version: '1.6' })
  expect(manifest.files.map((file: { path: string }) => file.path).sort()).toEqual(
    listFiles(unpacked)
      .filter((path) => path !== 'manifest.json')
      .sort(),
  )
  for (const file of manifest.files) {
    const bytes = readFileSync(join(unpacked, file.path))
    expect({ bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') }).toEqual({
      bytes: file.bytes,
      sha256: file.sha256,
    })
    if (file.path.endsWith('.glb')) expect((await validateBytes(new Uint8Array(bytes))).issues.numErrors).toBe(0)
    if (file.path.endsWith('.dds')) expect(bytes.subarray(0, 4).toString()).toBe('DDS ')
  }
})

test('first paint of the shelf needs no 3D code, and nothing comes from outside', async ({ page }) => {
  const requests: string[] = []
  page.on('request', (request) => requests.push(request.url()))
  await openShelf(page)
  const scripts = requests.filter((url) => url.endsWith('.js'))
  const drawing = await Promise.all(
    scripts.map(async (url) => ((await (await page.request.get(url)).text()).includes('WebGLRenderer') ? [url] : [])),
  )
  expect(scripts.length).toBeGreaterThan(3)
  expect(drawing.flat()).toEqual([])
  expect(requests.filter((url) => !/^(http:\/\/127\.0\.0\.1:|data:|blob:)/.test(url))).toEqual([])
  const policy = (await page.request.get('/')).headers()['content-security-policy']
  expect(policy).toContain("default-src 'none'")
  expect(policy).not.toMatch(/https?:|\*/)
})
