import type { Document, Node } from '@gltf-transform/core'
import { cleanName, uniqueName } from '../../game/clean-name.ts'
import type { Rulebook } from '../../game/schema.ts'
import { createSurfaceFinder } from '../../geometry/surface/surface-distance.ts'
import { nearestBones } from '../../geometry/skin/take-weights.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { boundsSize, partBounds } from '../../item/measure.ts'
import { listSceneNodes, listViewParts, type Part } from '../../item/parts.ts'
import { multiplyMatrices } from '../../maths/axes.ts'
import { invertMatrix, transformedPoints } from '../../maths/matrices.ts'
import { fillTemplate } from '../../support/templates.ts'
import { hangOnBones, meshSoup } from './skin.ts'

/**
 * One bone for each node that asks for one: under a part stands a bone at the part's own origin, which follows it; a
 * node without mesh is a bone itself.
 * @returns the bones in the order of the nodes
 *
 * @example const bones = bonesOfNodes(document, nodes, rulebook)
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

/**
 * Hangs bones on stiff parts, so that each follows one: the nearest pair first, every part and every bone once. Bones
 * stay where they are.
 * @returns how many follow one now
 *
 * @example const following = followParts(bones, stiff)
 */
export function followParts(bones: readonly Node[], stiff: readonly Node[]): number {
  const parts = stiff.flatMap((part) => {
    const mesh = part.getMesh()
    if (!mesh) return []
    const { positions, indices } = meshSoup(mesh)
    return [
      {
        part,
        finder: createSurfaceFinder({ positions: transformedPoints(positions, part.getWorldMatrix()), indices }),
      },
    ]
  })
  const pairs = bones
    .flatMap((bone) => {
      const [x, y, z] = placeOf(bone)
      return parts.map(({ part, finder }) => ({ bone, part, distance: finder.nearest(x, y, z)?.distance ?? Infinity }))
    })
    .sort((a, b) => a.distance - b.distance)
  const done = new Set<Node>()
  for (const { bone, part } of pairs) {
    if (done.has(bone) || done.has(part)) continue
    done.add(bone).add(part)
    const back = invertMatrix(part.getWorldMatrix())
    const local = back ? multiplyMatrices(back, bone.getWorldMatrix()) : bone.getMatrix()
    part.addChild(bone)
    bone.setMatrix(local as Parameters<Node['setMatrix']>[0])
  }
  return done.size / 2
}

/**
 * Hangs parts on bones, each corner on the nearest: the nearest part's bone, or the bone whose line is nearest.
 * @example hangOnNearest(document, bent, bones)
 */
export function hangOnNearest(document: Document, parts: readonly Part[], bones: readonly Node[]): void {
  const surfaces = bones.map((bone) => surfaceOfBone(bone, bones))
  for (const part of parts) {
    const { positions } = meshSoup(part.mesh)
    const places = transformedPoints(positions, part.node.getWorldMatrix())
    hangOnBones(document, part, bones, nearestBones(places, surfaces))
  }
}

/**
 * Where a bone is, as a surface: that of the part it follows, else the lines to the bones that hang on it, else a
 * point.
 *
 * @example const finder = createSurfaceFinder(surfaceOfBone(bone, bones))
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
 *
 * @example const sorted = stiffAndBent(document)
 */
export function stiffAndBent(document: Document): { stiff: Part[]; bent: Part[] } | null {
  const parts = listViewParts(document)
  if (parts.length < 2) return null
  const sizes = parts.map((part) => boundsSize(partBounds(part)).reduce((sum, side) => sum + side * side, 0))
  const largest = sizes.indexOf(Math.max(...sizes))
  return { stiff: parts.filter((_, number) => number !== largest), bent: [parts[largest]] }
}
