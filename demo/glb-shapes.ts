import type { Document, Material, Mesh, Node } from '@gltf-transform/core'
import { paint, toPng } from './paint.ts'
import { append, emptyMesh, gridBlock, type PolygonMesh } from './solid-shapes.ts'

/** Adds polygons as a mesh with flat normals, every polygon cut into a fan. */
export function addMesh(
  document: Document,
  name: string,
  polygons: PolygonMesh,
  material: Material,
  withUvs = true,
): Mesh {
  const positions: number[] = []
  const normals: number[] = []
  const uvs: number[] = []
  const indices: number[] = []
  for (const face of polygons.faces) {
    const base = positions.length / 3
    const normal = flatNormal(polygons, face.points)
    face.points.forEach((index, corner) => {
      positions.push(...polygons.points[index])
      normals.push(...normal)
      uvs.push(...polygons.uvs[face.uvs[corner]])
    })
    for (let corner = 1; corner + 1 < face.points.length; corner++) indices.push(base, base + corner, base + corner + 1)
  }
  const buffer = document.getRoot().listBuffers()[0]
  const accessor = (array: Float32Array | Uint16Array, type: 'VEC3' | 'VEC2' | 'SCALAR') =>
    document
      .createAccessor()
      .setArray(array as Float32Array<ArrayBuffer>)
      .setType(type)
      .setBuffer(buffer)
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor(new Float32Array(positions), 'VEC3'))
    .setAttribute('NORMAL', accessor(new Float32Array(normals), 'VEC3'))
  if (withUvs) primitive.setAttribute('TEXCOORD_0', accessor(new Float32Array(uvs), 'VEC2'))
  primitive.setIndices(accessor(new Uint16Array(indices), 'SCALAR')).setMaterial(material)
  return document.createMesh(name).addPrimitive(primitive)
}

/** Unit normal of a polygon's first three corners. */
export function flatNormal({ points }: PolygonMesh, corners: readonly number[]): number[] {
  const [a, b, c] = corners.map((index) => points[index])
  const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
  const v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]]
  const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
  const length = Math.hypot(...normal) || 1
  return normal.map((value) => value / length)
}

/** Swaps the Z-up shapes of our helpers to glTF's Y up. */
export function yUp(mesh: PolygonMesh): PolygonMesh {
  const copy = emptyMesh()
  append(copy, mesh, ([x, y, z]) => [x, z, -y])
  return copy
}

/** A block that stands on the ground, centred in x and y, Z up. */
export const box = (x: number, y: number, z: number, cells: [number, number, number] = [1, 1, 1]): PolygonMesh =>
  gridBlock({ cells, at: (u, v, w) => [(u - 0.5) * x, (v - 0.5) * y, w * z], uvAt: (_side, s, t) => [s, t] })

/** A material with a picture inside the file. */
export function paintedMaterial(
  document: Document,
  name: string,
  size: number,
  colourAt: Parameters<typeof paint>[2],
): Material {
  const picture = toPng(paint(size, size, colourAt))
  return document
    .createMaterial(name)
    .setBaseColorTexture(
      document
        .createTexture(`${name} col`)
        .setMimeType('image/png')
        .setImage(picture as Uint8Array<ArrayBuffer>)
        .setURI(`${name}.png`),
    )
    .setRoughnessFactor(0.8)
    .setMetallicFactor(0)
}

export const plainMaterial = (document: Document, name: string, colour: [number, number, number]): Material =>
  document
    .createMaterial(name)
    .setBaseColorFactor([...colour, 1])
    .setRoughnessFactor(0.8)
    .setMetallicFactor(0)

/** Turns about the up axis, swinging to and fro, as a sampled clip of one node. */
export function addSwing(
  document: Document,
  clip: string,
  node: Node,
  seconds: number,
  keysPerSecond: number,
  amplitudeRadians: number,
): void {
  const buffer = document.getRoot().listBuffers()[0]
  const count = Math.round(seconds * keysPerSecond) + 1
  const times = Float32Array.from({ length: count }, (_, key) => key / keysPerSecond)
  const turns = new Float32Array(count * 4)
  times.forEach((time, key) => {
    const angle = amplitudeRadians * Math.sin((time / seconds) * Math.PI * 2)
    turns.set([0, Math.sin(angle / 2), 0, Math.cos(angle / 2)], key * 4)
  })
  const sampler = document
    .createAnimationSampler()
    .setInput(document.createAccessor('times').setArray(times).setType('SCALAR').setBuffer(buffer))
    .setOutput(document.createAccessor('turns').setArray(turns).setType('VEC4').setBuffer(buffer))
  document
    .createAnimation(clip)
    .addSampler(sampler)
    .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath('rotation').setSampler(sampler))
}
