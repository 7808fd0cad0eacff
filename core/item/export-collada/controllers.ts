import type { Mesh, Node, Skin } from '@gltf-transform/core'
import { identityMatrix } from '../../maths/axes.ts'
import { accessorToFloats } from '../primitive-arrays.ts'
import { primitiveIndices } from '../primitive-arrays.ts'
import { numberSource, rowsOf, wordSource } from './sources.ts'
import { element, numbersText, type Element, type Ids } from './xml-text.ts'

/** Which bones hold each corner of a mesh, in the order in which its geometry lists the places. */
function influencesOf(mesh: Mesh): { counts: number[]; pairs: number[]; weights: number[] } {
  const counts: number[] = []
  const pairs: number[] = []
  const weights: number[] = []
  for (const primitive of mesh.listPrimitives()) {
    if (primitiveIndices(primitive).length === 0) continue
    const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
    const sets = primitive
      .listSemantics()
      .filter((semantic) => semantic.startsWith('JOINTS_'))
      .map((semantic) => {
        const joints = primitive.getAttribute(semantic)?.getArray()
        const shares = primitive.getAttribute(semantic.replace('JOINTS', 'WEIGHTS'))
        return { joints, shares: shares ? accessorToFloats(shares) : null }
      })
    for (let corner = 0; corner < corners; corner++) {
      let count = 0
      for (const { joints, shares } of sets)
        for (let at = corner * 4; at < corner * 4 + 4; at++) {
          const weight = shares?.[at] ?? 0
          if (!joints || weight === 0) continue
          pairs.push(joints[at], weights.length)
          weights.push(weight)
          count++
        }
      counts.push(count)
    }
  }
  return { counts, pairs, weights }
}

/**
 * The id by which a skin calls a bone: the short name that its node has.
 * @example const names = skin.listJoints().map((bone) => boneName(ids, bone))
 */
export const boneName = (ids: Ids, bone: Node): string => ids.for(bone, bone.getName() || 'bone')

/**
 * A mesh held by bones: the places as written are its bind shape (COLLADA 1.4.1, chapter 4, “Skin a skeleton”).
 * @example library.push(controllerOf(node, mesh, skin, geometryId, ids))
 */
export function controllerOf(node: Node, mesh: Mesh, skin: Skin, geometryId: string, ids: Ids): Element {
  const id = ids.for({ node, skin }, `${node.getName()}-skin`)
  const bones = skin.listJoints()
  const binds = skin.getInverseBindMatrices()
  const inverse = bones.flatMap((_, bone) => rowsOf(binds ? binds.getElement(bone, []) : identityMatrix()))
  const { counts, pairs, weights } = influencesOf(mesh)
  return element(
    'controller',
    { id },
    element(
      'skin',
      { source: `#${geometryId}` },
      element('bind_shape_matrix', {}, numbersText(identityMatrix())),
      wordSource(
        `${id}-bones`,
        'JOINT',
        bones.map((bone) => boneName(ids, bone)),
      ),
      numberSource(`${id}-binds`, ['TRANSFORM'], inverse),
      numberSource(`${id}-weights`, ['WEIGHT'], weights),
      element(
        'joints',
        {},
        element('input', { semantic: 'JOINT', source: `#${id}-bones` }),
        element('input', { semantic: 'INV_BIND_MATRIX', source: `#${id}-binds` }),
      ),
      element(
        'vertex_weights',
        { count: counts.length },
        element('input', { semantic: 'JOINT', source: `#${id}-bones`, offset: 0 }),
        element('input', { semantic: 'WEIGHT', source: `#${id}-weights`, offset: 1 }),
        element('vcount', {}, numbersText(counts)),
        element('v', {}, numbersText(pairs)),
      ),
    ),
  )
}
