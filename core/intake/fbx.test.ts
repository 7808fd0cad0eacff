import { type Transform } from '@gltf-transform/extensions'
import { describe, expect, it } from 'vitest'
import { getRootExtras } from '../item/extras.ts'
import { partBounds } from '../item/measure.ts'
import { listViewParts } from '../item/parts.ts'
import { binaryFbx, type FbxTestNode } from '../test-support/binary-files.ts'
import { rawPng } from '../test-support/faithful/raw-files.ts'
import { readItem } from './read-item.ts'
import { surveyDocument } from './survey.ts'
import { read, sizeOf, valuesOf } from '../test-support/read-source.ts'

describe('FBX', () => {
  const square = [0, 0, 0, 2, 0, 0, 2, 1, 0, 0, 1, 0]
  const property = (name: string, ...values: number[]): FbxTestNode => ({
    name: 'P',
    values: [name, '', '', 'A', ...values],
  })
  const properties = (...list: FbxTestNode[]): FbxTestNode => ({ name: 'Properties70', children: list })
  const scene = (
    extra: { objects?: FbxTestNode[]; links?: FbxTestNode[]; model?: FbxTestNode[]; corners?: number[] } = {},
  ): Uint8Array =>
    binaryFbx([
      {
        name: 'GlobalSettings',
        children: [
          properties(
            property('UpAxis', 2),
            property('UpAxisSign', 1),
            property('FrontAxis', 1),
            property('FrontAxisSign', -1),
            property('UnitScaleFactor', 2.54),
          ),
        ],
      },
      {
        name: 'Objects',
        children: [
          {
            name: 'Geometry',
            values: [{ long: 10 }, 'Sheet\u0000\u0001Geometry', 'Mesh'],
            children: [
              { name: 'Vertices', values: [{ list: square }] },
              { name: 'PolygonVertexIndex', values: [{ ints: extra.corners ?? [0, 1, 2, -4] }] },
            ],
          },
          {
            name: 'Model',
            values: [{ long: 20 }, 'Left leaf.001\u0000\u0001Model', 'Mesh'],
            children: [properties(...(extra.model ?? []))],
          },
          ...(extra.objects ?? []),
        ],
      },
      {
        name: 'Connections',
        children: [
          { name: 'C', values: ['OO', { long: 10 }, { long: 20 }] },
          { name: 'C', values: ['OO', { long: 20 }, { long: 0 }] },
          ...(extra.links ?? []),
        ],
      },
    ])

  it('keeps names, quads, and the unit and axes that it declares', async () => {
    const document = await read('a.fbx', scene())
    expect(listViewParts(document).map((part) => part.name)).toEqual(['Left leaf.001'])
    expect(surveyDocument(document)).toMatchObject({
      triangles: 2,
      polygons: 1,
      units: { from: 'declared' },
      axes: { up: '+z', forward: '-y', from: 'declared' },
    })
    expect(getRootExtras(document.getRoot()).units.metresPerUnit).toBeCloseTo(0.0254)
  })

  it('turns about a pivot as the standard’s formula says', async () => {
    // A quarter turn about z round the corner (2, 0, 0) takes the sheet from x 0…2, y 0…1 to x 1…2, y −2…0.
    const document = await read(
      'a.fbx',
      scene({ model: [property('Lcl Rotation', 0, 0, 90), property('RotationPivot', 2, 0, 0)] }),
    )
    const bounds = partBounds(listViewParts(document)[0])
    expect(bounds.min.map((value) => Math.round(value * 1000) / 1000 + 0)).toEqual([1, -2, 0])
    expect(bounds.max.map((value) => Math.round(value * 1000) / 1000 + 0)).toEqual([2, 0, 0])
  })

  it('multiplies a material’s colours with their factors', async () => {
    const material: FbxTestNode = {
      name: 'Material',
      values: [{ long: 30 }, 'Felt\u0000\u0001Material', ''],
      children: [
        properties(
          property('DiffuseColor', 1, 0, 0),
          property('DiffuseFactor', 0.8),
          property('EmissiveColor', 0, 1, 0),
          property('EmissiveFactor', 0.5),
        ),
      ],
    }
    const document = await read(
      'a.fbx',
      scene({ objects: [material], links: [{ name: 'C', values: ['OO', { long: 30 }, { long: 20 }] }] }),
    )
    const [felt] = document.getRoot().listMaterials()
    // 0.8 and 0.5 of the file are sRGB; glTF has linear numbers (IEC 61966-2-1).
    expect(felt.getBaseColorFactor().map((value) => Math.round(value * 1000) / 1000)).toEqual([0.604, 0, 0, 1])
    expect(felt.getEmissiveFactor().map((value) => Math.round(value * 1000) / 1000)).toEqual([0, 0.214, 0])
  })

  it('lays pictures as scaled and moved, and ends them at their edges', async () => {
    const material: FbxTestNode = {
      name: 'Material',
      values: [{ long: 30 }, 'Felt\u0000\u0001Material', ''],
      children: [],
    }
    const texture: FbxTestNode = {
      name: 'Texture',
      values: [{ long: 40 }, 'felt\u0000\u0001Texture', ''],
      children: [
        { name: 'FileName', values: ['felt.png'] },
        properties(property('Scaling', 2, 4, 1), property('Translation', 0.5, 0, 0), property('WrapModeU', 1)),
      ],
    }
    const links: FbxTestNode[] = [
      { name: 'C', values: ['OO', { long: 30 }, { long: 20 }] },
      { name: 'C', values: ['OP', { long: 40 }, { long: 30 }, 'DiffuseColor'] },
    ]
    const { document } = await readItem('a.fbx', [
      { path: 'a.fbx', bytes: scene({ objects: [material, texture], links }) },
      { path: 'felt.png', bytes: rawPng(2, 2, () => [9, 9, 9, 255]) },
    ])
    const info = document.getRoot().listMaterials()[0].getBaseColorTextureInfo()
    expect(info?.getWrapS()).toBe(33071)
    expect([
      info?.getExtension<Transform>('KHR_texture_transform')?.getScale(),
      info?.getExtension<Transform>('KHR_texture_transform')?.getOffset(),
    ]).toEqual([
      [2, 4],
      [0.5, -3],
    ])
  })

  it('puts geometric transforms into the points, not into the node', async () => {
    const document = await read('a.fbx', scene({ model: [property('GeometricTranslation', 10, 0, 0)] }))
    expect(listViewParts(document)[0].node.getTranslation()).toEqual([0, 0, 0])
    expect(partBounds(listViewParts(document)[0]).min[0]).toBe(10)
  })

  it('keeps bones, weights and bind poses, so that the mesh stands where it was bound', async () => {
    const matrix = (x: number): number[] => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, 0, 0, 1]
    const cluster = (id: number, points: number[], weights: number[], place: number): FbxTestNode => ({
      name: 'Deformer',
      values: [{ long: id }, 'Cluster', 'Cluster'],
      children: [
        { name: 'Indexes', values: [{ ints: points }] },
        { name: 'Weights', values: [{ list: weights }] },
        { name: 'Transform', values: [{ list: matrix(-place) }] },
        { name: 'TransformLink', values: [{ list: matrix(place) }] },
      ],
    })
    const bone = (id: number, name: string, place: number): FbxTestNode => ({
      name: 'Model',
      values: [{ long: id }, name, 'LimbNode'],
      children: [properties(property('Lcl Translation', place, 0, 0))],
    })
    const link = (child: number, parent: number): FbxTestNode => ({
      name: 'C',
      values: ['OO', { long: child }, { long: parent }],
    })
    const document = await read(
      'a.fbx',
      scene({
        objects: [
          bone(30, 'Rib 1', 0),
          bone(31, 'Rib 2', 2),
          bone(32, 'Rib 2_end', 1),
          { name: 'Deformer', values: [{ long: 40 }, 'Skin', 'Skin'] },
          cluster(50, [0, 3], [1, 0.75], 0),
          cluster(51, [1, 2, 3], [1, 1, 0.25], 2),
        ],
        links: [
          link(40, 10),
          link(50, 40),
          link(51, 40),
          link(30, 50),
          link(31, 51),
          link(30, 0),
          link(31, 30),
          link(32, 31),
        ],
      }),
    )
    const survey = surveyDocument(document)
    expect(survey.bones).toBe(2)
    expect(survey.strays).toEqual([{ name: 'Rib 2_end', what: 'end bone' }])
    expect(valuesOf(document, 'WEIGHTS_0', 3)).toEqual([0.75, 0.25, 0, 0])
    expect(sizeOf(document)).toEqual([2, 1, 0])
  })

  it('samples motion, so that a whole turn stays a whole turn', async () => {
    const curve = (id: number, values: number[]): FbxTestNode => ({
      name: 'AnimationCurve',
      values: [{ long: id }, 'c', ''],
      children: [
        { name: 'KeyTime', values: [{ list: [0, 46_186_158_000] }] },
        { name: 'KeyValueFloat', values: [{ list: values }] },
      ],
    })
    const link = (child: number, parent: number, name?: string): FbxTestNode => ({
      name: 'C',
      values: [name ? 'OP' : 'OO', { long: child }, { long: parent }, ...(name ? [name] : [])],
    })
    const document = await read(
      'a.fbx',
      scene({
        objects: [
          { name: 'AnimationStack', values: [{ long: 60 }, 'turn', ''] },
          { name: 'AnimationLayer', values: [{ long: 61 }, 'l', ''] },
          { name: 'AnimationCurveNode', values: [{ long: 62 }, 'R', ''] },
          curve(63, [0, 360]),
        ],
        links: [link(61, 60), link(62, 61), link(62, 20, 'Lcl Rotation'), link(63, 62, 'd|Z')],
      }),
    )
    const [clip] = surveyDocument(document).clips
    expect(clip).toMatchObject({ name: 'turn', seconds: 1, closes: false })
    expect(clip.keys).toBe(31)
    const output = document.getRoot().listAnimations()[0].listSamplers()[0].getOutput()
    expect(Math.abs(output?.getElement(15, [])[2] ?? 0)).toBeCloseTo(1)
  })

  it('is refused when faces ask for points that are not there, and when it is cut off or damaged', async () => {
    await expect(read('a.fbx', scene({ corners: [0, 1, -10] }))).rejects.toThrow(
      /a\.fbx, “Sheet”: a face asks for point 9; there are 4/,
    )
    const whole = scene()
    await expect(read('a.fbx', whole.slice(0, whole.length - 60))).rejects.toThrow(/cut off/)
    await expect(read('a.fbx', 'Kaydara FBX Binary  \n damaged')).rejects.toThrow(/copied as text/)
    await expect(
      read('a.fbx', '; FBX 6.1.0 project file\nFBXHeaderExtension: {\n FBXVersion: 6100\n}\n'),
    ).rejects.toThrow(/it is FBX 6\.1; FBX 7 \(2011\) and later is read/)
  })
})
