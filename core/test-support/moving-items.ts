import type { Document, vec3, vec4 } from '@gltf-transform/core'
import { copyDocument } from '../item/io.ts'
import { boundsSize, partsBounds } from '../item/measure.ts'
import { itemScene, listViewParts } from '../item/parts.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { ball, documentOf, mergedSoup, unitBox } from './meshes.ts'

export const sizeOf = (document: Document): number[] => boundsSize(partsBounds(listViewParts(document)))
export const box = (): Document => documentOf({ box: boxMesh({ min: [1, 2, 3], max: [3, 6, 11] }) })
export const nodeOf = (document: Document, name: string) => {
  const node = document
    .getRoot()
    .listNodes()
    .find((each) => each.getName() === name)
  if (!node) throw new Error(`no node ${name}`)
  return node
}

/** A post that carries an arm with a negative scale, which a clip swings. */
export function swinging(): Document {
  const document = documentOf({ post: unitBox(), arm: ball(1, 6, [2, 0, 0]) })
  const holder = document
    .createNode('holder')
    .setTranslation([0, 4, 0])
    .setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2])
    .setScale([2, 2, 2])
  itemScene(document).removeChild(nodeOf(document, 'arm'))
  holder.addChild(nodeOf(document, 'arm').setTranslation([1, 0, 0]))
  itemScene(document).addChild(holder)
  const buffer = document.getRoot().listBuffers()[0]
  const times = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(Float32Array.from([0, 1, 2]))
    .setBuffer(buffer)
  const turns = document
    .createAccessor()
    .setType('VEC4')
    .setArray(Float32Array.from([0, 0, 0, 1, 0, 0, Math.sin(0.3), Math.cos(0.3), 0, 0, 0, 1]))
    .setBuffer(buffer)
  const moves = document
    .createAccessor()
    .setType('VEC3')
    .setArray(Float32Array.from([1, 0, 0, 1, 1, 0, 1, 0, 0]))
    .setBuffer(buffer)
  const clip = document.createAnimation('swing')
  for (const [path, output] of [
    ['rotation', turns],
    ['translation', moves],
  ] as const) {
    const sampler = document.createAnimationSampler().setInput(times).setOutput(output).setInterpolation('LINEAR')
    clip
      .addSampler(sampler)
      .addChannel(
        document
          .createAnimationChannel()
          .setTargetNode(nodeOf(document, 'arm'))
          .setTargetPath(path)
          .setSampler(sampler),
      )
  }
  return document
}

/** Where every triangle of the item stands, whatever nodes hold it, at one key of the clip. */
export function standing(document: Document, key: number | null): number[] {
  const copy = copyDocument(document)
  for (const channel of key === null
    ? []
    : copy
        .getRoot()
        .listAnimations()
        .flatMap((clip) => clip.listChannels())) {
    const value: number[] =
      channel
        .getSampler()
        ?.getOutput()
        ?.getElement(key ?? 0, []) ?? []
    const node = channel.getTargetNode()
    if (channel.getTargetPath() === 'rotation') node?.setRotation(value as vec4)
    if (channel.getTargetPath() === 'translation') node?.setTranslation(value as vec3)
  }
  return mergedSoup(copy)
}

export const furthest = (a: readonly number[], b: readonly number[]): number =>
  Math.max(...a.map((value, index) => Math.abs(value - b[index])))
