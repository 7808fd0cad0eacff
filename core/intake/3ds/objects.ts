import type { ByteReader } from '../../support/byte-reader.ts'
import { identityMatrix } from '../../maths/axes.ts'
import type { Matrix } from '../../maths/matrices.ts'
import type { SourceLight } from '../scene/source-scene.ts'
import type { ChunkWalker } from './chunks.ts'
import { readColour } from './materials.ts'

/** An object block: a mesh in scene space, a light or a camera. */
export interface Object3ds {
  name: string
  mesh: Mesh3ds | null
  light: SourceLight | null
  camera: boolean
  /** Local frame in the scene. */
  frame: Matrix
}

export interface Mesh3ds {
  points: Float32Array
  /** 2 numbers a point, or none. */
  uvs: Float32Array | null
  /** 3 points a face. */
  faces: Uint32Array
  smoothing: Uint32Array | null
  materials: { name: string; faces: Uint32Array }[]
}

const LONGEST_NAME = 4096

/**
 * An object block (0x4000), or null for what a game has no use for.
 * @example const object = readObject(walker, block)
 */
export function readObject(walker: ChunkWalker, block: ByteReader): Object3ds {
  const object: Object3ds = {
    name: block.textToZero(LONGEST_NAME),
    mesh: null,
    light: null,
    camera: false,
    frame: identityMatrix(),
  }
  walker.each(block, (id, content) => {
    if (id === 0x4100) object.mesh = readMesh(walker, content, object)
    else if (id === 0x4600) {
      place(object.frame, content)
      object.light = { type: 'point', colour: [1, 1, 1], intensity: 1 }
      const light = object.light
      walker.each(content, (inner, numbers) => {
        if (inner === 0x4610) light.type = 'spot'
        if (inner === 0x0010 || inner === 0x0011) light.colour = readColour(walker, rewound(numbers))
      })
    } else if (id === 0x4700) {
      place(object.frame, content)
      object.camera = true
    }
  })
  return object
}

/** A reader that stands on the chunk's own header again. */
const rewound = (content: ByteReader): ByteReader => {
  content.offset -= 6
  return content
}

function place(frame: Matrix, content: ByteReader): void {
  for (let axis = 0; axis < 3; axis++) frame[12 + axis] = content.float32()
}

function readMesh(walker: ChunkWalker, block: ByteReader, object: Object3ds): Mesh3ds {
  const mesh: Mesh3ds = {
    points: new Float32Array(0),
    uvs: null,
    faces: new Uint32Array(0),
    smoothing: null,
    materials: [],
  }
  walker.each(block, (id, content) => {
    if (id === 0x4110) mesh.points = readFloats(content, content.uint16() * 3)
    else if (id === 0x4140) mesh.uvs = readFloats(content, content.uint16() * 2)
    else if (id === 0x4160) {
      for (let column = 0; column < 4; column++)
        for (let row = 0; row < 3; row++) object.frame[column * 4 + row] = content.float32()
    } else if (id === 0x4120) readFaces(walker, content, mesh)
  })
  return mesh
}

function readFaces(walker: ChunkWalker, content: ByteReader, mesh: Mesh3ds): void {
  const count = content.uint16()
  mesh.faces = new Uint32Array(count * 3)
  for (let face = 0; face < count; face++) {
    for (let corner = 0; corner < 3; corner++) mesh.faces[face * 3 + corner] = content.uint16()
    content.uint16()
  }
  walker.each(content, (id, inner) => {
    if (id === 0x4150) mesh.smoothing = Uint32Array.from({ length: count }, () => inner.uint32())
    if (id === 0x4130)
      mesh.materials.push({
        name: inner.textToZero(LONGEST_NAME),
        faces: Uint32Array.from({ length: inner.uint16() }, () => inner.uint16()),
      })
  })
}

function readFloats(content: ByteReader, count: number): Float32Array {
  if (count * 4 > content.left) throw content.cutOff()
  return Float32Array.from({ length: count }, () => content.float32())
}
