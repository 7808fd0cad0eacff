import { normalRole } from '../../game/map-roles.ts'
import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { getRootExtras } from '../../item/extras.ts'
import { isMirroring, partsBounds, boundsSize } from '../../item/measure.ts'
import { countTriangles, listUsedMaterials, listViewParts, restMatrix, type Part } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { chainMatrices, transformedPoints } from '../../maths/matrices.ts'
import { dot } from '../../maths/vectors.ts'
import { createRayCaster } from '../../geometry/surface/ray-caster.ts'
import {
  cornerNormals,
  listTexels,
  pictureDirections,
  toPicture,
  unit,
  valueAt,
} from '../../geometry/uv/surface-texels.ts'
import { flipGreen } from '../../pictures/normal-direction.ts'
import { growEdges } from '../../pictures/grow-edges.ts'
import { resizePixels } from '../../pictures/resize.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { addTexture, materialByBase, materialOptions } from '../../operations/maps/map-pixels.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatCount, formatLength } from '../../support/wording.ts'

const parameters = z.object({
  material: materialInItem,
  sidePixels: z.number().int().min(16).max(2048),
  /** How far the full mesh may lie from the present one, in game units. */
  reach: z.number().positive().max(1e6),
})

/** Texels between two reports of progress. */
const PIECE = 2000

/** Lays the shape of the mesh as it came onto the reduced one, as a normal map. */
export const bakeNormals = defineStep<z.infer<typeof parameters>>({
  id: 'bake-normals',
  version: 2,
  stage: 'surface',
  ofMaps: true,
  title: 'Bake normals',
  purpose:
    'Looks from each place of the present mesh at the mesh as it came, and keeps how that lies as a normal map: ' +
    'fine shapes are seen without their triangles.',
  parameters,
  fields: ({ document, rulebook }) => [
    { type: 'choice', key: 'material', label: 'Material', options: materialOptions(document, rulebook) },
    {
      type: 'choice',
      key: 'sidePixels',
      label: 'Map',
      options: [128, 256, 512, 1024]
        .filter((side) => side <= rulebook.maps.largestPixels)
        .map((side) => ({ value: side, label: `${side} × ${side} pixels` })),
    },
    {
      type: 'number',
      key: 'reach',
      label: 'Looks as far as',
      unit: rulebook.space.unit.plural,
      least: 0.001,
      most: 100,
      step: 0.01,
    },
  ],
  defaults: ({ document, rulebook }) => ({
    material: listUsedMaterials(document).map((material) => baseNameOf(material, rulebook))[0] ?? '',
    sidePixels: Math.min(512, rulebook.maps.largestPixels),
    reach: Math.max(0.001, Math.max(...boundsSize(partsBounds(listViewParts(document)))) * 0.02),
  }),
  propose: () => [],
  async run({ document, source, rulebook, parameters: { material: name, sidePixels, reach }, progress }) {
    const material = materialByBase(document, rulebook, name)
    if (!material) return gonePart(name)
    if (!source) return { headline: 'no source', details: ['The mesh as it came is not at hand.'], changed: false }
    const full = fullMesh(source, getRootExtras(document.getRoot()).fit)
    const caster = createRayCaster(full.positions, full.indices)
    const data = new Uint8Array(sidePixels * sidePixels * 4)
    for (let at = 0; at < data.length; at += 4) data.set([128, 128, 255, 255], at)
    const covered = new Uint8Array(sidePixels * sidePixels)
    const surfaces = listViewParts(document).flatMap((part) =>
      part.mesh
        .listPrimitives()
        .filter((primitive) => primitive.getMaterial() === material)
        .map((primitive) => ({ part, primitive })),
    )
    let [reached, total] = [0, 0]
    for (const [number, { part, primitive }] of surfaces.entries()) {
      const { positions, indices, uvs, normals: given } = readPrimitive(primitive)
      if (!uvs) continue
      const places = transformedPoints(positions, restMatrix(part.node))
      const smooth = given ? turnedNormals(given, part) : cornerNormals(places, indices)
      const directions = pictureDirections(places, uvs, indices)
      const texels = listTexels({ uvs, indices }, sidePixels, sidePixels)
      for (let each = 0; each < texels.count; each++) {
        if (each % PIECE === 0)
          await progress(
            (number + each / texels.count) / surfaces.length,
            `${formatCount(each)} of ${formatCount(texels.count)} pixels`,
          )
        const place = valueAt(texels, each, indices, places, 3)
        const normal = unit(valueAt(texels, each, indices, smooth, 3))
        total++
        const pixel = texels.pixel[each]
        covered[pixel] = 1
        const hit = caster.first(
          place.map((value, axis) => value + normal[axis] * reach),
          normal.map((value) => -value),
        )
        if (!hit || hit.distance > reach * 2 || !hit.front) continue
        const met = place.map((value, axis) => value + normal[axis] * (reach - hit.distance))
        const seen = toPicture(normalOnTriangle(full, hit.triangle, met), directions, texels.triangle[each], normal)
        for (let axis = 0; axis < 3; axis++) data[pixel * 4 + axis] = Math.round((seen[axis] + 1) * 127.5)
        reached++
      }
    }
    if (total === 0)
      return { headline: 'no UVs', details: [`${name} has no UVs to lay a map on. Unwrap it first.`], changed: false }
    const grown = growEdges({ width: sidePixels, height: sidePixels, data }, covered)
    const down = normalRole(rulebook)?.normalY === 'down'
    const picture = resizePixels(down ? flipGreen(grown) : grown, sidePixels, sidePixels, 'normal')
    material.setNormalTexture(addTexture(document, `${name}_normal`, 'normal', picture, 'baked'))
    return {
      headline: `${Math.round((reached / total) * 100)} % met`,
      details: [
        `${name}_normal, ${sidePixels} × ${sidePixels}: ${formatCount(countTriangles(listViewParts(source)))} ` +
          `triangles seen from ${formatCount(countTriangles(listViewParts(document)))}, within ` +
          `${formatLength(reach)} ${rulebook.space.unit.plural}.`,
        `${Math.round((reached / total) * 100)} % of its pixels met the full mesh; the rest lie flat.`,
      ],
      changed: true,
    }
  },
})

interface FullMesh {
  positions: Float32Array
  normals: Float32Array
  indices: Uint32Array
}

/** The mesh as it came, in the present space, with its own normals where it has them. */
function fullMesh(source: Document, fit: readonly number[] | undefined): FullMesh {
  const pieces = listViewParts(source).flatMap((part) => {
    const matrix = fit ? chainMatrices([...fit], [...restMatrix(part.node)]) : [...restMatrix(part.node)]
    return part.mesh.listPrimitives().map((primitive) => {
      const { positions, indices } = readPrimitive(primitive)
      const places = transformedPoints(positions, matrix)
      const wound = isMirroring(matrix)
        ? indices.map((_, at) => indices[at % 3 === 0 ? at : at % 3 === 1 ? at + 1 : at - 1])
        : indices
      return { places, wound, normals: cornerNormals(places, wound) }
    })
  })
  const corners = pieces.reduce((sum, { places }) => sum + places.length / 3, 0)
  const full = {
    positions: new Float32Array(corners * 3),
    normals: new Float32Array(corners * 3),
    indices: new Uint32Array(pieces.reduce((sum, { wound }) => sum + wound.length, 0)),
  }
  let [corner, index] = [0, 0]
  for (const { places, wound, normals } of pieces) {
    full.positions.set(places, corner * 3)
    full.normals.set(normals, corner * 3)
    for (const each of wound) full.indices[index++] = each + corner
    corner += places.length / 3
  }
  return full
}

function turnedNormals(normals: Float32Array, part: Part): Float32Array {
  const matrix = [...restMatrix(part.node)]
  matrix[12] = matrix[13] = matrix[14] = 0
  return transformedPoints(normals, matrix)
}

/** The interpolated normal at a place on a triangle (barycentric weights by areas). */
function normalOnTriangle(
  { positions, normals, indices }: FullMesh,
  triangle: number,
  place: readonly number[],
): number[] {
  const corners = [0, 1, 2].map((each) => indices[triangle * 3 + each])
  const at = (corner: number, axis: number): number => positions[corner * 3 + axis]
  const edge = (from: number, to: number | readonly number[]): number[] =>
    [0, 1, 2].map((axis) => (typeof to === 'number' ? at(to, axis) : to[axis]) - at(from, axis))
  const [v0, v1, v2] = [edge(corners[0], corners[1]), edge(corners[0], corners[2]), edge(corners[0], place)]
  const [d00, d01, d11, d20, d21] = [dot(v0, v0), dot(v0, v1), dot(v1, v1), dot(v2, v0), dot(v2, v1)]
  const area = d00 * d11 - d01 * d01
  if (area === 0) return [normals[corners[0] * 3], normals[corners[0] * 3 + 1], normals[corners[0] * 3 + 2]]
  const b = (d11 * d20 - d01 * d21) / area
  const c = (d00 * d21 - d01 * d20) / area
  const weights = [1 - b - c, b, c]
  return [0, 1, 2].map((axis) =>
    corners.reduce((sum, corner, each) => sum + normals[corner * 3 + axis] * weights[each], 0),
  )
}
