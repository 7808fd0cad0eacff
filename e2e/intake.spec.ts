import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { openShelf, test } from './support'

test.use({ crates: ['otterby-landing', 'otterby-arrivals'] })

const gateFolder = 'demo/sources/boathouse_gate'
const file = (name: string) => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: readFileSync(`${gateFolder}/${name}`),
})
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
    [[textFile('far.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 7\n')], /far\.obj: line 4.*there are 3/],
    [[textFile('nan.obj', 'v 0 NaN 0\n')], /nan\.obj: line 1/],
    [
      [textFile('old.gltf', JSON.stringify({ asset: { version: '1.0' }, meshes: {}, accessors: {} }))],
      /old\.gltf: it is glTF 1\.0; glTF 2\.0 is read/,
    ],
    [[textFile('torn.dae', '<COLLADA><asset>')], /torn\.dae: its XML is broken/],
    [[textFile('cut.zip', 'PK\u0003\u0004 no archive')], /cut\.zip: it is not a whole ZIP archive/],
    [[textFile('notes.txt', 'hello')], /neither a mesh nor a picture among them/],
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
  await page
    .getByLabel('Meshes and textures')
    .setInputFiles([
      file('boathouse_gate.obj'),
      file('Boathouse gate.v2.mtl'),
      file('Gate Stone Albedo.jpg'),
      file('gate stone_n.png'),
      file('Timber leaf.v2.png'),
    ])
  const came = page.getByRole('region', { name: 'What came in' })
  await expect(came.getByText('IRON_strap.PNG').first()).toBeVisible({ timeout: 60_000 })
  const iron = came
    .getByRole('list', { name: 'Textures asked for' })
    .getByRole('listitem')
    .filter({ hasText: 'IRON_strap.PNG' })
  await expect(iron).toContainText('not found')
  await expect(came.getByRole('list', { name: 'What looks off' })).toContainText('IRON_strap.PNG was not found')
  const choose = async (name: RegExp): Promise<void> => {
    await iron.getByRole('button', { name: /IRON_strap/ }).click()
    await page.getByRole('radio', { name }).click()
    await page.getByRole('button', { name: 'Use it' }).click()
  }
  await choose(/Timber leaf/)
  await expect(iron).toContainText('Timber leaf.v2.png · 512 × 512', { timeout: 60_000 })
  await came.getByLabel('More images').setInputFiles([file('iron_strap.png')])
  await choose(/iron_strap/)
  await expect(iron).toContainText('iron_strap.png · 256 × 256', { timeout: 60_000 })
  await choose(/rope_col/)
  await expect(iron).toContainText('the game’s own: stock/rope_col.dds', { timeout: 60_000 })
})

/** An item of the crate of arrivals on the bench, at intake. */
async function openArrival(page: Page, item: string): Promise<void> {
  await openShelf(page)
  await page.goto(`/crate/otterby-arrivals/item/${item}?stage=intake`)
  await expect(page.getByRole('list', { name: 'Parts of the source' })).toBeVisible({ timeout: 60_000 })
}

test('the report names what is wrong with the stove, and a mend goes into the worklist', async ({ page }) => {
  await openArrival(page, 'galley-stove')
  const off = page.getByRole('list', { name: 'What looks off' })
  for (const fault of [
    /Work lamp is a lamp/,
    /Rail has a scale that is not baked/,
    /normals that point away/,
    /A texture path points to a folder of one computer/,
  ])
    await expect(off).toContainText(fault)
  await off.getByRole('button', { name: 'Drop strays' }).click()
  await expect(
    page.getByRole('region', { name: 'Worklist' }).getByRole('button', { name: /^Drop strays/ }),
  ).toBeVisible({ timeout: 60_000 })
  await expect(
    off.getByRole('listitem').filter({ hasText: 'Work lamp' }).getByRole('button', { name: 'Open the step' }),
  ).toBeVisible()
})

test('what is new beside the official ferry is taken as an addition', async ({ page }) => {
  await openArrival(page, 'bow-pennants')
  await page.getByLabel('Compare with an official object').selectOption({ label: 'Official ferry' })
  const parts = page.getByRole('list', { name: 'Parts of the source' })
  await expect(parts.getByRole('listitem').filter({ hasText: 'ferry_hull' })).toContainText('official')
  await expect(parts.getByRole('listitem').filter({ hasText: 'ferry_rail_03' })).toContainText('moved')
  await expect(parts.getByRole('listitem').filter({ hasText: 'ferry_cabin' })).toContainText('changed')
  await page.getByRole('button', { name: 'Take what is new (9)' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Bow pennants addition' })).toBeAttached()
  await expect(
    page.getByRole('region', { name: 'Worklist' }).getByRole('button', { name: /^Keep parts.*−13/ }),
  ).toBeVisible({ timeout: 60_000 })
})

test('parts are picked by name and in the yard, and left out', async ({ page }) => {
  await openArrival(page, 'sluice-walk')
  await page.getByLabel('Part name or pattern').fill('gate leaf ?')
  await page.getByLabel('all 3 shown').check()
  await expect(page.getByText('3 picked')).toBeVisible()
  await page.getByLabel('Part name or pattern').fill('')
  await expect(page.locator('canvas').first()).toBeVisible({ timeout: 60_000 })
  await page.waitForTimeout(1500)
  await page.getByRole('button', { name: 'Pick an area' }).click()
  const sheet = page.getByRole('application', { name: 'Pick an area' })
  const box = await sheet.boundingBox()
  if (!box) throw new Error('no sheet')
  await page.mouse.move(box.x + 5, box.y + 5)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width - 5, box.y + box.height - 5)
  await page.mouse.up()
  await expect(page.getByText('10 picked')).toBeVisible()
  await page.getByLabel('all 10 shown').uncheck()
  await page.getByLabel('Deck 1').check()
  await page.getByRole('button', { name: 'Leave out' }).click()
  await expect(
    page.getByRole('region', { name: 'Worklist' }).getByRole('button', { name: /^Drop strays.*−1/ }),
  ).toBeVisible({ timeout: 60_000 })
})

test('unit and axes are chosen by looking, and taken back', async ({ page }) => {
  await openArrival(page, 'rain-hat')
  const facts = page.getByRole('group', { name: 'The source in numbers' })
  await expect(facts).toContainText('a guess by its size')
  await facts.getByRole('button', { name: 'Size: choose by looking' }).click()
  await page.getByRole('radio', { name: /1 unit = 1 cm/ }).click()
  await page.getByRole('button', { name: 'Read it so' }).click()
  await expect(facts).toContainText('in cm: you chose it', { timeout: 60_000 })
  await facts.getByRole('button', { name: 'Axes: choose by looking' }).click()
  await expect(page.getByRole('dialog').locator('img')).toHaveCount(6, { timeout: 30_000 })
  await page.getByRole('radio', { name: /\+Z up, −Y forward/ }).click()
  await page.getByRole('button', { name: 'Read it so' }).click()
  await expect(facts).toContainText('+Z up, −Y forward', { timeout: 60_000 })
  await facts.getByRole('button', { name: 'Size: choose by looking' }).click()
  await page.getByRole('button', { name: 'Read it as the file says' }).click()
  await expect(facts).toContainText('a guess by its size', { timeout: 60_000 })
})

test('a newer source is shown before it is accepted, and a step whose part is gone says so', async ({ page }) => {
  await openArrival(page, 'galley-stove')
  await page.getByLabel('Flue').check()
  await page.getByRole('button', { name: 'Leave out' }).click()
  const fbx = readFileSync('demo/sources/galley_stove/galley_stove.fbx', 'utf8')
  await page
    .getByLabel('Newer files')
    .setInputFiles(textFile('galley_stove.fbx', fbx.replaceAll('::Flue"', '::Chimney"')))
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('list', { name: 'What changed' })).toContainText('Flue is gone', { timeout: 60_000 })
  await expect(dialog.getByRole('list', { name: 'What changed' })).toContainText('Chimney is new')
  await expect(page.getByRole('list', { name: 'Parts of the source' })).toContainText('Flue')
  await dialog.getByRole('button', { name: 'Take the newer one' }).click()
  await expect(page.getByRole('list', { name: 'Parts of the source' })).toContainText('Chimney', { timeout: 60_000 })
  await page
    .getByRole('region', { name: 'Worklist' })
    .getByRole('button', { name: /^Drop strays/ })
    .click()
  await expect(page.getByText(/Flue: no such part in the source any more/)).toBeVisible()
})

test('a file that is watched is read anew when it is saved again', async ({ page }) => {
  const fbx = readFileSync('demo/sources/galley_stove/galley_stove.fbx', 'utf8')
  await page.addInitScript((text) => {
    const state = { text, saved: 1 }
    Object.assign(globalThis, {
      watchedFile: state,
      showOpenFilePicker: async () => [
        {
          name: 'galley_stove.fbx',
          getFile: async () => new File([state.text], 'galley_stove.fbx', { lastModified: state.saved }),
        },
      ],
    })
  }, fbx)
  await openArrival(page, 'galley-stove')
  await page.getByRole('button', { name: 'Watch the file' }).click()
  await expect(page.getByRole('button', { name: 'Watching galley_stove.fbx' })).toBeVisible()
  await page.waitForTimeout(2500)
  await page.evaluate(() => {
    const { watchedFile } = globalThis as unknown as { watchedFile: { text: string; saved: number } }
    watchedFile.text = watchedFile.text.replaceAll('::Leg 4"', '::Foot"')
    watchedFile.saved = 2
  })
  await expect(page.getByRole('dialog').getByText('Leg 4 is gone')).toBeVisible({ timeout: 60_000 })
})

test('an item is taken out of a crate file, a texture out of a pack, and an object out of the game’s stock', async ({
  page,
}) => {
  await openCrate(page)
  await page.getByLabel('Meshes and textures').setInputFiles({
    name: 'arrivals.zip',
    mimeType: 'application/zip',
    buffer: readFileSync('public/demo/otterby-arrivals.zip'),
  })
  await page.getByRole('dialog').getByLabel('Channel buoy').check()
  await page.getByRole('button', { name: 'Take out' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Channel buoy' })).toBeAttached({ timeout: 60_000 })
  await page.goto('/crate/otterby-landing')
  await page.getByLabel('Meshes and textures').setInputFiles({
    name: 'stock.zip',
    mimeType: 'application/zip',
    buffer: readFileSync('core/game/games/tarn-and-tiller/stock.zip'),
  })
  await page.getByRole('dialog').getByLabel('stock/rope_col.dds').check()
  await page.getByRole('button', { name: 'Take out' }).click()
  await expect(page.getByText('rope_col.dds · 128 × 128')).toBeVisible({ timeout: 60_000 })
  await page.goto('/crate/otterby-landing')
  await page.getByLabel('Or from the game').selectOption({ label: 'Official ferry' })
  await expect(page.getByRole('list', { name: 'Parts of the source' })).toContainText('ferry_hull', { timeout: 60_000 })
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
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the crate file' }).click(),
  ])
  const path = await download.path()
  await page.getByRole('link', { name: 'Gentle Crate' }).click()
  await page.getByRole('button', { name: 'Remove Otterby Landing' }).click()
  await expect(page.getByRole('heading', { name: 'Otterby Landing' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Bring Otterby Landing back' }).click()
  await page.getByRole('button', { name: 'Remove Otterby Landing' }).click()
  await page.getByRole('button', { name: 'Erase Otterby Landing' }).click()
  await page.getByRole('button', { name: 'Erase Otterby Landing for good' }).click()
  await expect(page.getByText('Otterby Landing')).toHaveCount(0)
  await page
    .getByLabel('Crate file')
    .setInputFiles({ name: 'otterby.zip', mimeType: 'application/zip', buffer: readFileSync(path) })
  await expect(page.getByRole('heading', { level: 1, name: 'Otterby Landing' })).toBeVisible()
  await expect(page.getByRole('row')).toHaveCount(3)
  await page.goto('/')
  await page.getByLabel('Crate file').setInputFiles(textFile('wrong.zip', 'no crate'))
  await expect(page.getByText(/wrong\.zip: it is not a whole ZIP archive/)).toBeVisible()
})

test('a crate on the shelf is not replaced unasked by a file that claims to be it', async ({ page }) => {
  await openShelf(page)
  await page.getByRole('link', { name: 'Otterby arrivals' }).click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the crate file' }).click(),
  ])
  const file = { name: 'otterby.zip', mimeType: 'application/zip', buffer: readFileSync(await download.path()) }
  await page.getByRole('link', { name: 'Timetable board' }).click()
  await page.getByRole('button', { name: 'Prepare for me' }).click()
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled()
  const openAgain = async (): Promise<void> => {
    await page.goto('/')
    await page.getByLabel('Crate file').setInputFiles(file)
    await expect(page.getByRole('dialog')).toContainText('This crate is on the shelf already')
  }
  await openAgain()
  await page.getByRole('button', { name: 'Cancel' }).click()
  await openAgain()
  await page.getByRole('button', { name: 'Open it' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Otterby arrivals (from a file)' })).toBeVisible()
  await openAgain()
  await page.getByLabel('Replace the one on the shelf').check()
  await page.getByRole('button', { name: 'Open it' }).click()
  await expect(page).toHaveURL(/crate\/otterby-arrivals$/)
  await page.getByRole('link', { name: 'Timetable board' }).click()
  await expect(page.getByRole('button', { name: 'Prepare for me' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('region', { name: 'Worklist' }).getByText('Compress maps')).toBeVisible()
})
