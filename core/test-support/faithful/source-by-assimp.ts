import { createRequire } from 'node:module'
import * as THREE from 'three'
import type { FileSet } from './source-by-three.ts'
import { decodeWithPillow } from './other-pictures.ts'
import {
  averagedTo,
  sampleAt,
  type DrawnItem,
  type DrawnSurface,
  type Picture,
  type Shown,
  type Wrap,
} from './surface.ts'

interface Library {
  FileList: new () => { AddFile: (name: string, bytes: Uint8Array) => void }
  ConvertFileList: (
    list: unknown,
    format: string,
  ) => {
    IsSuccess: () => boolean
    GetErrorCode: () => string
    GetFile: (index: number) => { GetContent: () => Uint8Array }
  }
}

interface AssimpScene {
  rootnode: AssimpNode
  meshes?: {
    name: string
    materialindex: number
    vertices: number[]
    normals?: number[]
    texturecoords?: number[][]
    colors?: number[][]
    faces: number[][]
  }[]
  materials?: { properties: { key: string; semantic: number; value: unknown }[] }[]
  /** Times in ticks; turns as w, x, y, z. */
  animations?: {
    duration: number
    channels: {
      name: string
      positionkeys: [number, number[]][]
      rotationkeys: [number, number[]][]
      scalingkeys: [number, number[]][]
    }[]
  }[]
}

interface AssimpNode {
  name: string
  /** Row-major. */
  transformation: number[]
  meshes?: number[]
  children?: AssimpNode[]
}

let library: Promise<Library> | null = null

const nameOf = (path: string): string =>
  decodeURIComponent(path.replaceAll('\\', '/').split('/').pop() ?? path).toLowerCase()
const multiplyRows = (a: readonly number[], b: readonly number[]): number[] =>
  Array.from({ length: 16 }, (_, at) =>
    [0, 1, 2, 3].reduce((sum, k) => sum + a[Math.floor(at / 4) * 4 + k] * b[k * 4 + (at % 4)], 0),
  )

/** The number of a key before a tick, and how far it is to the next. */
function between(keys: readonly [number, number[]][], tick: number): [number[], number[], number] {
  const next = keys.findIndex(([time]) => time > tick)
  if (next === 0 || keys.length === 1) return [keys[0][1], keys[0][1], 0]
  if (next < 0) return [keys[keys.length - 1][1], keys[keys.length - 1][1], 0]
  return [keys[next - 1][1], keys[next][1], (tick - keys[next - 1][0]) / (keys[next][0] - keys[next - 1][0])]
}

/** Where the first clip holds a node, as a row-major matrix; null where it does not move it. */
function keyedMatrix(scene: AssimpScene, name: string, share: number | null): number[] | null {
  const clip = scene.animations?.[0]
  const channel = share === null ? undefined : clip?.channels.find((each) => each.name === name)
  if (!clip || !channel || share === null) return null
  // The game starts at 0 what begins later.
  const first = Math.min(...clip.channels.map((each) => each.rotationkeys[0][0]))
  const tick = first + (clip.duration - first) * share
  const line = (keys: readonly [number, number[]][]): number[] => {
    const [from, to, t] = between(keys, tick)
    return from.map((value, axis) => value + (to[axis] - value) * t)
  }
  const [q0, q1, t] = between(channel.rotationkeys, tick)
  const turn = new THREE.Quaternion(q0[1], q0[2], q0[3], q0[0]).slerp(
    new THREE.Quaternion(q1[1], q1[2], q1[3], q1[0]),
    t,
  )
  return new THREE.Matrix4()
    .compose(new THREE.Vector3(...line(channel.positionkeys)), turn, new THREE.Vector3(...line(channel.scalingkeys)))
    .transpose()
    .toArray()
}

/**
 * Everything that is drawn of a file, read by assimp; which space it puts it in is its own affair.
 * @param share how far the first clip has run, 0 to 1; at rest where nothing is said
 */
export async function readWithAssimp(
  main: string,
  files: FileSet,
  mostPixels: number,
  share: number | null = null,
): Promise<DrawnItem> {
  library ??= (createRequire(import.meta.url)('assimpjs') as () => Promise<Library>)()
  const assimp = await library
  const list = new assimp.FileList()
  for (const [path, bytes] of [...files].sort(([path]) => (path === main ? -1 : 1)))
    if (path === main || /\.(mtl|bin)$/i.test(path)) list.AddFile(path, bytes)
  const result = assimp.ConvertFileList(list, 'assjson')
  if (!result.IsSuccess()) throw new Error(result.GetErrorCode())
  const scene = JSON.parse(new TextDecoder().decode(result.GetFile(0).GetContent())) as AssimpScene
  // FBX says of corners what is shown, as of materials.
  if (/\.fbx$/i.test(main))
    for (const mesh of scene.meshes ?? []) mesh.colors = mesh.colors?.map((colours) => colours.map(linear))
  const pictures = picturesOf(scene, files, mostPixels)
  const surfaces: DrawnSurface[] = []
  const walk = (node: AssimpNode, parent: number[]): void => {
    const world = multiplyRows(parent, keyedMatrix(scene, node.name, share) ?? node.transformation)
    for (const mesh of node.meshes ?? []) surfaces.push(surfaceOf(scene, mesh, node.name, world, pictures))
    for (const child of node.children ?? []) walk(child, world)
  }
  walk(scene.rootnode, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])
  return { surfaces: surfaces.filter((surface) => surface.positions.length > 0) }
}

const linear = (value: number): number => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4)

const property = (scene: AssimpScene, material: number, key: string, semantic = 0): unknown =>
  scene.materials?.[material]?.properties.find((each) => each.key === key && each.semantic === semantic)?.value

const wraps: Record<number, Wrap> = { 0: 'repeat', 1: 'clamp', 2: 'mirror' }

function picturesOf(scene: AssimpScene, files: FileSet, mostPixels: number): Map<number, Picture> {
  const asked = (scene.materials ?? [])
    .map((_, material) => property(scene, material, '$tex.file', 1))
    .map((path) =>
      typeof path === 'string' ? [...files].find(([each]) => nameOf(each) === nameOf(path))?.[1] : undefined,
    )
  const decoded = decodeWithPillow(asked.filter((bytes) => bytes !== undefined))
  const pictures = new Map<number, Picture>()
  let at = 0
  asked.forEach((bytes, material) => {
    const picture = bytes ? decoded[at++] : null
    if (picture) pictures.set(material, averagedTo(picture, mostPixels))
  })
  return pictures
}

function surfaceOf(
  scene: AssimpScene,
  number: number,
  name: string,
  m: readonly number[],
  pictures: Map<number, Picture>,
): DrawnSurface {
  const mesh = (scene.meshes ?? [])[number]
  const [c0, c1, c2] = [
    [0, 4, 8],
    [1, 5, 9],
    [2, 6, 10],
  ].map((rows) => rows.map((at) => m[at]))
  const cross = (a: readonly number[], b: readonly number[]): number[] => [
    a[1] * b[2] - a[2] * b[1],
    a[2] * b[0] - a[0] * b[2],
    a[0] * b[1] - a[1] * b[0],
  ]
  const determinant = cross(c0, c1).reduce((sum, value, axis) => sum + value * c2[axis], 0)
  const mirrored = determinant < 0
  const cofactors = [cross(c1, c2), cross(c2, c0), cross(c0, c1)]
  const order = mesh.faces
    .filter((face) => face.length === 3)
    .flatMap(([a, b, c]) => (mirrored ? [a, c, b] : [a, b, c]))
  const positions = new Float32Array(order.length * 3)
  const normals = mesh.normals ? new Float32Array(order.length * 3) : null
  order.forEach((corner, at) => {
    for (let axis = 0; axis < 3; axis++)
      positions[at * 3 + axis] = [0, 1, 2].reduce(
        (sum, k) => sum + m[axis * 4 + k] * mesh.vertices[corner * 3 + k],
        m[axis * 4 + 3],
      )
    if (!normals || !mesh.normals) return
    const turned = [0, 1, 2].map(
      (axis) =>
        [0, 1, 2].reduce((sum, k) => sum + cofactors[k][axis] * (mesh.normals as number[])[corner * 3 + k], 0) *
        Math.sign(determinant),
    )
    const length = Math.hypot(...turned) || 1
    normals.set(
      turned.map((value) => value / length),
      at * 3,
    )
  })
  const diffuse = (property(scene, mesh.materialindex, '$clr.diffuse') as number[] | undefined) ?? [1, 1, 1]
  const picture = pictures.get(mesh.materialindex)
  const [moveU, moveV, scaleU, scaleV] = (property(scene, mesh.materialindex, '$tex.uvtrafo', 1) as
    number[] | undefined) ?? [0, 0, 1, 1]
  const wrap = wraps[Number(property(scene, mesh.materialindex, '$tex.mapmodeu', 1) ?? 0)] ?? 'repeat'
  const opacity = Number(property(scene, mesh.materialindex, '$mat.opacity') ?? 1)
  const corners = mesh.colors?.[0]
  const cornerSize = corners ? corners.length / (mesh.vertices.length / 3) : 0
  const uvs = mesh.texturecoords?.[0]
  const uvSize = uvs ? uvs.length / (mesh.vertices.length / 3) : 0
  const shown = (place: number, b: number, c: number): Shown => {
    const uv = (axis: number): number =>
      uvs
        ? [1 - b - c, b, c].reduce(
            (sum, weight, each) => sum + weight * uvs[order[place * 3 + each] * uvSize + axis],
            0,
          )
        : 0
    const base =
      picture && uvs ? sampleAt(picture, uv(0) * scaleU + moveU, 1 - (uv(1) * scaleV + moveV), wrap, wrap, true) : null
    const tint = (axis: number): number =>
      corners && axis < cornerSize
        ? [1 - b - c, b, c].reduce(
            (sum, weight, each) => sum + weight * corners[order[place * 3 + each] * cornerSize + axis],
            0,
          )
        : 1
    const colour = (base ? base.slice(0, 3) : diffuse.slice(0, 3).map(linear)).map(
      (value, axis) => value * tint(axis),
    ) as [number, number, number]
    return { colour, opacity, roughness: null, metalness: null, occlusion: null, glow: null }
  }
  // What it makes up for a mesh without a material, and what stands in for a picture that it could not have, is its own
  // affair.
  const asksInVain = !picture && typeof property(scene, mesh.materialindex, '$tex.file', 1) === 'string'
  const madeUp = property(scene, mesh.materialindex, '?mat.name') === 'DefaultMaterial'
  return {
    name,
    positions,
    normals,
    shown: asksInVain || madeUp ? null : shown,
    twoSided: false,
    cut: null,
    blended: false,
  }
}
