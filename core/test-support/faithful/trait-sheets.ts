import type { FileSet } from './source-by-three.ts'
import { rawGlb, rawPng, type Array3D, type Json } from './raw-files.ts'

/** Small files with one trait each, written byte by byte by code that shares nothing with the project's readers. */
export interface TraitFile {
  name: string
  files: FileSet
  kind?: string
}

export const SIDE = 8
/** A bulging sheet of 8 × 8 quads, one metre wide, that looks along +Z; its UVs run from 0 to 1. */
export function sheet(): { positions: number[]; normals: number[]; uvs: number[]; indices: number[] } {
  const made = { positions: [] as number[], normals: [] as number[], uvs: [] as number[], indices: [] as number[] }
  for (let y = 0; y <= SIDE; y++) {
    for (let x = 0; x <= SIDE; x++) {
      const [u, v] = [x / SIDE, y / SIDE]
      made.positions.push(u - 0.5, 1 - v, 0.2 * Math.sin(u * Math.PI))
      const slope = 0.2 * Math.PI * Math.cos(u * Math.PI)
      const length = Math.hypot(slope, 1)
      made.normals.push(-slope / length, 0, 1 / length)
      made.uvs.push(u, v)
    }
  }
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const a = y * (SIDE + 1) + x
      made.indices.push(a, a + SIDE + 1, a + 1, a + 1, a + SIDE + 1, a + SIDE + 2)
    }
  }
  return made
}

/** Soft bands of colour, different in every corner, so that any wrong place is seen. */
export const bands = rawPng(64, 64, (x, y) => [
  40 + x * 3,
  40 + y * 3,
  Math.round(128 + 100 * Math.sin((x + y) / 10)),
  255,
])
export const clear = rawPng(64, 64, (x, y) => [200, 40 + y * 3, 80, Math.round(255 * Math.min(1, x / 60))])
export const metalRough = rawPng(64, 64, (x, y) => [255, 60 + x * 2, 40 + y * 2, 255])
export const shade = rawPng(64, 64, (x) => [80 + x * 2, 0, 0, 255])
export const light = rawPng(64, 64, (x, y) => (x > 32 && y > 32 ? [250, 210, 120, 255] : [0, 0, 0, 255]))

interface SheetOptions {
  images?: readonly Uint8Array[]
  material: Json
  textures?: readonly Json[]
  samplers?: readonly Json[]
  uvs?: (uvs: number[]) => number[]
  second?: (uvs: number[]) => number[]
  colours?: (u: number, v: number) => number[]
  node?: Json
  extensionsUsed?: readonly string[]
  normals?: boolean
}

export function sheetFile({
  images = [bands],
  material,
  textures,
  samplers,
  uvs,
  second,
  colours,
  node,
  extensionsUsed,
  normals = true,
}: SheetOptions): Uint8Array {
  const made = sheet()
  const arrays: Array3D[] = [
    { values: made.positions, type: 'VEC3' },
    { values: made.indices, type: 'SCALAR', component: 5123 },
    { values: uvs ? uvs(made.uvs) : made.uvs, type: 'VEC2' },
  ]
  const attributes: Json = { POSITION: 0, TEXCOORD_0: 2 }
  const add = (name: string, array: Array3D): void => {
    attributes[name] = arrays.length
    arrays.push(array)
  }
  if (normals) add('NORMAL', { values: made.normals, type: 'VEC3' })
  if (second) add('TEXCOORD_1', { values: second(made.uvs), type: 'VEC2' })
  if (colours)
    add('COLOR_0', {
      values: Array.from({ length: made.uvs.length / 2 }, (_, at) =>
        colours(made.uvs[at * 2], made.uvs[at * 2 + 1]),
      ).flat(),
      type: 'VEC4',
    })
  return rawGlb(arrays, images, {
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ name: 'sheet', mesh: 0, ...node }],
    meshes: [{ primitives: [{ attributes, indices: 1, material: 0 }] }],
    materials: [{ name: 'canvas', ...material }],
    ...(images.length > 0
      ? { textures: textures ?? images.map((_, source) => ({ source, ...(samplers ? { sampler: 0 } : {}) })) }
      : {}),
    ...(samplers ? { samplers } : {}),
    ...(extensionsUsed ? { extensionsUsed } : {}),
  })
}

export const matte = { metallicFactor: 0, roughnessFactor: 1 }
export const moved = (extras: Json): Json => ({ index: 0, extensions: { KHR_texture_transform: extras } })
export const uses = ['KHR_texture_transform']
export const glb = (name: string, bytes: Uint8Array): TraitFile => ({ name, files: new Map([[`${name}.glb`, bytes]]) })

/** Three plain colours: one glows, one is half clear, one is metal. */
export function plainBoxes(): Uint8Array {
  const made = sheet()
  return rawGlb(
    [
      { values: made.positions, type: 'VEC3' },
      { values: made.indices, type: 'SCALAR', component: 5123 },
      { values: made.normals, type: 'VEC3' },
    ],
    [],
    {
      scene: 0,
      scenes: [{ nodes: [0, 1, 2] }],
      nodes: [0, 1, 2].map((number) => ({
        name: ['lamp', 'pane', 'rail'][number],
        mesh: number,
        translation: [number * 1.2, 0, 0],
      })),
      meshes: [0, 1, 2].map((material) => ({
        primitives: [{ attributes: { POSITION: 0, NORMAL: 2 }, indices: 1, material }],
      })),
      materials: [
        {
          name: 'lamp',
          pbrMetallicRoughness: { baseColorFactor: [0.8, 0.6, 0.2, 1], ...matte },
          emissiveFactor: [0.6, 0.45, 0.15],
        },
        { name: 'pane', pbrMetallicRoughness: { baseColorFactor: [0.2, 0.4, 0.5, 0.4], ...matte }, alphaMode: 'BLEND' },
        {
          name: 'rail',
          pbrMetallicRoughness: { baseColorFactor: [0.5, 0.5, 0.55, 1], metallicFactor: 1, roughnessFactor: 0.3 },
        },
      ],
    },
  )
}

export function instancedSheet(): Uint8Array {
  const made = sheet()
  return rawGlb(
    [
      { values: made.positions, type: 'VEC3' },
      { values: made.indices, type: 'SCALAR', component: 5123 },
      { values: made.normals, type: 'VEC3' },
      { values: [0, 0, 0, 2, 0, 0, 0, 2, 0, 2, 2, 0, 4, 0, 0, 4, 2, 0], type: 'VEC3' },
    ],
    [],
    {
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: [{ name: 'panes', mesh: 0, extensions: { EXT_mesh_gpu_instancing: { attributes: { TRANSLATION: 3 } } } }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0, NORMAL: 2 }, indices: 1, material: 0 }] }],
      materials: [{ name: 'canvas', pbrMetallicRoughness: { baseColorFactor: [0.7, 0.3, 0.2, 1], ...matte } }],
      extensionsUsed: ['EXT_mesh_gpu_instancing'],
      extensionsRequired: ['EXT_mesh_gpu_instancing'],
    },
  )
}

export function morphedSheet(): Uint8Array {
  const made = sheet()
  const raised = made.positions.map((value, at) => (at % 3 === 2 ? value * 0.5 : 0))
  return rawGlb(
    [
      { values: made.positions, type: 'VEC3' },
      { values: made.indices, type: 'SCALAR', component: 5123 },
      { values: raised, type: 'VEC3' },
    ],
    [],
    {
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: [{ name: 'cushion', mesh: 0, translation: [0, 3, 0] }],
      meshes: [
        {
          weights: [0.75],
          primitives: [{ attributes: { POSITION: 0 }, indices: 1, material: 0, targets: [{ POSITION: 2 }] }],
        },
      ],
      materials: [{ name: 'canvas', pbrMetallicRoughness: { baseColorFactor: [0.7, 0.3, 0.2, 1], ...matte } }],
    },
  )
}

/**
 * A sheet that turns on a frame that is itself turned and scaled, with one on it that slides along a curve and one that
 * jumps in size.
 */
export function movingSheets(): Uint8Array {
  const made = sheet()
  const times = [0, 0.5, 1.25, 2]
  const turns = [0, 0.9, 2.1, 3].flatMap((angle) => [0, Math.sin(angle / 2), 0, Math.cos(angle / 2)])
  // For each key: slope before it, value, slope after it (glTF 2.0, appendix C.5).
  const slides = [
    [0, 0, 0],
    [0.5, 0.2, 0],
    [0.5, 0.8, 0.3],
    [0, 1, 0],
  ].flatMap(([x, y, z]) => [0.4, 0.2, 0, x, y, z, 0.4, 0.2, 0])
  const sizes = [1, 1.5, 0.75, 1].flatMap((size) => [size, size, size])
  const arrays = [
    { values: made.positions, type: 'VEC3' as const },
    { values: made.indices, type: 'SCALAR' as const, component: 5123 },
    { values: made.normals, type: 'VEC3' as const },
    { values: times, type: 'SCALAR' as const },
    { values: turns, type: 'VEC4' as const },
    { values: slides, type: 'VEC3' as const },
    { values: sizes, type: 'VEC3' as const },
  ]
  return rawGlb(arrays, [], {
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [
      { name: 'frame', translation: [1, 0, 2], rotation: [0.258819, 0, 0, 0.9659258], scale: [2, 2, 2], children: [1] },
      { name: 'drum', mesh: 0, children: [2, 3] },
      { name: 'slide', mesh: 0, translation: [0, 1, 0] },
      { name: 'bellows', mesh: 0, translation: [0, -1.5, 0] },
    ],
    meshes: [{ primitives: [{ attributes: { POSITION: 0, NORMAL: 2 }, indices: 1, material: 0 }] }],
    materials: [{ name: 'canvas', pbrMetallicRoughness: { baseColorFactor: [0.7, 0.3, 0.2, 1], ...matte } }],
    animations: [
      {
        name: 'work',
        samplers: [
          { input: 3, output: 4 },
          { input: 3, output: 5, interpolation: 'CUBICSPLINE' },
          { input: 3, output: 6, interpolation: 'STEP' },
        ],
        channels: [
          { sampler: 0, target: { node: 1, path: 'rotation' } },
          { sampler: 1, target: { node: 2, path: 'translation' } },
          { sampler: 2, target: { node: 3, path: 'scale' } },
        ],
      },
    ],
  })
}

/** The sheet as OBJ, in metres, with one line of a material's own. */
export function objFile(name: string, line: string): TraitFile {
  const made = sheet()
  const lines = [`mtllib ${name}.mtl`]
  const triples = (values: number[], size: number, word: string): void => {
    for (let at = 0; at < values.length; at += size) lines.push(`${word} ${values.slice(at, at + size).join(' ')}`)
  }
  triples(made.positions, 3, 'v')
  triples(
    made.uvs.map((value, at) => (at % 2 === 1 ? 1 - value : value)),
    2,
    'vt',
  )
  triples(made.normals, 3, 'vn')
  lines.push('usemtl canvas')
  for (let at = 0; at < made.indices.length; at += 3)
    lines.push(
      `f ${made.indices
        .slice(at, at + 3)
        .map((index) => `${index + 1}/${index + 1}/${index + 1}`)
        .join(' ')}`,
    )
  const encode = (text: string): Uint8Array => new TextEncoder().encode(text)
  return {
    name,
    files: new Map([
      [`${name}.obj`, encode(`${lines.join('\n')}\n`)],
      [`${name}.mtl`, encode(`newmtl canvas\n${line}\n`)],
      ['bands.png', bands],
    ]),
  }
}
