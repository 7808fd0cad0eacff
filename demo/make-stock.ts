import { writeFileSync } from 'node:fs'
import { writeArchive, type ArchiveFile } from '../core/support/archive.ts'
import { readArchive } from '../core/support/archive.ts'
import { setMaterialExtras, setRootExtras } from '../core/item/extras.ts'
import { createDocument } from '../core/item/io.ts'
import type { Document } from '@gltf-transform/core'
import { packItems } from '../core/pack/pack-crate.ts'
import { kindOf, rulebookById } from '../core/game/load.ts'
import { compressMap } from '../core/pictures/codecs/compress.ts'
import { addMesh, addSwing, box, plainMaterial, yUp } from './glb-shapes.ts'
import { grain } from './noise.ts'
import { addFerry } from './official-ferry.ts'
import { paint } from './paint.ts'

/**
 * Makes what Tarn & Tiller has in stock, as a pack of its own: the ferry, the davit, two textures. Run with `npm run
 * demo:stock`.
 */
const rulebook = rulebookById('tarn-and-tiller')

function inGameUnits(name: string): Document {
  const document = createDocument(name)
  setRootExtras(document.getRoot(), {
    units: { metresPerUnit: rulebook.space.unit.metres, from: 'declared' },
    axes: { up: '+y', forward: '+z', from: 'declared' },
  })
  return document
}

const ferry = inGameUnits('ferry')
addFerry(ferry, 2)

/** A davit: a post, and an arm on it that swings out over the water. */
const davit = inGameUnits('davit')
const iron = plainMaterial(davit, 'davit_iron@iron', [1, 1, 1])
setMaterialExtras(iron, {
  references: [{ role: 'colour', path: 'stock/davit_iron_col.dds', found: null, stock: 'stock/davit_iron_col.dds' }],
})
const scene = davit.getRoot().listScenes()[0]
scene.addChild(
  davit.createNode('davit_post').setMesh(addMesh(davit, 'davit_post', yUp(box(0.3, 0.3, 4.4, [1, 1, 6])), iron)),
)
const arm = davit
  .createNode('davit_arm')
  .setMesh(addMesh(davit, 'davit_arm', yUp(box(2.6, 0.18, 0.18, [8, 1, 1])), iron))
  .setTranslation([1.2, 4.3, 0])
scene.addChild(arm)
addSwing(davit, 'arm swings', arm, 4, 20, 0.6)

const dds = async (colourAt: Parameters<typeof paint>[2]): Promise<Uint8Array> =>
  (await compressMap(paint(128, 128, colourAt), { codec: 'bc7', meaning: 'colour', withMipmaps: true })).dds
const textures: ArchiveFile[] = [
  {
    path: 'stock/ferry_hull_col.dds',
    bytes: await dds((u, v) => [40 + 20 * grain(u * 6, v * 20), 84 + 14 * grain(u * 9, v * 9), 76]),
  },
  {
    path: 'stock/davit_iron_col.dds',
    bytes: await dds((u, v) => [52 + 22 * grain(u * 8, v * 8), 54 + 18 * grain(u * 8, v * 8), 57]),
  },
  {
    path: 'stock/rope_col.dds',
    bytes: await dds((u, v) => [176 - 40 * ((u * 6 + v * 12) % 1) ** 2, 150 - 30 * grain(u * 20, v * 20), 104]),
  },
]
const prop = kindOf(rulebook, 'prop')
const pack = await packItems(
  [
    { name: 'ferry', kind: prop, document: ferry },
    { name: 'davit', kind: kindOf(rulebook, 'mover'), document: davit },
  ],
  rulebook,
  'Stock of Tarn & Tiller',
)
const files = [...readArchive(pack.bytes, 'stock')].map(([path, bytes]) => ({ path, bytes }))
writeFileSync(
  new URL('../core/game/games/tarn-and-tiller/stock.zip', import.meta.url),
  writeArchive([...files, ...textures], 'zip-deflated'),
)
