import { createHash } from 'node:crypto'
import { zipSync } from 'fflate'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import type { Rulebook } from '../../game/schema.ts'
import { ball } from '../meshes.ts'
import { tarnAndTiller } from '../prepared-gate.ts'

/**
 * A pack written from nothing, by code that knows the files alone and shares nothing with the project's own packer: a
 * keg with a lid, levels, shadow meshes and a solid, two materials, four maps. Spoilers change it in place before it is
 * put together.
 */
export interface RawPack {
  gltf: RawGltf
  binary: Uint8Array
  entry: Record<string, unknown>
  look: { look: string; materials: Record<string, { shading: string; maps: Record<string, string> }> }
  maps: Map<string, Uint8Array>
  /** Further files, and changes to whole files after everything is written. */
  finish: ((files: Map<string, Uint8Array>) => void)[]
  /** Changes to the mesh file as it lies. */
  finishMesh: ((glb: Uint8Array) => Uint8Array)[]
  /** Changes to the manifest; files and checksums are already right. */
  manifest: Record<string, unknown>
  /** Changes to the archive. */
  finishArchive: ((zip: Uint8Array) => Uint8Array)[]
}

export interface RawGltf extends Record<string, unknown> {
  scene: number
  scenes: { nodes: number[] }[]
  nodes: (Record<string, unknown> & {
    name: string
    children?: number[]
    mesh?: number
    extras?: Record<string, unknown>
  })[]
  meshes: { primitives: RawPrimitive[] }[]
  accessors: {
    bufferView: number
    byteOffset?: number
    componentType: number
    count: number
    type: string
    normalized?: boolean
    min?: number[]
    max?: number[]
  }[]
  bufferViews: { buffer: number; byteOffset: number; byteLength: number; byteStride?: number }[]
  buffers: { byteLength: number; uri?: string }[]
  materials: { name: string }[]
}
export type RawPrimitive = Record<string, unknown> & {
  attributes: Record<string, number>
  indices?: number
  material?: number
  mode?: number
}

/** Tarn & Tiller, but for small things that need coarser levels as well: judging two hundred of them takes less. */
export const kegRulebook: Rulebook = {
  ...tarnAndTiller,
  levels: { ...tarnAndTiller.levels, neededAboveTriangles: 200 },
}

export const FOLDER = 'items/props/keg'
export const wood = 'keg_wood@timber'
export const iron = 'keg_iron@iron'
export const mapPath = (name: string): string => `${FOLDER}/maps/${name}.dds`

/** Numbers of nodes, for spoilers. */
export const NODE = {
  root: 0,
  body: 1,
  lid: 2,
  bodyLevel1: 3,
  bodyLevel2: 4,
  bodyShadow: 5,
  solid: 6,
  lidLevel1: 7,
  lidLevel2: 8,
  lidShadow: 9,
}

export function rawPack(): RawPack {
  const pack: RawPack = {
    gltf: {
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: [],
      meshes: [],
      accessors: [],
      bufferViews: [],
      buffers: [],
      materials: [{ name: wood }, { name: iron }],
    },
    binary: new Uint8Array(0),
    entry: {
      item: 'keg',
      kind: 'prop',
      category: 'props',
      mesh: `${FOLDER}/keg.glb`,
      looks: [`${FOLDER}/looks/plain.json`],
    },
    look: {
      look: 'plain',
      materials: {
        [wood]: {
          shading: 'mixed',
          maps: { colour: mapPath('keg_wood_col'), normal: mapPath('keg_wood_nrm'), mixed: mapPath('keg_wood_mix') },
        },
        [iron]: { shading: 'plain', maps: { colour: mapPath('keg_iron_col') } },
      },
    },
    maps: new Map([
      [mapPath('keg_wood_col'), rawDds(16, 16, 99)],
      [mapPath('keg_wood_nrm'), rawDds(16, 16, 83)],
      [mapPath('keg_wood_mix'), rawDds(16, 16, 98)],
      [mapPath('keg_iron_col'), rawDds(16, 8, 72)],
    ]),
    finish: [],
    finishMesh: [],
    manifest: {},
    finishArchive: [],
  }
  const lid = boxMesh({ min: [-1, 3.8, -1], max: [1, 4.4, 1] })
  const keg = (rings: number): TriangleSoup => ball(2, rings, [0, 2, 0])
  const solid = { surface: 'timber', layers: ['ground', 'walls'], mass: null }
  pack.gltf.nodes = [
    { name: 'keg', children: [NODE.body, NODE.lid] },
    {
      name: 'body',
      mesh: addMesh(pack, keg(10), 0),
      children: [NODE.bodyLevel1, NODE.bodyLevel2, NODE.bodyShadow, NODE.solid],
    },
    { name: 'lid', mesh: addMesh(pack, lid, 1), children: [NODE.lidLevel1, NODE.lidLevel2, NODE.lidShadow] },
    { name: 'body_l1', mesh: addMesh(pack, keg(6), 0) },
    { name: 'body_l2', mesh: addMesh(pack, keg(4), 0) },
    { name: 'body_shadow', mesh: addMesh(pack, keg(4), null) },
    { name: 'solid_hull_01', mesh: addMesh(pack, ball(1.9, 4, [0, 2, 0]), null), extras: solid },
    { name: 'lid_l1', mesh: addMesh(pack, lid, 1) },
    { name: 'lid_l2', mesh: addMesh(pack, lid, 1) },
    { name: 'lid_shadow', mesh: addMesh(pack, lid, null) },
  ]
  return pack
}

/** Adds a mesh of one primitive with normals, tangents and UVs; returns its number. */
export function addMesh(pack: RawPack, { positions, indices }: TriangleSoup, material: number | null): number {
  const corners = positions.length / 3
  const normals = cornerNormals(positions, indices)
  const tangents = Float32Array.from(
    { length: corners * 4 },
    (_, at) => acrossNormal(normals.subarray(Math.floor(at / 4) * 3, Math.floor(at / 4) * 3 + 3))[at % 4],
  )
  const uvs = Float32Array.from({ length: corners * 2 }, (_, at) =>
    at % 2 === 0 ? positions[(at / 2) * 3] / 10 : positions[((at - 1) / 2) * 3 + 1] / 10,
  )
  const attributes = {
    POSITION: addAccessor(pack, positions, 'VEC3'),
    NORMAL: addAccessor(pack, normals, 'VEC3'),
    TANGENT: addAccessor(pack, tangents, 'VEC4'),
    TEXCOORD_0: addAccessor(pack, uvs, 'VEC2'),
  }
  const primitive: RawPrimitive = { attributes, indices: addAccessor(pack, Uint16Array.from(indices), 'SCALAR') }
  if (material !== null) primitive.material = material
  pack.gltf.meshes.push({ primitives: [primitive] })
  return pack.gltf.meshes.length - 1
}

const sizes: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT4: 16 }
const componentTypes = new Map<unknown, number>([
  [Uint8Array, 5121],
  [Uint16Array, 5123],
  [Uint32Array, 5125],
  [Float32Array, 5126],
])

/** Adds an array as an accessor of a buffer view of its own; returns its number. */
export function addAccessor(
  pack: RawPack,
  values: Uint8Array | Uint16Array | Uint32Array | Float32Array,
  type: string,
  normalized = false,
): number {
  const start = Math.ceil(pack.binary.length / 4) * 4
  const grown = new Uint8Array(start + Math.ceil(values.byteLength / 4) * 4)
  grown.set(pack.binary)
  grown.set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), start)
  pack.binary = grown
  pack.gltf.bufferViews.push({ buffer: 0, byteOffset: start, byteLength: values.byteLength })
  const bounds =
    type === 'VEC3' && values instanceof Float32Array
      ? {
          min: [0, 1, 2].map((axis) => Math.min(...values.filter((_, at) => at % 3 === axis))),
          max: [0, 1, 2].map((axis) => Math.max(...values.filter((_, at) => at % 3 === axis))),
        }
      : {}
  pack.gltf.accessors.push({
    bufferView: pack.gltf.bufferViews.length - 1,
    componentType: componentTypes.get(values.constructor) ?? 0,
    count: values.length / sizes[type],
    type,
    ...(normalized ? { normalized } : {}),
    ...bounds,
  })
  return pack.gltf.accessors.length - 1
}

function cornerNormals(p: Float32Array, indices: Uint32Array): Float32Array {
  const normals = new Float32Array(p.length)
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
    const [u, v] = [
      [0, 1, 2].map((axis) => p[b + axis] - p[a + axis]),
      [0, 1, 2].map((axis) => p[c + axis] - p[a + axis]),
    ]
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    for (const corner of [a, b, c]) for (let axis = 0; axis < 3; axis++) normals[corner + axis] += n[axis]
  }
  for (let at = 0; at < normals.length; at += 3) {
    const length = Math.hypot(normals[at], normals[at + 1], normals[at + 2]) || 1
    for (let axis = 0; axis < 3; axis++) normals[at + axis] /= length
  }
  return normals
}

function acrossNormal([x, y, z]: Float32Array): number[] {
  const across = Math.abs(y) < 0.9 ? [z, 0, -x] : [0, -z, y]
  const length = Math.hypot(...across) || 1
  return [...across.map((value) => value / length), 1]
}

/** A DDS of empty blocks with all its levels, header and all (Microsoft, DDS_HEADER and DDS_HEADER_DXT10). */
export function rawDds(
  width: number,
  height: number,
  dxgiFormat: number,
  levels = 1 + Math.floor(Math.log2(Math.max(width, height))),
): Uint8Array {
  const blockBytes = [71, 72, 80].includes(dxgiFormat) ? 8 : 16
  let bytes = 148
  for (let level = 0; level < levels; level++)
    bytes += Math.max(1, Math.ceil((width >> level) / 4)) * Math.max(1, Math.ceil((height >> level) / 4)) * blockBytes
  const file = new Uint8Array(bytes)
  const view = new DataView(file.buffer)
  const words: [number, number][] = [
    [0, 0x20534444],
    [4, 124],
    [8, 0xa1007],
    [12, height],
    [16, width],
    [20, 64],
    [28, levels],
    [76, 32],
    [80, 4],
    [84, 0x30315844],
    [108, 0x401008],
    [128, dxgiFormat],
    [132, 3],
    [140, 1],
  ]
  for (const [offset, value] of words) view.setUint32(offset, value, true)
  return file
}

/** Everything put together as one archive; manifest and checksums are right unless a spoiler says otherwise. */
export function assemble(pack: RawPack): Uint8Array {
  const json = (value: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify(value))
  const files = new Map<string, Uint8Array>([
    [`${FOLDER}/entry.json`, json(pack.entry)],
    [`${FOLDER}/keg.glb`, pack.finishMesh.reduce((glb, change) => change(glb), glbOf(pack))],
    [`${FOLDER}/looks/plain.json`, json(pack.look)],
    ...pack.maps,
  ])
  for (const change of pack.finish) change(files)
  const listed = [...files].map(([path, bytes]) => ({
    path,
    bytes: bytes.length,
    sha256: createHash('sha256').update(bytes).digest('hex'),
  }))
  const manifest = {
    game: 'tarn-and-tiller',
    version: '1.6',
    title: 'Keg',
    items: [{ name: 'keg', kind: 'prop' }],
    files: listed,
    ...pack.manifest,
  }
  const zip = zipSync(Object.fromEntries([['manifest.json', json(manifest)], ...files]), { level: 0 })
  return pack.finishArchive.reduce<Uint8Array>((bytes, change) => change(bytes), zip)
}

function glbOf({ gltf, binary }: RawPack): Uint8Array {
  if (gltf.buffers.length === 0) gltf.buffers = [{ byteLength: binary.length }]
  const text = new TextEncoder().encode(JSON.stringify(gltf).replaceAll('"<huge>"', '1e999'))
  const padded = Math.ceil(text.length / 4) * 4
  const glb = new Uint8Array(28 + padded + binary.length).fill(0x20, 20)
  const view = new DataView(glb.buffer)
  ;[0x46546c67, 2, glb.length, padded, 0x4e4f534a].forEach((word, at) => view.setUint32(at * 4, word, true))
  glb.set(text, 20)
  view.setUint32(20 + padded, binary.length, true)
  view.setUint32(24 + padded, 0x004e4942, true)
  glb.set(binary, 28 + padded)
  return glb
}

/** The numbers of an accessor where they lie, to be written into. */
export function floatsOf(pack: RawPack, accessor: number): Float32Array {
  const { bufferView, count, type } = pack.gltf.accessors[accessor]
  return new Float32Array(pack.binary.buffer, pack.gltf.bufferViews[bufferView].byteOffset, count * sizes[type])
}

export function wholeOf(pack: RawPack, accessor: number): Uint16Array {
  const { bufferView, count } = pack.gltf.accessors[accessor]
  return new Uint16Array(pack.binary.buffer, pack.gltf.bufferViews[bufferView].byteOffset, count)
}

export const primitiveOf = (pack: RawPack, node: number): RawPrimitive =>
  pack.gltf.meshes[pack.gltf.nodes[node].mesh ?? 0].primitives[0]
