import type { Document } from '@gltf-transform/core'
import { createDocument } from '../item/io.ts'
import { itemScene, listViewParts } from '../item/parts.ts'
import { writeAttribute } from '../item/primitive-arrays.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import type { TriangleSoup } from '../geometry/shapes/convex-hull.ts'
import { encodePng } from '../pictures/image-codecs.ts'
import type { Pixels } from '../pictures/pixels.ts'
import { ball, documentOf, turnedOver, unitBox } from './meshes.ts'
import { swinging } from './moving-items.ts'
import { leaf, numbers, painted } from './pictures.ts'
import { richItem } from './rich-item.ts'
import { moebiusStrip, sheet, together } from './shapes.ts'

/** Items as strangers make them: each odd in its own way, all small. What is promised of any item is tried on these. */
export const oddItems: readonly [what: string, make: () => Document][] = [
  ['all that a format may hold', richItem],
  ['an arm that a clip swings', swinging],
  ['nothing at all', () => createDocument('empty')],
  ['a node without a mesh', () => withNode(createDocument('bare'), 'handle')],
  ['one triangle', () => documentOf({ flag: soup([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]) })],
  ['triangles without area', () => documentOf({ thread: together(needle(), unitBox()) })],
  ['a flat sheet', () => documentOf({ sheet: sheet(4, 3) })],
  ['a band with one side', () => documentOf({ band: moebiusStrip(24) })],
  ['inside out', () => documentOf({ pot: turnedOver(ball(1, 6)) })],
  ['two pieces that stand in each other', () => documentOf({ heap: together(ball(1, 5), ball(1, 5, [0.5, 0, 0])) })],
  ['of a millimetre', () => documentOf({ pin: scaled(unitBox(), 0.002) })],
  ['of a kilometre', () => documentOf({ dyke: scaled(unitBox(), 2000) })],
  ['far from the origin', () => documentOf({ buoy: ball(1, 6, [80_000, 0, -120_000]) })],
  ['a mirrored instance', mirroredInstance],
  ['many small parts, each of another material', manyParts],
  ['names that no file may have', strangeNames],
  ['colours of corners alone', coloured],
  ['UVs far outside, and a picture of an odd size', () => pictured(painted(13, 6), 40)],
  ['a picture cut out', () => pictured(leaf(16), 1)],
]

/** What no text for people may hold. */
export const NOT_WORDS = /undefined|NaN|Infinity|\[object|\bnull\b/

const soup = (positions: number[], indices: number[]): TriangleSoup => ({
  positions: Float32Array.from(positions),
  indices: Uint32Array.from(indices),
})

/** Three places on a line, and one place three times. */
const needle = (): TriangleSoup => soup([0, 0, 0, 1, 0, 0, 2, 0, 0, 5, 5, 5], [0, 1, 2, 3, 3, 3])

const scaled = ({ positions, indices }: TriangleSoup, factor: number): TriangleSoup => ({
  positions: positions.map((value) => value * factor),
  indices,
})

function withNode(document: Document, name: string): Document {
  itemScene(document).addChild(document.createNode(name).setTranslation([1, 2, 3]))
  return document
}

/** A ball drawn twice, the second time mirrored, smaller along one side, and as a child of the first. */
function mirroredInstance(): Document {
  const document = documentOf({ lamp: ball(1, 5) })
  const [{ node, mesh }] = listViewParts(document)
  node.addChild(document.createNode('lamp again').setMesh(mesh).setTranslation([3, 0, 0]).setScale([-1, 0.5, 1]))
  return document
}

/** Rungs in a row. */
function manyParts(): Document {
  const rung = (at: number): TriangleSoup => boxMesh({ min: [0, at, 0], max: [4, at + 0.3, 0.3] })
  return documentOf(Object.fromEntries(Array.from({ length: 24 }, (_, at) => [`rung_${at}`, rung(at)])))
}

function strangeNames(): Document {
  const names = ['', 'CON', 'a/b\\c', 'Größe № 1', '🛶', 'x'.repeat(300), '  spaced  ', '..', 'twice', 'Twice']
  const document = documentOf(Object.fromEntries(names.map((_, at) => [`part ${at}`, ball(1, 4, [at * 3, 0, 0])])))
  listViewParts(document).forEach(({ node, mesh }, at) => {
    node.setName(names[at])
    mesh.setName(names[at])
    mesh.listPrimitives()[0].getMaterial()?.setName(names[at])
  })
  return document
}

function coloured(): Document {
  const document = documentOf({ shell: ball(1, 6) })
  const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
  const next = numbers(3)
  const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
  primitive.setMaterial(null)
  writeAttribute(document, primitive, 'COLOR_0', Float32Array.from({ length: corners * 3 }, next), 3)
  return document
}

/** A box whose UVs run over so many tiles, showing a picture. */
function pictured(picture: Pixels, tiles: number): Document {
  const document = documentOf({ crate: unitBox() })
  const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
  const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
  const next = numbers(8)
  writeAttribute(
    document,
    primitive,
    'TEXCOORD_0',
    Float32Array.from({ length: corners * 2 }, () => next() * tiles),
    2,
  )
  const texture = document
    .createTexture('planks')
    .setMimeType('image/png')
    .setURI('planks.png')
    .setImage(encodePng(picture, true) as Uint8Array<ArrayBuffer>)
  primitive.getMaterial()?.setBaseColorTexture(texture)
  return document
}
