import type { Kind, Rulebook } from '../rulebook/schema.ts'
import { inScene } from './check-mesh.ts'
import { trianglesOf, type SortedNodes } from './sorted-nodes.ts'
import type { TrialLog } from './log.ts'
import type { LoadedNode } from './read-glb.ts'

/** Coarser levels and the shadow mesh, as far as the kind wants them. */
export function checkLevels(file: string, sorted: SortedNodes, rulebook: Rulebook, kind: Kind, log: TrialLog): void {
  const triangles = trianglesOf(sorted.view)
  const { levels } = rulebook
  if (!kind.levelsAsked || triangles <= levels.neededAboveTriangles) return
  for (const { level, mostShare } of levels.chain) {
    const nodes = sorted.levels.get(level) ?? []
    if (nodes.length === 0) {
      log.complain('level.missing', file, `Level ${level} is missing; the first is drawn from all distances.`)
      continue
    }
    if (trianglesOf(nodes) > triangles * mostShare) log.complain('level.dense', file, `Level ${level} has ${trianglesOf(nodes)} of ${triangles} triangles.`)
    if (driftOf(nodes, sorted.view) > levels.mostDrift) log.complain('level.geometry', file, `Level ${level} stands elsewhere than the first; it is another thing.`)
    if (levels.sameBones && boneNames(nodes) !== boneNames(sorted.view)) log.complain('level.bones', file, `Level ${level} has other bones than the first.`)
    if (levels.sameMaterials && materialNames(nodes) !== materialNames(sorted.view)) log.complain('level.materials', file, `Level ${level} has other materials than the first.`)
  }
  const shadow = trianglesOf(sorted.shadow)
  if (shadow === 0) log.complain('shadow.missing', file, 'There is no shadow mesh; no shadow is thrown.')
  else if (shadow > triangles * levels.shadow.mostShare) log.complain('shadow.dense', file, `The shadow mesh has ${shadow} of ${triangles} triangles.`)
}

const materialNames = (nodes: readonly LoadedNode[]): string =>
  [...new Set(nodes.flatMap((node) => node.primitives.map((primitive) => primitive.material ?? '')))].sort().join('|')

const boneNames = (nodes: readonly LoadedNode[]): string => [...new Set(nodes.flatMap((node) => node.bones))].sort().join('|')

/** How far the sides of two boxes lie apart at most, against the longest side of the second. */
function driftOf(nodes: readonly LoadedNode[], first: readonly LoadedNode[]): number {
  const [own, other] = [boxOf(nodes), boxOf(first)]
  const longest = Math.max(...[0, 1, 2].map((axis) => other[axis + 3] - other[axis]))
  return Math.max(...own.map((value, side) => Math.abs(value - other[side]))) / longest
}

/** Lowest x, y, z and highest x, y, z of all corners in the scene. */
function boxOf(nodes: readonly LoadedNode[]): number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]
  for (const node of nodes) {
    for (const { positions } of node.primitives) {
      const points = inScene(node, positions)
      for (let at = 0; at < points.length; at++) {
        box[at % 3] = Math.min(box[at % 3], points[at])
        box[3 + (at % 3)] = Math.max(box[3 + (at % 3)], points[at])
      }
    }
  }
  return box
}
