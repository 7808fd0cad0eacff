import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { mergedTriangles, partsBounds, boundsSize } from '../../item/measure.ts'
import { listUsedMaterials, listViewParts, restMatrix } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { setMaterialMap } from '../../item/source-maps.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { cosineDirections, openness } from '../../geometry/surface/occlusion.ts'
import { createRayCaster } from '../../geometry/surface/ray-caster.ts'
import { cornerNormals, listTexels, unit, valueAt } from '../../geometry/uv/surface-texels.ts'
import { growEdges } from '../../pictures/grow-edges.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { addTexture, materialByBase, materialOptions } from '../../operations/maps/map-pixels.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatCount, formatLength } from '../../support/wording.ts'

const parameters = z.object({
  material: materialInItem,
  sidePixels: z.number().int().min(16).max(1024),
  rays: z.number().int().min(4).max(256),
  /** In game units. */
  reach: z.number().positive().max(1e6),
})

/** A pixel that more places of a surface show holds the mean of so many. */
const MOST_PLACES = 4

/** Texels between two reports of progress. */
const PIECE = 400

/** Works out how open to the sky each place of a material's surfaces is. */
export const bakeOcclusion = defineStep<z.infer<typeof parameters>>({
  id: 'bake-occlusion',
  version: 1,
  stage: 'surface',
  ofMaps: true,
  title: 'Bake occlusion',
  purpose:
    'Works out from the mesh how much each place is hidden by what stands near it, as an occlusion map to be ' +
    'packed or folded in.',
  parameters,
  fields: ({ document, rulebook }) => [
    { type: 'choice', key: 'material', label: 'Material', options: materialOptions(document, rulebook) },
    {
      type: 'choice',
      key: 'sidePixels',
      label: 'Map',
      options: [64, 128, 256, 512].map((side) => ({ value: side, label: `${side} × ${side} pixels` })),
    },
    {
      type: 'choice',
      key: 'rays',
      label: 'Rays a pixel',
      options: [8, 16, 32, 64].map((count) => ({ value: count, label: String(count) })),
    },
    {
      type: 'number',
      key: 'reach',
      label: 'Hidden within',
      unit: rulebook.space.unit.plural,
      least: 0.01,
      most: 1000,
      step: 0.1,
    },
  ],
  defaults: ({ document, rulebook }) => ({
    material: listUsedMaterials(document).map((material) => baseNameOf(material, rulebook))[0] ?? '',
    sidePixels: 128,
    rays: 16,
    reach: Math.max(0.01, Math.max(...boundsSize(partsBounds(listViewParts(document)))) * 0.25),
  }),
  propose: () => [],
  async run({ document, rulebook, parameters: { material: name, sidePixels, rays, reach }, progress }) {
    const material = materialByBase(document, rulebook, name)
    if (!material) return gonePart(name)
    const { positions, indices } = mergedTriangles(listViewParts(document))
    const caster = createRayCaster(positions, indices)
    const directions = cosineDirections(rays)
    const data = new Uint8Array(sidePixels * sidePixels * 4).fill(255)
    const sums = new Float32Array(sidePixels * sidePixels)
    const counts = new Uint16Array(sidePixels * sidePixels)
    const lift = reach * 1e-3
    const surfaces = surfacesWith(document, material, sidePixels)
    const total = surfaces.reduce((sum, { texels }) => sum + texels.count, 0)
    if (total === 0)
      return { headline: 'no UVs', details: [`${name} has no UVs to lay a map on. Unwrap it first.`], changed: false }
    let done = 0
    for (const { texels, places, normals, indices: triangles } of surfaces) {
      for (let number = 0; number < texels.count; number++) {
        if (++done % PIECE === 0) await progress(done / total, `${formatCount(done)} of ${formatCount(total)} pixels`)
        const normal = unit(valueAt(texels, number, triangles, normals, 3))
        const pixel = texels.pixel[number]
        // A fixed turn by the pixel's number, so that the same in gives the same out.
        sums[pixel] += openness(
          caster,
          valueAt(texels, number, triangles, places, 3),
          normal,
          directions,
          reach,
          lift,
          (pixel * 2.399963) % (2 * Math.PI),
        )
        counts[pixel]++
      }
    }
    let shared = 0
    for (let pixel = 0; pixel < counts.length; pixel++) {
      if (counts[pixel] === 0) continue
      if (counts[pixel] > 1) shared++
      data.fill(Math.round((sums[pixel] / counts[pixel]) * 255), pixel * 4, pixel * 4 + 3)
    }
    const picture = growEdges(
      { width: sidePixels, height: sidePixels, data },
      Uint8Array.from(counts, (count) => Math.min(1, count)),
    )
    setMaterialMap(
      document,
      material,
      'occlusion',
      addTexture(document, `${name}_occlusion`, 'occlusion', picture, 'baked'),
    )
    const details = [
      `${name}_occlusion, ${sidePixels} × ${sidePixels}: ${rays} rays a pixel, as far as ${formatLength(reach)} ` +
        `${rulebook.space.unit.plural}.`,
    ]
    if (shared > total * 0.02)
      details.push(
        `${Math.round((shared / total) * 100)} % of its pixels are shown by several places and hold their mean: ` +
          'unwrap the parts for a map of their own.',
      )
    return { headline: `${sidePixels} × ${sidePixels}`, details, changed: true }
  },
})

function surfacesWith(
  document: Document,
  material: Material,
  sidePixels: number,
): { texels: ReturnType<typeof listTexels>; places: Float32Array; normals: Float32Array; indices: Uint32Array }[] {
  return listViewParts(document).flatMap((part) =>
    part.mesh.listPrimitives().flatMap((primitive) => {
      if (primitive.getMaterial() !== material) return []
      const { positions, indices, uvs } = readPrimitive(primitive)
      if (!uvs) return []
      const places = transformedPoints(positions, restMatrix(part.node))
      return [
        {
          texels: listTexels({ uvs, indices }, sidePixels, sidePixels, MOST_PLACES),
          places,
          normals: cornerNormals(places, indices),
          indices,
        },
      ]
    }),
  )
}
