import { describe, expect, it } from 'vitest'
import { getRootExtras } from '../item/extras.ts'
import { listViewParts } from '../item/parts.ts'
import { demoSources } from '../test-support/sources.ts'
import { surveyDocument } from './survey.ts'
import { read, sizeOf, valuesOf } from '../test-support/read-source.ts'

describe('STL', () => {
  const facet = 'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 2 0 0\nvertex 0 3 0\nendloop\nendfacet\n'
  it('is read as text, every solid a part, millimetres and Z up as is customary', async () => {
    const document = await read(
      'a.stl',
      `solid base plate\n${facet}endsolid\nsolid lid\n${facet}${facet}endsolid lid\n`,
    )
    expect(listViewParts(document).map((part) => part.name)).toEqual(['base plate', 'lid'])
    expect(getRootExtras(document.getRoot())).toMatchObject({
      units: { metresPerUnit: 0.001, from: 'customary' },
      axes: { up: '+z', from: 'customary' },
    })
  })

  it('is read as binary even when it begins with “solid”', async () => {
    const [file] = demoSources('channel_buoy')
    expect(new TextDecoder().decode(file.bytes.slice(0, 5))).toBe('solid')
    expect(surveyDocument(await read('buoy.stl', file.bytes)).triangles).toBe(724)
  })

  it.each([
    ['cut off as text', `solid a\n${facet}`, /before its “endsolid”/],
    ['a corner without numbers', 'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 x 0\n', /line 4 needs 3 numbers/],
    [
      'a facet of two corners',
      'solid a\nfacet\nvertex 0 0 0\nvertex 1 0 0\nendfacet\nendsolid\n',
      /line 5 has no 3 corners/,
    ],
  ])('is refused when it is %s', async (_what, text, message) => {
    await expect(read('a.stl', text)).rejects.toThrow(message)
  })

  it('is refused when its count asks for more than is there', async () => {
    const bytes = new Uint8Array(200)
    new DataView(bytes.buffer).setUint32(80, 4_000_000_000, true)
    await expect(read('a.stl', bytes)).rejects.toThrow(/4000000000 triangles need 200000000084 bytes, 200 are there/)
  })
})

describe('PLY', () => {
  const header =
    'ply\nformat ascii 1.0\ncomment TextureFile wood.png\nelement vertex 5\nproperty float x\nproperty float ' +
    'y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face ' +
    '2\nproperty list uchar int vertex_indices\nend_header\n'
  const body = '0 0 0 255 0 0\n1 0 0 0 255 0\n1 1 0 0 0 255\n0 1 0 255 255 255\n0.5 2 0 128 0 0\n4 0 1 2 3\n3 3 2 4\n'

  it('keeps quads, colours and the texture that a comment names', async () => {
    const document = await read('a.ply', header + body)
    const survey = surveyDocument(document)
    expect([survey.triangles, survey.polygons]).toEqual([3, 1])
    expect(valuesOf(document, 'COLOR_0', 0)).toEqual([1, 0, 0, 1])
    expect(survey.materials[0].textures).toEqual([{ role: 'colour', path: 'wood.png', found: null }])
  })

  it('is read in both byte orders to the same points', async () => {
    const binary = (format: string, little: boolean): Uint8Array => {
      const start = new TextEncoder().encode(
        `ply\nformat ${format} 1.0\nelement vertex 3\nproperty float x\nproperty double y\nproperty short ` +
          `z\nelement face 1\nproperty list uchar uint vertex_index\nend_header\n`,
      )
      const bytes = new Uint8Array(start.length + 3 * 14 + 13)
      bytes.set(start)
      const view = new DataView(bytes.buffer, start.length)
      ;[
        [0, 0, 0],
        [1.5, 0, -7],
        [0, 2.25, 300],
      ].forEach(([x, y, z], vertex) => {
        view.setFloat32(vertex * 14, x, little)
        view.setFloat64(vertex * 14 + 4, y, little)
        view.setInt16(vertex * 14 + 12, z, little)
      })
      view.setUint8(42, 3)
      ;[0, 1, 2].forEach((index, place) => view.setUint32(43 + place * 4, index, little))
      return bytes
    }
    expect(sizeOf(await read('a.ply', binary('binary_little_endian', true)))).toEqual([1.5, 2.25, 307])
    expect(sizeOf(await read('a.ply', binary('binary_big_endian', false)))).toEqual([1.5, 2.25, 307])
  })

  it.each([
    [
      'counts that no file could hold',
      'ply\nformat ascii 1.0\nelement vertex 4000000000\nproperty float x\nend_header\n',
      /promises 4000000000 of “vertex”/,
    ],
    [
      'elements without properties, however many',
      'ply\nformat ascii 1.0\nelement face 9\nend_header\n',
      /has no properties/,
    ],
    [
      'faces that ask for points beyond the last',
      header.replace('element face 2', 'element face 1') + body.split('\n').slice(0, 5).join('\n') + '\n3 0 1 9\n',
      /asks for point 9; there are 5/,
    ],
    ['a body that ends early', header + '0 0 0 1 1 1\n', /cut off/],
    ['points that are no numbers', header + body.replace('0.5 2 0', 'nan 2 0'), /point 4 is not made of numbers/],
  ])('refuses %s', async (_what, text, message) => {
    await expect(read('a.ply', text)).rejects.toThrow(message)
  })
})
