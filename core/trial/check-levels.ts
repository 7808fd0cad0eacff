import type { Kind, Rulebook } from '../rulebook/schema.ts'
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
    if (levels.sameMaterials && materialNames(nodes) !== materialNames(sorted.view)) log.complain('level.materials', file, `Level ${level} has other materials than the first.`)
  }
  const shadow = trianglesOf(sorted.shadow)
  if (shadow === 0) log.complain('shadow.missing', file, 'There is no shadow mesh; no shadow is thrown.')
  else if (shadow > triangles * levels.shadow.mostShare) log.complain('shadow.dense', file, `The shadow mesh has ${shadow} of ${triangles} triangles.`)
}

const materialNames = (nodes: readonly LoadedNode[]): string =>
  [...new Set(nodes.flatMap((node) => node.primitives.map((primitive) => primitive.material ?? '')))].sort().join('|')
