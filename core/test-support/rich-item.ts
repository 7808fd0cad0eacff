import type { Accessor, Document, Node } from '@gltf-transform/core'
import { setRootExtras } from '../item/extras.ts'
import { createDocument } from '../item/io.ts'
import { itemScene } from '../item/parts.ts'
import { writeAttribute, writeIndices } from '../item/primitive-arrays.ts'
import { ball, unitBox } from './meshes.ts'
import { numbers } from './pictures.ts'

/**
 * All that a mesh format may hold in one item: a turned and scaled branch, a part of two materials with two sets of
 * UVs, normals and colours of corners, a tube on two bones, and two clips that move different things.
 */
export function richItem(): Document {
  const document = createDocument('rich')
  const next = numbers(5)
  const stone = document.createMaterial('stone').setBaseColorFactor([0.5, 0.25, 0.125, 1])
  const glass = document.createMaterial('green glass').setBaseColorFactor([0.1, 0.6, 0.2, 0.5]).setAlphaMode('BLEND')
  const holder = document
    .createNode('holder')
    .setTranslation([3, 1, -2])
    .setRotation([0, Math.sin(0.4), 0, Math.cos(0.4)])
    .setScale([2, 2, 2])
  const mesh = document.createMesh('block')
  for (const [number, material] of [stone, glass].entries()) {
    const { positions, indices } = number === 0 ? ball(1, 7) : unitBox()
    const corners = positions.length / 3
    const primitive = document.createPrimitive().setMaterial(material)
    writeAttribute(document, primitive, 'POSITION', positions, 3)
    writeAttribute(document, primitive, 'NORMAL', unitVectors(corners, next), 3)
    for (const set of [0, 1])
      writeAttribute(document, primitive, `TEXCOORD_${set}`, Float32Array.from({ length: corners * 2 }, next), 2)
    writeAttribute(
      document,
      primitive,
      'COLOR_0',
      Float32Array.from({ length: corners * 4 }, (_, at) => (at % 4 === 3 ? 1 : next())),
      4,
    )
    writeIndices(document, primitive, indices, corners)
    mesh.addPrimitive(primitive)
  }
  holder.addChild(document.createNode('block').setTranslation([1, 0, 0]).setMesh(mesh))
  itemScene(document).addChild(holder)
  const bones = addTube(document)
  addClip(
    document,
    'sway',
    bones[1],
    'rotation',
    [0, 0.5, 1],
    [0, 0, 0, 1, 0, 0, Math.sin(0.3), Math.cos(0.3), 0, 0, 0, 1],
  )
  addClip(document, 'lift', holder, 'translation', [0, 1], [3, 1, -2, 3, 4, -2])
  setRootExtras(document.getRoot(), {
    units: { metresPerUnit: 0.0254, from: 'declared' },
    axes: { up: '+z', forward: '-y', from: 'declared' },
  })
  return document
}

function unitVectors(count: number, next: () => number): Float32Array {
  const values = new Float32Array(count * 3)
  for (let at = 0; at < values.length; at += 3) {
    const vector = [next() - 0.5, next() - 0.5, next() + 0.1]
    const length = Math.hypot(...vector)
    values.set(
      vector.map((value) => value / length),
      at,
    )
  }
  return values
}

/** A tube of four rings that two bones hold, the middle rings by both. */
function addTube(document: Document): [Node, Node] {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer()
  const sides = 6
  const positions: number[] = []
  const joints: number[] = []
  const weights: number[] = []
  for (let ring = 0; ring < 4; ring++)
    for (let side = 0; side < sides; side++) {
      const angle = (side / sides) * 2 * Math.PI
      positions.push(Math.cos(angle), ring, Math.sin(angle))
      joints.push(0, 1, 0, 0)
      weights.push(1 - ring / 3, ring / 3, 0, 0)
    }
  const indices: number[] = []
  for (let ring = 0; ring < 3; ring++)
    for (let side = 0; side < sides; side++) {
      const [a, b] = [ring * sides + side, ring * sides + ((side + 1) % sides)]
      indices.push(a, a + sides, b, b, a + sides, b + sides)
    }
  const primitive = document.createPrimitive().setMaterial(document.createMaterial('cloth'))
  writeAttribute(document, primitive, 'POSITION', Float32Array.from(positions), 3)
  writeAttribute(document, primitive, 'WEIGHTS_0', Float32Array.from(weights), 4)
  primitive.setAttribute(
    'JOINTS_0',
    document.createAccessor().setType('VEC4').setArray(Uint16Array.from(joints)).setBuffer(buffer),
  )
  writeIndices(document, primitive, Uint32Array.from(indices), positions.length / 3)
  const upper = document.createNode('upper').setTranslation([0, 1.5, 0])
  const lower = document.createNode('lower').setTranslation([-4, 0, 0]).addChild(upper)
  const still = (y: number): number[] => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -y, 0, 1]
  const binds = document
    .createAccessor()
    .setType('MAT4')
    .setArray(Float32Array.from([...still(0), ...still(1.5)]))
    .setBuffer(buffer)
  const skin = document.createSkin('tube').addJoint(lower).addJoint(upper).setInverseBindMatrices(binds)
  const scene = itemScene(document)
  scene.addChild(lower)
  scene.addChild(document.createNode('tube').setMesh(document.createMesh('tube').addPrimitive(primitive)).setSkin(skin))
  return [lower, upper]
}

function addClip(
  document: Document,
  name: string,
  node: Node,
  path: 'rotation' | 'translation',
  seconds: number[],
  values: number[],
): void {
  const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', array: number[]): Accessor =>
    document
      .createAccessor()
      .setType(type)
      .setArray(Float32Array.from(array))
      .setBuffer(document.getRoot().listBuffers()[0] ?? null)
  const sampler = document
    .createAnimationSampler()
    .setInterpolation('LINEAR')
    .setInput(accessor('SCALAR', seconds))
    .setOutput(accessor(path === 'rotation' ? 'VEC4' : 'VEC3', values))
  document
    .createAnimation(name)
    .addSampler(sampler)
    .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler))
}
