import { getMaterialExtras, setMaterialExtras, type MaterialExtras } from '../../item/extras.ts'
import type { Severity } from '../../rules/rule.ts'
import type { Document, Material, Primitive, Texture } from '@gltf-transform/core'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { itemScene, listAllParts, listUsedMaterials, type Part } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { faceNormals } from '../../geometry/mesh/pieces.ts'
import { type Kind, type Rulebook } from '../../game/schema.ts'
import { compressMap } from '../../pictures/codecs/compress.ts'

/** One way to spoil an item, and what check has to say of it. */
export interface RuleSpoiler {
  rule: string
  severity: Severity
  spoil: (spoiled: Spoiled) => void | Promise<void>
}

export interface Spoiled {
  document: Document
  rulebook: Rulebook
  kind: Kind
}

export const part = (document: Document, name: string): Part => {
  const found = listAllParts(document).find((each) => each.name === name)
  if (!found) throw new Error(`no part ${name}`)
  return found
}
export const surface = (document: Document, name: string): Primitive => part(document, name).mesh.listPrimitives()[0]
export const stone = (document: Document) => {
  const material = listUsedMaterials(document).find((each) => each.getName().startsWith('gate_stone'))
  if (!material) throw new Error('no stone')
  return material
}
export const solid = (document: Document, shape: string): Part =>
  listSolids(document).filter((each) => each.extras.solid?.shape === shape)[0]
export const plainPixels = (width: number, height: number) => ({
  width,
  height,
  data: new Uint8Array(width * height * 4).fill(200),
})
export const withDds = async (
  texture: Texture | null,
  width: number,
  height: number,
  mipmaps: boolean,
): Promise<void> => {
  texture?.setImage(
    (await compressMap(plainPixels(width, height), { codec: 'bc7', meaning: 'colour', withMipmaps: mipmaps }))
      .dds as Uint8Array<ArrayBuffer>,
  )
}

export function alterValues(
  document: Document,
  primitive: Primitive,
  semantic: string,
  alter: (values: Float32Array) => void,
): void {
  const accessor = primitive.getAttribute(semantic)
  const values = Float32Array.from(accessor?.getArray() ?? [])
  alter(values)
  primitive.setAttribute(
    semantic,
    document
      .createAccessor()
      .setType(accessor?.getType() ?? 'VEC3')
      .setArray(values)
      .setBuffer(document.getRoot().listBuffers()[0]),
  )
}

export const otherMaterial = (document: Document, primitive: Primitive) =>
  listUsedMaterials(document).find((each) => each !== primitive.getMaterial()) ?? null

/** Hangs a part on bones; each of its corners follows the first four with the given weights. */
export function hold(document: Document, { node, mesh }: Part, bones: number, weights: number[]): void {
  const skin = document.createSkin('bones')
  for (let number = 0; number < bones; number++) {
    const bone = document.createNode(`${node.getName()}_bone_${number}`)
    itemScene(document).addChild(bone)
    skin.addJoint(bone)
  }
  const [buffer] = document.getRoot().listBuffers()
  for (const primitive of mesh.listPrimitives()) {
    const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
    primitive.setAttribute(
      'JOINTS_0',
      document
        .createAccessor()
        .setType('VEC4')
        .setBuffer(buffer)
        .setArray(Uint8Array.from({ length: corners * 4 }, (_, at) => Math.min(at % 4, bones - 1))),
    )
    primitive.setAttribute(
      'WEIGHTS_0',
      document
        .createAccessor()
        .setType('VEC4')
        .setBuffer(buffer)
        .setArray(Float32Array.from({ length: corners * 4 }, (_, at) => weights[at % 4])),
    )
  }
  node.setSkin(skin)
}

/** A clip of one second that turns a part. */
export function turn(document: Document, { node }: Part): void {
  const [buffer] = document.getRoot().listBuffers()
  const sampler = document
    .createAnimationSampler()
    .setInput(
      document
        .createAccessor()
        .setType('SCALAR')
        .setBuffer(buffer)
        .setArray(new Float32Array([0, 1])),
    )
    .setOutput(
      document
        .createAccessor()
        .setType('VEC4')
        .setBuffer(buffer)
        .setArray(new Float32Array([0, 0, 0, 1, 0, 1, 0, 0])),
    )
  document
    .createAnimation('swing')
    .addSampler(sampler)
    .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath('rotation').setSampler(sampler))
}

export function reverse(primitive: Primitive): void {
  const indices = primitive.getIndices()
  const array = indices?.getArray()
  if (indices && array) primitive.setIndices(indices.clone().setArray(array.slice().reverse()))
}

/** Takes away what faces forward, so that one looks into the rest. */
export function openFront(primitive: Primitive): void {
  const { positions, indices } = readPrimitive(primitive)
  const normals = faceNormals(positions, indices)
  const array = indices.filter((_, index) => normals[Math.floor(index / 3) * 3 + 2] < 0.5)
  primitive.setIndices(primitive.getIndices()?.clone().setArray(array) ?? null)
}

/** A part and what hangs below it under the same name. */
export function renameAll(each: Part, name: string): void {
  for (const child of each.node.listChildren()) child.setName(child.getName().replace(each.name, name))
  each.node.setName(name)
}

export function moveOut(each: Part) {
  each.node.getParentNode()?.removeChild(each.node)
  return each.node
}

export function alterSolid({ node }: Part, change: object): void {
  const extras = getNodeExtras(node)
  if (extras.solid) setNodeExtras(node, { ...extras, solid: { ...extras.solid, ...change } })
}

/** Says otherwise what a material is made of and how it is drawn, or takes back that anybody said it. */
export function retag(material: Material, tag: MaterialExtras['tag']): void {
  setMaterialExtras(material, { ...getMaterialExtras(material), tag })
}
