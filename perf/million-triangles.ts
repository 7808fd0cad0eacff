import type { Document } from '@gltf-transform/core'
import { createDocument, createIO } from '../core/item/io.ts'
import { itemScene } from '../core/item/parts.ts'
import { writeAttribute, writeIndices } from '../core/item/primitive-arrays.ts'
import { grain } from '../demo/noise.ts'
import { paint, stoneColour, stoneNormals, toPng } from '../demo/paint.ts'

/** A boulder of a million triangles with UVs, a colour and a normal map, as GLB: what a scan looks like. */
export const millionTriangles = async (): Promise<Uint8Array> => createIO().writeBinary(boulder(1_000_000))

/** A boulder of about so many triangles. */
export function boulder(triangles: number): Document {
  const rings = Math.round(Math.sqrt(triangles / 4))
  const sides = rings * 2
  const document = createDocument('boulder')
  const corners = (rings + 1) * (sides + 1)
  const positions = new Float32Array(corners * 3)
  const uvs = new Float32Array(corners * 2)
  const indices = new Uint32Array(rings * sides * 6)
  let index = 0
  for (let ring = 0; ring <= rings; ring++) {
    for (let side = 0; side <= sides; side++) {
      const corner = ring * (sides + 1) + side
      const polar = (ring / rings) * Math.PI
      const angle = ((side % sides) / sides) * Math.PI * 2
      const [x, y, z] = [Math.sin(polar) * Math.cos(angle), Math.cos(polar), Math.sin(polar) * Math.sin(angle)]
      const radius = 0.8 + 0.3 * grain(x * 3 + 5, y * 3, z * 3, 6)
      positions.set([x * radius, y * radius + 1, z * radius], corner * 3)
      uvs.set([side / sides, ring / rings], corner * 2)
      if (ring === rings || side === sides) continue
      indices.set([corner, corner + 1, corner + sides + 2, corner, corner + sides + 2, corner + sides + 1], index)
      index += 6
    }
  }
  const picture = (name: string, bytes: Uint8Array) =>
    document
      .createTexture(name)
      .setMimeType('image/png')
      .setURI(`${name}.png`)
      .setImage(bytes as Uint8Array<ArrayBuffer>)
  const material = document
    .createMaterial('boulder stone')
    .setBaseColorTexture(picture('boulder col', toPng(paint(1024, 1024, stoneColour))))
    .setNormalTexture(picture('boulder nrm', toPng(stoneNormals(512, 512))))
  const primitive = document.createPrimitive().setMaterial(material)
  writeAttribute(document, primitive, 'POSITION', positions, 3)
  writeAttribute(document, primitive, 'TEXCOORD_0', uvs, 2)
  writeIndices(document, primitive, indices, corners)
  itemScene(document).addChild(
    document.createNode('boulder').setMesh(document.createMesh('boulder').addPrimitive(primitive)),
  )
  return document
}
