import { limits } from '../../support/limits.ts'
import type { Document, Mesh, Node, Primitive } from '@gltf-transform/core'
import type { InstancedMesh } from '@gltf-transform/extensions'
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions'
import { uninstance } from '@gltf-transform/functions'
import { noteGivenUp } from '../../item/given-up.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { PlainError } from '../../support/plain-error.ts'
import { accessorToFloats, writeAttribute } from '../../item/primitive-arrays.ts'

/**
 * Makes a node of each instance (extension EXT_mesh_gpu_instancing), so that what is counted is what is drawn.
 * @throws PlainError when there are more than 20,000
 *
 * @example await makeInstancesReal(document, 'fence.glb')
 */
export async function makeInstancesReal(document: Document, file: string): Promise<void> {
  const name = EXTMeshGPUInstancing.EXTENSION_NAME
  let instances = 0
  for (const node of document.getRoot().listNodes()) {
    const batch = node.getExtension<InstancedMesh>(name)
    instances += Math.max(0, ...(batch?.listAttributes() ?? []).map((attribute) => attribute.getCount()))
  }
  if (instances === 0) return
  if (instances > limits.instances)
    throw new PlainError(
      `it draws ${instances} instances; ${limits.instances} are read`,
      file,
      'Bring one of them, or join them where it was made.',
    )
  await document.transform(uninstance())
}

/**
 * Puts morph targets into the vertices as the file's own weights have them (glTF 2.0 specification, section 3.7.2.2),
 * drops them, and says so: no later step can keep them in step with what it changes.
 *
 * @example bakeMorphTargets(document)
 */
export function bakeMorphTargets(document: Document): void {
  for (const node of document.getRoot().listNodes()) {
    const mesh = node.getMesh()
    const targets = Math.max(0, ...(mesh?.listPrimitives() ?? []).map((primitive) => primitive.listTargets().length))
    if (!mesh || targets === 0) continue
    bakeInto(document, node, mesh, targets)
  }
  for (const animation of document.getRoot().listAnimations()) {
    const channels = animation.listChannels().filter((channel) => channel.getTargetPath() === 'weights')
    if (channels.length === 0) continue
    for (const channel of channels) {
      noteGivenUp(document, {
        what: 'Motion between shapes',
        where: animation.getName(),
        message:
          `The clip “${animation.getName()}” moves ${channel.getTargetNode()?.getName() ?? 'a part'} from shape ` +
          'to shape; that motion is left out',
        why: 'Games of this kind move groups and bones, not single vertices.',
      })
      channel.dispose()
    }
    if (animation.listChannels().length === 0) animation.dispose()
  }
}

function bakeInto(document: Document, node: Node, mesh: Mesh, targets: number): void {
  const weights = node.getWeights().length > 0 ? node.getWeights() : mesh.getWeights()
  const own = ownMesh(node) ?? mesh
  for (const primitive of own.listPrimitives()) bakeSurface(document, primitive, weights)
  own.setWeights([])
  node.setWeights([])
  const used = weights.filter((weight) => weight !== 0).length
  noteGivenUp(document, {
    what: 'Shapes to morph between',
    where: node.getName(),
    message:
      `${node.getName()} has ${targets} ${targets === 1 ? 'shape' : 'shapes'} to morph to; ` +
      `${used === 0 ? 'it stays as it is without them' : 'it stays as the file’s own weights have it'}`,
    why: 'Games of this kind move groups and bones, not single vertices.',
  })
}

function bakeSurface(document: Document, primitive: Primitive, weights: readonly number[]): void {
  const targets = primitive.listTargets()
  for (const [semantic, size] of [
    ['POSITION', 3],
    ['NORMAL', 3],
    ['TANGENT', 4],
  ] as const) {
    const base = primitive.getAttribute(semantic)
    if (!base || !targets.some((target, number) => (weights[number] ?? 0) !== 0 && target.getAttribute(semantic)))
      continue
    const sum = accessorToFloats(base).slice()
    targets.forEach((target, number) => {
      const weight = weights[number] ?? 0
      const difference = weight === 0 ? null : target.getAttribute(semantic)
      if (!difference) return
      const added = accessorToFloats(difference)
      const corners = Math.min(base.getCount(), difference.getCount())
      for (let corner = 0; corner < corners; corner++)
        for (let axis = 0; axis < 3; axis++) sum[corner * size + axis] += weight * added[corner * 3 + axis]
    })
    if (semantic !== 'POSITION') toUnitLength(sum, size)
    writeAttribute(document, primitive, semantic, sum, size)
  }
  for (const target of targets) primitive.removeTarget(target)
}

function toUnitLength(values: Float32Array, size: number): void {
  for (let at = 0; at + 2 < values.length; at += size) {
    const length = Math.hypot(values[at], values[at + 1], values[at + 2]) || 1
    for (let axis = 0; axis < 3; axis++) values[at + axis] /= length
  }
}
