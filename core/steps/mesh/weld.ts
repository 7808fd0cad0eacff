import type { Document, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { POLYGON_ATTRIBUTE } from '../../item/polygons.ts'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { countMeshCorners, listViewParts } from '../../item/parts.ts'
import {
  accessorToFloats,
  dropUnusedAccessors,
  gatherCorners,
  primitiveIndices,
  readPrimitive,
  writeIndices,
} from '../../item/primitive-arrays.ts'
import { compactCorners } from '../../geometry/mesh/reduce.ts'
import { groupPositions } from '../../geometry/mesh/position-groups.ts'
import { triangleAreas } from '../../geometry/surface/sample-surface.ts'
import { dropCollapsed, weldCorners } from '../../geometry/mesh/weld.ts'
import type { StepContext } from '../../operations/context.ts'
import { defineStep } from '../step.ts'
import { formatChange, formatCount, formatLength, plural } from '../../support/wording.ts'

const parameters = z.object({ distance: z.number().nonnegative().max(1000) })

const ATTRIBUTE_TOLERANCE = 1 / 8192

/** Joins corners that stand in one place and agree in UVs, normals and everything else. */
export const weld = defineStep<z.infer<typeof parameters>>({
  id: 'weld',
  version: 2,
  stage: 'mesh',
  title: 'Weld',
  purpose: 'Joins corners that stand in the same place with the same UVs and normals; texture seams stay.',
  parameters,
  fields: ({ rulebook }) => [
    {
      type: 'number',
      key: 'distance',
      label: 'Closer than',
      unit: rulebook.space.unit.plural,
      least: 0,
      most: 1,
      step: 0.001,
    },
  ],
  defaults: (context) => ({ distance: reachFor(context) }),
  propose(context) {
    const parts = listViewParts(context.document)
    const corners = parts.reduce((sum, part) => sum + countMeshCorners(part.mesh), 0)
    const doubles = parts
      .flatMap((part) => part.mesh.listPrimitives())
      .reduce((sum, primitive) => sum + countDoubles(primitive), 0)
    if (doubles === 0) return []
    return [
      {
        parameters: this.defaults(context) as { distance: number },
        reason: `${formatCount(doubles)} of ${formatCount(corners)} corners stand in the same place as another.`,
      },
    ]
  },
  async run({ document, parameters: { distance }, progress, rulebook }) {
    const parts = listViewParts(document)
    const meshes = [...new Set(parts.map((part) => part.mesh))]
    let before = 0
    let after = 0
    const collapsed = { triangles: 0, withArea: 0, area: 0 }
    for (const [number, mesh] of meshes.entries()) {
      await progress(number / meshes.length, mesh.getName())
      before += countMeshCorners(mesh)
      for (const primitive of mesh.listPrimitives()) weldPrimitive(document, primitive, distance, collapsed)
      after += countMeshCorners(mesh)
    }
    dropUnusedAccessors(document)
    const details = [
      `${formatCount(before)} corners became ${formatCount(after)}; nothing further apart than ` +
        `${formatLength(distance)} ${rulebook.space.unit.plural} was joined.`,
    ]
    const empty = collapsed.triangles - collapsed.withArea
    if (empty > 0) details.push(`${plural(empty, 'triangle')} without area ${empty === 1 ? 'was' : 'were'} dropped.`)
    if (collapsed.withArea > 0)
      details.push(
        `${plural(collapsed.withArea, 'triangle')} narrower than the distance, ${formatLength(collapsed.area)} ` +
          `square ${rulebook.space.unit.plural} in all, ${collapsed.withArea === 1 ? 'was' : 'were'} dropped: a ` +
          `smaller distance keeps ${collapsed.withArea === 1 ? 'it' : 'them'}.`,
      )
    return { headline: formatChange(after - before), details, changed: after !== before || collapsed.triangles > 0 }
  },
})

/** Corners of one place lie apart by rounding alone: so much of the size of a thing. */
const ROUNDING_SHARE = 1e-5
const SHORTER = 0.1
const SHORTEST_TRIED = 4

/**
 * How far apart corners may lie and still be one: no further than a tenth of what the game draws, than rounding at the
 * item's size, and than would take away a triangle with area.
 */
function reachFor({ document, rulebook }: StepContext): number {
  const parts = listViewParts(document)
  const longest = Math.max(...boundsSize(partsBounds(parts)))
  let reach = Number(Math.min(rulebook.space.smallestDrawn / 10 || Infinity, longest * ROUNDING_SHARE).toPrecision(1))
  for (let tried = 0; tried < SHORTEST_TRIED; tried++) {
    if (!parts.some((part) => part.mesh.listPrimitives().some((primitive) => takesArea(primitive, reach)))) return reach
    reach = Number((reach * SHORTER).toPrecision(1))
  }
  return 0
}

/** Less of a surface than this is rounding. */
const LEAST_AREA_SHARE = 1e-6

function takesArea(primitive: Primitive, reach: number): boolean {
  const { positions, indices } = readPrimitive(primitive)
  const { groupOfCorner } = groupPositions(positions, reach)
  const areas = triangleAreas(positions, indices)
  let [taken, all] = [0, 0]
  areas.forEach((area, triangle) => {
    all += area
    if (isCollapsed(indices, groupOfCorner, triangle)) taken += area
  })
  return taken > all * LEAST_AREA_SHARE
}

/** Whether two of a triangle's corners are one place. */
function isCollapsed(indices: Uint32Array, placeOfCorner: Uint32Array, triangle: number): boolean {
  const [a, b, c] = [0, 1, 2].map((corner) => placeOfCorner[indices[triangle * 3 + corner]])
  return a === b || b === c || c === a
}

function countDoubles(primitive: Primitive): number {
  const position = primitive.getAttribute('POSITION')
  if (!position) return 0
  return position.getCount() - groupPositions(accessorToFloats(position)).cornerOfGroup.length
}

interface Collapsed {
  triangles: number
  withArea: number
  area: number
}

/** Welds one primitive; adds what collapsed. A primitive that still has polygons loses them. */
function weldPrimitive(document: Document, primitive: Primitive, distance: number, collapsed: Collapsed): void {
  const position = primitive.getAttribute('POSITION')
  if (!position) return
  primitive.setAttribute(POLYGON_ATTRIBUTE, null)
  const positions = accessorToFloats(position)
  const others = primitive
    .listSemantics()
    .filter((semantic) => semantic !== 'POSITION')
    .map((semantic) => primitive.getAttribute(semantic))
    .filter((accessor) => accessor !== null)
    .map((accessor) => ({ array: accessorToFloats(accessor), size: accessor.getElementSize() }))
  const { newCorner, oldCorner, groups } = weldCorners(positions, others, {
    position: distance,
    attribute: ATTRIBUTE_TOLERANCE,
  })
  const old = primitiveIndices(primitive)
  const { groupOfCorner, cornerOfGroup } = groups
  // Corners of one place that keep apart for their UVs still get the very same coordinates.
  const places = Uint32Array.from(oldCorner, (corner) => cornerOfGroup[groupOfCorner[corner]])
  const indices = dropCollapsed(
    old.map((corner) => newCorner[corner]),
    oldCorner.map((corner) => groupOfCorner[corner]),
  )
  gatherCorners(document, primitive, oldCorner)
  const snapped = new Float32Array(oldCorner.length * 3)
  for (let corner = 0; corner < places.length; corner++)
    for (let axis = 0; axis < 3; axis++) snapped[corner * 3 + axis] = positions[places[corner] * 3 + axis]
  primitive.setAttribute('POSITION', (primitive.getAttribute('POSITION') ?? position).clone().setArray(snapped))
  const compact = compactCorners(indices, oldCorner.length)
  gatherCorners(document, primitive, compact.oldCorner)
  writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
  triangleAreas(positions, old).forEach((area, triangle) => {
    if (!isCollapsed(old, groupOfCorner, triangle)) return
    collapsed.triangles++
    if (area > 0) collapsed.withArea++
    collapsed.area += area
  })
}
