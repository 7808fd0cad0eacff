import { createDocument, createIO } from '../core/document/io.ts'
import { KHRLightsPunctual } from '@gltf-transform/extensions'
import type { Document, Material, Mesh } from '@gltf-transform/core'
import { bronzeColour, ironColour, paint, timberColour, toPng } from './paint.ts'
import { emptyMesh, append, gridBlock, turned, type PolygonMesh } from './solid-shapes.ts'

const sway = { seconds: 2, keysPerSecond: 48 }

function addMesh(document: Document, name: string, polygons: PolygonMesh, material: Material): Mesh {
  const positions: number[] = []
  const normals: number[] = []
  const uvs: number[] = []
  const indices: number[] = []
  for (const face of polygons.faces) {
    const base = positions.length / 3
    const [a, b, c] = face.points.map((index) => polygons.points[index])
    const e1 = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
    const e2 = [c[0] - a[0], c[1] - a[1], c[2] - a[2]]
    const normal = [e1[1] * e2[2] - e1[2] * e2[1], e1[2] * e2[0] - e1[0] * e2[2], e1[0] * e2[1] - e1[1] * e2[0]]
    const length = Math.hypot(...normal) || 1
    face.points.forEach((index, corner) => {
      positions.push(...polygons.points[index])
      normals.push(...normal.map((value) => value / length))
      uvs.push(...polygons.uvs[face.uvs[corner]])
    })
    for (let corner = 1; corner + 1 < face.points.length; corner++) indices.push(base, base + corner, base + corner + 1)
  }
  const buffer = document.getRoot().listBuffers()[0]
  const accessor = (array: Float32Array | Uint16Array, type: 'VEC3' | 'VEC2' | 'SCALAR') =>
    document.createAccessor().setArray(array as Float32Array<ArrayBuffer>).setType(type).setBuffer(buffer)
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor(new Float32Array(positions), 'VEC3'))
    .setAttribute('NORMAL', accessor(new Float32Array(normals), 'VEC3'))
    .setAttribute('TEXCOORD_0', accessor(new Float32Array(uvs), 'VEC2'))
    .setIndices(accessor(new Uint16Array(indices), 'SCALAR'))
    .setMaterial(material)
  return document.createMesh(name).addPrimitive(primitive)
}

/** Swaps the Z-up shapes of our helpers to glTF's Y up. */
function yUp(mesh: PolygonMesh): PolygonMesh {
  const copy = emptyMesh()
  append(copy, mesh, ([x, y, z]) => [x, z, -y])
  return copy
}

/**
 * The Mooring bell: a post (its scale not baked), an arm that swings at 48 keys a second and
 * does not come back to where it began, a bell on it, and a camera and a lamp left inside.
 */
export async function bellGlb(): Promise<Uint8Array> {
  const document = createDocument('Mooring bell')
  const buffer = document.getRoot().listBuffers()[0]
  const material = (name: string, picture: Uint8Array): Material =>
    document
      .createMaterial(name)
      .setBaseColorTexture(document.createTexture(`${name} col`).setMimeType('image/png').setImage(picture as Uint8Array<ArrayBuffer>).setURI(`${name}.png`))
      .setRoughnessFactor(0.8)
      .setMetallicFactor(0)
  const timber = material('post wood', toPng(paint(256, 256, timberColour)))
  const iron = material('arm iron', toPng(paint(128, 128, ironColour)))
  const bronze = material('bell bronze', toPng(paint(256, 256, bronzeColour)))

  const box = (x: number, y: number, z: number, cells: [number, number, number]): PolygonMesh =>
    gridBlock({ cells, at: (u, v, w) => [(u - 0.5) * x, (v - 0.5) * y, w * z], uvAt: (_side, s, t) => [s, t] })
  const post = document
    .createNode('Post')
    .setMesh(addMesh(document, 'post', yUp(box(20, 20, 190, [2, 2, 12])), timber))
    .setScale([0.01, 0.01, 0.01])
  const arm = document
    .createNode('Swing arm')
    .setMesh(addMesh(document, 'arm', yUp(box(0.9, 0.07, 0.07, [8, 1, 1])), iron))
    .setTranslation([0.35, 1.8, 0])
  const profile: [number, number][] = [[0.17, 0], [0.16, 0.02], [0.12, 0.08], [0.09, 0.18], [0.075, 0.24], [0.03, 0.28]]
  const bell = document
    .createNode('Bell')
    .setMesh(addMesh(document, 'bell', yUp(turned(profile, 32, [2, 0.2])), bronze))
    .setTranslation([0.28, -0.3, 0])
  arm.addChild(bell)

  const count = sway.seconds * sway.keysPerSecond + 1
  const times = Float32Array.from({ length: count }, (_, key) => key / sway.keysPerSecond)
  const turns = new Float32Array(count * 4)
  times.forEach((seconds, key) => {
    const angle = 0.35 * Math.sin((seconds / sway.seconds) * Math.PI * 1.9)
    turns.set([0, Math.sin(angle / 2), 0, Math.cos(angle / 2)], key * 4)
  })
  const sampler = document
    .createAnimationSampler()
    .setInput(document.createAccessor('times').setArray(times).setType('SCALAR').setBuffer(buffer))
    .setOutput(document.createAccessor('turns').setArray(turns).setType('VEC4').setBuffer(buffer))
  const channel = document.createAnimationChannel().setTargetNode(arm).setTargetPath('rotation').setSampler(sampler)
  document.createAnimation('sway').addSampler(sampler).addChannel(channel)

  const camera = document.createNode('Camera').setCamera(document.createCamera('Camera').setType('perspective').setYFov(0.8)).setTranslation([2, 1.6, 4])
  const lights = document.createExtension(KHRLightsPunctual)
  const lamp = document.createNode('Lamp').setTranslation([1, 3, 1])
  lamp.setExtension('KHR_lights_punctual', lights.createLight('Lamp').setType('point').setIntensity(50))
  const scene = document.getRoot().listScenes()[0]
  for (const node of [post, arm, camera, lamp]) scene.addChild(node)
  return createIO().writeBinary(document)
}
