import { z } from 'zod'
import { listViewParts } from '../document/parts.ts'
import { dropUnusedAccessors, gatherCorners, readPrimitive, writeAttribute, writeIndices } from '../document/primitive-arrays.ts'
import { evenNormals } from '../geometry/normals.ts'
import { writeTangents } from './renew-tangents.ts'
import { defineStep, formatCount, plural } from './step.ts'

const parameters = z.object({
  hardAngleDegrees: z.number().min(0).max(180),
  /** Edges that were hard in the source stay hard, however flat they are. */
  keepGiven: z.boolean().default(false),
  tangents: z.boolean(),
})

/** Makes normals new, and tangents where a normal map needs them. */
export const evenNormalsStep = defineStep<z.infer<typeof parameters>>({
  id: 'even-normals',
  version: 2,
  stage: 'mesh',
  title: 'Even normals',
  purpose: 'Makes normals new from the faces, hard where they meet steeply or were hard already, and tangents where a normal map needs them.',
  parameters,
  fields: () => [
    { type: 'number', key: 'hardAngleDegrees', label: 'Hard from', unit: '°', least: 0, most: 180, step: 1, slider: true },
    { type: 'toggle', key: 'keepGiven', label: 'Keep given hard edges' },
    { type: 'toggle', key: 'tangents', label: 'Tangents for normal maps' },
  ],
  defaults: () => ({ hardAngleDegrees: 38, keepGiven: false, tangents: true }),
  propose({ document }) {
    const without = listViewParts(document).filter((part) => part.mesh.listPrimitives().some((primitive) => !primitive.getAttribute('NORMAL')))
    const reason = without.length > 0 ? `${plural(without.length, 'part')} ${without.length === 1 ? 'has' : 'have'} no normals.` : 'The surface was changed; its normals and tangents have to follow.'
    return [{ parameters: { hardAngleDegrees: 38, keepGiven: false, tangents: true }, reason }]
  },
  async run({ document, parameters: { hardAngleDegrees, keepGiven, tangents }, progress }) {
    const meshes = [...new Set(listViewParts(document).map((part) => part.mesh))]
    let corners = 0
    let split = 0
    let withTangents = 0
    for (const [number, mesh] of meshes.entries()) {
      await progress(number / meshes.length, mesh.getName())
      for (const primitive of mesh.listPrimitives()) {
        const before = readPrimitive(primitive)
        primitive.setAttribute('NORMAL', null).setAttribute('TANGENT', null)
        const made = evenNormals(before.positions, before.indices, hardAngleDegrees, keepGiven ? before.normals : null)
        gatherCorners(document, primitive, made.oldCorner)
        writeAttribute(document, primitive, 'NORMAL', made.normals, 3)
        writeIndices(document, primitive, made.indices, made.oldCorner.length)
        corners += made.oldCorner.length
        split += made.hardEdgeCorners
        if (!tangents || !primitive.getMaterial()?.getNormalTexture() || !(await writeTangents(document, primitive))) continue
        withTangents++
      }
    }
    dropUnusedAccessors(document)
    const details = [`${formatCount(corners)} corners; ${formatCount(split)} were split at edges steeper than ${hardAngleDegrees}°.`]
    if (withTangents > 0) details.push(`Tangents were made for ${plural(withTangents, 'surface')} with a normal map.`)
    return { headline: `${hardAngleDegrees}° edges`, details, changed: true }
  },
})
