import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { openShelf } from './support'

/** A game of the tester's own: the built-in one on its side and left-handed, with plain files and words of its own. */
function ownRulebook(): Buffer {
  const built = JSON.parse(readFileSync('core/game/games/tarn-and-tiller/rulebook.json', 'utf8'))
  const { space, files, maps, materials, kinds } = built
  return Buffer.from(
    JSON.stringify({
      ...built,
      id: 'marsh-post',
      title: 'Marsh Post',
      version: '0.3',
      space: { ...space, up: '+z', forward: '+x', handedness: 'left' },
      files: {
        ...files,
        mesh: { writer: 'obj', ending: '.obj', images: 'none' },
        texture: { writer: 'tga', ending: '.tga' },
        paths: {
          ...files.paths,
          mesh: files.paths.mesh.replace('.glb', '.obj'),
          map: files.paths.map.replace('.dds', '.tga'),
        },
      },
      maps: {
        ...maps,
        mipmaps: 'none',
        roles: maps.roles.map((role: object) => ({ ...role, codecs: ['none'], preferred: 'none', whenOpaque: null })),
      },
      materials: { ...materials, naming: { form: 'plain' } },
      kinds: kinds
        .filter(({ id }: { id: string }) => id === 'mover' || id === 'prop')
        .map((kind: object) => ({ ...kind, textureMemoryBytes: 5e7 })),
      stock: { donors: [], objects: [], textures: [] },
    }),
  )
}

test('a game from a file goes from Begin to a pack that its loader takes', async ({ page }) => {
  await openShelf(page)
  await page.getByRole('button', { name: 'New crate' }).click()
  await page.getByLabel('Name of the mod').fill('Marsh bells')
  await page.getByLabel('Packs for').selectOption('Another game, from its rulebook file…')
  // A file that is no rulebook is told, and nothing is begun.
  await page
    .locator('input[name=file]')
    .setInputFiles({ name: 'wrong.json', mimeType: 'application/json', buffer: Buffer.from('{"id":"x"}') })
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(page.getByText(/wrong\.json: at /)).toBeVisible()
  await page
    .locator('input[name=file]')
    .setInputFiles({ name: 'marsh.json', mimeType: 'application/json', buffer: ownRulebook() })
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(page).toHaveURL(/\/crate\/marsh-bells$/)
  await expect(page.getByRole('link', { name: 'Marsh Post' })).toBeVisible()

  await page.getByLabel('It becomes').selectOption('mover')
  await page.getByLabel('Meshes and textures').setInputFiles({
    name: 'mooring_bell.glb',
    mimeType: 'model/gltf-binary',
    buffer: readFileSync('demo/sources/mooring_bell/mooring_bell.glb'),
  })
  await expect(page.getByText('Mooring bell').first()).toBeVisible({ timeout: 30_000 })
  await page.goto('/crate/marsh-bells/item/mooring-bell?stage=mesh')
  await page.getByRole('button', { name: 'Prepare for me' }).click()
  await expect(page.getByText(/^0 block · 0 risky/)).toBeVisible({ timeout: 120_000 })

  await page.goto('/crate/marsh-bells/pack')
  await page.getByRole('button', { name: 'Pack now' }).click()
  await expect(page.getByRole('cell', { name: /mooring_bell\.obj/ })).toBeVisible({ timeout: 60_000 })
  await page.goto('/crate/marsh-bells/trial')
  await page.getByRole('button', { name: 'Load the pack' }).click()
  await expect(page.getByText('It loads').first()).toBeVisible({ timeout: 60_000 })

  await page.getByRole('link', { name: 'Marsh Post' }).click()
  await expect(page.getByRole('heading', { name: /Marsh Post/ })).toBeVisible()
  await expect(page.getByText('+Z up, +X forward, left-handed')).toBeVisible()
})
