import { describe, expect, it } from 'vitest'
import { getMaterialExtras } from '../../item/extras.ts'
import { createIO, documentToGlb } from '../../item/io.ts'
import { encodePng } from '../../pictures/image-codecs.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { demoSources, textFile } from '../../test-support/sources.ts'
import { readItem } from '../read-item.ts'
import { surveyDocument } from '../survey.ts'

const [bell] = demoSources('mooring_bell')

/** A glTF of a unit box with a colour map, buffers and images as separate files. */
async function looseGltf() {
  const document = documentOf({ box: unitBox() })
  const image = encodePng({ width: 4, height: 4, data: new Uint8Array(64).fill(90) }, false)
  document
    .getRoot()
    .listMaterials()[0]
    .setBaseColorTexture(
      document
        .createTexture('wood')
        .setURI('Wood Col.png')
        .setMimeType('image/png')
        .setImage(image as Uint8Array<ArrayBuffer>),
    )
  document.getRoot().listBuffers()[0].setURI('box data.bin')
  const { json, resources } = await createIO().writeJSON(document)
  return { json, bin: resources['box data.bin'], image }
}

describe('GLB and glTF', () => {
  it('reads the bell with its camera, lamp, clip and embedded textures', async () => {
    const { document } = await readItem(bell.path, [bell])
    const survey = surveyDocument(document)
    expect(survey.triangles).toBe(656)
    expect(survey.strays.map((stray) => stray.what).sort()).toEqual(['camera', 'lamp'])
    expect(survey.clips).toMatchObject([{ name: 'sway', seconds: 2, keys: 97, keysPerSecond: 48, closes: false }])
    expect(survey.units).toEqual({ metresPerUnit: 1, from: 'declared' })
    expect(survey.textures).toHaveLength(3)
  })

  it('reads glTF with its data and images beside it, in any case and folder', async () => {
    const { json, bin, image } = await looseGltf()
    const files = [
      textFile('model/Box.gltf', JSON.stringify(json)),
      { path: 'model/box data.bin', bytes: bin },
      { path: 'model/maps/WOOD COL.PNG', bytes: image },
    ]
    const { document, usedPaths } = await readItem('model/Box.gltf', files)
    expect(surveyDocument(document).triangles).toBe(12)
    expect(usedPaths.size).toBe(3)
    expect(document.getRoot().listTextures()[0].getImage()).toEqual(image)
  })

  it('lists an image that is missing, and still reads the mesh', async () => {
    const { json, bin } = await looseGltf()
    const { document } = await readItem('Box.gltf', [
      textFile('Box.gltf', JSON.stringify(json)),
      { path: 'box data.bin', bytes: bin },
    ])
    expect(getMaterialExtras(document.getRoot().listMaterials()[0]).references).toEqual([
      { role: 'colour', path: 'Wood Col.png', found: null },
    ])
    expect(document.getRoot().listTextures()).toHaveLength(0)
  })

  it('reads data URIs', async () => {
    const { json, bin, image } = await looseGltf()
    if (json.buffers)
      json.buffers[0].uri = `data:application/octet-stream;base64,${Buffer.from(bin).toString('base64')}`
    if (json.images) json.images[0].uri = `data:image/png;base64,${Buffer.from(image).toString('base64')}`
    const { document } = await readItem('Box.gltf', [textFile('Box.gltf', JSON.stringify(json))])
    expect(surveyDocument(document).textures[0]).toMatchObject({ width: 4, height: 4 })
  })

  it.each([
    ['a truncated GLB', bell.bytes.slice(0, bell.bytes.length - 5000), /cut off: \d+ of \d+ bytes/],
    ['a GLB cut off in its header', bell.bytes.slice(0, 12), /does not begin like a GLB/],
    [
      'something else called GLB',
      new TextEncoder().encode('PK not a mesh at all, really not'),
      /does not begin like a GLB/,
    ],
    ['an empty file', new Uint8Array(0), /the file is empty/],
  ])('refuses %s in a sentence', async (_what, bytes, message) => {
    const reading = readItem('bell.glb', [{ path: 'bell.glb', bytes }])
    await expect(reading).rejects.toThrow(/^bell\.glb: /)
    await expect(reading).rejects.toThrow(message)
  })

  it('refuses glTF 1 and glTF without its data file, with the way out', async () => {
    await expect(readItem('a.gltf', [textFile('a.gltf', '{"asset":{"version":"1.0"}}')])).rejects.toThrow(
      /glTF 1\.0; glTF 2\.0 is read.*Export it as glTF 2\.0/,
    )
    const { json } = await looseGltf()
    await expect(readItem('a.gltf', [textFile('a.gltf', JSON.stringify(json))])).rejects.toThrow(
      /“box%20data\.bin” is missing|“box data\.bin” is missing/,
    )
  })

  it('refuses a file of points, which has nothing to draw', async () => {
    const points = documentOf({ box: unitBox() })
    points.getRoot().listMeshes()[0].listPrimitives()[0].setMode(0)
    await expect(readItem('a.glb', [{ path: 'a.glb', bytes: await documentToGlb(points) }])).rejects.toThrow(
      /it holds no triangles/,
    )
  })

  it('refuses corner numbers out of range, values that are no numbers and node loops', async () => {
    const broken = documentOf({ box: unitBox() })
    broken
      .getRoot()
      .listMeshes()[0]
      .listPrimitives()[0]
      .getIndices()
      ?.setArray(Uint16Array.from([0, 1, 99]))
    await expect(readItem('a.glb', [{ path: 'a.glb', bytes: await documentToGlb(broken) }])).rejects.toThrow(
      /it is broken at .*indices/,
    )
    const nan = documentOf({ box: unitBox() })
    nan.getRoot().listMeshes()[0].listPrimitives()[0].getAttribute('POSITION')?.setArray(new Float32Array(24).fill(NaN))
    await expect(readItem('a.glb', [{ path: 'a.glb', bytes: await documentToGlb(nan) }])).rejects.toThrow(
      /it is broken at/,
    )
    const { json, bin } = await looseGltf()
    json.nodes?.push({ children: [json.nodes.length] })
    await expect(
      readItem('a.gltf', [textFile('a.gltf', JSON.stringify(json)), { path: 'box data.bin', bytes: bin }]),
    ).rejects.toThrow(/a\.gltf: it/)
  })
})
