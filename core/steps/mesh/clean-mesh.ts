import type { Document, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { listAllParts, listViewParts } from '../../item/parts.ts'
import { dropUnusedAccessors, gatherCorners, readPrimitive, writeIndices } from '../../item/primitive-arrays.ts'
import { closeHoles } from '../../geometry/mesh/close-holes.ts'
import { findMeshFaults, SLIVER_DEGREES } from '../../geometry/mesh/mesh-faults.ts'
import { compactCorners } from '../../geometry/mesh/reduce.ts'
import { defineStep } from '../step.ts'
import { formatChange, formatCount, plural } from '../../support/wording.ts'

const parameters = z.object({
  slivers: z.boolean(),
  /** Angle under which a triangle is a sliver. */
  sliverDegrees: z.number().min(0).max(10),
  doubles: z.boolean(),
  /** Holes of up to so many edges are closed; 0 closes none. */
  holeEdges: z.number().int().min(0).max(1000),
})
type Parameters = z.infer<typeof parameters>

/** Takes out what does a mesh no good, and closes simple holes when asked. */
export const cleanMesh = defineStep<Parameters>({
  id: 'clean-mesh',
  version: 1,
  stage: 'mesh',
  title: 'Clean the mesh',
  purpose: 'Takes out triangles without area, doubles, slivers and unused corners, and closes simple holes on request.',
  parameters,
  fields: () => [
    { type: 'toggle', key: 'doubles', label: 'Drop doubles' },
    { type: 'toggle', key: 'slivers', label: 'Drop slivers' },
    {
      type: 'number',
      key: 'sliverDegrees',
      label: 'Sliver under',
      unit: '°',
      least: 0,
      most: 10,
      step: 0.1,
      when: { key: 'slivers', is: [true] },
    },
    { type: 'number', key: 'holeEdges', label: 'Close holes up to', unit: 'edges', least: 0, most: 1000, step: 1 },
  ],
  defaults: () => ({ slivers: false, sliverDegrees: SLIVER_DEGREES, doubles: true, holeEdges: 0 }),
  propose(context) {
    const counts = countFaults(context.document)
    if (counts.doubles + counts.withoutArea === 0) return []
    const what = [
      counts.doubles > 0 ? plural(counts.doubles, 'double triangle') : '',
      counts.withoutArea > 0 ? `${formatCount(counts.withoutArea)} without area` : '',
    ].filter((each) => each !== '')
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason:
          `There ${counts.doubles + counts.withoutArea === 1 ? 'is' : 'are'} ${what.join(' and ')}; they cost ` +
          'time and flicker.',
      },
    ]
  },
  async run({ document, parameters: chosen, progress }) {
    const meshes = [...new Set(listViewParts(document).map((part) => part.mesh))]
    const totals = { doubles: 0, withoutArea: 0, slivers: 0, unused: 0, closed: 0, added: 0, left: 0 }
    for (const [number, mesh] of meshes.entries()) {
      await progress(number / meshes.length, mesh.getName())
      for (const primitive of mesh.listPrimitives()) {
        cleanPrimitive(document, primitive, chosen, totals)
        if (primitive.getIndices()?.getCount() === 0) mesh.removePrimitive(primitive)
      }
    }
    for (const part of listAllParts(document)) if (part.mesh.listPrimitives().length === 0) part.node.setMesh(null)
    dropUnusedAccessors(document)
    const details = [
      `${formatCount(totals.withoutArea)} triangles without area, ${formatCount(totals.doubles)} doubles, ` +
        `${formatCount(totals.slivers)} slivers and ${formatCount(totals.unused)} unused corners were dropped.`,
    ]
    if (totals.closed > 0)
      details.push(
        `${plural(totals.closed, 'hole was', 'holes were')} closed with ${formatCount(totals.added)} triangles.`,
      )
    if (totals.left > 0)
      details.push(
        `${plural(totals.left, 'open border')} with more than ${chosen.holeEdges} edges ` +
          `${totals.left === 1 ? 'was' : 'were'} left.`,
      )
    const change = totals.added - totals.withoutArea - totals.doubles - totals.slivers
    return { headline: formatChange(change), details, changed: change !== 0 || totals.unused > 0 || totals.closed > 0 }
  },
})

function countFaults(document: Document): { doubles: number; withoutArea: number } {
  const counts = { doubles: 0, withoutArea: 0 }
  for (const part of listViewParts(document)) {
    for (const primitive of part.mesh.listPrimitives()) {
      const { positions, indices } = readPrimitive(primitive)
      const faults = findMeshFaults(positions, indices)
      counts.doubles += faults.doubles.length
      counts.withoutArea += faults.withoutArea.length
    }
  }
  return counts
}

type Totals = Record<'doubles' | 'withoutArea' | 'slivers' | 'unused' | 'closed' | 'added' | 'left', number>

function cleanPrimitive(document: Document, primitive: Primitive, chosen: Parameters, totals: Totals): void {
  const { positions, indices } = readPrimitive(primitive)
  const faults = findMeshFaults(positions, indices, chosen.sliverDegrees)
  const dropped = new Set<number>(faults.withoutArea)
  if (chosen.doubles) for (const triangle of faults.doubles) dropped.add(triangle)
  if (chosen.slivers) for (const triangle of faults.slivers) dropped.add(triangle)
  const kept = indices.filter((_, index) => !dropped.has(Math.floor(index / 3)))
  const holes =
    chosen.holeEdges >= 3
      ? closeHoles(positions, kept, chosen.holeEdges)
      : { indices: new Uint32Array(0), closed: 0, left: 0 }
  totals.withoutArea += faults.withoutArea.length
  totals.doubles += chosen.doubles ? faults.doubles.length : 0
  totals.slivers += chosen.slivers ? faults.slivers.length : 0
  totals.unused += faults.unusedCorners
  totals.closed += holes.closed
  totals.added += holes.indices.length / 3
  totals.left += holes.left
  if (dropped.size === 0 && faults.unusedCorners === 0 && holes.closed === 0) return
  const all = new Uint32Array(kept.length + holes.indices.length)
  all.set(kept)
  all.set(holes.indices, kept.length)
  const compact = compactCorners(all, positions.length / 3)
  gatherCorners(document, primitive, compact.oldCorner)
  writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
}
