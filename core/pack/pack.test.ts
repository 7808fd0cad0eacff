import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { setMaterialExtras, setTextureExtras } from '../item/extras.ts'
import { createIO } from '../item/io.ts'
import { itemScene, listViewParts } from '../item/parts.ts'
import { encodePng } from '../pictures/image-codecs.ts'
import { kindOf } from '../game/load.ts'
import { ball, documentOf, unitBox } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { runStep } from '../test-support/step-runs.ts'
import { readArchive, writeArchive } from '../support/archive.ts'
import { gameMesh } from './game-mesh.ts'
import { writeGlb } from './writers/mesh/glb.ts'
import { itemPaths } from '../game/item-paths.ts'
import { packItem } from './pack-item.ts'
import { packItems } from './pack-crate.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const text = (bytes: Uint8Array | undefined) => JSON.parse(new TextDecoder().decode(bytes))

const packedGlb = async (item?: Document): Promise<Uint8Array> => {
  const paths = itemPaths(tarnAndTiller, prop, 'crate_box', null)
  const document = await gameMesh(item ?? (await furnished()), 'crate_box', prop, tarnAndTiller, paths)
  return (await writeGlb({ document, path: paths.mesh, rulebook: tarnAndTiller })).files[0].bytes
}

/** A box with a solid, a picture and a camera beside it. */
async function furnished() {
  const document = documentOf({ box: unitBox() })
  const picture = encodePng({ width: 4, height: 4, data: new Uint8Array(64).fill(99) }, false)
  const texture = document
    .createTexture('wood_col')
    .setMimeType('image/png')
    .setImage(picture as Uint8Array<ArrayBuffer>)
  setTextureExtras(texture, { role: 'colour' })
  document.getRoot().listMaterials()[0].setName('wood@timber').setBaseColorTexture(texture)
  itemScene(document).addChild(document.createNode('camera').setCamera(document.createCamera()))
  return (await runStep('add-solid', document, { shape: 'box', surface: 'timber' })).after
}

describe('the game’s mesh file', () => {
  it('has one root named after the item, no images, no camera and nothing of ours', async () => {
    const glb = await packedGlb()
    const read = await createIO().readBinary(glb)
    const root = read.getRoot()
    const [itemNode, ...others] = root.listScenes()[0].listChildren()
    expect(others).toEqual([])
    expect(itemNode.getName()).toBe('crate_box')
    expect(root.listTextures()).toHaveLength(0)
    expect(root.listCameras()).toHaveLength(0)
    expect(new TextDecoder().decode(glb)).not.toContain('gentle_crate')
    expect(root.listMaterials().map((material) => material.getName())).toEqual(['wood@timber'])
  })

  it('carries a solid’s surface, layers and mass as the loader reads them', async () => {
    const read = await createIO().readBinary(await packedGlb())
    const solid = read
      .getRoot()
      .listNodes()
      .find((node) => node.getName() === 'solid_box_01')
    expect(solid?.getExtras()).toEqual({ surface: 'timber', layers: ['ground', 'walls'], mass: null })
    expect(solid?.getParentNode()?.getName()).toBe('box')
  })

  it('leaves the item it was made from as it was', async () => {
    const document = await furnished()
    await packedGlb(document)
    expect(document.getRoot().listTextures()).toHaveLength(1)
    expect(listViewParts(document)[0].node.getParentNode()).toBeNull()
  })
})

describe('an item’s files', () => {
  it('stand where the rulebook says', () => {
    const paths = itemPaths(tarnAndTiller, prop, 'boathouse_gate', null)
    expect(paths.mesh).toBe('items/props/boathouse_gate/boathouse_gate.glb')
    expect(paths.entry).toBe('items/props/boathouse_gate/entry.json')
    expect(paths.look('plain')).toBe('items/props/boathouse_gate/looks/plain.json')
    expect(paths.map('gate_col', 'dds')).toBe('items/props/boathouse_gate/maps/gate_col.dds')
  })

  it('never climb out of their folder, whatever a texture is called', () => {
    const paths = itemPaths(tarnAndTiller, prop, 'gate', null)
    expect(paths.map('../../../etc/passwd', 'png')).toBe('items/props/gate/maps/__.._.._etc_passwd.png')
    expect(paths.map('C:\\wood', 'png')).toBe('items/props/gate/maps/C__wood.png')
  })

  it('name every map that a look shows, and hold no other', async () => {
    const files = await packItem({ name: 'crate_box', kind: prop, document: await furnished() }, tarnAndTiller)
    expect(files.map((file) => file.path)).toEqual([
      'items/props/crate_box/entry.json',
      'items/props/crate_box/crate_box.glb',
      'items/props/crate_box/looks/plain.json',
      'items/props/crate_box/maps/wood_col.png',
    ])
    expect(text(files[2].bytes)).toEqual({
      look: 'plain',
      materials: { 'wood@timber': { shading: 'plain', maps: { colour: 'items/props/crate_box/maps/wood_col.png' } } },
    })
    expect(text(files[0].bytes)).toMatchObject({
      item: 'crate_box',
      kind: 'prop',
      mesh: files[1].path,
      looks: [files[2].path],
    })
  })

  it('name a texture that was never found, so that the loader says which', async () => {
    const document = documentOf({ box: unitBox() })
    setMaterialExtras(document.getRoot().listMaterials()[0], {
      references: [{ role: 'colour', path: 'lost wood.png', found: null }],
    })
    const files = await packItem({ name: 'box', kind: prop, document }, tarnAndTiller)
    expect(text(files[2].bytes).materials.box_material.maps.colour).toBe('items/props/box/maps/lost wood.dds')
  })
})

describe('a pack', () => {
  it('is the same for the same items, and another for others', async () => {
    const pack = async (radius: number) =>
      (
        await packItems(
          [{ name: 'ball', kind: prop, document: documentOf({ ball: ball(radius, 6) }) }],
          tarnAndTiller,
          'x',
        )
      ).sha256
    expect(await pack(1)).toBe(await pack(1))
    expect(await pack(1)).not.toBe(await pack(2))
  })
})

describe('archives', () => {
  it('give back what was put in, deflated or stored', () => {
    const files = [{ path: 'a/b.txt', bytes: new TextEncoder().encode('hello'.repeat(100)) }]
    for (const writer of ['zip-deflated', 'zip-stored'] as const)
      expect(readArchive(writeArchive(files, writer), 'x').get('a/b.txt')).toEqual(files[0].bytes)
    expect(writeArchive(files, 'zip-deflated').length).toBeLessThan(writeArchive(files, 'zip-stored').length)
  })

  it('refuse absolute paths and drives', () => {
    for (const path of ['/etc/x', 'C:/x', 'a/../../x']) {
      expect(() => readArchive(writeArchive([{ path, bytes: new Uint8Array(1) }], 'zip-stored'), 'x.zip')).toThrow(
        /climbs out of the archive/,
      )
    }
  })
})
