import type { Document, Node } from '@gltf-transform/core'
import { cleanName, uniqueName } from '../../game/clean-name.ts'
import type { Rulebook } from '../../game/schema.ts'
import { nearestBones } from '../../geometry/skin/take-weights.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { boundsSize, partBounds } from '../../item/measure.ts'
import { listSceneNodes, listViewParts, type Part } from '../../item/parts.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { fillTemplate } from '../../support/templates.ts'
import { hangOnBones, meshSoup } from './skin.ts'

/**
 * One bone for each node that asks for one: under a part stands a bone at the part's own origin, which follows it; a
 * node without mesh is a bone itself.
 * @returns the bones in the order of the nodes
 */
export function bonesOfNodes(document: Document, nodes: readonly Node[], rulebook: Rulebook): Node[] {
  const taken = new Set(listSceneNodes(document).map((node) => node.getName()))
  return nodes.map((node) => {
    if (!node.getMesh()) return node
    const part = cleanName(rulebook, node.getName(), 'part')
    const name = uniqueName(rulebook, fillTemplate(rulebook.points.bone, { part }), taken)
    taken.add(name)
    const bone = document.createNode(name)
    node.addChild(bone)
    return bone
  })
}

/** Hangs parts on bones, each corner on the nearest: the nearest part's bone, or the bone whose line is nearest. */
export function hangOnNearest(document: Document, parts: readonly Part[], bones: readonly Node[]): void {
  const surfaces = bones.map((bone) => surfaceOfBone(bone, bones))
  for (const part of parts) {
    const { positions } = meshSoup(part.mesh)
    const places = transformedPoints(positions, part.node.getWorldMatrix())
    hangOnBones(document, part, bones, nearestBones(places, surfaces))
  }
}

/**
 * Where a bone is, as a surface: that of the part it follows, else the lines to the bones that hang on it, else a point.
 */
export function surfaceOfBone(bone: Node, bones: readonly Node[]): TriangleSoup {
  const carrier = bone.getParentNode()
  const mesh = carrier?.getMesh()
  if (carrier && mesh && !carrier.getSkin()) {
    const { positions, indices } = meshSoup(mesh)
    return { positions: transformedPoints(positions, carrier.getWorldMatrix()), indices }
  }
  const at = placeOf(bone)
  const ends = bone.listChildren().filter((child) => bones.includes(child))
  const lines = ends.length > 0 ? ends.map(placeOf) : [at]
  return {
    positions: Float32Array.from([...at, ...lines.flat()]),
    // A triangle with two corners in one place is a line.
    indices: Uint32Array.from(lines.flatMap((_, line) => [0, line + 1, line + 1])),
  }
}

const placeOf = (node: Node): number[] => node.getWorldMatrix().slice(12, 15)

/**
 * Which parts stay stiff and which one is bent, where nothing says so: the one that reaches furthest across is bent by
 * all others.
 * @returns null where there are not two parts
 */
export function stiffAndBent(document: Document): { stiff: Part[]; bent: Part[] } | null {
  const parts = listViewParts(document)
  if (parts.length < 2) return null
  const sizes = parts.map((part) => boundsSize(partBounds(part)).reduce((sum, side) => sum + side * side, 0))
  const largest = sizes.indexOf(Math.max(...sizes))
  return { stiff: parts.filter((_, number) => number !== largest), bent: [parts[largest]] }
}
