import { describe, expect, it } from 'vitest'
import { texturePixels } from '../operations/maps/texture-pixels.ts'
import { addTexture, putPixels } from '../operations/maps/map-pixels.ts'
import { asItStands } from '../pack/writers/texture/texture-writer.ts'
import { decodePng } from '../pictures/image-codecs.ts'
import { readRawHeader, readRawPixels, writeRawPixels } from '../pictures/formats/raw-pixels.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { keepState, openState } from './kept-state.ts'

const pixels = (shade: number, width = 16, height = 4) => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height * 4 }, (_, at) => (at % 4 === 3 ? 255 : (shade + at) & 255)),
})

describe('a kept state', () => {
  it('holds geometry and the hashes of its pictures, each picture once', async () => {
    const document = documentOf({ box: unitBox() })
    for (const name of ['oak', 'oak again']) addTexture(document, name, 'colour', pixels(3), 'a test')
    addTexture(document, 'iron', 'colour', pixels(90), 'a test')
    const before = document
      .getRoot()
      .listTextures()
      .map((texture) => texture.getImage())
    const { glb, pictures } = await keepState(document)
    expect(pictures.size).toBe(2)
    expect(glb.byteLength).toBeLessThan(3000)
    // Nothing was copied, and the item is what it was.
    expect(
      document
        .getRoot()
        .listTextures()
        .map((texture) => texture.getImage()),
    ).toEqual(before)
    expect([...pictures.values()]).toContain(before[0])
    const opened = await openState(glb, async (hash) => pictures.get(hash) ?? null)
    const textures = opened?.getRoot().listTextures() ?? []
    expect(textures.map((texture) => texture.getName())).toEqual(['oak', 'oak again', 'iron'])
    expect(await texturePixels(textures[2])).toEqual(pixels(90))
    expect(await openState(glb, async () => null)).toBeNull()
  })

  it('is the same, byte for byte, for the same item', async () => {
    const made = async () => (await keepState(documentOf({ box: unitBox() }))).glb
    expect(await made()).toEqual(await made())
  })
})

describe('pixels between steps', () => {
  it('are the caller’s own to write into, and leave the texture as it was', async () => {
    const texture = addTexture(documentOf({ box: unitBox() }), 'oak', 'colour', pixels(3), 'a test')
    const given = await texturePixels(texture)
    given.data.fill(0)
    expect(await texturePixels(texture)).toEqual(pixels(3))
    putPixels(texture, given)
    given.data.fill(9)
    expect((await texturePixels(texture)).data[0]).toBe(0)
  })

  it('become a PNG where they are written as they stand', async () => {
    const texture = addTexture(documentOf({ box: unitBox() }), 'oak', 'colour', pixels(3), 'a test')
    const { bytes, ending } = asItStands(texture)
    expect(ending).toBe('png')
    expect(decodePng(bytes)).toEqual(pixels(3))
  })

  it('are refused where they are not as many as they say', () => {
    const raw = writeRawPixels(pixels(3))
    expect(readRawHeader(raw)).toEqual({ width: 16, height: 4 })
    expect(() => readRawPixels(raw.subarray(0, 100))).toThrow(/16 × 4 pixels and holds 21/)
    const huge = raw.slice()
    new DataView(huge.buffer).setUint32(4, 0xffffffff, true)
    expect(() => readRawPixels(huge)).toThrow(/4294967295 × 4/)
    expect(() => readRawPixels(new Uint8Array(40))).toThrow(/does not begin/)
  })
})
