import type { Kind, Rulebook } from '../game/schema.ts'
import { boxOf, sidesOf } from './check-mesh.ts'
import { trianglesOf, type SortedNodes } from './sorted-nodes.ts'
import type { TrialLog } from './log.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'

/**
 * Coarser levels and the shadow mesh, as far as the kind wants them.
 * @example checkLevels(file, sorted, rulebook, kind, log)
 */
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
    checkEachPart(file, level, nodes, sorted.view, rulebook, log)
    if (trianglesOf(nodes) > triangles * mostShare)
      log.complain('level.dense', file, `Level ${level} has ${trianglesOf(nodes)} of ${triangles} triangles.`)
    if (driftOf(nodes, sorted.view) > levels.mostDrift)
      log.complain('level.geometry', file, `Level ${level} stands elsewhere than the first; it is another thing.`)
    if (levels.sameBones && boneNames(nodes) !== boneNames(sorted.view))
      log.complain('level.bones', file, `Level ${level} has other bones than the first.`)
    if (levels.sameMaterials && materialNames(nodes) !== materialNames(sorted.view))
      log.complain('level.materials', file, `Level ${level} has other materials than the first.`)
  }
  const shadow = trianglesOf(sorted.shadow)
  if (shadow === 0) log.complain('shadow.missing', file, 'There is no shadow mesh; no shadow is thrown.')
  else if (shadow > triangles * levels.shadow.mostShare)
    log.complain('shadow.dense', file, `The shadow mesh has ${shadow} of ${triangles} triangles.`)
}

const materialNames = (nodes: readonly LoadedNode[]): string =>
  [...new Set(nodes.flatMap((node) => node.primitives.map((primitive) => primitive.material ?? '')))].sort().join('|')

const boneNames = (nodes: readonly LoadedNode[]): string =>
  [...new Set(nodes.flatMap((node) => node.bones))].sort().join('|')

/** How far the sides of two boxes lie apart at most, against the longest side of the second. */
function driftOf(nodes: readonly LoadedNode[], first: readonly LoadedNode[]): number {
  const [own, other] = [boxOf(nodes), boxOf(first)]
  return Math.max(...own.map((value, side) => Math.abs(value - other[side]))) / sidesOf(other)[2]
}

/**
 * Every part is drawn at every level by what hangs below it, or by what hangs below another and reaches over it as
 * well; by faces of the materials that it has itself.
 */
function checkEachPart(
  file: string,
  level: number,
  nodes: readonly LoadedNode[],
  view: readonly LoadedNode[],
  rulebook: Rulebook,
  log: TrialLog,
): void {
  const reach = sidesOf(boxOf(view))[2] * rulebook.levels.mostDrift
  const boxes = nodes.map((node) => boxOf([node]))
  for (const part of view) {
    const own = nodes.filter((node) => node.parent === part)
    const box = boxOf([part])
    const drawing =
      own.length > 0
        ? own
        : nodes.filter((_, number) =>
            box.every((value, side) =>
              side < 3 ? boxes[number][side] - reach <= value : boxes[number][side] + reach >= value,
            ),
          )
    if (drawing.length === 0)
      log.complain('level.part', file, `Level ${level} of ${part.name} is missing; it vanishes from far off.`)
    else if (rulebook.levels.sameMaterials && [...namesOf([part])].some((name) => !namesOf(drawing).has(name)))
      log.complain('level.material', file, `Level ${level} of ${part.name} has other materials than ${part.name}.`)
  }
}

const namesOf = (nodes: readonly LoadedNode[]): Set<string> =>
  new Set(nodes.flatMap((node) => node.primitives.map((primitive) => primitive.material ?? '')))
