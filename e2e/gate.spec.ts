import { createHash } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { validateBytes } from 'gltf-validator'
import { unzipSync } from 'fflate'
import { drawnShare, openGate, openShelf, prepareGate, slip } from './support'

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
  expect(manifest).toMatchObject({ game: 'tarn-and-tiller', version: '1.4' })
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

test('the worklist is edited, undone, redone, and outlives a reload, also in the middle of a run', async ({ page }) => {
  await openGate(page)
  await prepareGate(page)
  await slip(page, 'Reduce triangles').click()
  const card = page.getByRole('dialog', { name: 'Reduce triangles' })
  await expect(card).toContainText('38,096 triangles')
  // Parts are called as the step finds them; “Clean names” comes later.
  await expect(card.getByRole('button', { name: 'Hinge pins', exact: true })).toBeVisible({ timeout: 60_000 })
  await expect(card.getByRole('button', { name: 'hinge_pins', exact: true })).toHaveCount(0)
  await card.getByRole('textbox', { name: 'Keep' }).fill('6000')
  await card.getByRole('textbox', { name: 'Keep' }).press('Enter')
  await expect(page.getByRole('status').filter({ hasText: 'Kept in this browser' })).toBeVisible()
  await page.reload()
  const triangles = page.getByRole('region', { name: 'Gauges' }).getByRole('listitem').filter({ hasText: 'Triangles' })
  await expect(triangles).toContainText(/5,9\d\d \/ 12,000|6,000 \/ 12,000/, { timeout: 120_000 })
  await expect(page.locator('[data-entry]')).toHaveCount(19)
  // Only what comes after the change ran again.
  await slip(page, 'Reduce triangles').click()
  await expect(card).toContainText('What it did')
  await card.getByRole('button', { name: 'Close the card' }).click()
  await slip(page, 'Weld').click()
  await expect(page.getByRole('dialog', { name: 'Weld' })).toContainText('kept from before')
  await page.getByRole('dialog', { name: 'Weld' }).getByRole('switch', { name: 'Use this step' }).click()
  await expect(slip(page, 'Weld')).toContainText('off')
  await page.getByRole('dialog', { name: 'Weld' }).getByRole('button', { name: 'Move earlier' }).click()
  await expect(slip(page, 'Weld')).toContainText('4')

  await page.reload()
  await expect(slip(page, 'Weld')).toContainText('off', { timeout: 60_000 })
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(slip(page, 'Weld')).toContainText('5')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(slip(page, 'Weld')).not.toContainText('off')
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(slip(page, 'Weld')).toContainText('off')
})

test('a finding is shown, mended and waived', async ({ page }) => {
  await openGate(page, 'check')
  const findings = page.getByRole('region', { name: 'Findings' })
  const inward = findings.getByRole('listitem').filter({ hasText: 'Faces inside out' })
  await inward.getByRole('button', { name: 'Show me' }).click()
  await expect(page.getByRole('list', { name: 'Parts' }).getByRole('button', { pressed: true })).toHaveCount(1)
  await inward.getByRole('button', { name: 'Mend: Turn outward' }).click()
  await expect(slip(page, 'Turn faces outward')).toContainText('turned', { timeout: 60_000 })
  // The leaf is right now; the ground shade is a single sheet, whose back shows from below whichever way it looks: that
  // is another finding.
  await expect(inward).toHaveCount(0)
  await expect(findings.getByRole('listitem').filter({ hasText: 'Inside without back faces' })).toContainText(
    'Ground shade',
  )

  const giant = findings.getByRole('listitem').filter({ hasText: 'Giant' })
  await giant.getByRole('button', { name: 'Waive' }).click()
  await page.getByRole('textbox', { name: 'Why it may stay' }).fill('It is a monument.')
  await page.getByRole('button', { name: 'Waive it' }).click()
  await expect(giant).toContainText('waived: It is a monument.')
  await page.reload()
  await expect(giant).toContainText('waived: It is a monument.', { timeout: 60_000 })
  await giant.getByRole('button', { name: 'Take back' }).click()
  await expect(giant).not.toContainText('waived')
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
