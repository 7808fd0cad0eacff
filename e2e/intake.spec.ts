import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { openShelf } from './support'

const gateFolder = 'demo/sources/boathouse_gate'
const file = (name: string) => ({ name, mimeType: 'application/octet-stream', buffer: readFileSync(`${gateFolder}/${name}`) })
const textFile = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })

async function openCrate(page: Page): Promise<void> {
  await openShelf(page)
  await page.getByRole('link', { name: 'Otterby Landing' }).click()
  await expect(page.getByRole('row')).toHaveCount(3)
}

test('files that cannot be read get a sentence, and the crate stays as it was', async ({ page }) => {
  await openCrate(page)
  const picker = page.getByLabel('Meshes and textures')
  const bell = readFileSync('demo/sources/mooring_bell/mooring_bell.glb')
  const bad: [{ name: string; mimeType: string; buffer: Buffer }[], RegExp][] = [
    [[{ name: 'cut.glb', mimeType: 'model/gltf-binary', buffer: bell.subarray(0, 90_000) }], /cut\.glb: it is cut off/],
    [[textFile('far.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 7\n')], /far\.obj: line 4.*there are 3 so far/],
    [[textFile('nan.obj', 'v 0 NaN 0\n')], /nan\.obj: line 1/],
    [[file('boathouse_gate.obj'), file('Boathouse gate.v2.mtl'), textFile('iron_strap.png', 'no picture')], /iron_strap\.png: this image cannot be read/],
    [[textFile('notes.txt', 'hello')], /no mesh among them/],
  ]
  for (const [files, message] of bad) {
    await picker.setInputFiles(files)
    await expect(page.getByText(message)).toBeVisible()
    await expect(page.getByRole('row')).toHaveCount(3)
  }
})

test('several files become an item; a texture that was not found is pointed to by hand', async ({ page }) => {
  await openCrate(page)
  await page.getByLabel('One unit is').selectOption('1 cm')
  await page.getByLabel('Up is').selectOption('+Z')
  await page.getByLabel('Meshes and textures').setInputFiles([file('boathouse_gate.obj'), file('Boathouse gate.v2.mtl'), file('Gate Stone Albedo.jpg'), file('gate stone_n.png'), file('Timber leaf.v2.png')])
  const came = page.getByRole('region', { name: 'What came in' })
  await expect(came.getByText('IRON_strap.PNG')).toBeVisible({ timeout: 60_000 })
  await expect(page.getByRole('region', { name: 'Findings' }).getByText(/asks for “D:.*IRON_strap\.PNG”, which was not brought/)).toBeVisible()
  const iron = came.getByRole('combobox', { name: /IRON_strap/ })
  await iron.selectOption('Timber leaf.v2.png')
  await expect(page.getByText(/IRON_strap\.PNG”, which was not brought/)).toHaveCount(0, { timeout: 60_000 })
  await came.getByLabel('More images').setInputFiles([file('iron_strap.png')])
  await expect(iron.getByRole('option', { name: 'iron_strap.png' })).toBeAttached()
  await iron.selectOption('iron_strap.png')
  await expect(iron).toHaveValue('iron_strap.png')
})

test('files are dropped, several at once', async ({ page }) => {
  await openCrate(page)
  const transfer = await page.evaluateHandle((text) => {
    const data = new DataTransfer()
    data.items.add(new File([text], 'pier one.obj'))
    data.items.add(new File([text], 'pier two.obj'))
    return data
  }, 'v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n')
  await page.getByRole('region', { name: 'Bring in files' }).dispatchEvent('drop', { dataTransfer: transfer })
  await expect(page.getByRole('link', { name: 'Pier one' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'Pier two' })).toBeVisible()
})

test('a crate is begun, saved as a file, removed, and opened again from the file', async ({ page }) => {
  await openShelf(page)
  await page.getByRole('link', { name: 'Otterby Landing' }).click()
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the crate file' }).click()])
  const path = await download.path()
  await page.getByRole('link', { name: 'Gentle Crate' }).click()
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await page.getByRole('button', { name: 'Remove for good' }).click()
  await expect(page.getByRole('heading', { name: 'Otterby Landing' })).toHaveCount(0)
  await page.getByLabel('Crate file').setInputFiles({ name: 'otterby.zip', mimeType: 'application/zip', buffer: readFileSync(path) })
  await expect(page.getByRole('heading', { level: 1, name: 'Otterby Landing' })).toBeVisible()
  await expect(page.getByRole('row')).toHaveCount(3)
  await page.goto('/')
  await page.getByLabel('Crate file').setInputFiles(textFile('wrong.zip', 'no crate'))
  await expect(page.getByText(/wrong\.zip: it is not a whole ZIP archive/)).toBeVisible()
})
