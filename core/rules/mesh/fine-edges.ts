import { shortEdges, type ShortEdge } from '../../geometry/mesh/short-edges.ts'
import { listViewParts, restMatrix, type Part } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { formatLength, listed, plural } from '../../support/wording.ts'
import { bodyRole } from '../../operations/meshes/bodies.ts'
import { placeOfParts } from '../places.ts'
import type { RuleFamily } from '../rule.ts'

/** Whether level geometry is coarse enough for a game that cuts it where things meet. */
export const fineEdgeRules: RuleFamily = {
  id: 'fine-edges',
  ofMeshes: true,
  check({ document, kind, rulebook }) {
    const least = kind.mesh?.shortestEdge ?? null
    if (least === null) return []
    // What is only seen is cut by nothing.
    const fine = listViewParts(document)
      .filter((part) => bodyRole(part, { rulebook, kind }) !== 'trim')
      .map((part) => ({ part, edges: edgesOf(part, least) }))
      .filter(({ edges }) => edges.length > 0)
    if (fine.length === 0) return []
    const edges = fine.flatMap((each) => each.edges).sort((a, b) => a.length - b.length)
    const unit = rulebook.space.unit.plural
    const where = fine.map(({ part }) => part.name)
    return [
      {
        rule: 'edge-too-fine',
        severity: 'risky',
        stage: 'mesh',
        title: 'Too fine to be cut',
        where: where[0],
        place: placeOfParts(
          fine.map(({ part }) => part),
          edges.map(({ middle }) => middle),
        ),
        value: `${formatLength(edges[0].length)} ${unit}`,
        limit: `${formatLength(least)} ${unit}`,
        message:
          `${plural(edges.length, 'edge')} under ${formatLength(least)} ${unit}, the shortest ` +
          `${formatLength(edges[0].length)}, on ` +
          listed(where),
        why: 'The game cuts such geometry where things meet; what is finer than its cutter falls out and leaves holes.',
        mend: { step: 'weld', label: 'Join corners that lie so close', parameters: { distance: least } },
        distance: edges.length,
      },
    ]
  },
  gauges: () => [],
}

const edgesOf = (part: Part, least: number): ShortEdge[] =>
  part.mesh.listPrimitives().flatMap((primitive) => {
    const { positions, indices } = readPrimitive(primitive)
    return shortEdges(transformedPoints(positions, restMatrix(part.node)), indices, least)
  })
