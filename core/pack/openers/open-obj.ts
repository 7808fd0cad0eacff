import { isIdentity } from '../../maths/axes.ts'
import type { Document, Node, vec3, vec4 } from '@gltf-transform/core'
import { z } from 'zod'
import { readItem } from '../../intake/read-item.ts'
import { createDocument } from '../../item/io.ts'
import { itemScene, listSceneNodes } from '../../item/parts.ts'
import { copyToDocument, weld } from '@gltf-transform/functions'
import { transformPrimitive } from '../../item/transform-primitive.ts'
import { invertMatrix } from '../../maths/matrices.ts'
import type { PackedMesh } from './open-mesh.ts'

const besideSchema = z.object({
  nodes: z
    .array(
      z.object({
        name: z.string(),
        /** The object of the file that is its mesh. */
        object: z.string().optional(),
        parent: z.number().int().nonnegative().optional(),
        translation: z.array(z.number()).length(3),
        rotation: z.array(z.number()).length(4),
        scale: z.array(z.number()).length(3),
        extras: z.record(z.string(), z.unknown()).default({}),
      }),
    )
    .max(100_000),
  clips: z
    .array(
      z.object({
        name: z.string().default('clip'),
        channels: z.array(
          z.object({
            node: z.number().int().nonnegative(),
            path: z.enum(['translation', 'rotation', 'scale']),
            interpolation: z.enum(['LINEAR', 'STEP', 'CUBICSPLINE']),
            times: z.array(z.number()),
            values: z.array(z.number()),
          }),
        ),
      }),
    )
    .default([]),
})

/**
 * An OBJ of a pack with the tree and the motion that its entry holds for it.
 * @example const document = await openObj({ path, bytes, files, beside })
 */
export async function openObj({ path, bytes, files, beside }: PackedMesh): Promise<Document> {
  const { nodes, clips } = besideSchema.parse(beside)
  const sources = [...files].map(([each, content]) => ({ path: each, bytes: content }))
  const { document: read } = await readItem(
    path,
    [...sources.filter((file) => file.path !== path), { path, bytes }],
    {},
  )
  const document = createDocument('pack')
  const meshes = new Map(listSceneNodes(read).map((node) => [node.getName(), node]))
  const made: Node[] = []
  for (const { name, object, parent, translation, rotation, scale, extras } of nodes) {
    const node = document
      .createNode(name)
      .setTranslation(translation as vec3)
      .setRotation(rotation as vec4)
      .setScale(scale as vec3)
      .setExtras(extras)
    const above = parent === undefined ? itemScene(document) : made[parent]
    if (!above) throw new Error(`${name} hangs on what is not there`)
    above.addChild(node)
    made.push(node)
    hangMesh(document, read, (object !== undefined && meshes.get(object)) || null, node)
  }
  for (const { name, channels } of clips) {
    const clip = document.createAnimation(name)
    for (const { node, path: target, interpolation, times, values } of channels) {
      const [buffer] = document.getRoot().listBuffers()
      const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', numbers: number[]) =>
        document.createAccessor().setType(type).setArray(Float32Array.from(numbers)).setBuffer(buffer)
      const sampler = document
        .createAnimationSampler()
        .setInterpolation(interpolation)
        .setInput(accessor('SCALAR', times))
        .setOutput(accessor(target === 'rotation' ? 'VEC4' : 'VEC3', values))
      clip.addSampler(sampler).addChannel(
        document
          .createAnimationChannel()
          .setTargetNode(made[node] ?? null)
          .setTargetPath(target)
          .setSampler(sampler),
      )
    }
  }
  // The file lists three corners for each triangle; the game holds those that are alike once.
  await document.transform(weld())
  return document
}

/** Hangs what stands in the scene on its node, in the node's own space. */
function hangMesh(document: Document, read: Document, from: Node | null, node: Node): void {
  const mesh = from?.getMesh()
  if (!from || !mesh) return
  const copied = copyToDocument(document, read, [mesh]).get(mesh)
  if (!copied) return
  node.setMesh(copied as typeof mesh)
  const back = invertMatrix(node.getWorldMatrix())
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
    primitive.setExtras({})
    if (back && !isIdentity(back)) transformPrimitive(document, primitive, back)
  }
}
