import { type Transform } from '@gltf-transform/extensions'
import { describe, expect, it } from 'vitest'
import { partBounds } from '../item/measure.ts'
import { listSceneNodes, listViewParts } from '../item/parts.ts'
import { bytes3ds, chunk3ds } from '../test-support/binary-files.ts'
import { rawPng } from '../test-support/faithful/raw-files.ts'
import { readItem } from './read-item.ts'
import { surveyDocument } from './survey.ts'
import { read, valuesOf } from '../test-support/read-source.ts'

describe('3DS', () => {
  const { name, u16, u32, floats } = bytes3ds
  const points = chunk3ds(0x4110, u16(4), floats(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0))
  const uvs = chunk3ds(0x4140, u16(4), floats(0, 0, 1, 0, 1, 1, 0, 1))
  const faces = (last = 3): number[] =>
    chunk3ds(
      0x4120,
      u16(2),
      [0, 1, 2, 0, 0, 2, last, 0].flatMap(u16),
      chunk3ds(0x4130, name('Tarred wood'), u16(1), u16(1)),
      chunk3ds(0x4150, u32(1), u32(1)),
    )
  const file = (face = faces()): Uint8Array =>
    Uint8Array.from(
      chunk3ds(
        0x4d4d,
        chunk3ds(
          0x3d3d,
          chunk3ds(
            0xafff,
            chunk3ds(0xa000, name('Tarred wood')),
            chunk3ds(0xa200, chunk3ds(0xa300, name('TARWOOD.TGA'))),
          ),
          chunk3ds(0x4000, name('Plank'), chunk3ds(0x4100, points, uvs, face)),
          chunk3ds(0x4000, name('Lamp'), chunk3ds(0x4600, floats(1, 2, 3))),
        ),
      ),
    )

  it('keeps names, materials by face, UVs, smoothing and texture paths', async () => {
    const document = await read('a.3ds', file())
    expect(listSceneNodes(document).map((node) => node.getName())).toEqual(['Plank', 'Lamp'])
    expect(
      listViewParts(document)[0]
        .mesh.listPrimitives()
        .map((primitive) => primitive.getMaterial()?.getName() ?? 'none')
        .sort(),
    ).toEqual(['Tarred wood', 'none'])
    expect(valuesOf(document, 'TEXCOORD_0', 0)).toEqual([0, 1])
    expect(valuesOf(document, 'NORMAL', 0)).toEqual([0, 0, 1])
    expect(surveyDocument(document).materials[0].textures).toEqual([
      { role: 'colour', path: 'TARWOOD.TGA', found: null },
    ])
  })

  it('lays pictures as its map block says', async () => {
    const mapped = Uint8Array.from(
      chunk3ds(
        0x4d4d,
        chunk3ds(
          0x3d3d,
          chunk3ds(
            0xafff,
            chunk3ds(0xa000, name('Tarred wood')),
            chunk3ds(
              0xa200,
              chunk3ds(0xa300, name('FELT.PNG')),
              chunk3ds(0xa351, u16(2)),
              chunk3ds(0xa354, floats(2)),
              chunk3ds(0xa35a, floats(0.25)),
            ),
          ),
          chunk3ds(0x4000, name('Plank'), chunk3ds(0x4100, points, uvs, faces())),
        ),
      ),
    )
    const { document } = await readItem('a.3ds', [
      { path: 'a.3ds', bytes: mapped },
      { path: 'felt.png', bytes: rawPng(2, 2, () => [9, 9, 9, 255]) },
    ])
    const info = document.getRoot().listMaterials()[0].getBaseColorTextureInfo()
    expect(info?.getWrapS()).toBe(33648)
    expect([
      info?.getExtension<Transform>('KHR_texture_transform')?.getScale(),
      info?.getExtension<Transform>('KHR_texture_transform')?.getOffset(),
    ]).toEqual([
      [2, 1],
      [0, -0.25],
    ])
  })

  it('lets a thing hang on a camera that moves', async () => {
    const track = (id: number, ...values: number[]): number[] =>
      chunk3ds(id, u16(0), u32(0), u32(0), u32(1), u32(0), u16(0), floats(...values))
    const keyed = (block: number, id: number, title: string, parent: number, ...at: number[]): number[] =>
      chunk3ds(
        block,
        chunk3ds(0xb030, u16(id)),
        chunk3ds(0xb010, name(title), u16(0), u16(0), u16(parent)),
        track(0xb020, ...at),
      )
    const moving = Uint8Array.from(
      chunk3ds(
        0x4d4d,
        chunk3ds(0x3d3d, chunk3ds(0x4000, name('Plank'), chunk3ds(0x4100, points, uvs, faces()))),
        chunk3ds(
          0xb000,
          keyed(0xb003, 0, 'Watch', 0xffff, 5, 0, 0),
          chunk3ds(
            0xb002,
            chunk3ds(0xb030, u16(1)),
            chunk3ds(0xb010, name('Plank'), u16(0), u16(0), u16(0)),
            chunk3ds(
              0xb020,
              u16(0),
              u32(0),
              u32(0),
              u32(2),
              u32(0),
              u16(0),
              floats(1, 0, 0),
              u32(10),
              u16(0),
              floats(2, 0, 0),
            ),
          ),
        ),
      ),
    )
    const [plank] = listViewParts(await read('a.3ds', moving))
    expect(plank.node.getParentNode()?.getName()).toBe('Watch')
    expect(partBounds(plank).min[0]).toBeCloseTo(6)
  })

  it('is refused when faces ask for points that are not there, or a piece runs past the end', async () => {
    await expect(read('a.3ds', file(faces(77)))).rejects.toThrow(/asks for point 77; there are 4/)
    await expect(read('a.3ds', file().slice(0, 120))).rejects.toThrow(/cut off/)
    await expect(read('a.3ds', 'not really a 3DS at all')).rejects.toThrow(/does not begin like a 3DS/)
  })
})
