import type { Document } from '@gltf-transform/core'
import { EXTMeshoptCompression, KHRMeshQuantization, type Transform } from '@gltf-transform/extensions'
import { meshopt } from '@gltf-transform/functions'
import { MeshoptEncoder } from 'meshoptimizer'
import { WebIO } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { getRootExtras, getTextureExtras } from '../document/extras.ts'
import { boundsSize, partBounds, partsBounds } from '../document/measure.ts'
import { listSceneNodes, listViewParts } from '../document/parts.ts'
import { binaryFbx, bytes3ds, chunk3ds, type FbxTestNode } from '../test-support/binary-files.ts'
import { materialMap } from '../document/source-maps.ts'
import { rawGlb, rawPng } from '../test-support/faithful/traits.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { demoSources, textFile } from '../test-support/sources.ts'
import { readItem } from './read-item.ts'
import { surveyDocument } from './survey.ts'

const read = async (path: string, content: string | Uint8Array): Promise<Document> => (await readItem(path, [typeof content === 'string' ? textFile(path, content) : { path, bytes: content }])).document
const sizeOf = (document: Document): number[] => boundsSize(partsBounds(listViewParts(document))).map((value) => Math.round(value * 1000) / 1000)
const firstSurface = (document: Document) => listViewParts(document)[0].mesh.listPrimitives()[0]
const valuesOf = (document: Document, semantic: string, corner: number): number[] => (firstSurface(document).getAttribute(semantic)?.getElement(corner, []) ?? []).map((value) => Math.round(value * 1000) / 1000)

describe('STL', () => {
  const facet = 'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 2 0 0\nvertex 0 3 0\nendloop\nendfacet\n'
  it('is read as text, every solid a part, millimetres and Z up as is customary', async () => {
    const document = await read('a.stl', `solid base plate\n${facet}endsolid\nsolid lid\n${facet}${facet}endsolid lid\n`)
    expect(listViewParts(document).map((part) => part.name)).toEqual(['base plate', 'lid'])
    expect(getRootExtras(document.getRoot())).toMatchObject({ units: { metresPerUnit: 0.001, from: 'customary' }, axes: { up: '+z', from: 'customary' } })
  })

  it('is read as binary even when it begins with “solid”', async () => {
    const [file] = demoSources('channel_buoy')
    expect(new TextDecoder().decode(file.bytes.slice(0, 5))).toBe('solid')
    expect(surveyDocument(await read('buoy.stl', file.bytes)).triangles).toBe(724)
  })

  it.each([
    ['cut off as text', `solid a\n${facet}`, /before its “endsolid”/],
    ['a corner without numbers', 'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 x 0\n', /line 4 needs 3 numbers/],
    ['a facet of two corners', 'solid a\nfacet\nvertex 0 0 0\nvertex 1 0 0\nendfacet\nendsolid\n', /line 5 has no 3 corners/],
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
  const header = 'ply\nformat ascii 1.0\ncomment TextureFile wood.png\nelement vertex 5\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face 2\nproperty list uchar int vertex_indices\nend_header\n'
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
      const start = new TextEncoder().encode(`ply\nformat ${format} 1.0\nelement vertex 3\nproperty float x\nproperty double y\nproperty short z\nelement face 1\nproperty list uchar uint vertex_index\nend_header\n`)
      const bytes = new Uint8Array(start.length + 3 * 14 + 13)
      bytes.set(start)
      const view = new DataView(bytes.buffer, start.length)
      ;[[0, 0, 0], [1.5, 0, -7], [0, 2.25, 300]].forEach(([x, y, z], vertex) => {
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
    ['counts that no file could hold', 'ply\nformat ascii 1.0\nelement vertex 4000000000\nproperty float x\nend_header\n', /promises 4000000000 of “vertex”/],
    ['elements without properties, however many', 'ply\nformat ascii 1.0\nelement face 9\nend_header\n', /has no properties/],
    ['faces that ask for points beyond the last', header.replace('element face 2', 'element face 1') + body.split('\n').slice(0, 5).join('\n') + '\n3 0 1 9\n', /asks for point 9; there are 5/],
    ['a body that ends early', header + '0 0 0 1 1 1\n', /cut off/],
    ['points that are no numbers', header + body.replace('0.5 2 0', 'nan 2 0'), /point 4 is not made of numbers/],
  ])('refuses %s', async (_what, text, message) => {
    await expect(read('a.ply', text)).rejects.toThrow(message)
  })
})

describe('FBX', () => {
  const square = [0, 0, 0, 2, 0, 0, 2, 1, 0, 0, 1, 0]
  const property = (name: string, ...values: number[]): FbxTestNode => ({ name: 'P', values: [name, '', '', 'A', ...values] })
  const properties = (...list: FbxTestNode[]): FbxTestNode => ({ name: 'Properties70', children: list })
  const scene = (extra: { objects?: FbxTestNode[]; links?: FbxTestNode[]; model?: FbxTestNode[]; corners?: number[] } = {}): Uint8Array =>
    binaryFbx([
      { name: 'GlobalSettings', children: [properties(property('UpAxis', 2), property('UpAxisSign', 1), property('FrontAxis', 1), property('FrontAxisSign', -1), property('UnitScaleFactor', 2.54))] },
      {
        name: 'Objects',
        children: [
          { name: 'Geometry', values: [{ long: 10 }, 'Sheet\u0000\u0001Geometry', 'Mesh'], children: [{ name: 'Vertices', values: [{ list: square }] }, { name: 'PolygonVertexIndex', values: [{ ints: extra.corners ?? [0, 1, 2, -4] }] }] },
          { name: 'Model', values: [{ long: 20 }, 'Left leaf.001\u0000\u0001Model', 'Mesh'], children: [properties(...(extra.model ?? []))] },
          ...(extra.objects ?? []),
        ],
      },
      { name: 'Connections', children: [{ name: 'C', values: ['OO', { long: 10 }, { long: 20 }] }, { name: 'C', values: ['OO', { long: 20 }, { long: 0 }] }, ...(extra.links ?? [])] },
    ])

  it('keeps names, quads, and the unit and axes that it declares', async () => {
    const document = await read('a.fbx', scene())
    expect(listViewParts(document).map((part) => part.name)).toEqual(['Left leaf.001'])
    expect(surveyDocument(document)).toMatchObject({ triangles: 2, polygons: 1, units: { from: 'declared' }, axes: { up: '+z', forward: '-y', from: 'declared' } })
    expect(getRootExtras(document.getRoot()).units.metresPerUnit).toBeCloseTo(0.0254)
  })

  it('turns about a pivot as the standard’s formula says', async () => {
    // A quarter turn about z round the corner (2, 0, 0) takes the sheet from x 0…2, y 0…1 to x 1…2, y −2…0.
    const document = await read('a.fbx', scene({ model: [property('Lcl Rotation', 0, 0, 90), property('RotationPivot', 2, 0, 0)] }))
    const bounds = partBounds(listViewParts(document)[0])
    expect(bounds.min.map((value) => Math.round(value * 1000) / 1000 + 0)).toEqual([1, -2, 0])
    expect(bounds.max.map((value) => Math.round(value * 1000) / 1000 + 0)).toEqual([2, 0, 0])
  })

  it('multiplies a material’s colours with their factors', async () => {
    const material: FbxTestNode = { name: 'Material', values: [{ long: 30 }, 'Felt\u0000\u0001Material', ''], children: [properties(property('DiffuseColor', 1, 0, 0), property('DiffuseFactor', 0.8), property('EmissiveColor', 0, 1, 0), property('EmissiveFactor', 0.5))] }
    const document = await read('a.fbx', scene({ objects: [material], links: [{ name: 'C', values: ['OO', { long: 30 }, { long: 20 }] }] }))
    const [felt] = document.getRoot().listMaterials()
    // 0.8 and 0.5 of the file are sRGB; glTF has linear numbers (IEC 61966-2-1).
    expect(felt.getBaseColorFactor().map((value) => Math.round(value * 1000) / 1000)).toEqual([0.604, 0, 0, 1])
    expect(felt.getEmissiveFactor().map((value) => Math.round(value * 1000) / 1000)).toEqual([0, 0.214, 0])
  })

  it('lays pictures as scaled and moved, and ends them at their edges', async () => {
    const material: FbxTestNode = { name: 'Material', values: [{ long: 30 }, 'Felt\u0000\u0001Material', ''], children: [] }
    const texture: FbxTestNode = { name: 'Texture', values: [{ long: 40 }, 'felt\u0000\u0001Texture', ''], children: [{ name: 'FileName', values: ['felt.png'] }, properties(property('Scaling', 2, 4, 1), property('Translation', 0.5, 0, 0), property('WrapModeU', 1))] }
    const links: FbxTestNode[] = [{ name: 'C', values: ['OO', { long: 30 }, { long: 20 }] }, { name: 'C', values: ['OP', { long: 40 }, { long: 30 }, 'DiffuseColor'] }]
    const { document } = await readItem('a.fbx', [{ path: 'a.fbx', bytes: scene({ objects: [material, texture], links }) }, { path: 'felt.png', bytes: rawPng(2, 2, () => [9, 9, 9, 255]) }])
    const info = document.getRoot().listMaterials()[0].getBaseColorTextureInfo()
    expect(info?.getWrapS()).toBe(33071)
    expect([info?.getExtension<Transform>('KHR_texture_transform')?.getScale(), info?.getExtension<Transform>('KHR_texture_transform')?.getOffset()]).toEqual([[2, 4], [0.5, -3]])
  })

  it('puts geometric transforms into the points, not into the node', async () => {
    const document = await read('a.fbx', scene({ model: [property('GeometricTranslation', 10, 0, 0)] }))
    expect(listViewParts(document)[0].node.getTranslation()).toEqual([0, 0, 0])
    expect(partBounds(listViewParts(document)[0]).min[0]).toBe(10)
  })

  it('keeps bones, weights and bind poses, so that the mesh stands where it was bound', async () => {
    const matrix = (x: number): number[] => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, 0, 0, 1]
    const cluster = (id: number, points: number[], weights: number[], place: number): FbxTestNode => ({
      name: 'Deformer', values: [{ long: id }, 'Cluster', 'Cluster'],
      children: [{ name: 'Indexes', values: [{ ints: points }] }, { name: 'Weights', values: [{ list: weights }] }, { name: 'Transform', values: [{ list: matrix(-place) }] }, { name: 'TransformLink', values: [{ list: matrix(place) }] }],
    })
    const bone = (id: number, name: string, place: number): FbxTestNode => ({ name: 'Model', values: [{ long: id }, name, 'LimbNode'], children: [properties(property('Lcl Translation', place, 0, 0))] })
    const link = (child: number, parent: number): FbxTestNode => ({ name: 'C', values: ['OO', { long: child }, { long: parent }] })
    const document = await read('a.fbx', scene({
      objects: [bone(30, 'Rib 1', 0), bone(31, 'Rib 2', 2), bone(32, 'Rib 2_end', 1), { name: 'Deformer', values: [{ long: 40 }, 'Skin', 'Skin'] }, cluster(50, [0, 3], [1, 0.75], 0), cluster(51, [1, 2, 3], [1, 1, 0.25], 2)],
      links: [link(40, 10), link(50, 40), link(51, 40), link(30, 50), link(31, 51), link(30, 0), link(31, 30), link(32, 31)],
    }))
    const survey = surveyDocument(document)
    expect(survey.bones).toBe(2)
    expect(survey.strays).toEqual([{ name: 'Rib 2_end', what: 'end bone' }])
    expect(valuesOf(document, 'WEIGHTS_0', 3)).toEqual([0.75, 0.25, 0, 0])
    expect(sizeOf(document)).toEqual([2, 1, 0])
  })

  it('samples motion, so that a whole turn stays a whole turn', async () => {
    const curve = (id: number, values: number[]): FbxTestNode => ({ name: 'AnimationCurve', values: [{ long: id }, 'c', ''], children: [{ name: 'KeyTime', values: [{ list: [0, 46_186_158_000] }] }, { name: 'KeyValueFloat', values: [{ list: values }] }] })
    const link = (child: number, parent: number, name?: string): FbxTestNode => ({ name: 'C', values: [name ? 'OP' : 'OO', { long: child }, { long: parent }, ...(name ? [name] : [])] })
    const document = await read('a.fbx', scene({
      objects: [{ name: 'AnimationStack', values: [{ long: 60 }, 'turn', ''] }, { name: 'AnimationLayer', values: [{ long: 61 }, 'l', ''] }, { name: 'AnimationCurveNode', values: [{ long: 62 }, 'R', ''] }, curve(63, [0, 360])],
      links: [link(61, 60), link(62, 61), link(62, 20, 'Lcl Rotation'), link(63, 62, 'd|Z')],
    }))
    const [clip] = surveyDocument(document).clips
    expect(clip).toMatchObject({ name: 'turn', seconds: 1, closes: false })
    expect(clip.keys).toBe(31)
    const output = document.getRoot().listAnimations()[0].listSamplers()[0].getOutput()
    expect(Math.abs(output?.getElement(15, [])[2] ?? 0)).toBeCloseTo(1)
  })

  it('is refused when faces ask for points that are not there, and when it is cut off or damaged', async () => {
    await expect(read('a.fbx', scene({ corners: [0, 1, -10] }))).rejects.toThrow(/a\.fbx, “Sheet”: a face asks for point 9; there are 4/)
    const whole = scene()
    await expect(read('a.fbx', whole.slice(0, whole.length - 60))).rejects.toThrow(/cut off/)
    await expect(read('a.fbx', 'Kaydara FBX Binary  \n damaged')).rejects.toThrow(/copied as text/)
    await expect(read('a.fbx', '; FBX 6.1.0 project file\nFBXHeaderExtension: {\n FBXVersion: 6100\n}\n')).rejects.toThrow(/it is FBX 6\.1; FBX 7 \(2011\) and later is read/)
  })
})

describe('3DS', () => {
  const { name, u16, u32, floats } = bytes3ds
  const points = chunk3ds(0x4110, u16(4), floats(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0))
  const uvs = chunk3ds(0x4140, u16(4), floats(0, 0, 1, 0, 1, 1, 0, 1))
  const faces = (last = 3): number[] => chunk3ds(0x4120, u16(2), [0, 1, 2, 0, 0, 2, last, 0].flatMap(u16), chunk3ds(0x4130, name('Tarred wood'), u16(1), u16(1)), chunk3ds(0x4150, u32(1), u32(1)))
  const file = (face = faces()): Uint8Array =>
    Uint8Array.from(chunk3ds(0x4d4d, chunk3ds(0x3d3d, chunk3ds(0xafff, chunk3ds(0xa000, name('Tarred wood')), chunk3ds(0xa200, chunk3ds(0xa300, name('TARWOOD.TGA')))), chunk3ds(0x4000, name('Plank'), chunk3ds(0x4100, points, uvs, face)), chunk3ds(0x4000, name('Lamp'), chunk3ds(0x4600, floats(1, 2, 3))))))

  it('keeps names, materials by face, UVs, smoothing and texture paths', async () => {
    const document = await read('a.3ds', file())
    expect(listSceneNodes(document).map((node) => node.getName())).toEqual(['Plank', 'Lamp'])
    expect(listViewParts(document)[0].mesh.listPrimitives().map((primitive) => primitive.getMaterial()?.getName() ?? 'none').sort()).toEqual(['Tarred wood', 'none'])
    expect(valuesOf(document, 'TEXCOORD_0', 0)).toEqual([0, 1])
    expect(valuesOf(document, 'NORMAL', 0)).toEqual([0, 0, 1])
    expect(surveyDocument(document).materials[0].textures).toEqual([{ role: 'colour', path: 'TARWOOD.TGA', found: null }])
  })

  it('lays pictures as its map block says', async () => {
    const mapped = Uint8Array.from(chunk3ds(0x4d4d, chunk3ds(0x3d3d, chunk3ds(0xafff, chunk3ds(0xa000, name('Tarred wood')), chunk3ds(0xa200, chunk3ds(0xa300, name('FELT.PNG')), chunk3ds(0xa351, u16(2)), chunk3ds(0xa354, floats(2)), chunk3ds(0xa35a, floats(0.25)))), chunk3ds(0x4000, name('Plank'), chunk3ds(0x4100, points, uvs, faces())))))
    const { document } = await readItem('a.3ds', [{ path: 'a.3ds', bytes: mapped }, { path: 'felt.png', bytes: rawPng(2, 2, () => [9, 9, 9, 255]) }])
    const info = document.getRoot().listMaterials()[0].getBaseColorTextureInfo()
    expect(info?.getWrapS()).toBe(33648)
    expect([info?.getExtension<Transform>('KHR_texture_transform')?.getScale(), info?.getExtension<Transform>('KHR_texture_transform')?.getOffset()]).toEqual([[2, 1], [0, -0.25]])
  })

  it('lets a thing hang on a camera that moves', async () => {
    const track = (id: number, ...values: number[]): number[] => chunk3ds(id, u16(0), u32(0), u32(0), u32(1), u32(0), u16(0), floats(...values))
    const keyed = (block: number, id: number, title: string, parent: number, ...at: number[]): number[] => chunk3ds(block, chunk3ds(0xb030, u16(id)), chunk3ds(0xb010, name(title), u16(0), u16(0), u16(parent)), track(0xb020, ...at))
    const moving = Uint8Array.from(chunk3ds(0x4d4d, chunk3ds(0x3d3d, chunk3ds(0x4000, name('Plank'), chunk3ds(0x4100, points, uvs, faces()))), chunk3ds(0xb000, keyed(0xb003, 0, 'Watch', 0xffff, 5, 0, 0), chunk3ds(0xb002, chunk3ds(0xb030, u16(1)), chunk3ds(0xb010, name('Plank'), u16(0), u16(0), u16(0)), chunk3ds(0xb020, u16(0), u32(0), u32(0), u32(2), u32(0), u16(0), floats(1, 0, 0), u32(10), u16(0), floats(2, 0, 0))))))
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

describe('glTF', () => {
  it('makes two of a picture that is read as colours and as numbers', async () => {
    const png = rawPng(2, 2, () => [200, 100, 50, 255])
    const glb = rawGlb([{ values: [0, 0, 0, 1, 0, 0, 0, 1, 0], type: 'VEC3' }, { values: [0, 0, 1, 0, 0, 1], type: 'VEC2' }], [png], {
      scenes: [{ nodes: [0] }], nodes: [{ mesh: 0, name: 'sheet' }], meshes: [{ primitives: [{ attributes: { POSITION: 0, TEXCOORD_0: 1 }, material: 0 }] }],
      textures: [{ source: 0 }], materials: [{ name: 'felt', pbrMetallicRoughness: { baseColorTexture: { index: 0 }, metallicRoughnessTexture: { index: 0 } } }],
    })
    const [felt] = (await read('a.glb', glb)).getRoot().listMaterials()
    expect([materialMap(felt, 'colour'), materialMap(felt, 'metal-rough')].map((texture) => texture && getTextureExtras(texture).role)).toEqual(['colour', 'metal-rough'])
    expect(materialMap(felt, 'mixed')).toBeNull()
  })

  it('shows colours at corners white underneath, with or without a material', async () => {
    const glb = rawGlb([{ values: [0, 0, 0, 1, 0, 0, 0, 1, 0], type: 'VEC3' }, { values: [1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 1, 1], type: 'VEC4' }], [], { scenes: [{ nodes: [0] }], nodes: [{ mesh: 0, name: 'sheet' }], meshes: [{ primitives: [{ attributes: { POSITION: 0, COLOR_0: 1 } }] }] })
    const document = await read('a.glb', glb)
    expect(firstSurface(document).getMaterial()?.getBaseColorFactor()).toEqual([1, 1, 1, 1])
  })
})

describe('packed glTF', () => {
  it('unpacks meshopt and quantised meshes to whole floats', async () => {
    await MeshoptEncoder.ready
    const document = documentOf({ ball: ball(2, 16) })
    await document.transform(meshopt({ encoder: MeshoptEncoder, level: 'medium' }))
    const io = new WebIO().registerExtensions([EXTMeshoptCompression, KHRMeshQuantization]).registerDependencies({ 'meshopt.encoder': MeshoptEncoder })
    const packed = await read('a.glb', await io.writeBinary(document))
    expect(surveyDocument(packed).triangles).toBe(960)
    expect(sizeOf(packed).every((side) => Math.abs(side - 4) < 0.01)).toBe(true)
    expect(packed.getRoot().listExtensionsUsed()).toEqual([])
    expect(firstSurface(packed).getAttribute('POSITION')?.getArray()).toBeInstanceOf(Float32Array)
  })

  it('refuses glTF 1 by its name, in text and as GLB', async () => {
    await expect(read('a.gltf', JSON.stringify({ asset: { version: '1.0' }, meshes: { m: {} }, accessors: {}, buffers: { b: {} } }))).rejects.toThrow(/it is glTF 1\.0; glTF 2\.0 is read/)
    await expect(read('a.gltf', JSON.stringify({ asset: {}, meshes: { m: {} }, accessors: {} }))).rejects.toThrow(/it is glTF 1; glTF 2\.0 is read/)
    const old = new Uint8Array(40)
    new DataView(old.buffer).setUint32(0, 0x46546c67, true)
    new DataView(old.buffer).setUint32(4, 1, true)
    await expect(read('a.glb', old)).rejects.toThrow(/it is glTF 1; glTF 2\.0 is read/)
  })
})
