import type { Mesh, Node, Skin } from '@gltf-transform/core'
import { identityMatrix } from '../../maths/axes.ts'
import { chainMatrices, invertMatrix } from '../../maths/matrices.ts'
import { accessorToFloats } from '../primitive-arrays.ts'
import { line, real, reals, text, whole, wholes } from './binary-tree.ts'
import { drawnSurfaces } from './geometry.ts'
import type { FbxObjects, ObjectId } from './objects.ts'

/** For each bone of a skin the corners that it holds, counted as the geometry's places are, with their weights. */
function heldBy(mesh: Mesh, bones: number): { corners: number[]; weights: number[] }[] {
  const held = Array.from({ length: bones }, () => ({ corners: [] as number[], weights: [] as number[] }))
  let first = 0
  for (const primitive of drawnSurfaces(mesh)) {
    const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
    for (const semantic of primitive.listSemantics().filter((each) => each.startsWith('JOINTS_'))) {
      const joints = primitive.getAttribute(semantic)?.getArray()
      const shares = primitive.getAttribute(semantic.replace('JOINTS', 'WEIGHTS'))
      if (!joints || !shares) continue
      const weights = accessorToFloats(shares)
      for (let at = 0; at < corners * 4; at++) {
        const bone = held.at(joints[at])
        if (weights[at] === 0 || !bone) continue
        bone.corners.push(first + Math.floor(at / 4))
        bone.weights.push(weights[at])
      }
    }
    first += corners
  }
  return held
}

/**
 * Bones that hold a geometry: a deformer with a cluster a bone. `TransformLink` is the bone in the world when it was
 * bound, `Transform` the mesh in the bone's space; one after the other they give where the mesh is.
 *
 * @example addSkin(objects, node, mesh, skin, geometry, modelOf)
 */
export function addSkin(
  objects: FbxObjects,
  node: Node,
  mesh: Mesh,
  skin: Skin,
  geometry: ObjectId,
  modelOf: ReadonlyMap<Node, ObjectId>,
): void {
  const name = `${node.getName()} skin`
  const deformer = objects.add('Deformer', name, 'Skin', [
    line('Version', whole(101)),
    line('Link_DeformAcuracy', real(50)),
  ])
  objects.connect(deformer, geometry)
  const bones = skin.listJoints()
  const binds = skin.getInverseBindMatrices()
  const held = heldBy(mesh, bones.length)
  const meshWorld = node.getWorldMatrix()
  for (const [number, bone] of bones.entries()) {
    const inverse = binds ? binds.getElement(number, []) : identityMatrix()
    const link = chainMatrices(meshWorld, invertMatrix(inverse) ?? identityMatrix())
    const cluster = objects.add(
      'Deformer',
      bone.getName(),
      'Cluster',
      [
        line('Version', whole(100)),
        line('UserData', text('')),
        line('Indexes', wholes(held[number].corners)),
        line('Weights', reals(held[number].weights)),
        line('Transform', reals(inverse)),
        line('TransformLink', reals(link)),
      ],
      'SubDeformer',
    )
    objects.connect(cluster, deformer)
    const model = modelOf.get(bone)
    if (model !== undefined) objects.connect(model, cluster)
  }
}
