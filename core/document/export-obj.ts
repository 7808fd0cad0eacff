import type { Document } from '@gltf-transform/core'
import { listViewParts, restMatrix } from './parts.ts'
import { readPrimitive } from './primitive-arrays.ts'
import { transformPoints } from './measure.ts'

/** The item's parts as Wavefront OBJ: positions in the scene, UVs with V upward, normals left to the reader. */
export function exportObj(document: Document): string {
  const lines: string[] = ['# written by Gentle Crate']
  let pointBase = 1
  let uvBase = 1
  const shown = (value: number): string => String(Number(value.toFixed(6)))
  for (const part of listViewParts(document)) {
    lines.push(`o ${part.name}`)
    for (const primitive of part.mesh.listPrimitives()) {
      const { positions, indices, uvs } = readPrimitive(primitive)
      const world = new Float32Array(positions.length)
      transformPoints(positions, restMatrix(part.node), world)
      for (let at = 0; at < world.length; at += 3) lines.push(`v ${shown(world[at])} ${shown(world[at + 1])} ${shown(world[at + 2])}`)
      if (uvs) for (let at = 0; at < uvs.length; at += 2) lines.push(`vt ${shown(uvs[at])} ${shown(1 - uvs[at + 1])}`)
      const material = primitive.getMaterial()
      if (material) lines.push(`usemtl ${material.getName()}`)
      const corner = (index: number): string => (uvs ? `${index + pointBase}/${index + uvBase}` : String(index + pointBase))
      for (let at = 0; at < indices.length; at += 3) lines.push(`f ${corner(indices[at])} ${corner(indices[at + 1])} ${corner(indices[at + 2])}`)
      pointBase += positions.length / 3
      if (uvs) uvBase += uvs.length / 2
    }
  }
  return `${lines.join('\n')}\n`
}
