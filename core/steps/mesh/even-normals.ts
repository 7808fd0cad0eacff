import type { Document, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { listViewParts, type Part } from '../../item/parts.ts'
import {
  dropUnusedAccessors,
  gatherCorners,
  readPrimitive,
  writeAttribute,
  writeIndices,
} from '../../item/primitive-arrays.ts'
import { evenNormals } from '../../geometry/surface/normals.ts'
import { writeTangents } from '../../operations/meshes/renew-tangents.ts'
import { defineStep } from '../step.ts'
import { formatCount, plural } from '../../support/wording.ts'

const parameters = z.object({
  /** Which normals are made new. `missing`: of surfaces that have none that can be used. */
  remake: z.enum(['all', 'missing', 'none']).default('all'),
  hardAngleDegrees: z.number().min(0).max(180),
  /** Edges that were hard in the source stay hard, however flat they are. */
  keepGiven: z.boolean().default(false),
  tangents: z.boolean(),
})

/** Makes normals new, and tangents where a normal map needs them. */
export const evenNormalsStep = defineStep<z.infer<typeof parameters>>({
  id: 'even-normals',
  version: 3,
  stage: 'mesh',
  title: 'Even normals',
  purpose:
    'Makes normals from the faces, hard where they meet steeply or were hard already, where there are none or ' +
    'everywhere; and tangents where a normal map needs them.',
  parameters,
  fields: () => [
    {
      type: 'choice',
      key: 'remake',
      label: 'Make new',
      options: [
        { value: 'missing', label: 'where there are none' },
        { value: 'all', label: 'everywhere' },
        { value: 'none', label: 'no normals, tangents alone' },
      ],
    },
    {
      type: 'number',
      key: 'hardAngleDegrees',
      label: 'Hard from',
      unit: '°',
      least: 0,
      most: 180,
      step: 1,
      slider: true,
      when: { key: 'remake', is: ['all', 'missing'] },
    },
    { type: 'toggle', key: 'keepGiven', label: 'Keep given hard edges', when: { key: 'remake', is: ['all'] } },
    { type: 'toggle', key: 'tangents', label: 'Tangents for normal maps' },
  ],
  defaults: ({ document }) => ({
    remake: withoutNormals(document).length > 0 ? 'missing' : 'all',
    hardAngleDegrees: 38,
    keepGiven: false,
    tangents: true,
  }),
  propose({ document }) {
    const common = { hardAngleDegrees: 38, keepGiven: false, tangents: true }
    const without = withoutNormals(document)
    if (without.length > 0)
      return [
        {
          parameters: { remake: 'missing', ...common },
          reason:
            `${plural(without.length, 'part')} ${without.length === 1 ? 'has' : 'have'} no normals that can be ` +
            'used. Those that are given stay as they are.',
        },
      ]
    const bare = listViewParts(document).filter((part) =>
      part.mesh
        .listPrimitives()
        .some(
          (primitive) =>
            primitive.getMaterial()?.getNormalTexture() &&
            primitive.getAttribute('TEXCOORD_0') &&
            !primitive.getAttribute('TANGENT'),
        ),
    )
    return bare.length > 0
      ? [
          {
            parameters: { remake: 'none', ...common },
            reason:
              `${plural(bare.length, 'part')} with a normal map ${bare.length === 1 ? 'has' : 'have'} no tangents ` +
              'to lay it on. Normals stay as they came.',
          },
        ]
      : []
  },
  async run({ document, parameters: { remake, hardAngleDegrees, keepGiven, tangents }, progress }) {
    const meshes = [...new Set(listViewParts(document).map((part) => part.mesh))]
    let corners = 0
    let split = 0
    let withTangents = 0
    let surfaces = 0
    for (const [number, mesh] of meshes.entries()) {
      await progress(number / meshes.length, mesh.getName())
      for (const primitive of mesh.listPrimitives()) {
        const before = readPrimitive(primitive)
        if (remake === 'all' || (remake === 'missing' && !hasUsableNormals(primitive))) {
          primitive.setAttribute('NORMAL', null).setAttribute('TANGENT', null)
          const made = evenNormals(
            before.positions,
            before.indices,
            hardAngleDegrees,
            keepGiven ? before.normals : null,
          )
          gatherCorners(document, primitive, made.oldCorner)
          writeAttribute(document, primitive, 'NORMAL', made.normals, 3)
          writeIndices(document, primitive, made.indices, made.oldCorner.length)
          corners += made.oldCorner.length
          split += made.hardEdgeCorners
          surfaces++
        }
        if (!tangents || !primitive.getMaterial()?.getNormalTexture() || !(await writeTangents(document, primitive)))
          continue
        withTangents++
      }
    }
    dropUnusedAccessors(document)
    const details = [
      surfaces > 0
        ? `${plural(surfaces, 'surface')} of ${formatCount(corners)} corners got normals; ${formatCount(split)} ` +
          `were split at edges steeper than ${hardAngleDegrees}°.`
        : 'All normals stayed as they came.',
    ]
    if (withTangents > 0) details.push(`Tangents were made for ${plural(withTangents, 'surface')} with a normal map.`)
    return {
      headline: surfaces > 0 ? `${hardAngleDegrees}° edges` : plural(withTangents, 'surface'),
      details,
      changed: surfaces + withTangents > 0,
    }
  },
})

const withoutNormals = (document: Document): Part[] =>
  listViewParts(document).filter((part) => part.mesh.listPrimitives().some((primitive) => !hasUsableNormals(primitive)))

/** Whether every corner has a normal with a length. */
function hasUsableNormals(primitive: Primitive): boolean {
  const { normals } = readPrimitive(primitive)
  if (!normals) return false
  for (let at = 0; at + 2 < normals.length; at += 3) {
    const length = Math.hypot(normals[at], normals[at + 1], normals[at + 2])
    if (!(length > 0.5 && length < 2)) return false
  }
  return true
}
