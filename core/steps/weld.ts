import type { Document, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { POLYGON_ATTRIBUTE } from '../document/polygons.ts'
import { countMeshCorners, listViewParts } from '../document/parts.ts'
import { accessorToFloats, dropUnusedAccessors, gatherCorners, primitiveIndices, writeIndices } from '../document/primitive-arrays.ts'
import { compactCorners } from '../geometry/reduce.ts'
import { groupPositions } from '../geometry/position-groups.ts'
import { dropCollapsed, weldCorners } from '../geometry/weld.ts'
import { defineStep, formatChange, formatCount, formatLength } from './step.ts'

const parameters = z.object({ distance: z.number().nonnegative().max(1000) })

const ATTRIBUTE_TOLERANCE = 1 / 8192

/** Joins corners that stand in one place and agree in UVs, normals and everything else. */
export const weld = defineStep<z.infer<typeof parameters>>({
  id: 'weld',
  version: 1,
  stage: 'mesh',
  title: 'Weld',
  purpose: 'Joins corners that stand in the same place with the same UVs and normals; texture seams stay.',
  parameters,
  fields: ({ rulebook }) => [{ type: 'number', key: 'distance', label: 'Closer than', unit: rulebook.space.unit.plural, least: 0, most: 1, step: 0.001 }],
  defaults: ({ rulebook }) => ({ distance: rulebook.space.smallestDrawn / 10 }),
  propose(context) {
    const parts = listViewParts(context.document)
    const corners = parts.reduce((sum, part) => sum + countMeshCorners(part.mesh), 0)
    const doubles = parts.flatMap((part) => part.mesh.listPrimitives()).reduce((sum, primitive) => sum + countDoubles(primitive), 0)
    if (doubles === 0) return []
    return [{ parameters: this.defaults(context) as { distance: number }, reason: `${formatCount(doubles)} of ${formatCount(corners)} corners stand in the same place as another.` }]
  },
  async run({ document, parameters: { distance }, progress, rulebook }) {
    const parts = listViewParts(document)
    const meshes = [...new Set(parts.map((part) => part.mesh))]
    let before = 0
    let after = 0
    let collapsed = 0
    for (const [number, mesh] of meshes.entries()) {
      await progress(number / meshes.length, mesh.getName())
      before += countMeshCorners(mesh)
      for (const primitive of mesh.listPrimitives()) collapsed += weldPrimitive(document, primitive, distance)
      after += countMeshCorners(mesh)
    }
    dropUnusedAccessors(document)
    const details = [`${formatCount(before)} corners became ${formatCount(after)}; nothing further apart than ${formatLength(distance)} ${rulebook.space.unit.plural} was joined.`]
    if (collapsed > 0) details.push(`${formatCount(collapsed)} triangles without area were dropped.`)
    return { headline: formatChange(after - before), details, changed: after !== before || collapsed > 0 }
  },
})

function countDoubles(primitive: Primitive): number {
  const position = primitive.getAttribute('POSITION')
  if (!position) return 0
  return position.getCount() - groupPositions(accessorToFloats(position)).cornerOfGroup.length
}

/** Welds one primitive; returns how many triangles collapsed. A primitive that still has polygons loses them. */
function weldPrimitive(document: Document, primitive: Primitive, distance: number): number {
  const position = primitive.getAttribute('POSITION')
  if (!position) return 0
  primitive.setAttribute(POLYGON_ATTRIBUTE, null)
  const positions = accessorToFloats(position)
  const others = primitive
    .listSemantics()
    .filter((semantic) => semantic !== 'POSITION')
    .map((semantic) => primitive.getAttribute(semantic))
    .filter((accessor) => accessor !== null)
    .map((accessor) => ({ array: accessorToFloats(accessor), size: accessor.getElementSize() }))
  const { newCorner, oldCorner, groups } = weldCorners(positions, others, { position: distance, attribute: ATTRIBUTE_TOLERANCE })
  const old = primitiveIndices(primitive)
  const { groupOfCorner, cornerOfGroup } = groups
  // Corners of one place that keep apart for their UVs still get the very same coordinates.
  const places = Uint32Array.from(oldCorner, (corner) => cornerOfGroup[groupOfCorner[corner]])
  const indices = dropCollapsed(old.map((corner) => newCorner[corner]), oldCorner.map((corner) => groupOfCorner[corner]))
  gatherCorners(document, primitive, oldCorner)
  const snapped = new Float32Array(oldCorner.length * 3)
  for (let corner = 0; corner < places.length; corner++) for (let axis = 0; axis < 3; axis++) snapped[corner * 3 + axis] = positions[places[corner] * 3 + axis]
  primitive.setAttribute('POSITION', (primitive.getAttribute('POSITION') ?? position).clone().setArray(snapped))
  const compact = compactCorners(indices, oldCorner.length)
  gatherCorners(document, primitive, compact.oldCorner)
  writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
  return (old.length - indices.length) / 3
}
