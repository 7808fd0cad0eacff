import type { Document, Material, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { listLooks, materialInLook } from '../../item/looks.ts'
import { listViewParts } from '../../item/parts.ts'
import { gatherCorners, readPrimitive, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { unwrapSurfaces, type UnwrapInput } from '../../geometry/uv/unwrap.ts'
import { gameLaysUvs, plainMaterials } from '../../operations/maps/plain-materials.ts'
import type { ReportProgress, StepContext } from '../../operations/context.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { formatCount, plural } from '../../support/wording.ts'

const parameters = z.object({
  parts: namesInItem,
  sidePixels: z.number().int().min(16).max(8192),
  smallestMipPixels: z.number().int().min(4).max(512),
})

/** Cuts parts without UVs into flat islands and packs them into one square. */
export const unwrap = defineStep<z.infer<typeof parameters>>({
  id: 'unwrap',
  version: 3,
  stage: 'surface',
  ofMaps: true,
  title: 'Unwrap',
  purpose:
    'Cuts parts into islands that lie flat and packs them into one texture, so far apart that they stay apart ' +
    'in the smallest mipmap that is used.',
  parameters,
  fields: ({ rulebook }) => [
    { type: 'parts', key: 'parts', label: 'Parts' },
    {
      type: 'choice',
      key: 'sidePixels',
      label: 'Texture',
      options: [64, 128, 256, 512, 1024, 2048]
        .filter((side) => side <= rulebook.maps.largestPixels)
        .map((side) => ({ value: side, label: `${side} × ${side} pixels` })),
    },
    {
      type: 'choice',
      key: 'smallestMipPixels',
      label: 'Apart down to',
      options: [16, 32, 64, 128].map((side) => ({ value: side, label: `a mipmap of ${side} pixels` })),
    },
  ],
  defaults: ({ document, rulebook }) => ({
    parts: bareParts(document),
    sidePixels: Math.min(256, rulebook.maps.largestPixels),
    smallestMipPixels: 32,
  }),
  propose(context) {
    if (gameLaysUvs(context.kind)) return []
    const parts = partsInNeed(context)
    if (parts.length === 0) return []
    return [
      {
        parameters: { ...(this.defaults(context) as z.infer<typeof parameters>), parts },
        reason:
          `${plural(parts.length, 'part')} ${parts.length === 1 ? 'has' : 'have'} no UVs ` +
          `(${parts.slice(0, 3).join(', ')}): no texture can lie on ${parts.length === 1 ? 'it' : 'them'}.`,
      },
    ]
  },
  async run({ document, parameters: { parts, sidePixels, smallestMipPixels }, progress }) {
    const surfaces = [
      ...new Set(
        listViewParts(document)
          .filter((part) => parts.includes(part.name))
          .flatMap((part) => part.mesh.listPrimitives()),
      ),
    ]
    if (surfaces.length === 0) return { headline: 'none', details: ['No part is chosen.'], changed: false }
    const made = await unwrapPrimitives(
      document,
      surfaces,
      sidePixels,
      marginFor(sidePixels, smallestMipPixels),
      progress,
    )
    return {
      headline: `${formatCount(made.islands)} islands`,
      details: [
        `${plural(surfaces.length, 'surface')} in ${plural(made.islands, 'island')}; ` +
          `${Math.round(made.used * 100)} % of the texture is used.`,
        `Islands stand ${plural(made.marginPixels, 'pixel')} apart at ${sidePixels} × ${sidePixels}: one pixel in ` +
          `the mipmap of ${2 ** Math.ceil(Math.log2(sidePixels / made.marginPixels))}.`,
        `${formatCount(made.cornersBefore)} corners became ${formatCount(made.cornersAfter)}, since corners are ` +
          'cut apart where islands end.',
      ],
      changed: true,
    }
  },
})

/**
 * Pixels between islands so that one is left in the smallest mipmap that is used.
 * @example marginFor(1024, 32) // 32
 */
export const marginFor = (sidePixels: number, smallestMipPixels: number): number =>
  Math.max(2, Math.min(32, Math.round(sidePixels / smallestMipPixels)))

/** Parts with a surface that has no UVs. */
const bareParts = (document: Document): string[] =>
  listViewParts(document)
    .filter((part) => part.mesh.listPrimitives().some((primitive) => !primitive.getAttribute('TEXCOORD_0')))
    .map((part) => part.name)

/**
 * Those of them that show a map, or nothing that anybody has said yet and most likely will be painted. Plain colours are
 * all shown from one place of a palette, which needs no islands.
 */
function partsInNeed({ document, kind }: StepContext): string[] {
  const plain = new Set<Material | null>(plainMaterials(document, kind))
  const looks = listLooks(document)
  const isInNeed = (surface: Primitive): boolean =>
    !surface.getAttribute('TEXCOORD_0') && looks.some((look) => !plain.has(materialInLook(surface, look)))
  return listViewParts(document)
    .filter(({ mesh }) => mesh.listPrimitives().some(isInNeed))
    .map(({ name }) => name)
}

/** Above this many triangles the wait is announced in seconds. */
const SLOW_TRIANGLES = 4000
/** Measured: about 3,000 triangles a second. */
const TRIANGLES_A_SECOND = 3000

/** What unwrapping made: islands, the room between them, how much of the square they cover, and how corners grew. */
export interface UnwrappedItem {
  islands: number
  marginPixels: number
  used: number
  cornersBefore: number
  cornersAfter: number
}

/**
 * Gives surfaces new UVs in one square; what else their corners carry goes along.
 * @example const { islands } = await unwrapPrimitives(document, surfaces, 1024, marginFor(1024, 32), progress)
 */
export async function unwrapPrimitives(
  document: Document,
  surfaces: readonly Primitive[],
  sidePixels: number,
  marginPixels: number,
  progress: ReportProgress,
): Promise<UnwrappedItem> {
  const inputs = surfaces.map((surface): UnwrapInput => readPrimitive(surface))
  const triangles = inputs.reduce((sum, { indices }) => sum + indices.length / 3, 0)
  await progress(
    0,
    triangles > SLOW_TRIANGLES
      ? `islands, about ${Math.ceil(triangles / TRIANGLES_A_SECOND)} s for ${formatCount(triangles)} triangles`
      : 'islands',
  )
  const made = await unwrapSurfaces(inputs, sidePixels, marginPixels)
  let cornersAfter = 0
  surfaces.forEach((surface, number) => {
    const { oldCorner, indices, uvs } = made.surfaces[number]
    gatherCorners(document, surface, oldCorner)
    writeAttribute(document, surface, 'TEXCOORD_0', uvs, 2)
    writeIndices(document, surface, indices, oldCorner.length)
    cornersAfter += oldCorner.length
  })
  return {
    islands: made.islands,
    marginPixels: made.marginPixels,
    used: made.used,
    cornersBefore: inputs.reduce((sum, { positions }) => sum + positions.length / 3, 0),
    cornersAfter,
  }
}
