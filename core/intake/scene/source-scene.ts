import type { Axes, TextureRole, Units } from '../../item/extras.ts'

/**
 * What a mesh file holds, in the terms that all formats share. Readers fill it; `buildDocument` checks it and
 * makes the item document. Lengths are in units of the file, matrices column-major with 16 numbers.
 */
export interface SourceScene {
  name: string
  roots: SourceNode[]
  materials: SourceMaterial[]
  clips: SourceClip[]
  units: Units
  axes: Axes
}

export interface SourceNode {
  name: string
  /** Place in its parent. */
  matrix: number[]
  children: SourceNode[]
  mesh?: SourceMesh
  camera?: boolean
  light?: SourceLight
}

export interface SourceLight {
  type: 'point' | 'spot' | 'directional'
  /** Linear RGB, 0 to 1. */
  colour: [number, number, number]
  intensity: number
  /** Half of the cone's angle, for spots. */
  outerAngleRadians?: number
}

/** A mesh: points shared by the faces of all its materials. */
export interface SourceMesh {
  name: string
  /** 3 numbers a point; several meshes may share one array. */
  points: Float32Array
  faces: SourceFaces[]
  skin?: SourceSkin
}

/** Polygons of one material. Everything a corner has stands in polygon order. */
export interface SourceFaces {
  /** Place in the scene's materials. */
  material: number | null
  /** Corners of each polygon, 3 or more. */
  polygonSizes: ArrayLike<number>
  /** Point of each corner. */
  corners: ArrayLike<number>
  /** 3 numbers a corner. */
  normals: Float32Array | null
  /** Each set has 2 numbers a corner, the origin at the upper left as in glTF. */
  uvs: Float32Array[]
  /** Linear RGBA, 4 numbers a corner. */
  colours: Float32Array | null
  /** Bit mask of smoothing groups of each polygon; used where there are no normals. 0 is flat. */
  smoothing: ArrayLike<number> | null
}

/** Which bones pull at which point. Point `p` has the influences from `starts[p]` up to `starts[p + 1]`. */
export interface SourceSkin {
  bones: SourceNode[]
  /** From mesh space to each bone's space in the bind pose. */
  inverseBinds: number[][]
  starts: Uint32Array
  boneOf: Uint32Array
  weightOf: Float32Array
}

export interface SourceMaterial {
  name: string
  /** Linear RGBA. */
  colour: [number, number, number, number]
  emissive?: [number, number, number]
  metalness: number
  roughness: number
  twoSided?: boolean
  /** The colour is multiplied with the colour map; otherwise the map stands in its place. */
  tintsMap?: boolean
  /** Metalness and roughness are written in the file, not read out of an older model's shininess. */
  physical?: boolean
  maps: SourceMap[]
}

export interface SourceMap {
  role: TextureRole
  /** Path as written. */
  path: string
  /** Bytes that stand inside the mesh file. */
  embedded?: Uint8Array
  /** Which UV set it lies on. */
  uvSet?: number
  /** Where it lies on the set, with the origin at the upper left as in glTF. */
  offset?: [number, number]
  scale?: [number, number]
  /** What is beyond its edges; it repeats where nothing is said. */
  wrap?: 'repeat' | 'mirror' | 'clamp'
}

/**
 * Where a picture lies whose file scales and moves UVs that rise upward: v' = s·v + m is, from the upper left, s·v + (1
 * − s − m).
 * @param scale of U and V
 * @param moves of U and V, after scaling
 *
 * @example placeRising([2, 2], [0, 0])
 */
export function placeRising(
  scale: readonly [number, number],
  moves: readonly [number, number],
): Pick<SourceMap, 'offset' | 'scale'> {
  if (scale[0] === 1 && scale[1] === 1 && moves[0] === 0 && moves[1] === 0) return {}
  return { scale: [scale[0], scale[1]], offset: [moves[0], 1 - scale[1] - moves[1]] }
}

export interface SourceClip {
  name: string
  tracks: SourceTrack[]
}

/** Sampled motion of one node. */
export interface SourceTrack {
  node: SourceNode
  path: 'translation' | 'rotation' | 'scale'
  /** Seconds, rising. */
  times: Float32Array
  /** 3 numbers a key, or 4 for rotations (x, y, z, w). */
  values: Float32Array
}

/**
 * A node of a source without mesh, at a place (column-major, to its parent).
 * @example const root = sourceNode('gate', identityMatrix(), leaves)
 */
export const sourceNode = (name: string, matrix: number[], children: SourceNode[] = []): SourceNode => ({
  name,
  matrix,
  children,
})

/**
 * Linear light of an sRGB value (IEC 61966-2-1), both 0 to 1.
 *
 * @example linearOf(1) // 1
 */
export function linearOf(value: number): number {
  const bounded = Math.min(1, Math.max(0, Number.isFinite(value) ? value : 0))
  return bounded <= 0.04045 ? bounded / 12.92 : ((bounded + 0.055) / 1.055) ** 2.4
}

/**
 * A usual reading of a Phong exponent as roughness: √(2 / (n + 2)).
 * @example roughnessOfExponent(6) // 0.5
 */
export const roughnessOfExponent = (exponent: number): number => Math.min(1, Math.sqrt(2 / (Math.max(0, exponent) + 2)))

/**
 * What a material gives off: what is written, or all that its glow map has where nothing is, since many files write 0
 * beside a map.
 *
 * @example emissiveOf([0, 0, 0], [{ role: 'glow' }]) // [1, 1, 1]
 */
export function emissiveOf(
  written: readonly number[] | undefined,
  maps: readonly Pick<SourceMap, 'role'>[],
): [number, number, number] | undefined {
  if (written && written.some((value) => value > 0)) return [written[0], written[1], written[2]]
  return maps.some(({ role }) => role === 'glow') ? [1, 1, 1] : undefined
}
