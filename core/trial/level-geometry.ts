import type { Kind, Rulebook } from '../game/schema.ts'
import { boxOf, inScene } from './check-mesh.ts'
import type { LoadedSolid } from './check-solids.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { TrialLog } from './log.ts'

/**
 * Whether what is drawn is what one walks on: closed bodies that have no solids beside them.
 * @example const solids = isLevelGeometry(kind) ? surfaces : beside
 */
export const isLevelGeometry = ({ mesh, solids }: Kind): boolean => mesh?.closedSurfaces === true && solids === null

/**
 * What one bumps into where nothing stands beside what is drawn: its surfaces themselves.
 * @example const solids = surfacesAsSolids(view, surfaceOf, rulebook)
 */
export function surfacesAsSolids(
  view: readonly LoadedNode[],
  surfaceOf: (material: string) => string,
  { solids }: Rulebook,
): LoadedSolid[] {
  return view.flatMap((node) =>
    node.primitives.map((primitive): LoadedSolid => {
      const box = boxOf([node])
      const axes = [0, 1, 2]
      return {
        name: node.name,
        shape: 'mesh',
        surface: surfaceOf(primitive.material ?? ''),
        layers: [...solids.defaultLayers],
        massKilograms: null,
        positions: inScene(node, primitive.positions),
        indices: primitive.indices,
        rotation: [0, 0, 0, 1],
        middle: axes.map((axis) => (box[axis] + box[axis + 3]) / 2) as LoadedSolid['middle'],
        half: axes.map((axis) => (box[axis + 3] - box[axis]) / 2) as LoadedSolid['half'],
      }
    }),
  )
}

/**
 * Complains of edges that the game's cutter is too coarse for.
 * @example checkFineEdges(file, view, kind, log)
 */
export function checkFineEdges(file: string, view: readonly LoadedNode[], { mesh }: Kind, log: TrialLog): void {
  const least = mesh?.shortestEdge ?? null
  if (least === null) return
  for (const node of view) {
    let [count, shortest] = [0, Infinity]
    for (const { positions, indices } of node.primitives) {
      const placed = inScene(node, positions)
      for (let at = 0; at < indices.length; at++) {
        const next = indices[at % 3 === 2 ? at - 2 : at + 1]
        const side = Math.hypot(...[0, 1, 2].map((axis) => placed[indices[at] * 3 + axis] - placed[next * 3 + axis]))
        if (side >= least || side === 0) continue
        count++
        shortest = Math.min(shortest, side)
      }
    }
    if (count > 0)
      log.complain(
        'mesh.fine',
        file,
        `${node.name} has sides down to ${shortest.toPrecision(3)}; under ${least} they fall out.`,
      )
  }
}
