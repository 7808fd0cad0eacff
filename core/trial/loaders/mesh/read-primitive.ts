import type { GltfPrimitive, LoadedGltf } from './gltf-schema.ts'
import { readNumbers, type Keeping } from './read-accessor.ts'

/** Triangles of one material. */
export interface LoadedPrimitive {
  positions: Float32Array
  /** Number of the accessor of its places: several primitives may share one. */
  places: number
  indices: Uint32Array
  normals: Float32Array | null
  /** 4 a corner, the last one the hand. */
  tangents: Float32Array | null
  uvs: Float32Array | null
  /** Bone numbers and weights, sets of four a corner. */
  influences: { bones: Float32Array; weights: Float32Array }[]
  /** Shapes to morph to. */
  morphs: number
  material: string | null
}

/**
 * @throws Error with a short reason when it is not what glTF 2.0, section 3.7.2, calls a mesh of triangles
 * @example const primitives = mesh.primitives.map((primitive) => readPrimitive(gltf, binary, primitive))
 */
export function readPrimitive(gltf: LoadedGltf, binary: Uint8Array, primitive: GltfPrimitive): LoadedPrimitive {
  if ((primitive.mode ?? 4) !== 4) throw new Error('only triangles are drawn')
  const attribute = (semantic: string, type: string, keeping: Keeping): Float32Array | null => {
    const accessor = primitive.attributes[semantic]
    return accessor === undefined ? null : readNumbers(gltf, binary, accessor, type, keeping)
  }
  const positions = attribute('POSITION', 'VEC3', 'floats')
  if (!positions) throw new Error('a mesh without positions')
  const corners = positions.length / 3
  const indices =
    primitive.indices === undefined
      ? Uint32Array.from({ length: corners }, (_, corner) => corner)
      : Uint32Array.from(readNumbers(gltf, binary, primitive.indices, 'SCALAR', 'whole'))
  if (indices.length % 3 !== 0) throw new Error('a triangle that is not whole')
  if (indices.some((corner) => corner >= corners)) throw new Error('a corner number out of range')
  const normals = attribute('NORMAL', 'VEC3', 'floats')
  const tangents = attribute('TANGENT', 'VEC4', 'floats')
  const uvs = attribute('TEXCOORD_0', 'VEC2', 'shares')
  const influences = readInfluences(primitive, attribute)
  const others: [Float32Array | null, number][] = [
    [normals, 3],
    [tangents, 4],
    [uvs, 2],
    ...influences.flatMap(({ bones, weights }): [Float32Array, number][] => [
      [bones, 4],
      [weights, 4],
    ]),
  ]
  if (others.some(([values, size]) => values !== null && values.length / size !== corners))
    throw new Error('values for more or fewer corners than there are')
  if (primitive.material !== undefined && !gltf.materials[primitive.material])
    throw new Error('a material that is not there')
  const material = primitive.material === undefined ? null : (gltf.materials[primitive.material].name ?? '')
  return {
    positions,
    places: primitive.attributes['POSITION'],
    indices,
    normals,
    tangents,
    uvs,
    influences,
    morphs: primitive.targets.length,
    material,
  }
}

function readInfluences(
  primitive: GltfPrimitive,
  attribute: (semantic: string, type: string, keeping: Keeping) => Float32Array | null,
): LoadedPrimitive['influences'] {
  const sets: LoadedPrimitive['influences'] = []
  for (
    let set = 0;
    primitive.attributes[`JOINTS_${set}`] !== undefined || primitive.attributes[`WEIGHTS_${set}`] !== undefined;
    set++
  ) {
    const bones = attribute(`JOINTS_${set}`, 'VEC4', 'whole')
    const weights = attribute(`WEIGHTS_${set}`, 'VEC4', 'shares')
    if (!bones || !weights) throw new Error('bones without weights')
    sets.push({ bones, weights })
  }
  return sets
}
