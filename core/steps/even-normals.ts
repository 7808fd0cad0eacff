import { z } from 'zod'
import { listViewParts } from '../document/parts.ts'
import { dropUnusedAccessors, gatherCorners, readPrimitive, writeAttribute, writeIndices } from '../document/primitive-arrays.ts'
import { evenNormals } from '../geometry/normals.ts'
import { compactCorners } from '../geometry/reduce.ts'
import { makeTangents } from '../geometry/tangents.ts'
import { defineStep, formatCount, plural } from './step.ts'

const parameters = z.object({ hardAngleDegrees: z.number().min(0).max(180), tangents: z.boolean() })

/** Makes normals new, and tangents where a normal map needs them. */
export const evenNormalsStep = defineStep<z.infer<typeof parameters>>({
  id: 'even-normals',
  version: 1,
  stage: 'mesh',
  title: 'Even normals',
  purpose: 'Makes normals new from the faces, hard where they meet steeply, and tangents where a normal map needs them.',
  parameters,
  fields: () => [
    { type: 'number', key: 'hardAngleDegrees', label: 'Hard from', unit: '°', least: 0, most: 180, step: 1, slider: true },
    { type: 'toggle', key: 'tangents', label: 'Tangents for normal maps' },
  ],
  defaults: () => ({ hardAngleDegrees: 38, tangents: true }),
  propose({ document }) {
    const without = listViewParts(document).filter((part) => part.mesh.listPrimitives().some((primitive) => !primitive.getAttribute('NORMAL')))
    const reason = without.length > 0 ? `${plural(without.length, 'part')} ${without.length === 1 ? 'has' : 'have'} no normals.` : 'The surface was changed; its normals and tangents have to follow.'
    return [{ parameters: { hardAngleDegrees: 38, tangents: true }, reason }]
  },
  async run({ document, parameters: { hardAngleDegrees, tangents }, progress }) {
    const meshes = [...new Set(listViewParts(document).map((part) => part.mesh))]
    let corners = 0
    let split = 0
    let withTangents = 0
    for (const [number, mesh] of meshes.entries()) {
      await progress(number / meshes.length, mesh.getName())
      for (const primitive of mesh.listPrimitives()) {
        primitive.setAttribute('NORMAL', null).setAttribute('TANGENT', null)
        const before = readPrimitive(primitive)
        const made = evenNormals(before.positions, before.indices, hardAngleDegrees)
        gatherCorners(document, primitive, made.oldCorner)
        writeAttribute(document, primitive, 'NORMAL', made.normals, 3)
        writeIndices(document, primitive, made.indices, made.oldCorner.length)
        corners += made.oldCorner.length
        split += made.hardEdgeCorners
        const { positions, normals, uvs, indices } = readPrimitive(primitive)
        if (!tangents || !normals || !uvs || !primitive.getMaterial()?.getNormalTexture()) continue
        const frames = await makeTangents(positions, normals, uvs, indices)
        gatherCorners(document, primitive, frames.oldCorner)
        writeAttribute(document, primitive, 'TANGENT', frames.tangents, 4)
        const compact = compactCorners(frames.indices, frames.oldCorner.length)
        gatherCorners(document, primitive, compact.oldCorner)
        writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
        withTangents++
      }
    }
    dropUnusedAccessors(document)
    const details = [`${formatCount(corners)} corners; ${formatCount(split)} were split at edges steeper than ${hardAngleDegrees}°.`]
    if (withTangents > 0) details.push(`Tangents were made for ${plural(withTangents, 'surface')} with a normal map.`)
    return { headline: `${hardAngleDegrees}° edges`, details, changed: true }
  },
})
