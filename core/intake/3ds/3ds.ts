import { identityMatrix } from '../../maths/axes.ts'
import {
  chainMatrices,
  invertMatrix,
  keepNear,
  rotationMatrix,
  scalingMatrix,
  transformedPoints,
  translationMatrix,
  type Matrix,
} from '../../maths/matrices.ts'
import { PlainError } from '../../support/plain-error.ts'
import type { MeshReader } from '../reader.ts'
import { buildDocument } from '../scene/build-document.ts'
import {
  sourceNode,
  type SourceFaces,
  type SourceMaterial,
  type SourceNode,
  type SourceTrack,
} from '../scene/source-scene.ts'
import { fileName, fileStem } from '../source-file.ts'
import { ChunkWalker } from './chunks.ts'
import { readFrame, type Frame3ds, type Track3ds } from './keyframes.ts'
import { readMaterial } from './materials.ts'
import { readObject, type Mesh3ds, type Object3ds } from './objects.ts'

/** The format counts frames; 30 a second is customary. */
const FRAMES_PER_SECOND = 30

interface File3ds {
  objects: Object3ds[]
  materials: SourceMaterial[]
  frames: Frame3ds[]
}

/**
 * Reads 3DS: meshes with materials, UVs and smoothing groups, lights, cameras, tree and motion. Neither unit nor axes
 * are declared.
 *
 * @example const { document } = await read3ds(main, files, {})
 */
export const read3ds: MeshReader = async (main, files, options) => {
  const content = readFile(main.bytes, fileName(main.path))
  const moves = content.frames.some((frame) =>
    [frame.positions, frame.rotations, frame.scales].some((track) => track.frames.length > 1),
  )
  const { roots, tracks } = moves ? keyedTree(content) : stillTree(content)
  return buildDocument(
    {
      name: fileStem(main.path),
      roots,
      materials: content.materials,
      clips: tracks.length > 0 ? [{ name: 'motion', tracks }] : [],
      units: { metresPerUnit: null, from: 'unknown' },
      axes: { up: '+z', forward: '-y', from: 'customary' },
    },
    main,
    files,
    options,
    new Set([main.path]),
  )
}

/** Objects, cameras, lights and spots: things may hang on any of them. */
const NODE_BLOCKS: ReadonlySet<number> = new Set([0xb002, 0xb003, 0xb005, 0xb007])

function readFile(bytes: Uint8Array, file: string): File3ds {
  const walker = new ChunkWalker(file)
  const reader = walker.open(bytes)
  if (bytes.length < 6 || (bytes[0] | (bytes[1] << 8)) !== 0x4d4d)
    throw new PlainError('it does not begin like a 3DS', file, 'Check the ending of its name.')
  const content: File3ds = { objects: [], materials: [], frames: [] }
  walker.each(reader, (_main, body) =>
    walker.each(body, (id, section) => {
      if (id === 0x3d3d) {
        walker.each(section, (inner, block) => {
          if (inner === 0xafff) content.materials.push(readMaterial(walker, block))
          if (inner === 0x4000) content.objects.push(readObject(walker, block))
        })
      } else if (id === 0xb000) {
        walker.each(section, (inner, block) => {
          if (NODE_BLOCKS.has(inner)) content.frames.push(readFrame(walker, block, content.frames.length))
        })
      }
    }),
  )
  return content
}

/**
 * Without motion, each object stands in its own frame and its points are brought into it: places come out as stored.
 */
function stillTree({ objects, materials, frames }: File3ds): { roots: SourceNode[]; tracks: SourceTrack[] } {
  const nodes = new Map<string, SourceNode>()
  const frameOf = new Map<string, Matrix>()
  for (const object of objects) {
    const inverse = invertMatrix(object.frame)
    const frame = inverse ? object.frame : identityMatrix()
    nodes.set(
      object.name,
      nodeOf(object, materials, frame, (points) => (inverse ? transformedPoints(points, inverse) : points)),
    )
    frameOf.set(object.name, frame)
  }
  const parentName = parentNames(frames, (name) => nodes.has(name))
  const roots: SourceNode[] = []
  for (const [name, node] of nodes) {
    const parent = parentName.get(name)
    const parentNode = parent === undefined ? undefined : nodes.get(parent)
    const inverse = parent === undefined ? null : invertMatrix(frameOf.get(parent) ?? identityMatrix())
    if (parentNode && inverse) {
      node.matrix = chainMatrices(inverse, node.matrix)
      parentNode.children.push(node)
    } else roots.push(node)
  }
  return { roots, tracks: [] }
}

/** Name of the nearest parent that is an object; rings among parents are cut. */
function parentNames(frames: readonly Frame3ds[], isObject: (name: string) => boolean): Map<string, string> {
  const byId = new Map(frames.map((frame) => [frame.id, frame]))
  const parents = new Map<string, string>()
  for (const frame of frames) {
    let above = frame.parent === null ? undefined : byId.get(frame.parent)
    for (let guard = 0; above && guard < frames.length && !isObject(above.name); guard++)
      above = above.parent === null ? undefined : byId.get(above.parent)
    if (above && isObject(above.name) && above !== frame && !leadsTo(parents, above.name, frame.name))
      parents.set(frame.name, above.name)
  }
  return parents
}

function leadsTo(parents: ReadonlyMap<string, string>, from: string, to: string): boolean {
  for (
    let name: string | undefined = from, guard = 0;
    name !== undefined && guard <= parents.size;
    guard++, name = parents.get(name)
  )
    if (name === to) return true
  return false
}

/** With motion, places come from the first keys, and points stand round the pivot. */
function keyedTree({ objects, materials, frames }: File3ds): { roots: SourceNode[]; tracks: SourceTrack[] } {
  const byName = new Map(objects.map((object) => [object.name, object]))
  const nodes = new Map<number, SourceNode>()
  const tracks: SourceTrack[] = []
  for (const frame of frames) {
    const object = byName.get(frame.name)
    byName.delete(frame.name)
    const [px, py, pz] = frame.pivot
    const inverse = object ? invertMatrix(object.frame) : null
    const intoPivot = chainMatrices(translationMatrix(-px, -py, -pz), inverse ?? identityMatrix())
    const node = object
      ? nodeOf(object, materials, firstPlace(frame), (points) => transformedPoints(points, intoPivot))
      : sourceNode(frame.name, firstPlace(frame))
    nodes.set(frame.id, node)
    for (const [path, track] of [
      ['translation', frame.positions],
      ['rotation', frame.rotations],
      ['scale', frame.scales],
    ] as const) {
      if (track.frames.length > 1) tracks.push(trackOf(node, path, track))
    }
  }
  const roots = frames.flatMap((frame) => {
    const node = nodes.get(frame.id) as SourceNode
    const parent = frame.parent === null ? undefined : nodes.get(frame.parent)
    if (!parent || parent === node || reaches(node, parent)) return [node]
    parent.children.push(node)
    return []
  })
  const unkeyed = [...byName.values()].map((object) => nodeOf(object, materials, identityMatrix(), (points) => points))
  return { roots: [...roots, ...unkeyed], tracks }
}

function reaches(from: SourceNode, to: SourceNode): boolean {
  const queue = [from]
  while (queue.length > 0) {
    const node = queue.pop() as SourceNode
    if (node === to) return true
    queue.push(...node.children)
  }
  return false
}

function firstPlace({ positions, rotations, scales }: Frame3ds): Matrix {
  const [x, y, z] = positions.values[0] ?? [0, 0, 0]
  const [qx, qy, qz, qw] = rotations.values[0] ?? [0, 0, 0, 1]
  const [sx, sy, sz] = scales.values[0] ?? [1, 1, 1]
  return chainMatrices(
    translationMatrix(x, y, z),
    rotationMatrix(qx, qy, qz, 2 * Math.acos(Math.min(1, Math.max(-1, qw)))),
    scalingMatrix(sx, sy, sz),
  )
}

function trackOf(node: SourceNode, path: SourceTrack['path'], track: Track3ds): SourceTrack {
  const values = Float32Array.from(track.values.flat())
  return {
    node,
    path,
    times: Float32Array.from(track.frames, (frame) => frame / FRAMES_PER_SECOND),
    values: path === 'rotation' ? keepNear(values) : values,
  }
}

function nodeOf(
  object: Object3ds,
  materials: readonly SourceMaterial[],
  matrix: Matrix,
  place: (points: Float32Array) => Float32Array,
): SourceNode {
  const node = sourceNode(object.name, matrix)
  if (object.camera) node.camera = true
  if (object.light) node.light = object.light
  if (object.mesh && object.mesh.faces.length > 0)
    node.mesh = { name: object.name, points: place(object.mesh.points), faces: facesOf(object.mesh, materials) }
  return node
}

/** Faces parted by their material; those that no list names have none. */
function facesOf(mesh: Mesh3ds, materials: readonly SourceMaterial[]): SourceFaces[] {
  const faceCount = mesh.faces.length / 3
  const materialOfFace = new Int32Array(faceCount).fill(-1)
  for (const group of mesh.materials) {
    const index = materials.findIndex((material) => material.name === group.name)
    for (const face of group.faces) if (face < faceCount) materialOfFace[face] = index
  }
  return [...new Set(materialOfFace)].map((material) => {
    const faces = [...materialOfFace.keys()].filter((face) => materialOfFace[face] === material)
    const corners = Uint32Array.from(
      faces.flatMap((face) => [mesh.faces[face * 3], mesh.faces[face * 3 + 1], mesh.faces[face * 3 + 2]]),
    )
    const { uvs, smoothing } = mesh
    return {
      material: material < 0 ? null : material,
      polygonSizes: new Uint8Array(faces.length).fill(3),
      corners,
      normals: null,
      uvs: uvs
        ? [Float32Array.from([...corners].flatMap((point) => [uvs[point * 2] ?? 0, 1 - (uvs[point * 2 + 1] ?? 1)]))]
        : [],
      colours: null,
      smoothing: smoothing ? faces.map((face) => smoothing[face]) : null,
    }
  })
}
