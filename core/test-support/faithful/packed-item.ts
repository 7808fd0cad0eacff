import { unzipSync } from 'fflate'
import { decodeWithPillow } from './other-pictures.ts'
import { sampleAt, type DrawnItem, type DrawnSurface, type Picture, type Shown } from './surface.ts'

/** A mesh file of a pack, as its own JSON and binary. Everything is taken on trust: it is for tests. */
interface Gltf {
  scene?: number
  scenes: { nodes: number[] }[]
  nodes: {
    name?: string
    mesh?: number
    skin?: number
    children?: number[]
    matrix?: number[]
    translation?: number[]
    rotation?: number[]
    scale?: number[]
  }[]
  meshes?: { primitives: { attributes: Record<string, number>; indices?: number; material?: number }[] }[]
  materials?: { name: string }[]
  accessors: {
    bufferView: number
    byteOffset?: number
    componentType: number
    count: number
    type: string
    normalized?: boolean
  }[]
  bufferViews: { byteOffset?: number; byteStride?: number }[]
  skins?: { joints: number[]; inverseBindMatrices: number }[]
  animations?: {
    channels: { sampler: number; target: { node?: number; path: string } }[]
    samplers: { input: number; output: number; interpolation?: string }[]
  }[]
}

interface Look {
  materials: Record<string, { shading: string; maps: Record<string, string> }>
}

export interface PackedItem {
  view: DrawnItem
  levels: Map<number, DrawnItem>
  shadow: DrawnItem
  /** Every GLB of the pack, for the validator. */
  glbs: { path: string; bytes: Uint8Array }[]
  /** The largest side of any colour map, in pixels. */
  largestColourMap: number
  flagsOf: (material: string) => string[]
}

const multiply = (a: readonly number[], b: readonly number[]): number[] =>
  Array.from({ length: 16 }, (_, at) =>
    [0, 1, 2, 3].reduce((sum, k) => sum + a[(at % 4) + 4 * k] * b[Math.floor(at / 4) * 4 + k], 0),
  )

function localMatrix({
  matrix,
  translation: t = [0, 0, 0],
  rotation: [x, y, z, w] = [0, 0, 0, 1],
  scale: s = [1, 1, 1],
}: Gltf['nodes'][number]): number[] {
  if (matrix) return matrix
  const rotated = [
    1 - 2 * (y * y + z * z),
    2 * (x * y + z * w),
    2 * (x * z - y * w),
    0,
    2 * (x * y - z * w),
    1 - 2 * (x * x + z * z),
    2 * (y * z + x * w),
    0,
    2 * (x * z + y * w),
    2 * (y * z - x * w),
    1 - 2 * (x * x + y * y),
    0,
  ]
  return [...rotated.map((value, at) => value * s[Math.floor(at / 4)]), ...t, 1]
}

const determinant = (m: readonly number[]): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5])

/** Between two turns at an even pace, the shorter way round (glTF 2.0, appendix C.3). */
function turnBetween(a: readonly number[], b: readonly number[], t: number): number[] {
  const cosine = a.reduce((sum, value, axis) => sum + value * b[axis], 0)
  const angle = Math.acos(Math.min(1, Math.abs(cosine)))
  const [one, other] = angle < 1e-6 ? [1 - t, t] : [Math.sin((1 - t) * angle), Math.sin(t * angle)]
  return a.map((value, axis) => value * one + b[axis] * other * Math.sign(cosine || 1))
}

/** Turns, moves and scales of the first clip at a share of its length, by node. */
function keyedNodes(gltf: Gltf, read: Read, share: number | null): Map<number, Partial<Gltf['nodes'][number]>> {
  const keyed = new Map<number, Partial<Gltf['nodes'][number]>>()
  const clip = share === null ? undefined : gltf.animations?.[0]
  const length = Math.max(0, ...(clip?.samplers.map(({ input }) => read(input).values.at(-1) ?? 0) ?? []))
  for (const { sampler, target } of clip?.channels ?? []) {
    if (target.node === undefined || target.path === 'weights') continue
    const { input, output, interpolation = 'LINEAR' } = (clip as NonNullable<typeof clip>).samplers[sampler]
    const times = read(input).values
    const { size, values } = read(output)
    const seconds = length * (share ?? 0)
    const after = times.findIndex((time) => time > seconds)
    const [from, to] = after < 0 ? [times.length - 1, times.length - 1] : [Math.max(0, after - 1), after]
    const t =
      to === from || interpolation === 'STEP'
        ? 0
        : Math.min(1, Math.max(0, (seconds - times[from]) / (times[to] - times[from])))
    const part = (key: number, which: number): number[] => [
      ...values.subarray((key * 3 + which) * size, (key * 3 + which + 1) * size),
    ]
    const curved = interpolation === 'CUBICSPLINE'
    const [a, b] = [from, to].map((key) =>
      curved ? part(key, 1) : [...values.subarray(key * size, key * size + size)],
    )
    const span = times[to] - times[from]
    // Hermite's curve (glTF 2.0, appendix C.5): value and slope at both ends.
    const mixed = curved
      ? a.map(
          (value, axis) =>
            (2 * t ** 3 - 3 * t ** 2 + 1) * value +
            span * (t ** 3 - 2 * t ** 2 + t) * part(from, 2)[axis] +
            (3 * t ** 2 - 2 * t ** 3) * b[axis] +
            span * (t ** 3 - t ** 2) * part(to, 0)[axis],
        )
      : target.path === 'rotation'
        ? turnBetween(a, b, t)
        : a.map((value, axis) => value + (b[axis] - value) * t)
    const unit = target.path === 'rotation' ? mixed.map((value) => value / Math.hypot(...mixed)) : mixed
    keyed.set(target.node, { ...keyed.get(target.node), [target.path]: unit })
  }
  return keyed
}

/**
 * Reads the pack's only item from its bytes, with the stand-in names of Tarn & Tiller.
 * @param share how far its first clip has run, 0 to 1; at rest where nothing is said
 */
export function readPackedItem(pack: Uint8Array, share: number | null = null): PackedItem {
  const files = unzipSync(pack)
  const json = <T>(path: string): T => JSON.parse(new TextDecoder().decode(files[path])) as T
  const entryPath = Object.keys(files).find((path) => path.endsWith('entry.json')) ?? ''
  const entry = json<{ mesh: string; looks: string[] }>(entryPath)
  const look = json<Look>(entry.looks[0])
  const mapPaths = [...new Set(Object.values(look.materials).flatMap(({ maps }) => Object.values(maps)))].filter(
    (path) => files[path] !== undefined,
  )
  const pictures = new Map<string, Picture>()
  decodeWithPillow(mapPaths.map((path) => files[path])).forEach(
    (picture, number) => picture && pictures.set(mapPaths[number], picture),
  )
  const item: PackedItem = {
    view: { surfaces: [] },
    levels: new Map(),
    shadow: { surfaces: [] },
    glbs: Object.entries(files)
      .filter(([path]) => path.endsWith('.glb'))
      .map(([path, bytes]) => ({ path, bytes })),
    largestColourMap: Math.max(
      1,
      ...Object.values(look.materials)
        .map(({ maps }) => pictures.get(maps['colour'] ?? ''))
        .map((picture) => Math.max(picture?.width ?? 1, picture?.height ?? 1)),
    ),
    flagsOf: (material) => (material.split('@')[1] ?? '').split('.').slice(1),
  }
  const glb = files[entry.mesh]
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength)
  const jsonLength = view.getUint32(12, true)
  const gltf = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + jsonLength))) as Gltf
  const read = accessorReader(gltf, glb.subarray(28 + jsonLength))
  const keyed = keyedNodes(gltf, read, share)
  const worlds = new Map<number, number[]>()
  const walk = (number: number, parent: number[]): void => {
    const world = multiply(parent, localMatrix({ ...gltf.nodes[number], ...keyed.get(number) }))
    worlds.set(number, world)
    for (const child of gltf.nodes[number].children ?? []) walk(child, world)
  }
  for (const root of gltf.scenes[gltf.scene ?? 0].nodes) walk(root, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])
  for (const [number, world] of worlds) {
    const node = gltf.nodes[number]
    const name = node.name ?? ''
    if (node.mesh === undefined || /^solid_[a-z]+_\d+$/.test(name)) continue
    const level = Number(/_l(\d)$/.exec(name)?.[1] ?? 0)
    const target = name.endsWith('_shadow')
      ? item.shadow
      : level > 0
        ? (item.levels.get(level) ?? { surfaces: [] })
        : item.view
    if (level > 0) item.levels.set(level, target)
    for (const primitive of gltf.meshes?.[node.mesh].primitives ?? [])
      target.surfaces.push(surfaceOf(gltf, read, name, node.skin, primitive, world, worlds, look, pictures))
  }
  return item
}

type Read = (accessor: number) => { size: number; values: Float32Array }

function accessorReader(gltf: Gltf, binary: Uint8Array): Read {
  const view = new DataView(binary.buffer, binary.byteOffset, binary.byteLength)
  const widths: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 }
  const sizes: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT4: 16 }
  return (number) => {
    const accessor = gltf.accessors[number]
    const { byteOffset = 0, byteStride } = gltf.bufferViews[accessor.bufferView]
    const width = widths[accessor.componentType]
    const size = sizes[accessor.type]
    const stride = byteStride ?? width * size
    const values = new Float32Array(accessor.count * size)
    for (let element = 0; element < accessor.count; element++) {
      for (let axis = 0; axis < size; axis++) {
        const at = byteOffset + (accessor.byteOffset ?? 0) + element * stride + axis * width
        values[element * size + axis] =
          accessor.componentType === 5126
            ? view.getFloat32(at, true)
            : accessor.componentType === 5125
              ? view.getUint32(at, true)
              : accessor.componentType === 5123
                ? view.getUint16(at, true) / (accessor.normalized ? 65535 : 1)
                : view.getUint8(at) / (accessor.normalized ? 255 : 1)
      }
    }
    return { size, values }
  }
}

function surfaceOf(
  gltf: Gltf,
  read: Read,
  name: string,
  skin: number | undefined,
  primitive: { attributes: Record<string, number>; indices?: number; material?: number },
  nodeWorld: number[],
  worlds: Map<number, number[]>,
  look: Look,
  pictures: Map<string, Picture>,
): DrawnSurface {
  const positions = read(primitive.attributes['POSITION']).values
  const normals = primitive.attributes['NORMAL'] === undefined ? null : read(primitive.attributes['NORMAL']).values
  const uvs = primitive.attributes['TEXCOORD_0'] === undefined ? null : read(primitive.attributes['TEXCOORD_0']).values
  const indices =
    primitive.indices === undefined
      ? Float32Array.from({ length: positions.length / 3 }, (_, at) => at)
      : read(primitive.indices).values
  let world = nodeWorld
  if (skin !== undefined && gltf.skins) {
    // At rest every bone holds the mesh in the same place.
    const { joints, inverseBindMatrices } = gltf.skins[skin]
    world = multiply(worlds.get(joints[0]) ?? nodeWorld, [...read(inverseBindMatrices).values.subarray(0, 16)])
  }
  const mirrored = determinant(world) < 0
  const order = mirrored ? [0, 2, 1] : [0, 1, 2]
  const soup = new Float32Array(indices.length * 3)
  const turned = normals && new Float32Array(indices.length * 3)
  const cornerOf = new Uint32Array(indices.length)
  for (let at = 0; at < indices.length; at++) {
    const corner = indices[at - (at % 3) + order[at % 3]]
    cornerOf[at] = corner
    for (let axis = 0; axis < 3; axis++) {
      soup[at * 3 + axis] = [0, 1, 2].reduce(
        (sum, k) => sum + world[axis + 4 * k] * positions[corner * 3 + k],
        world[12 + axis],
      )
      if (turned && normals)
        turned[at * 3 + axis] = [0, 1, 2].reduce((sum, k) => sum + world[axis + 4 * k] * normals[corner * 3 + k], 0)
    }
  }
  const material = primitive.material === undefined ? '' : (gltf.materials?.[primitive.material].name ?? '')
  const flags = (material.split('@')[1] ?? '').split('.').slice(1)
  const maps = look.materials[material]?.maps ?? {}
  const colour = pictures.get(maps['colour'] ?? '')
  const mixed = pictures.get(maps['mixed'] ?? '')
  const shown = (triangle: number, b: number, c: number): Shown => {
    const uv = (axis: number): number =>
      uvs
        ? [1 - b - c, b, c].reduce(
            (sum, weight, corner) => sum + weight * uvs[cornerOf[triangle * 3 + corner] * 2 + axis],
            0,
          )
        : 0
    const [u, v] = [uv(0), uv(1)]
    const base = colour ? sampleAt(colour, u, v, 'repeat', 'repeat', true) : ([0, 0, 0, 0] as const)
    const mix = mixed ? sampleAt(mixed, u, v, 'repeat', 'repeat', false) : null
    return {
      colour: [base[0], base[1], base[2]],
      opacity: flags.includes('cut') || flags.includes('veil') ? base[3] : 1,
      occlusion: mix?.[0] ?? null,
      roughness: mix?.[1] ?? null,
      metalness: mix?.[2] ?? null,
      glow: mix ? [base[0] * mix[3], base[1] * mix[3], base[2] * mix[3]] : null,
    }
  }
  return {
    name,
    positions: soup,
    normals: turned,
    shown: colour ? shown : null,
    twoSided: flags.includes('both'),
    cut: flags.includes('cut') ? 0.5 : null,
    blended: flags.includes('veil'),
  }
}
