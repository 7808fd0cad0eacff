import type { Document, Primitive } from '@gltf-transform/core'
import { getPrimitiveExtras, setPrimitiveExtras } from '../../item/extras.ts'
import { listLooks, materialInLook } from '../../item/looks.ts'
import { listAllParts } from '../../item/parts.ts'
import {
  dropUnusedAccessors,
  gatherCorners,
  readPrimitive,
  writeAttribute,
  writeIndices,
} from '../../item/primitive-arrays.ts'
import { mixHash } from '../../geometry/mesh/position-groups.ts'
import { compactCorners } from '../../geometry/mesh/reduce.ts'
import { makeTangents } from '../../geometry/surface/tangents.ts'

/**
 * Makes tangents for a surface that has normals and UVs; corners are split where they differ. False when it lacks them.
 *
 * @example for (const surface of surfaces) await writeTangents(document, surface)
 */
export async function writeTangents(document: Document, primitive: Primitive): Promise<boolean> {
  primitive.setAttribute('TANGENT', null)
  const { positions, normals, uvs, indices } = readPrimitive(primitive)
  if (!normals || !uvs || indices.length === 0) return false
  const frames = await makeTangents(positions, normals, uvs, indices)
  gatherCorners(document, primitive, frames.oldCorner)
  writeAttribute(document, primitive, 'TANGENT', frames.tangents, 4)
  const compact = compactCorners(frames.indices, frames.oldCorner.length)
  gatherCorners(document, primitive, compact.oldCorner)
  writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
  setPrimitiveExtras(primitive, { ...getPrimitiveExtras(primitive), tangentsFor: fingerprint(primitive) })
  return true
}

/**
 * Remembers what the present tangents were made for, before a step may change it.
 * @example stampTangents(document)
 */
export function stampTangents(document: Document): void {
  for (const primitive of withTangents(document)) {
    const extras = getPrimitiveExtras(primitive)
    if (extras.tangentsFor === undefined)
      setPrimitiveExtras(primitive, { ...extras, tangentsFor: fingerprint(primitive) })
  }
}

/**
 * Makes tangents new wherever positions, normals, UVs or triangles are others than those they were made for.
 * @param missing whether surfaces that show a normal map and have none get them too
 *
 * @example const renewed = await renewTangents(document)
 */
export async function renewTangents(document: Document, missing = false): Promise<number> {
  let renewed = 0
  if (missing)
    for (const primitive of withNormalMap(document))
      if (!primitive.getAttribute('TANGENT') && (await writeTangents(document, primitive))) renewed++
  for (const primitive of withTangents(document)) {
    if (getPrimitiveExtras(primitive).tangentsFor === fingerprint(primitive)) continue
    if (await writeTangents(document, primitive)) renewed++
  }
  if (renewed > 0) dropUnusedAccessors(document)
  return renewed
}

/** Surfaces with tangents, each once. */
function withTangents(document: Document): Set<Primitive> {
  return new Set(
    listAllParts(document)
      .flatMap((part) => part.mesh.listPrimitives())
      .filter((primitive) => primitive.getAttribute('TANGENT')),
  )
}

/** Surfaces that show a normal map in some look, each once. */
function withNormalMap(document: Document): Set<Primitive> {
  const looks = listLooks(document)
  const drawn = listAllParts(document).filter((part) => part.extras.role === 'part' || part.extras.role === 'level')
  return new Set(
    drawn
      .flatMap((part) => part.mesh.listPrimitives())
      .filter((primitive) => looks.some((look) => materialInLook(primitive, look)?.getNormalTexture())),
  )
}

/** A short number that changes with any value of positions, normals, UVs and triangles. */
function fingerprint(primitive: Primitive): string {
  const { positions, normals, uvs, indices } = readPrimitive(primitive)
  let [first, second] = [indices.length, positions.length]
  for (const array of [positions, normals, uvs, indices]) {
    if (!array) continue
    const words = new Uint32Array(array.buffer, array.byteOffset, array.length)
    for (let at = 0; at < words.length; at++) {
      first = mixHash(first, words[at], at)
      second = Math.imul(second ^ words[at], 0x01000193) >>> 0
    }
  }
  return `${first.toString(16)}${second.toString(16)}`
}
